import { group } from 'd3-array';
import { type Billet, sizeOf } from './billet.ts';
import { contains } from '../geometry/outline.ts';
import { BLOCK, layerCounts, makePoints, makeTrace } from './fields/field.ts';
import { scattered } from './scatter.ts';

/** How thick the layers of a billet are where they lie, and how many cross it. mm. */
export interface Bands {
  /**
   * The thinnest layer: each by the middle of what it measures over the section, with alike steel that lies against it. What saw and
   * grinder left a part of counts as the layer that it was.
   */
  readonly leastMm: number;
  /** Layers over a twentieth of the steel are thinner than this. */
  readonly fifthPercentMm: number;
  /** How many layers a line across the bar meets, where they all run one way. */
  readonly across: number | null;
}

/** Points asked; each with a neighbour along every axis. */
const PLACES = BLOCK / 4;
/** mm between a point and its neighbours. */
const STEP_MM = 1e-5;
/** Two steps that differ by more than this share have a seam or a layer's edge between them. */
const SMOOTH = 0.02;
/** Layers run one way where their count changes the other way less than this share as fast. */
const ONE_WAY = 0.03;

/** Layers met less often are looked for again at as many other places, so many times: of one or two the middle is chance. */
const LEAST_MET = 3;
const LOOKED_AGAIN = 2;

/** More layers than this are reckoned from their slope, not counted one by one. */
const MOST_COUNTED = BLOCK / 4;
/** Where layers are counted, as a share of the section off its middle: seams seldom run there. */
const BESIDE = 0.137;

const known = new WeakMap<Billet, Bands | null>();

/**
 * Layer thickness by the count of layers under a point, walked back through every move: its slope is layers to the mm, whatever
 * was pressed, turned or laid since (handbook, geometry, "Layers, bands and what can be seen"). Nothing where there are no layers.
 */
export function bandsOf(billet: Billet): Bands | null {
  const there = known.get(billet);
  if (there !== undefined) return there;
  const bands = measured(billet);
  known.set(billet, bands);
  return bands;
}

/** The thinnest bands of a billet, to first order, mm: of its layers where it has any. */
export const thinnestBandMm = (billet: Billet): number => bandsOf(billet)?.leastMm ?? billet.bandMm;

/** A layer at one place, walked back to its stack. Layers to the mm along x and y; mm. */
interface Place {
  readonly at: readonly [x: number, y: number, z: number];
  readonly layer: number;
  readonly thickMm: number;
  readonly slope: readonly [number, number];
  /** Square across the layer, of length 1. */
  readonly across: readonly [number, number, number];
}

/** The layers at places all through a billet; at others in every round. */
export function layersIn(billet: Billet, round = 0): Place[] {
  const { at, count } = counted(billet, round);
  return at.flatMap((place, i): Place[] => {
    const here = count[4 * i];
    const [dx, dy, dz] = [1, 2, 3].map((k) => (count[4 * i + k] - here) / STEP_MM);
    // A step over a seam or from layer to layer is no slope.
    if (![dx, dy, dz].every((d) => Math.abs(d) * STEP_MM < SMOOTH)) return [];
    const thickMm = 1 / Math.hypot(dx, dy, dz);
    if (!Number.isFinite(thickMm)) return [];
    return [
      {
        at: place,
        layer: Math.floor(here),
        thickMm,
        slope: [Math.abs(dx), Math.abs(dy)],
        across: [dx * thickMm, dy * thickMm, dz * thickMm],
      },
    ];
  });
}

function measured(billet: Billet): Bands | null {
  const places = layersIn(billet);
  if (places.length === 0) return null;
  const all = places.map((p) => p.thickMm);
  const slope = [0, 1].map((k) => places.reduce((sum, p) => sum + p.slope[k], 0));
  const { widthMm, heightMm } = sizeOf(billet);
  const [across, up] = [(slope[0] / all.length) * widthMm, (slope[1] / all.length) * heightMm];
  return {
    leastMm: thinnest(billet, places),
    fifthPercentMm: share(all, 0.05),
    across:
      Math.min(...slope) < ONE_WAY * Math.max(...slope)
        ? countedAcross(billet, Math.max(across, up), across > up)
        : null,
  };
}

/** The thinnest of the layers, each by the middle of what it measures; alike steel that lies against one makes one band with it. mm */
function thinnest(billet: Billet, places: readonly Place[]): number {
  const rare = new Set(
    [...group(places, (p) => p.layer)].flatMap(([layer, own]) => (own.length < LEAST_MET ? [layer] : [])),
  );
  const met = [...places];
  for (let round = 1; round <= LOOKED_AGAIN && rare.size > 0; round++)
    met.push(...layersIn(billet, round).filter((p) => rare.has(p.layer)));
  const layers = [...group(met, (p) => p.layer).values()]
    .map((own) => own.sort((a, b) => a.thickMm - b.thickMm))
    .map((own) => ({ own, mm: own[own.length >> 1].thickMm }))
    .sort((a, b) => a.mm - b.mm);
  let leastMm = Infinity;
  // No band is thinner than its layer: the first that is seen no thicker than the next layer is the thinnest.
  for (const { own, mm } of layers.slice(0, MOST_SEEN)) {
    if (mm >= leastMm) break;
    const half = own.length >> 1;
    const middle = own.slice(Math.max(0, half - SEEN_BESIDE), half + SEEN_BESIDE + 1);
    const band = share(bandsAt(billet, middle), 0.5);
    leastMm = Math.min(leastMm, band > THICKER * mm ? band : mm);
  }
  return leastMm;
}

