import { type Billet, sizeOf } from '../billet/billet.ts';
import { BLOCK, makePoints } from '../billet/fields/field.ts';
import type { Plane } from '../billet/face.ts';
import { FACE_INSET_MM } from '../geometry/tolerances.ts';
import { type Point2, contains } from '../geometry/outline.ts';
import { type Shop, codedMaterial } from '../shop/shop.ts';
import type { Forged } from '../geometry/maps/forged.ts';
import type { Blade, BladeShape } from './blade.ts';

/** Blade coordinates, mm: u from heel to tip, v from the edge's lowest line to the spine's highest. */
export const outlineMm = (blade: BladeShape): Point2[] =>
  blade.outline.map(([u, v]) => [u * blade.lengthMm, v * blade.heightMm]);

/** The tang, a strip behind the heel, its middle half-way up the heel. */
export function tangMm(blade: BladeShape): Point2[] {
  const heel = spanAt(outlineMm(blade), 1e-3) ?? [0, blade.heightMm];
  const middle = (heel[0] + heel[1]) / 2;
  const half = Math.min(blade.tangHeightMm, heel[1] - heel[0]) / 2;
  return [
    [-blade.tangLengthMm, middle - half],
    [0.5, middle - half],
    [0.5, middle + half],
    [-blade.tangLengthMm, middle + half],
  ];
}

/** Where an outline is crossed at u, ascending v. */
export function crossingsAt(outline: readonly Point2[], u: number): number[] {
  const vs: number[] = [];
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [u0, v0] = outline[i];
    const [u1, v1] = outline[j];
    if (u0 > u !== u1 > u) vs.push(v0 + ((u - u0) / (u1 - u0)) * (v1 - v0));
  }
  return vs.sort((a, b) => a - b);
}

/** Lowest and highest v of an outline at u, or null past its ends. */
export function spanAt(outline: readonly Point2[], u: number): [number, number] | null {
  const vs = crossingsAt(outline, u);
  return vs.length > 0 ? [vs[0], vs[vs.length - 1]] : null;
}

/** Columns a mm in which the crossings of an outline are kept: a picture asks each of them many times. */
const COLUMNS_PER_MM = 10;

function keptCrossings(outline: readonly Point2[]): (u: number) => number[] {
  const kept = new Map<number, number[]>();
  return (u) => {
    const column = Math.floor(u * COLUMNS_PER_MM);
    let vs = kept.get(column);
    if (!vs) kept.set(column, (vs = crossingsAt(outline, (column + 0.5) / COLUMNS_PER_MM)));
    return vs;
  };
}

/** Whether v lies inside, between an odd and an even crossing. */
const inside = (crossings: readonly number[], v: number): boolean =>
  crossings.reduce((within, c) => (c < v ? !within : within), false);

/** The bevel's rise from the edge (0) to its full height (1). */
const rise = (bevel: Blade['bevel'], share: number): number =>
  bevel === 'convex' ? Math.sin((Math.PI / 2) * share) : share;

/** Thickness of the ground blade at u, v, where its outline is crossed so. mm; outside the outline 0. */
export function thicknessAt(blade: Blade, crossings: readonly number[], u: number, v: number): number {
  if (!inside(crossings, v)) return 0;
  const full = blade.spineMm + (blade.tipMm - blade.spineMm) * Math.min(1, Math.max(0, u / blade.lengthMm));
  const [low, high] = [crossings[0], crossings[crossings.length - 1]];
  const height = blade.edges === 2 ? (high - low) / 2 : high - low;
  const reach = blade.bevel === 'full' || blade.edges === 2 ? height : Math.min(height, blade.bevelMm);
  const from = blade.edges === 2 ? Math.min(v - low, high - v) : v - low;
  const share = Math.min(1, from / Math.max(1e-9, reach));
  const edge = Math.min(blade.edgeMm, full);
  return edge + (full - edge) * rise(blade.bevel, share);
}

export interface GroundBlade {
  /** A window on the bar's top or bottom face that shows the blade alone, on its ground surface. */
  readonly plane: Plane;
  readonly widthMm: number;
  readonly heightMm: number;
  /** Where in it the heel is, from the tang's end of the picture. */
  readonly heelMm: number;
}

