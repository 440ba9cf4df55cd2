import type { Four, Point } from './homography.ts';
import { type Photo, colourAt } from './photo.ts';

/** Places along a side at which its edge is looked for, and how far to either side, as a part of the side. */
const STATIONS = 64;
const REACH = 0.05;
/** Taps are so far off, as a part of the picture. */
const TAPPED = 0.006;
/** A change of colour of less is grain, of more counts as this much: steps of 255. */
const GRAIN = 4;
const STRONG = 40;
/** How much an edge farther out is preferred: a bevel or a bright band makes one inside. */
const OUTER = 0.5;
/** Places of one edge lie so near to a line, px. */
const NEAR_PX = 2.5;
/** How much of an edge is averaged along it, and across it to either side, px. */
const ALONG_PX = 3;
const ACROSS_PX = 3;
/** A side has to be seen at as many places. */
const LEAST_SEEN = 6;

interface Line {
  readonly at: Point;
  readonly along: Point;
}

interface Seen {
  /** Along the side and across it, outward. px */
  readonly s: number;
  readonly t: number;
  readonly strength: number;
}

/** Mean colours over a stretch along the side, at distances across it. */
function profile(photo: Photo, middle: Point, along: Point, out: Point, reach: number): (number[] | null)[] {
  const steps = Math.ceil(reach);
  return Array.from({ length: 2 * steps + 1 }, (_, k) => {
    const t = k - steps;
    const sum = [0, 0, 0];
    for (let s = -ALONG_PX; s <= ALONG_PX; s++) {
      const colour = colourAt(
        photo,
        middle[0] + t * out[0] + s * along[0],
        middle[1] + t * out[1] + s * along[1],
      );
      if (!colour) return null;
      for (let c = 0; c < 3; c++) sum[c] += colour[c] / (2 * ALONG_PX + 1);
    }
    return sum;
  });
}

/** Where the colour changes across the side, between the dots, and how strongly. */
function edgesAt(rows: (number[] | null)[], reach: number): { t: number; strength: number }[] {
  const steps = (rows.length - 1) / 2;
  const change = rows.map((_, k) => {
    if (k < ACROSS_PX || k + ACROSS_PX >= rows.length) return 0;
    const mean = (from: number) => {
      const sum = [0, 0, 0];
      for (let i = from; i < from + ACROSS_PX; i++) {
        const row = rows[i];
        if (!row) return null;
        for (let c = 0; c < 3; c++) sum[c] += row[c] / ACROSS_PX;
      }
      return sum;
    };
    const [inside, outside] = [mean(k - ACROSS_PX), mean(k + 1)];
    if (!inside || !outside) return 0;
    return Math.hypot(inside[0] - outside[0], inside[1] - outside[1], inside[2] - outside[2]);
  });
  const found: { t: number; strength: number }[] = [];
  for (let k = 1; k < change.length - 1; k++) {
    const [a, b, c] = [change[k - 1], change[k], change[k + 1]];
    if (b < a || b <= c || b < GRAIN) continue;
    const bend = a - 2 * b + c;
    const between = bend < 0 ? (0.5 * (a - c)) / bend : 0;
    const t = k - steps + Math.max(-0.5, Math.min(0.5, between));
    if (Math.abs(t) <= reach) found.push({ t, strength: b });
  }
  return found;
}

