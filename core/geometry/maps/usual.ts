import { areaKept, cellAreas } from './areaKept.ts';
import {
  type BakedMap,
  type Gridded,
  bakedMap,
  mapFrom,
  mirrored,
  mixed,
  nodesOn,
  resting,
  sharesAt,
  unfolded,
} from './baked.ts';
import { type Outline, outlineArea, rectangle, regularPolygon } from '../outline.ts';
import { ROUND_SIDES } from '../tolerances.ts';
import { latest } from '../../remembered.ts';
import { Reach } from './rays.ts';
import file from './usual.json' with { type: 'json' };
import type { PointMap } from './pointMap.ts';

/**
 * How an even bar usually flows, at once: the maps that the flow of the section comes to (core/flow), worked out beforehand by
 * `npm run maps` and kept. Handbook, geometry: "The bias re-square at a glance". Sections in half-sides of a square of their area.
 */

const { cells, resquare, knock, lean } = file;

/** What a re-square is asked by; sides and bites against the side of the bar before. */
export interface ResquareAsked {
  readonly sideShare: number;
  readonly biteShare: number;
  /** How far the line that should meet the corner misses it, seen from the middle, counter-clockwise after a turn to the left. */
  readonly missDeg: number;
}

/** Unpacked when one is first mixed: those of another size are not. */
const unpacking = (maps: readonly string[]): ((i: number) => BakedMap) => {
  const known: BakedMap[] = [];
  return (i) => (known[i] ??= unfolded(maps[i], cells, 'quarter'));
};
const even = unpacking(resquare.maps);
const missed = unpacking(resquare.off.map((o) => o.map));

/** What misses clockwise is the mirror image of what misses counter-clockwise; in the middle what misses nothing. */
function off(i: number): BakedMap {
  const past = i - (resquare.off.length - 1);
  return past < 0 ? mirrored(missed(-past)) : missed(past);
}

const bothWays = (degs: readonly number[]): number[] => [
  ...degs
    .slice(1)
    .toReversed()
    .map((d) => -d),
  ...degs,
];
const MISSES = bothWays(resquare.off.map((o) => o.missDeg));
const TURNS = bothWays(resquare.off.map((o) => o.turnDeg));

/** How far past 45° a bar is turned whose line then misses its corner by so much; and how far it misses. Degrees. */
export const turnForMiss = (missDeg: number): number => along(MISSES, TURNS, missDeg);
export const missForTurn = (turnDeg: number): number => along(TURNS, MISSES, turnDeg);

/** From one ascending row of numbers to another, straight between them and past their ends. */
function along(from: readonly number[], to: readonly number[], value: number): number {
  const k = Math.min(from.length - 2, Math.max(0, from.findIndex((f) => f > value) - 1));
  const i = value >= from[from.length - 1] ? from.length - 2 : k;
  return to[i] + ((value - from[i]) / (from[i + 1] - from[i])) * (to[i + 1] - to[i]);
}

/** As many maps as are in use at once. */
const inUse = latest<BakedMap>(24);

/** The square on its corner, half-sides. */
const STANDING: Outline = [
  [Math.SQRT2, 0],
  [0, Math.SQRT2],
  [-Math.SQRT2, 0],
  [0, -Math.SQRT2],
];

/** What was laid over one another keeps its areas only nearly; twice corrected they are kept to a thousandth. */
function withItsAreas({ sources }: BakedMap): BakedMap {
  const places = nodesOn(cells);
  const { xy } = areaKept({ ...places, xy: Float64Array.from(sources) }, cellAreas(places), STANDING, 2);
  return mapFrom(cells, xy);
}

/** The way back through a re-square after a turn to the left: to the square before, standing on its corner, half-sides. */
export function resquareMap({ sideShare, biteShare, missDeg }: ResquareAsked): BakedMap {
  return inUse(`${sideShare}/${biteShare}/${missDeg}`, () => mixedFor({ sideShare, biteShare, missDeg }));
}

