/** Grinding a turned pattern true inside a square bar (handbook, geometry). Lengths mm, angle rad. */
export interface GrindTrue {
  /** Height of the shim under one edge, the other edge on the chuck: a·sin δ. */
  shimMm: number;
  /** Largest square inside, turned by δ: a / (cos δ + sin δ). */
  toSideMm: number;
  /** Share of the section lost: sin 2δ / (1 + sin 2δ). */
  lostShare: number;
}

export function grindTrue(sideMm: number, errorRad: number): GrindTrue {
  const delta = Math.abs(errorRad);
  const s2 = Math.sin(2 * delta);
  return {
    shimMm: sideMm * Math.sin(delta),
    toSideMm: sideMm / (Math.cos(delta) + Math.sin(delta)),
    lostShare: s2 / (1 + s2),
  };
}

/** The turn that a measured shim corrects. */
export const turnOfShim = (sideMm: number, shimMm: number): number => Math.asin(shimMm / sideMm);