/** A line through what was seen, that most of it lies near: each pair of places is tried, then the best is fitted. */
function lineThrough(
  seen: readonly Seen[],
  length: number,
  offPx: number,
): [offset: number, slope: number] | null {
  let best: { score: number; offset: number; slope: number } | null = null;
  for (let i = 0; i < seen.length; i++)
    for (let j = i + 1; j < seen.length; j++) {
      const [a, b] = [seen[i], seen[j]];
      if (Math.abs(b.s - a.s) < 0.25 * length) continue;
      const slope = (b.t - a.t) / (b.s - a.s);
      const offset = a.t - slope * a.s;
      const ends = [offset, offset + slope * length];
      if (ends.some((t) => Math.abs(t) > 3 * offPx)) continue;
      let score = 0;
      for (const { s, t, strength } of seen) {
        const off = (t - offset - slope * s) / NEAR_PX;
        if (Math.abs(off) < 1) score += (1 - off * off) * Math.min(strength, STRONG);
      }
      score *= Math.exp(
        -0.25 * ((ends[0] / offPx) ** 2 + (ends[1] / offPx) ** 2) +
          ((0.5 * (ends[0] + ends[1])) / (2 * offPx)) * OUTER,
      );
      if (!best || score > best.score) best = { score, offset, slope };
    }
  if (!best) return null;
  let { offset, slope } = best;
  for (let round = 0; round < 5; round++) {
    let [w, ws, wt, wss, wst] = [0, 0, 0, 0, 0];
    for (const { s, t, strength } of seen) {
      const off = (t - offset - slope * s) / NEAR_PX;
      if (Math.abs(off) >= 1) continue;
      const weight = (1 - off * off) ** 2 * Math.min(strength, STRONG);
      w += weight;
      ws += weight * s;
      wt += weight * t;
      wss += weight * s * s;
      wst += weight * s * t;
    }
    const det = w * wss - ws * ws;
    if (det < 1e-9) break;
    slope = (w * wst - ws * wt) / det;
    offset = (wt - slope * ws) / w;
  }
  return [offset, slope];
}

/** The edge that lies near a side as it was tapped; the side itself where none is seen. */
function refinedSide(photo: Photo, a: Point, b: Point): Line {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const along: Point = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  // Clockwise to the eye, with y down: outward is to the left of the way.
  const out: Point = [along[1], -along[0]];
  const offPx = TAPPED * Math.max(photo.width, photo.height);
  const reach = Math.min(3 * offPx, REACH * length);
  const seen: Seen[] = [];
  for (let k = 0; k < STATIONS; k++) {
    const s = length * (0.05 + (0.9 * (k + 0.5)) / STATIONS);
    const middle: Point = [a[0] + s * along[0], a[1] + s * along[1]];
    for (const edge of edgesAt(profile(photo, middle, along, out, reach + ACROSS_PX + 1), reach))
      seen.push({ s, ...edge });
  }
  const line = seen.length < LEAST_SEEN ? null : lineThrough(seen, length, offPx);
  if (!line) return { at: a, along };
  const [offset, slope] = line;
  const norm = Math.hypot(1, slope);
  return {
    at: [a[0] + offset * out[0], a[1] + offset * out[1]],
    along: [(along[0] + slope * out[0]) / norm, (along[1] + slope * out[1]) / norm],
  };
}

function meeting(p: Line, q: Line): Point {
  const det = p.along[0] * q.along[1] - p.along[1] * q.along[0];
  const t = ((q.at[0] - p.at[0]) * q.along[1] - (q.at[1] - p.at[1]) * q.along[0]) / det;
  return [p.at[0] + t * p.along[0], p.at[1] + t * p.along[1]];
}

/** The line as it was tapped. */
const asTapped = ([ax, ay]: Point, [bx, by]: Point): Line => {
  const length = Math.hypot(bx - ax, by - ay);
  return { at: [ax, ay], along: [(bx - ax) / length, (by - ay) / length] };
};

/** The corners of a section, from where they were tapped: its edges are looked for near the lines between them, where there are any. */
export function refinedCorners(photo: Photo, tapped: Four, isEdge = [true, true, true, true]): Four {
  const sides = tapped.map((a, k) => {
    const b = tapped[(k + 1) % 4];
    return isEdge[k] ? refinedSide(photo, a, b) : asTapped(a, b);
  });
  return [
    meeting(sides[3], sides[0]),
    meeting(sides[0], sides[1]),
    meeting(sides[1], sides[2]),
    meeting(sides[2], sides[3]),
  ];
}