function mixedFor({ sideShare, biteShare, missDeg }: ResquareAsked): BakedMap {
  const bySide = sharesAt(resquare.sides, sideShare);
  const byBite = sharesAt(resquare.bites, biteShare);
  const shares = bySide.flatMap((side) => byBite.map((bite) => side * bite));
  const parts = shares.flatMap((share, i): [number, BakedMap][] => (share === 0 ? [] : [[share, even(i)]]));
  // What an angle changes was worked out at one size and bite, and is laid over the others.
  if (missDeg !== 0) {
    parts.push([-1, missed(0)]);
    sharesAt(MISSES, missDeg).forEach((share, i) => share !== 0 && parts.push([share, off(i)]));
  }
  return missDeg === 0 ? mixed(parts) : withItsAreas(mixed(parts));
}

/** What a square bar becomes when its corners are knocked down. */
export type KnockShape = 'octagon' | 'round';

const knockMaps = new Map<string, BakedMap>();

function knockMap(shape: KnockShape, way: 'to' | 'back'): BakedMap {
  const key = `${shape} ${way}`;
  const map = knockMaps.get(key) ?? unfolded(knock[shape][way], cells, 'quarter');
  knockMaps.set(key, map);
  return map;
}

/** The outline of a shape, of the area of the square |x|, |y| ≤ 1. */
export const knockedOutline = (shape: KnockShape): Outline =>
  regularPolygon(shape === 'octagon' ? 8 : ROUND_SIDES, outlineArea(rectangle(2, 2)));

interface Knocked {
  readonly reach: Reach;
  readonly nodes: BakedMap;
}

const knockedShapes = new Map<KnockShape, Knocked>();

function knocked(shape: KnockShape): Knocked {
  const known = knockedShapes.get(shape);
  if (known) return known;
  const reach = new Reach(knockedOutline(shape));
  const { xy } = nodesOn(cells, (u, v, out) => reach.fromSquare(u, v, out));
  const made = { reach, nodes: mapFrom(cells, xy) };
  knockedShapes.set(shape, made);
  return made;
}

/** A square or flat section on the grid. */
const flat = (halfWidthMm: number, halfHeightMm: number): Gridded => ({
  toGrid: (x, y, out) => {
    out[0] = x / halfWidthMm;
    out[1] = y / halfHeightMm;
  },
  fromGrid: (u, v, out) => {
    out[0] = u * halfWidthMm;
    out[1] = v * halfHeightMm;
  },
});

/** The corners of a square of half-side `halfMm` knocked down to a shape of its area. */
export function knocking(shape: KnockShape, halfMm: number): PointMap {
  const { reach, nodes } = knocked(shape);
  const after: Gridded = {
    toGrid: (x, y, out) => reach.toSquare(x / halfMm, y / halfMm, out),
    fromGrid: (u, v, out) => {
      reach.fromSquare(u, v, out);
      out[0] *= halfMm;
      out[1] *= halfMm;
    },
    nodes,
  };
  return bakedMap(knockMap(shape, 'to'), after, halfMm, halfMm);
}

/** An octagon or round pressed to a square of its area, of half-side `halfMm`, its corners filling as they go. */
export const cornersFilled = (shape: KnockShape, halfMm: number): PointMap =>
  bakedMap(knockMap(shape, 'back'), flat(halfMm, halfMm), halfMm, halfMm);

const LEANS = bothWays([0, ...lean.leans]);
/** Degrees. A little past the last lean that was worked out: its steel slides on evenly. */
export const MOST_LEAN_DEG = 24;

let leanMaps: readonly BakedMap[] | null = null;

/** A square bar pressed across two corners until its section leans by so much to the right; at most MOST_LEAN_DEG. */
export function leaningBar(leanDeg: number, halfWidthMm: number, halfHeightMm: number): PointMap {
  if (!leanMaps) {
    const right = lean.maps.map((m) => unfolded(m, cells, 'half'));
    leanMaps = [...right.toReversed().map(mirrored), resting(cells), ...right];
  }
  const shares = sharesAt(LEANS, leanDeg);
  const map = mixed(leanMaps.map((m, i) => [shares[i], m]));
  const t = (Math.tan((leanDeg * Math.PI) / 180) * halfHeightMm) / halfWidthMm;
  const { toGrid, fromGrid } = flat(halfWidthMm, halfHeightMm);
  return bakedMap(
    map,
    {
      toGrid: (x, y, out) => {
        toGrid(x, y, out);
        out[0] -= t * out[1];
      },
      fromGrid: (u, v, out) => fromGrid(u + t * v, v, out),
    },
    halfWidthMm,
    halfHeightMm,
  );
}
