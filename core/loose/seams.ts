import { type Outline, type Point2, boundingBox, placeOn } from '../geometry/outline.ts';
import { type Region, regionArea, without } from '../geometry/regions.ts';
import { type LooseMesh, type LoosePiece, cornerCut, span } from './pieces.ts';
import type { SeamPressed, SeamShut } from './stored.ts';
import { type Stretch, outward } from './touching.ts';

/** A gap this small is shut: less than the thinnest leaf of a feeler gauge, mm. */
export const SHUT_MM = 0.01;
/** What was shut is open again only from more on: less is how the pieces give way. mm */
export const REOPENED_MM = 0.02;
/** A seam begins beside the corner that is broken, mm. */
const CORNER = 0.5;
/** Places along a seam at which it is measured. */
const STATIONS = 25;
/** A face looks straight across its seam, but for so much (cosine of 12°). */
const STRAIGHT = 0.978;
/** Sides of two pieces lie against each other where they are no farther apart, mm. */
const AGAINST = 0.05;
/** What two pieces share of a side is a seam from so much on, mm. */
const LEAST_SEAM = 0.5;
/** A void is measured so far each way from where the corners meet, mm, or by so much of the thinnest piece. */
const VOID_REACH = 2;
const VOID_SHARE = 0.4;

/** A place on the rim of a piece: on which of all stretches, and how far along it. */
export interface RimPlace {
  readonly stretch: number;
  readonly share: number;
}

export interface Station extends RimPlace {
  /** How far along the seam, 0 to 1. */
  readonly along: number;
  /** What lay opposite at the start. */
  readonly opposite: RimPlace | null;
}

/** Where the sides of two pieces lie together, in the section as it was laid. */
export interface LooseSeam {
  readonly first: number;
  readonly second: number;
  readonly from: Point2;
  readonly to: Point2;
  readonly stations: readonly Station[];
}

/** Where corners meet within the section: the pieces there, the node of each that lies nearest, the seams that end there. */
export interface Cross {
  readonly at: Point2;
  readonly pieces: readonly number[];
  readonly nodes: readonly number[];
  readonly reachMm: number;
}

type Shared = Omit<LooseSeam, 'stations'>;

const sidesOf = (outline: Outline) => outline.map((p, i) => [p, outline[(i + 1) % outline.length]] as const);

/** What two pieces have in common of their sides, by their outlines as laid. */
export function sharedSides(pieces: readonly LoosePiece[]): Shared[] {
  return pieces.flatMap((a, first) =>
    pieces.flatMap((b, second): Shared[] => {
      if (second <= first) return [];
      return sidesOf(a.outline).flatMap(([p, q]) => {
        const length = span(p, q);
        const [tx, ty] = [(q[0] - p[0]) / length, (q[1] - p[1]) / length];
        const along = ([x, y]: Point2) => (x - p[0]) * tx + (y - p[1]) * ty;
        const off = ([x, y]: Point2) => Math.abs((x - p[0]) * ty - (y - p[1]) * tx);
        return sidesOf(b.outline).flatMap(([r, s]): Shared[] => {
          const [low, high] = [Math.max(0, along(s)), Math.min(length, along(r))];
          if (off(r) > AGAINST || off(s) > AGAINST || high - low < LEAST_SEAM) return [];
          const at = (mm: number): Point2 => [p[0] + tx * mm, p[1] + ty * mm];
          return [{ first, second, from: at(low), to: at(high) }];
        });
      });
    }),
  );
}

/** Where a place of the rim now is. */
export function rimAt(
  all: readonly Stretch[],
  { stretch, share }: RimPlace,
  x: Float64Array,
  y: Float64Array,
): Point2 {
  const { from, to } = all[stretch];
  return [x[from] + share * (x[to] - x[from]), y[from] + share * (y[to] - y[from])];
}

/** What lies across from a place of one piece, the way that is given, on another, and how far off, mm (below 0 within it); null where nothing does. */
export function acrossFrom(
  all: readonly Stretch[],
  place: RimPlace,
  [nx, ny]: Point2,
  other: number,
  x: Float64Array,
  y: Float64Array,
): (RimPlace & { readonly gapMm: number }) | null {
  const [px, py] = rimAt(all, place, x, y);
  let best: (RimPlace & { gapMm: number }) | null = null;
  all.forEach(({ from, to, piece }, stretch) => {
    if (piece !== other) return;
    const [dx, dy] = [x[to] - x[from], y[to] - y[from]];
    const cross = nx * dy - ny * dx;
    // A rim that looks this way runs the other way.
    if (cross >= 0) return;
    const [ex, ey] = [px - x[from], py - y[from]];
    const share = (nx * ey - ny * ex) / cross;
    if (share < -1e-9 || share > 1 + 1e-9) return;
    const gapMm = (share * dx - ex) * nx + (share * dy - ey) * ny;
    if (best === null || Math.abs(gapMm) < Math.abs(best.gapMm)) best = { stretch, share, gapMm };
  });
  return best;
}