/** Margin round the blade in its picture, mm. */
const MARGIN_MM = 4;

/**
 * One side of the blade as it is seen, edge down: the surface that is left after bevels and taper are ground, cut from the
 * bar's middle. The right side comes from the bar's top face, tip to the right; the left side from its bottom face, tip to
 * the left.
 */
export function groundBlade(bar: Billet, blade: Blade, side: 'right' | 'left'): GroundBlade {
  const { heightMm: thickness, widthMm: barWidth } = sizeOf(bar);
  const crossings = keptCrossings(outlineMm(blade));
  const tang = tangMm(blade);
  const widthMm = blade.lengthMm + blade.tangLengthMm + 2 * MARGIN_MM;
  const heightMm = blade.heightMm + 2 * MARGIN_MM;
  // The blade's middle height lies on the bar's middle line, its edge towards x = −.
  const x0 = blade.acrossMm - blade.heightMm / 2 - MARGIN_MM;
  const z0 = blade.heelMm - blade.tangLengthMm - MARGIN_MM;
  const right = side === 'right';
  const plane: Plane = {
    origin: right ? [x0, thickness / 2, z0] : [x0, -thickness / 2, z0 + widthMm],
    across: right ? [0, 0, 1] : [0, 0, -1],
    up: [1, 0, 0],
    widthMm,
    heightMm,
    surface: (s, t) => {
      const u = (right ? s : 1 - s) * widthMm - MARGIN_MM - blade.tangLengthMm;
      const v = t * heightMm - MARGIN_MM;
      const x = x0 + t * heightMm;
      if (Math.abs(x) > barWidth / 2) return null;
      const ground =
        u < 0 ? (contains(tang, u, v) ? blade.spineMm : 0) : thicknessAt(blade, crossings(u), u, v);
      const z = z0 + (right ? s : 1 - s) * widthMm;
      const there = bar.blank?.forged.thicknessAt(x, z) ?? thickness;
      const { bolster } = bar.blank ?? {};
      // A bolster stays as it was forged.
      const isBolster = bolster && z >= bolster.fromMm && z <= bolster.toMm;
      if (there <= 0 || (ground <= 0 && !isBolster)) return null;
      const left = isBolster ? there : Math.min(there, ground);
      return -(thickness - left) / 2 - FACE_INSET_MM;
    },
  };
  return { plane, widthMm, heightMm, heelMm: MARGIN_MM + blade.tangLengthMm };
}

/** Places across the blade at which its section's surface is asked. */
const SECTION_POINTS = 24;

/** The ground section of the blade so far from its heel, in the bar's own places: round from the edge over the right side, and the middles of edge and spine; null where there is none. mm */
export function sectionOfBlade(
  bar: Billet,
  blade: Blade,
  fromHeelMm: number,
): { outline: Point2[]; edge: Point2; spine: Point2 } | null {
  const outline = outlineMm(blade);
  const span = spanAt(outline, fromHeelMm);
  if (!span) return null;
  const crossings = crossingsAt(outline, fromHeelMm);
  const { heightMm } = sizeOf(bar);
  const toX = blade.acrossMm - blade.heightMm / 2;
  const side = Array.from({ length: SECTION_POINTS + 1 }, (_, i): Point2 => {
    // A hair inside both ends.
    const v = span[0] + (0.0005 + (0.999 * i) / SECTION_POINTS) * (span[1] - span[0]);
    const there = bar.blank?.forged.thicknessAt(v + toX, blade.heelMm + fromHeelMm) ?? heightMm;
    const ground = Math.min(there, thicknessAt(blade, crossings, fromHeelMm, v));
    return [v + toX, ground / 2];
  });
  return {
    outline: [...side, ...side.toReversed().map(([x, y]): Point2 => [x, -y])],
    edge: [side[0][0], 0],
    spine: [side[SECTION_POINTS][0], 0],
  };
}

