import { z } from 'zod';
import { type Four, through, toCorners } from './homography.ts';
import { refinedCorners } from './outline.ts';
import { type Photo, colourAt, shrunk } from './photo.ts';
import { inOrder } from './sighting.ts';

/** A stretch of a flat bar's broad face: `long` dots along it from end A, `wide` across, rows from its upper edge as it is seen. */
export interface Strip {
  readonly long: number;
  readonly wide: number;
  readonly data: Float32Array;
}

/** Dots across the face. */
export const WIDE = 96;
/** Below this it is another face, or the lines lie elsewhere; with so little to tell by that the right one reaches it. */
const ANOTHER_FACE = 0.5;
const MOST_STATIONS = 48;

const finite = z.number().min(-1e5).max(1e5);

/** What a photograph of a stretch of a bar's broad face showed against the foreseen one. mm from end A */
export const alongSchema = z.strictObject({
  photograph: z.uuid('A photograph is named by its id').optional(),
  fromMm: finite,
  toMm: finite,
  /** By how much what is seen at even places from `fromMm` to `toMm` was foreseen farther towards end B. */
  offMm: z.array(finite).min(2).max(MOST_STATIONS),
  /** Whether end B lies to the left in the photograph, and whether that is known: by the picture, or by who took it. */
  turned: z.boolean(),
  turnedTold: z.boolean(),
  correlation: z.number().min(-1).max(1),
});

export type Along = z.infer<typeof alongSchema>;

/** What is foreseen of the face, from `fromMm` on, `perMm` dots to the mm; wider than the stretch that is looked at. */
export interface FaceForeseen {
  readonly strip: Strip;
  readonly fromMm: number;
  readonly perMm: number;
}

export interface FacePhotographed {
  readonly photo: Photo;
  /** The corners of the stretch as they were tapped, px, in any order. */
  readonly taps: Four;
  readonly fromMm: number;
  readonly toMm: number;
  /** Whether the stretch ends where the bar does: there its edge can be seen. */
  readonly endsAtA: boolean;
  readonly endsAtB: boolean;
  /** Whether end B lies to the left, where that is known. */
  readonly turned?: boolean;
}

export type FaceSight =
  | {
      readonly ok: true;
      readonly along: Along;
      readonly corners: Four;
      /** The photographed stretch laid out, end A to the left; its grey made even. */
      readonly laidOut: Strip;
      /** How well it goes with what was foreseen, dot by dot along it. */
      readonly local: Float32Array;
    }
  | { readonly ok: false; readonly why: 'no section' | 'too small' | 'other stretch' | 'another face' };

/** How far the pattern may lie from where it was foreseen, mm, for a stretch so long. */
export const reachMm = (stretchMm: number): number => 6 + 0.1 * stretchMm;

const side = (corners: Four, k: number): number =>
  Math.hypot(corners[(k + 1) % 4][0] - corners[k][0], corners[(k + 1) % 4][1] - corners[k][1]);

/** The corners clockwise, from the one at the left of the upper long side. */
function alongFirst(taps: Four): Four {
  const corners = inOrder(taps);
  const from = (k: number): Four => [0, 1, 2, 3].map((i) => corners[(i + k) % 4]) as unknown as Four;
  const isLong = side(corners, 0) + side(corners, 2) >= side(corners, 1) + side(corners, 3);
  const [one, other] = isLong ? [from(0), from(2)] : [from(1), from(3)];
  return one[1][0] > one[0][0] ? one : other;
}

/** A stretch laid out from its corners, the first of them its upper left. */
function laidOut(photo: Photo, corners: Four, long: number): Strip {
  const h = toCorners(corners);
  const data = new Float32Array(long * WIDE);
  for (let j = 0; j < WIDE; j++)
    for (let i = 0; i < long; i++) {
      const [px, py] = through(h, [(2 * i + 1) / long - 1, 1 - (2 * j + 1) / WIDE]);
      const colour = colourAt(photo, px, py);
      data[j * long + i] = colour ? (0.3 * colour[0] + 0.59 * colour[1] + 0.11 * colour[2]) / 255 : 0;
    }
  return { long, wide: WIDE, data };
}

/** Of the width, over which light and contrast are made even; and how much contrast there is to be at least. */
const EVENED = 0.22;
const LEAST_SPREAD = 0.04;
const MOST = 3;