/** Which way a seam now looks, from its first piece: straight across the line between its ends. */
export function lookOf(
  all: readonly Stretch[],
  { stations }: Pick<LooseSeam, 'stations'>,
  x: Float64Array,
  y: Float64Array,
): Point2 {
  const [[x0, y0], [x1, y1]] = [stations[0], stations.at(-1)!].map((s) => rimAt(all, s, x, y));
  const length = span([x0, y0], [x1, y1]);
  return [(y1 - y0) / length, -(x1 - x0) / length];
}

/** The seams of pieces laid together, each with places along its first piece between the corners that are broken. */
export function seamsOf(
  pieces: readonly LoosePiece[],
  { x, y }: LooseMesh,
  all: readonly Stretch[],
  cornerMm: number,
): LooseSeam[] {
  return sharedSides(pieces).flatMap((shared): LooseSeam[] => {
    const { first, second, from, to } = shared;
    const length = span(from, to);
    const [tx, ty] = [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
    const along = (node: number) => (x[node] - from[0]) * tx + (y[node] - from[1]) * ty;
    const own = all.flatMap((stretch, i) => {
      const [nx, ny] = outward(stretch, x, y);
      return stretch.piece === first && nx * ty - ny * tx > STRAIGHT ? [i] : [];
    });
    if (own.length === 0) return [];
    /** How far from an end the seam begins: beside the corners of both that are broken there. */
    const margin = (end: Point2): number => {
      const cuts = [pieces[first], pieces[second]].flatMap(({ outline, bought }) =>
        outline.map((p, i) => (!bought && span(p, end) < AGAINST ? cornerCut(outline, i, cornerMm) : 0)),
      );
      return Math.min(Math.max(...cuts) + CORNER, length / 3) / length;
    };
    const [begin, end] = [margin(from), 1 - margin(to)];
    const stations = Array.from({ length: STATIONS }, (_, k) => {
      const share = begin + ((end - begin) * k) / (STATIONS - 1);
      const mm = share * length;
      const stretch = own.reduce((best, i) => {
        const miss = (s: number) =>
          Math.max(0, along(all[s].from) - mm, mm - along(all[s].to)) +
          Math.abs((x[all[s].from] - from[0]) * ty - (y[all[s].from] - from[1]) * tx);
        return miss(i) < miss(best) ? i : best;
      }, own[0]);
      const [a, b] = [along(all[stretch].from), along(all[stretch].to)];
      const place = { stretch, share: Math.min(1, Math.max(0, (mm - a) / (b - a))) };
      return { ...place, along: share, opposite: acrossFrom(all, place, [ty, -tx], second, x, y) };
    });
    return [{ ...shared, stations }];
  });
}

/** Where corners of pieces meet within the section. */
export function crossesOf(pieces: readonly LoosePiece[], mesh: LooseMesh): Cross[] {
  const box = boundingBox(pieces.flatMap((p) => p.outline));
  const thinnest = Math.min(
    ...pieces.map(({ outline }) => {
      const { minX, maxX, minY, maxY } = boundingBox(outline);
      return Math.min(maxX - minX, maxY - minY);
    }),
  );
  const places: Point2[] = [];
  for (const corner of pieces.flatMap((p) => p.outline)) {
    const [cx, cy] = corner;
    const depth = Math.min(cx - box.minX, box.maxX - cx, cy - box.minY, box.maxY - cy);
    if (depth > AGAINST && !places.some((p) => span(p, corner) < AGAINST)) places.push(corner);
  }
  return places.flatMap((at): Cross[] => {
    const near = [...pieces.keys()].filter((k) => span(placeOn(pieces[k].outline, ...at).at, at) < AGAINST);
    if (near.length < 2) return [];
    const far = (node: number) => span([mesh.x[node], mesh.y[node]], at);
    const nodes = near.map((k) =>
      mesh.loops[k].reduce((best, node) => (far(node) < far(best) ? node : best)),
    );
    return [{ at, pieces: near, nodes, reachMm: Math.min(VOID_REACH, VOID_SHARE * thinnest) }];
  });
}

/** What no piece fills where corners meet, in a square window, mm². */
export function voidAt(
  { loops }: LooseMesh,
  x: Float64Array,
  y: Float64Array,
  { nodes, pieces, reachMm: r }: Cross,
): number {
  const middle = (of: Float64Array) => nodes.reduce((sum, n) => sum + of[n], 0) / nodes.length;
  const [cx, cy] = [middle(x), middle(y)];
  const window: Outline = [
    [cx - r, cy - r],
    [cx + r, cy - r],
    [cx + r, cy + r],
    [cx - r, cy + r],
  ];
  const filled = pieces.map((k) => [Array.from(loops[k], (n): Point2 => [x[n], y[n]])]);
  return regionArea(filled.reduce<Region>(without, [window]));
}

/** How far a seam stands open after a press, mm, 0 where it is shut; null where its sides do not lie opposite all along, which is not judged. */
export function openBy({ shutAtMm }: SeamShut, state: SeamPressed, seam: number): number | null {
  const { gapsMm } = state.seams[seam];
  let most = 0;
  for (const [i, gap] of gapsMm.entries()) {
    if (gap === null) return null;
    const shutAt = shutAtMm[i];
    const wasShut = shutAt !== null && shutAt <= state.travelMm;
    if (gap > (wasShut ? REOPENED_MM : SHUT_MM)) most = Math.max(most, gap);
  }
  return most;
}
