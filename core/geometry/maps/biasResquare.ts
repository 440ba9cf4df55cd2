import { RESQUARE_STEPS, RESQUARE_TABLE_CELLS } from '../tolerances.ts';
import { type Drift, lobedFlow, walkDrift } from './conjugate.ts';
import type { Point2 } from '../outline.ts';

/**
 * The ideal bias re-square (handbook, geometry): an area-keeping map that takes a square, turned 45°, to the upright
 * square. Coordinates in half-sides, new square |x|, |y| ≤ 1; the old one turned so that its corners lie on the axes at √2.
 * Drift dz/dt = −z̄³ + β(t − T/2)z̄⁷ + γz̄¹¹; every term is the conjugate of an analytic function, so area is kept exactly.
 */
const T = 0.17106;
const BETA = 13.273;
const GAMMA = -0.0519;

const drift: Drift = (x, y, t, out) => lobedFlow(x, y, -1, BETA * (t - T / 2), GAMMA, out);

function walk(x: number, y: number, from: number, to: number): Point2 {
  const out: [number, number] = [0, 0];
  walkDrift(drift, x, y, from, to, RESQUARE_STEPS, out);
  return out;
}

/** Where a point of the old square (standing on its corner) lands in the new one. Half-sides. */
export const resquareForward = (x: number, y: number): Point2 => walk(x, y, 0, T);

/** Where a point of the new square came from. Half-sides, old square standing on its corner. */
export const resquareBackward = (x: number, y: number): Point2 => walk(x, y, T, 0);

/** Turns by +45° or −45°: the old square from lying flat to standing on its corner. */
function turned45(x: number, y: number, sign: 1 | -1): Point2 {
  return [Math.SQRT1_2 * (x - sign * y), Math.SQRT1_2 * (sign * x + y)];
}

/**
 * Slides a point along the concentric square it lies on by `fraction` of the half-side (a perimeter is eight half-sides).
 * Keeps area and outline. Positive is counter-clockwise.
 */
export function slideAlongSquare(x: number, y: number, fraction: number): Point2 {
  const s = Math.max(Math.abs(x), Math.abs(y));
  if (s === 0 || fraction === 0) return [x, y];
  return pointOnSquare(s, (perimeterStation(x, y, s) + fraction + 8) % 8);
}

/** Station 0…8 in half-sides, counter-clockwise from the middle of the right side. */
function perimeterStation(x: number, y: number, s: number): number {
  if (x === s && y >= 0) return y / s;
  if (y === s) return 2 - x / s;
  if (x === -s) return 4 - y / s;
  if (y === -s) return 6 + x / s;
  return 8 + y / s;
}

function pointOnSquare(s: number, station: number): Point2 {
  if (station <= 1) return [s, station * s];
  if (station <= 3) return [(2 - station) * s, s];
  if (station <= 5) return [-s, (4 - station) * s];
  if (station <= 7) return [(station - 6) * s, -s];
  return [s, (station - 8) * s];
}

/**
 * How far to slide, in half-sides, so that the corner line turns by exactly `errorRad` (at most 45° either way).
 * The handbook's δ/360° of the perimeter turns the corner line by only 2δ/π; what a maker measures is the corner line.
 */
export const slideForError = (errorRad: number): number =>
  Math.sign(errorRad) * (1 - Math.tan(Math.PI / 4 - Math.abs(errorRad)));

/** Direction the bar is turned before pressing, seen on end B. */
export type BiasTurn = 'left' | 'right';

const signOf = (turn: BiasTurn): 1 | -1 => (turn === 'left' ? 1 : -1);

/** Old square (lying flat) to new square, half-sides, with the turn error. */
export function biasForward(x: number, y: number, turn: BiasTurn, errorRad = 0): Point2 {
  const [u, v] = turned45(x, y, signOf(turn));
  const [nx, ny] = resquareForward(u, v);
  return slideAlongSquare(nx, ny, slideForError(errorRad));
}

/** New square to old square (lying flat), half-sides, with the turn error. */
export function biasBackward(x: number, y: number, turn: BiasTurn, errorRad = 0): Point2 {
  const [sx, sy] = slideAlongSquare(x, y, -slideForError(errorRad));
  const [u, v] = resquareBackward(sx, sy);
  return turned45(u, v, signOf(turn) === 1 ? -1 : 1);
}

/**
 * The backward map baked for the quarter x, y ≥ 0 of the new square (the rest are its mirror images), old square standing on
 * its corner: (cells + 1)² source pairs, x fastest. Nodes are evenly spaced in `tableStation`, which crowds them at the rim,
 * where the map shears most.
 */
export interface QuarterTable {
  readonly cells: number;
  readonly sources: Float32Array;
}

/** Where along the table (0…1) the coordinate x (0…1) stands: x(1 + x⁶)/2. */
export const tableStation = (x: number): number => 0.5 * x * (1 + x ** 6);

/** The coordinate at a table station, by Newton's method. */
function coordinateAt(station: number): number {
  let x = station;
  for (let i = 0; i < 40; i++) x -= (tableStation(x) - station) / (0.5 * (1 + 7 * x ** 6));
  return x;
}

let baked: QuarterTable | null = null;

export const resquareTable = (): QuarterTable => (baked ??= bake());

/** Walks back one half of the quarter and mirrors it in the diagonal into the other. */
function bake(): QuarterTable {
  const cells = RESQUARE_TABLE_CELLS;
  const sources = new Float32Array(2 * (cells + 1) ** 2);
  const nodes = Array.from({ length: cells + 1 }, (_, i) => coordinateAt(i / cells));
  for (let i = 0; i <= cells; i++)
    for (let j = 0; j <= i; j++) {
      const [x, y] = resquareBackward(nodes[i], nodes[j]);
      sources.set([x, y], 2 * (j * (cells + 1) + i));
      sources.set([y, x], 2 * (i * (cells + 1) + j));
    }
  return { cells, sources };
}