/** Layers looked at along a line across them, from the thinnest; places of each beside its middle one. */
const MOST_SEEN = 24;
const SEEN_BESIDE = 1;
/** A band this much thicker than its layer is no roundness of the points on the line. */
const THICKER = 1.1;
/** Points on a line each way, to so many times the layer's thickness; steel that goes on further has no other beside it. */
const SEEN_POINTS = 64;
const SEEN_FAR = 3;

/** How far the same steel goes on across the layers at some places, mm; the layer's own thickness where it ends nowhere near. */
function bandsAt(billet: Billet, places: readonly Place[]): number[] {
  const points = makePoints();
  const codes = new Uint8Array(BLOCK);
  const lines = places.flatMap((place) => [1, -1].map((way) => ({ ...place, way })));
  points.count = lines.length * SEEN_POINTS;
  lines.forEach(({ at, across, thickMm, way }, k) => {
    for (let i = 0; i < SEEN_POINTS; i++) {
      const far = (way * SEEN_FAR * thickMm * i) / SEEN_POINTS;
      points.x[k * SEEN_POINTS + i] = at[0] + far * across[0];
      points.y[k * SEEN_POINTS + i] = at[1] + far * across[1];
      points.z[k * SEEN_POINTS + i] = at[2] + far * across[2];
    }
  });
  billet.field.sample(points, codes);
  const inside = (i: number) =>
    points.z[i] >= 0 && points.z[i] <= billet.lengthMm && contains(billet.outline, points.x[i], points.y[i]);
  const reach = (k: number): number => {
    const from = k * SEEN_POINTS;
    const line = codes.subarray(from, from + SEEN_POINTS);
    const end = line.findIndex((code, i) => code !== line[0] || !inside(from + i));
    return end < 0 ? Infinity : (end - 0.5) / SEEN_POINTS;
  };
  return places.map(({ thickMm }, k) => {
    const far = reach(2 * k) + reach(2 * k + 1);
    return Number.isFinite(far) ? SEEN_FAR * thickMm * far : thickMm;
  });
}

const share = (values: number[], part: number): number =>
  values.sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(part * values.length))];

/** Layers met on a line across the bar: another one begins where the count passes a whole number, or turns back at a seam. */
function countedAcross(billet: Billet, about: number, acrossX: boolean): number {
  if (about > MOST_COUNTED) return Math.round(about);
  const { widthMm, heightMm } = sizeOf(billet);
  const points = makePoints();
  for (let i = 0; i < BLOCK; i++) {
    const along = (i + 0.5) / BLOCK - 0.5;
    points.x[i] = (acrossX ? along : BESIDE) * widthMm;
    points.y[i] = (acrossX ? BESIDE : along) * heightMm;
    points.z[i] = billet.lengthMm * (0.5 + BESIDE);
  }
  points.count = BLOCK;
  points.trace = makeTrace();
  billet.field.sample(points, new Uint8Array(BLOCK));
  let layers = 0;
  let [was, slope] = [NaN, 0];
  for (const count of layerCounts(points.trace, BLOCK)) {
    if (Number.isNaN(count)) {
      was = NaN;
      continue;
    }
    const next = Math.sign(count - was);
    const other = Number.isNaN(was) || Math.floor(count) !== Math.floor(was);
    if (other || (slope !== 0 && next !== slope)) layers++;
    slope = other ? 0 : next;
    was = count;
  }
  return layers;
}

/** The count at each place and a step along x, y and z from it; not a number where there is no layer. */
function counted(billet: Billet, round: number): { at: [number, number, number][]; count: Float64Array } {
  const places: [number, number, number][] = [];
  const { widthMm, heightMm } = sizeOf(billet);
  const points = makePoints();
  let at = 0;
  const from = round * 4 * BLOCK;
  for (let i = from; at < 4 * PLACES && i < from + 4 * BLOCK; i++) {
    const x = (scattered(i, 0) - 0.5) * (widthMm - 2 * STEP_MM);
    const y = (scattered(i, 1) - 0.5) * (heightMm - 2 * STEP_MM);
    const z = scattered(i, 2) * (billet.lengthMm - 2 * STEP_MM);
    if (!contains(billet.outline, x, y)) continue;
    places.push([x, y, z]);
    for (let k = 0; k < 4; k++) {
      points.x[at] = x + (k === 1 ? STEP_MM : 0);
      points.y[at] = y + (k === 2 ? STEP_MM : 0);
      points.z[at++] = z + (k === 3 ? STEP_MM : 0);
    }
  }
  points.count = at;
  points.trace = makeTrace();
  billet.field.sample(points, new Uint8Array(BLOCK));
  return { at: places, count: layerCounts(points.trace, at) };
}
