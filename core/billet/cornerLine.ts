import type { Billet } from './billet.ts';
import { layerCounts, makePoints, makeTrace } from './fields/field.ts';

/** A rectangle of a section, mm. */
export interface Part {
  readonly x: number;
  readonly y: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

/** Which corner of it: to the right (1) or left (−1), up (1) or down (−1). */
export type Corner = readonly [right: 1 | -1, up: 1 | -1];

export interface CornerLine {
  /** How far beside the corner the line meets the outline, mm; more than 0: counter-clockwise of it. */
  readonly missMm: number;
  /** The same as an angle seen from the part's middle, degrees. */
  readonly turnedDeg: number;
}

/** Degrees to each side of a corner in which its line is looked for: half of the way to the middle of a side. */
const REACH_DEG = 22.5;
/** Rays on each side. */
const RAYS = 90;
/** Share of the way to the outline at which the rays are asked: on it the answer is a neighbour's. */
const INSIDE = 0.985;
/** Off the very middle, as a share of the part: a seam may run there. */
const BESIDE = 1e-6;

/**
 * Where the layer that lies in the middle of a part meets its outline near a corner: after a re-square on the bias that is the
 * line that should meet the corner. Nothing where there are no layers, or where they run elsewhere. Sampled at one station.
 */
export function cornerLine(bar: Billet, part: Part, [right, up]: Corner, zMm: number): CornerLine | null {
  const points = makePoints(2 * RAYS + 2);
  points.x[0] = part.x + right * part.widthMm * BESIDE;
  points.y[0] = part.y + up * part.heightMm * BESIDE;
  for (let i = 0; i <= 2 * RAYS; i++) {
    const [x, y] = onOutline(part, [right, up], rayDeg(i));
    points.x[i + 1] = part.x + INSIDE * x;
    points.y[i + 1] = part.y + INSIDE * y;
  }
  points.z.fill(zMm);
  points.count = 2 * RAYS + 2;
  points.trace = makeTrace(points.count);
  bar.field.sample(points, new Uint8Array(points.count));
  const layer = layerCounts(points.trace, points.count);
  const over = Array.from(layer.subarray(1), (count) => count - layer[0]);
  let deg: number | null = null;
  for (let i = 0; i < 2 * RAYS; i++) {
    const [a, b] = [over[i], over[i + 1]];
    if (!(a === 0 || a * b < 0) || Math.abs(a - b) > 1) continue;
    const here = rayDeg(i) + (a / (a - b || 1)) * (rayDeg(1) - rayDeg(0));
    if (deg === null || Math.abs(here) < Math.abs(deg)) deg = here;
  }
  if (deg === null) return null;
  const [x, y] = onOutline(part, [right, up], deg);
  const [cx, cy] = [(right * part.widthMm) / 2, (up * part.heightMm) / 2];
  return { missMm: Math.sign(deg) * (Math.abs(x - cx) + Math.abs(y - cy)), turnedDeg: deg };
}

const CORNERS: readonly Corner[] = [
  [1, 1],
  [-1, 1],
  [-1, -1],
  [1, -1],
];

/** The mean over the corners of a part to which a line runs, halfway along the bar; null where none does. */
export function meanLine(bar: Billet, part: Part): CornerLine | null {
  const lines = CORNERS.flatMap((corner) => cornerLine(bar, part, corner, bar.lengthMm / 2) ?? []);
  if (lines.length === 0) return null;
  const mean = (of: (line: CornerLine) => number) => lines.reduce((sum, l) => sum + of(l) / lines.length, 0);
  return { missMm: mean((l) => l.missMm), turnedDeg: mean((l) => l.turnedDeg) };
}

const rayDeg = (i: number): number => REACH_DEG * (i / RAYS - 1);

/** The point of a part's outline so many degrees counter-clockwise of a corner, seen from its middle. */
function onOutline({ widthMm, heightMm }: Part, [right, up]: Corner, deg: number): [number, number] {
  const angle = Math.atan2(up * heightMm, right * widthMm) + (deg * Math.PI) / 180;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const reach = Math.min(widthMm / 2 / Math.abs(c), heightMm / 2 / Math.abs(s));
  return [reach * c, reach * s];
}
