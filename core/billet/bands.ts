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

/** Layers met less often are looked for again, at four times as many other places: of one or two the middle is chance. */
const LEAST_MET = 3;

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

type Where = readonly [x: number, y: number, z: number];

/** A layer at one place, walked back to its stack. Layers to the mm along x and y; mm. */
interface Place {
  readonly at: Where;
  readonly layer: number;
  readonly thickMm: number;
  readonly slope: readonly [number, number];
  /** Square across the layer, of length 1. */
  readonly across: readonly [number, number, number];
}

/** The layers at places all through a billet; at others in every round. */
export const layersIn = (billet: Billet, round = 0): Place[] =>
  layersAt(billet, placesIn(billet, 4 * BLOCK * round, PLACES));

function layersAt(billet: Billet, at: readonly Where[]): Place[] {
  const count = counted(billet, at, true);
  const there: Place[] = [];
  for (let i = 0; i < at.length; i++) {
    const here = count[4 * i];
    const dx = (count[4 * i + 1] - here) / STEP_MM;
    const dy = (count[4 * i + 2] - here) / STEP_MM;
    const dz = (count[4 * i + 3] - here) / STEP_MM;
    // A step over a seam or from layer to layer is no slope.
    if (!(Math.max(Math.abs(dx), Math.abs(dy), Math.abs(dz)) * STEP_MM < SMOOTH)) continue;
    const thickMm = 1 / Math.hypot(dx, dy, dz);
    if (Number.isFinite(thickMm))
      there.push({
        at: at[i],
        layer: Math.floor(here),
        thickMm,
        slope: [Math.abs(dx), Math.abs(dy)],
        across: [dx * thickMm, dy * thickMm, dz * thickMm],
      });
  }
  return there;
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
  const met = new Map<number, Place[]>();
  const meet = (place: Place) => {
    const own = met.get(place.layer);
    if (own) own.push(place);
    else met.set(place.layer, [place]);
  };
  places.forEach(meet);
  const rare = new Set([...met].flatMap(([layer, own]) => (own.length < LEAST_MET ? [layer] : [])));
  if (rare.size > 0) {
    const others = placesIn(billet, 4 * BLOCK, BLOCK);
    const count = counted(billet, others, false);
    const there = others.filter((_, i) => rare.has(Math.floor(count[i]))).slice(0, PLACES);
    for (const place of layersAt(billet, there)) if (rare.has(place.layer)) meet(place);
  }
  const layers = [...met.values()]
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

/** As many places as are asked for, spread evenly through a billet; fewer where little of its box is steel. */
function placesIn(billet: Billet, from: number, most: number): Where[] {
  const places: Where[] = [];
  const { widthMm, heightMm } = sizeOf(billet);
  for (let i = from; places.length < most && i < from + 4 * BLOCK; i++) {
    const x = (scattered(i, 0) - 0.5) * (widthMm - 2 * STEP_MM);
    const y = (scattered(i, 1) - 0.5) * (heightMm - 2 * STEP_MM);
    const z = scattered(i, 2) * (billet.lengthMm - 2 * STEP_MM);
    if (contains(billet.outline, x, y)) places.push([x, y, z]);
  }
  return places;
}

/** The count at each place, and at a step along x, y and z from it where these are asked; not a number where there is no layer. */
function counted(billet: Billet, places: readonly Where[], beside: boolean): Float64Array {
  const points = makePoints();
  let at = 0;
  for (const [x, y, z] of places)
    for (let k = 0; k < (beside ? 4 : 1); k++) {
      points.x[at] = x + (k === 1 ? STEP_MM : 0);
      points.y[at] = y + (k === 2 ? STEP_MM : 0);
      points.z[at++] = z + (k === 3 ? STEP_MM : 0);
    }
  points.count = at;
  points.trace = makeTrace();
  billet.field.sample(points, new Uint8Array(BLOCK));
  return layerCounts(points.trace, at);
}