export interface BladeFit {
  /** Bar beyond tip and tang, mm; negative is short. */
  readonly pastTipMm: number;
  readonly behindTangMm: number;
  /** Bar beside the edge and the spine, mm; negative is short. */
  readonly besideMm: number;
  /** Bar thicker than the blade, mm; negative is too thin. */
  readonly thickerMm: number;
  /** Share of the edge line (0…1) that each material makes, by id. */
  readonly edge: Readonly<Record<string, number>>;
}

/** Points asked along the edge. */
const EDGE_POINTS = 600;
/** mm. How far inside the edge line it is asked. */
const INSIDE_EDGE_MM = 0.3;

/** Whether the blade fits in the bar, and what its edge is made of. */
export function bladeFit(bar: Billet, blade: Blade, shop: Shop): BladeFit {
  const { widthMm, heightMm } = sizeOf(bar);
  return {
    pastTipMm: bar.lengthMm - blade.heelMm - blade.lengthMm,
    behindTangMm: blade.heelMm - blade.tangLengthMm,
    ...(bar.blank
      ? leftOn(bar.blank.forged, blade)
      : {
          besideMm: (widthMm - blade.heightMm) / 2 - Math.abs(blade.acrossMm),
          thickerMm: heightMm - blade.spineMm,
        }),
    edge: edgeMaterials(bar, blade, shop),
  };
}

/** Sections, and places across each, at which a blade is compared with its blank. */
const COMPARED = { sections: 120, across: 24 } as const;

/** What is left of a blank where it is least: beside blade and tang, and in thickness. */
function leftOn(blank: Forged, blade: Blade): Pick<BladeFit, 'besideMm' | 'thickerMm'> {
  const outline = outlineMm(blade);
  const toX = blade.acrossMm - blade.heightMm / 2;
  let [besideMm, thickerMm] = [Infinity, Infinity];
  const tang = tangMm(blade);
  const wholeMm = blade.tangLengthMm + blade.lengthMm;
  for (let i = 0; i < COMPARED.sections; i++) {
    const u = ((i + 0.5) / COMPARED.sections) * wholeMm - blade.tangLengthMm;
    const z = blade.heelMm + u;
    const span = spanAt(u < 0 ? tang : outline, u);
    if (!span || z < 0 || z > blank.lengthMm) continue;
    const { lo, hi, spine, edge } = blank.sectionAt(z);
    besideMm = Math.min(besideMm, span[0] + toX - lo, hi - span[1] - toX);
    // Where the bevel runs out behind the heel the tang is as it was forged.
    if (u < 0 && edge < spine) continue;
    const crossings = crossingsAt(outline, u);
    for (let k = 0; k < COMPARED.across; k++) {
      const v = span[0] + ((k + 0.5) / COMPARED.across) * (span[1] - span[0]);
      const ground = u < 0 ? blade.spineMm : thicknessAt(blade, crossings, u, v);
      const there = blank.thicknessAt(v + toX, z);
      if (ground > 0 && there > 0) thickerMm = Math.min(thickerMm, there - ground);
    }
  }
  return { besideMm, thickerMm };
}

function edgeMaterials(bar: Billet, blade: Blade, shop: Shop): Record<string, number> {
  const outline = outlineMm(blade);
  const points = makePoints(EDGE_POINTS);
  const codes = new Uint8Array(Math.max(BLOCK, EDGE_POINTS));
  points.count = 0;
  for (let i = 0; i < EDGE_POINTS; i++) {
    const u = ((i + 0.5) / EDGE_POINTS) * blade.lengthMm;
    const span = spanAt(outline, u);
    if (!span) continue;
    const at = points.count++;
    points.x[at] = blade.acrossMm - blade.heightMm / 2 + span[0] + INSIDE_EDGE_MM;
    points.y[at] = 0;
    points.z[at] = blade.heelMm + u;
  }
  const asked = points.count;
  bar.field.sample(points, codes);
  const shares: Record<string, number> = {};
  for (let i = 0; i < asked; i++) {
    if (codes[i] === 0) continue;
    const { id } = codedMaterial(shop, codes[i]);
    shares[id] = (shares[id] ?? 0) + 1 / asked;
  }
  return shares;
}
