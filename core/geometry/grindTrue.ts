/** Grinding a turned pattern true inside a square bar (handbook, geometry). Lengths mm, angle rad. */
export interface GrindTrue {
  /** Height of the shim under one edge, the other edge on the chuck: a·sin δ. */
  shimMm: number;
  /** Largest square inside, turned by δ: a / (cos δ + sin δ). */
  toSideMm: number;
  /** How high the ground face then stands over the chuck, the bar tilted on the shim: a'/2 + a·(cos δ + sin δ)/2. */
  overChuckMm: number;
  /** Share of the section lost: sin 2δ / (1 + sin 2δ). */
  lostShare: number;
}

export function grindTrue(sideMm: number, errorRad: number): GrindTrue {
  const delta = Math.abs(errorRad);
  const s2 = Math.sin(2 * delta);
  const around = Math.cos(delta) + Math.sin(delta);
  return {
    shimMm: sideMm * Math.sin(delta),
    toSideMm: sideMm / around,
    overChuckMm: (sideMm / around + sideMm * around) / 2,
    lostShare: s2 / (1 + s2),
  };
}

/** The turn that a measured shim corrects. */
export const turnOfShim = (sideMm: number, shimMm: number): number => Math.asin(shimMm / sideMm);