/** Light and contrast made even along and across: summed-area tables over a window about each dot. */
function evenedStrip({ long, wide, data }: Strip): Strip {
  const r = Math.round(EVENED * wide);
  const table = (of: (v: number) => number) => {
    const sums = new Float64Array((long + 1) * (wide + 1));
    for (let j = 0; j < wide; j++)
      for (let i = 0, row = 0; i < long; i++) {
        row += of(data[j * long + i]);
        sums[(j + 1) * (long + 1) + i + 1] = sums[j * (long + 1) + i + 1] + row;
      }
    return sums;
  };
  const [sums, squares] = [table((v) => v), table((v) => v * v)];
  const made = new Float32Array(long * wide);
  for (let j = 0; j < wide; j++)
    for (let i = 0; i < long; i++) {
      const [x0, x1] = [Math.max(0, i - r), Math.min(long, i + r + 1)];
      const [y0, y1] = [Math.max(0, j - r), Math.min(wide, j + r + 1)];
      const over = (t: Float64Array) =>
        t[y1 * (long + 1) + x1] - t[y0 * (long + 1) + x1] - t[y1 * (long + 1) + x0] + t[y0 * (long + 1) + x0];
      const n = (x1 - x0) * (y1 - y0);
      const mean = over(sums) / n;
      const spread = Math.sqrt(Math.max(0, over(squares) / n - mean * mean));
      made[j * long + i] = Math.max(
        -MOST,
        Math.min(MOST, (data[j * long + i] - mean) / (spread + LEAST_SPREAD)),
      );
    }
  return { long, wide, data: made };
}

/** A half turn in its plane. */
const halfTurned = ({ long, wide, data }: Strip): Strip => ({
  long,
  wide,
  data: data.slice().reverse(),
});

/** Columns from one station of the search to the next: the pattern may be stretched by a dot over so many, and by no more. */
const STEP = 5;
/** Dots about a station, along, that are compared. */
const WINDOW = WIDE / 5;
/** What it costs to be off by a dot more than at the station before. */
const BENDS = 0.02;
/** What it costs to lie as far from where it was foreseen as is looked for: of patterns that repeat themselves the nearest is meant. */
const STRAYS = 0.15;
/** Read the one way round it must go by so much better than the other. */
const TOLD = 0.05;

interface Found {
  /** Of each column how many dots farther along it was foreseen. */
  readonly off: Float32Array;
  readonly local: Float32Array;
  readonly score: number;
}

/** How alike two strips are column by column, `shift` columns apart, over a window along and moved across by so many rows. */
function alikeness(seen: Strip, foreseen: Strip, at: number, across: number): Float32Array {
  const [a, b, c] = [0, 1, 2].map(() => new Float64Array(seen.long + 1));
  for (let i = 0; i < seen.long; i++) {
    let [pq, pp, qq] = [0, 0, 0];
    const other = i + at;
    if (other >= 0 && other < foreseen.long)
      for (let j = Math.max(0, -across); j < Math.min(WIDE, WIDE - across); j++) {
        const p = seen.data[j * seen.long + i];
        const q = foreseen.data[(j + across) * foreseen.long + other];
        pq += p * q;
        pp += p * p;
        qq += q * q;
      }
    a[i + 1] = a[i] + pq;
    b[i + 1] = b[i] + pp;
    c[i + 1] = c[i] + qq;
  }
  const made = new Float32Array(seen.long);
  for (let i = 0; i < seen.long; i++) {
    const from = Math.max(0, Math.round(i - WINDOW));
    const to = Math.min(seen.long, Math.round(i + WINDOW + 1));
    made[i] = (a[to] - a[from]) / Math.sqrt((b[to] - b[from]) * (c[to] - c[from]) + 1e-6);
  }
  return made;
}

/** The way along the strip that goes best with the foreseen one (Viterbi), offsets from `-most` to `most` about `middle` columns. */
function followed(seen: Strip, foreseen: Strip, middle: number, most: number, across: number): Found {
  const count = 2 * most + 1;
  const alike = Array.from({ length: count }, (_, d) => alikeness(seen, foreseen, middle + d - most, across));
  const strays = (d: number) => STRAYS * ((d - most) / most) ** 2;
  const stations = Math.max(2, Math.floor((seen.long - 1) / STEP) + 1);
  const column = (s: number) => Math.min(seen.long - 1, s * STEP);
  const from: Int8Array[] = [];
  let best = Float64Array.from({ length: count }, (_, d) => alike[d][0] - strays(d));
  for (let s = 1; s < stations; s++) {
    const next = new Float64Array(count);
    const back = new Int8Array(count);
    for (let d = 0; d < count; d++) {
      let top = -Infinity;
      for (let k = -1; k <= 1; k++) {
        const value = (best[d + k] ?? -Infinity) - BENDS * Math.abs(k);
        if (value > top) [top, back[d]] = [value, k];
      }
      next[d] = top + alike[d][column(s)] - strays(d);
    }
    from.push(back);
    best = next;
  }
  const way = new Int32Array(stations);
  way[stations - 1] = best.indexOf(Math.max(...best));
  for (let s = stations - 2; s >= 0; s--) way[s] = way[s + 1] + from[s][way[s + 1]];
  const fine = Float32Array.from(way, (d, s) => {
    const [l, m, r] = [alike[d - 1]?.[column(s)], alike[d][column(s)], alike[d + 1]?.[column(s)]];
    const bend = l === undefined || r === undefined ? 0 : l - 2 * m + r;
    return middle + d - most + (bend < -1e-6 ? Math.max(-0.5, Math.min(0.5, (0.5 * (l - r)) / bend)) : 0);
  });
  const local = new Float32Array(seen.long);
  const off = new Float32Array(seen.long);
  for (let i = 0; i < seen.long; i++) {
    const s = Math.min(stations - 2, Math.floor(i / STEP));
    const t = Math.min(1, (i - column(s)) / Math.max(1, column(s + 1) - column(s)));
    off[i] = (1 - t) * fine[s] + t * fine[s + 1];
    local[i] = alike[way[t < 0.5 ? s : s + 1]][i];
  }
  return { off, local, score: local.reduce((sum, v) => sum + v, 0) / seen.long };
}

