/** Cut-and-flip tiles (handbook, geometry). Lengths mm, angles rad; θ lies between saw plane and bar axis, 90° a straight cut. */
export interface TileCut {
  heightMm: number;
  lengthMm: number;
  thicknessMm: number;
  kerfMm: number;
  angleRad: number;
}

export interface TileSizes {
  /** Length of a tile's cut face, H / sin θ. */
  faceMm: number;
  /** Distance between cuts along the bar, (t + k) / sin θ. */
  pitchMm: number;
  /** Wedge lost at both slanted ends together, H / tan θ. Each end's kerf falls inside its wedge. */
  setbackMm: number;
  count: number;
  /** Length of all tiles measured on one face, N·s. */
  laidMm: number;
  /** Length with sound steel through the whole thickness, N·s − t / tan θ. */
  soundMm: number;
}

const cotangent = (angleRad: number): number => Math.cos(angleRad) / Math.sin(angleRad);

/** Sizes of all the tiles that fit, or of the first `wanted` of them. */
export function tileSizes(cut: TileCut, wanted = Infinity): TileSizes {
  const sin = Math.sin(cut.angleRad);
  const faceMm = cut.heightMm / sin;
  const pitchMm = (cut.thicknessMm + cut.kerfMm) / sin;
  const setbackMm = cut.heightMm * cotangent(cut.angleRad);
  // A hair of slack, so that a bar that is exactly long enough is not one tile short by rounding.
  const fits = Math.floor((cut.lengthMm - setbackMm + cut.kerfMm / sin) / pitchMm + 1e-9);
  const count = Math.max(0, Math.min(fits, wanted));
  const laidMm = count * faceMm;
  return {
    faceMm,
    pitchMm,
    setbackMm,
    count,
    laidMm,
    soundMm: laidMm - cut.thicknessMm * cotangent(cut.angleRad),
  };
}

/** Lengthening of a billet drawn from t × W to t₁ × w₁. */
export const drawnLonger = (
  thicknessMm: number,
  widthMm: number,
  toThicknessMm: number,
  toWidthMm: number,
): number => (thicknessMm * widthMm) / (toThicknessMm * toWidthMm);

export interface TileStretch {
  heightMm: number;
  widthMm: number;
  thicknessMm: number;
  angleRad: number;
  toThicknessMm: number;
  toWidthMm: number;
}

/** Length-to-width ratio of one picture on the drawn bar: s·λ / w₁. */
export const pictureRatio = (s: TileStretch): number =>
  ((s.heightMm / Math.sin(s.angleRad)) *
    drawnLonger(s.thicknessMm, s.widthMm, s.toThicknessMm, s.toWidthMm)) /
  s.toWidthMm;

/** Bar height that gives the picture the length-to-width ratio `ratio`: q·w₁²·t₁·sin θ / (t·W). */
export const heightForRatio = (ratio: number, s: Omit<TileStretch, 'heightMm'>): number =>
  (ratio * s.toWidthMm ** 2 * s.toThicknessMm * Math.sin(s.angleRad)) / (s.thicknessMm * s.widthMm);

/** An accordion: V-cuts from alternate sides, opened flat. Lengths mm, angles rad. */
export interface AccordionCut {
  heightMm: number;
  lengthMm: number;
  /** Height left uncut under each V. */
  rootMm: number;
  /** Leg thickness square to its faces. */
  legMm: number;
  /** Full angle of the V. */
  openingRad: number;
}

export interface AccordionSizes {
  legs: number;
  /** Between the faces of a leg and the bar's axis: 90° − half the opening. */
  angleRad: number;
  /** Length of a leg's face once opened: the wall of the V, and the root's own thickness at the bend. */
  faceMm: number;
  /** Distance between V roots along the bar. */
  pitchMm: number;
  /** Where the first leg's middle stands along the bar, from end A. */
  firstMm: number;
  laidMm: number;
}

/**
 * Legs between V roots `pitch` apart are parallelograms with parallel walls, thickness legMm; every wall is one cut face.
 * The bend near the root adds about its own thickness (handbook, geometry, "Accordion").
 */
export function accordionSizes(cut: AccordionCut): AccordionSizes {
  const half = cut.openingRad / 2;
  const depth = cut.heightMm - cut.rootMm;
  const angleRad = Math.PI / 2 - half;
  const pitchMm = cut.legMm / Math.cos(half) + (depth - cut.rootMm) * Math.tan(half);
  const overhang = cut.heightMm * Math.tan(half);
  const legs = Math.max(0, Math.floor((cut.lengthMm - overhang) / pitchMm + 1e-9));
  const faceMm = depth / Math.cos(half) + cut.rootMm;
  const laidMm = legs * faceMm;
  return {
    legs,
    angleRad,
    faceMm,
    pitchMm,
    firstMm: (cut.lengthMm - (legs - 1) * pitchMm) / 2,
    laidMm,
  };
}