/** Rows by which a face may be off across. */
const ACROSS = [-2, 0, 2];

/** How alike the strips are, column by column, along the way that was found. */
export function alongWay(seen: Strip, foreseen: FaceForeseen, along: Along): Float32Array {
  const evened = evenedStrip(foreseen.strip);
  const made = new Float32Array(seen.long);
  const known = new Map<number, Float32Array>();
  for (let i = 0; i < seen.long; i++) {
    const mm = along.fromMm + ((i + 0.5) / seen.long) * (along.toMm - along.fromMm);
    const at = Math.round((mm + offAt(along, mm) - foreseen.fromMm) * foreseen.perMm - 0.5 - i);
    const alike = known.get(at) ?? alikeness(seen, evened, at, 0);
    known.set(at, alike);
    made[i] = alike[i];
  }
  return made;
}

/** By how much what is seen so far from end A was foreseen farther along, mm. */
export function offAt({ fromMm, toMm, offMm }: Along, mm: number): number {
  const at = Math.max(0, Math.min(1, (mm - fromMm) / (toMm - fromMm))) * (offMm.length - 1);
  const k = Math.min(offMm.length - 2, Math.floor(at));
  return offMm[k] + (at - k) * (offMm[k + 1] - offMm[k]);
}

/** Reads a photographed stretch of a flat bar's broad face against what is foreseen of it: where along it everything lies. */
export function faceSighted(asked: FacePhotographed, foreseen: FaceForeseen): FaceSight {
  const { fromMm, toMm } = asked;
  const taps = alongFirst(asked.taps);
  const sides = taps.map((_, k) => side(taps, k));
  if (!sides.every((px) => px > 0) || !(toMm > fromMm)) return { ok: false, why: 'no section' };
  if (Math.min(...sides) < LEAST_PX) return { ok: false, why: 'too small' };
  const lying = (sides[0] + sides[2]) / (sides[1] + sides[3]);
  const entered = ((toMm - fromMm) * foreseen.perMm) / WIDE;
  if (Math.abs(Math.log(lying / entered)) > SAME_SHAPE) return { ok: false, why: 'other stretch' };
  const { photo, by } = shrunk(asked.photo, taps);
  const scaled = (corners: Four, f: number) => corners.map(([x, y]) => [x * f, y * f]) as unknown as Four;
  const long = Math.max(WIDE / 2, Math.round((toMm - fromMm) * foreseen.perMm));
  const strip = evenedStrip(foreseen.strip);
  const most = Math.round(reachMm(toMm - fromMm) * foreseen.perMm);
  const middle = Math.round((fromMm - foreseen.fromMm) * foreseen.perMm);
  const small = scaled(taps, 1 / by);
  const ways = (asked.turned === undefined ? [false, true] : [asked.turned]).map((turned) => {
    const [left, right] = turned ? [asked.endsAtB, asked.endsAtA] : [asked.endsAtA, asked.endsAtB];
    const corners = refinedCorners(photo, small, [true, right, true, left]);
    const plain = evenedStrip(laidOut(photo, corners, long));
    const seen = turned ? halfTurned(plain) : plain;
    const found = ACROSS.map((across) => followed(seen, strip, middle, most, across)).reduce((a, b) =>
      b.score > a.score ? b : a,
    );
    return { turned, corners, seen, found };
  });
  const [{ turned, corners, seen, found }, other] = ways.toSorted((a, b) => b.found.score - a.found.score);
  const turnedTold = !other || found.score - other.found.score > TOLD;
  if (found.score < ANOTHER_FACE) return { ok: false, why: 'another face' };
  const stations = Math.max(2, Math.min(MOST_STATIONS, Math.round((4 * long) / WIDE) + 1));
  const offMm = Array.from({ length: stations }, (_, s) => {
    const i = Math.round((s / (stations - 1)) * (long - 1));
    return Number(((found.off[i] - middle) / foreseen.perMm).toFixed(3));
  });
  const correlation = Number(found.score.toFixed(3));
  return {
    ok: true,
    along: { fromMm, toMm, offMm, turned, turnedTold, correlation },
    corners: scaled(corners, by),
    laidOut: seen,
    local: found.local,
  };
}
/** The lines are as many times as long as wide as the stretch is, but for a lean of the camera: a ratio, as its logarithm. */
const SAME_SHAPE = 0.4;
/** A side of the stretch spans at least so many dots. */
const LEAST_PX = 60;
