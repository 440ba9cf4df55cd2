import type { Billet } from '../billet/billet.ts';
import { type FaceName, type Plane, facePlane } from '../billet/face.ts';
import { codeAt } from '../billet/fields/field.ts';
import { type CanPlace, canPlaceOf } from '../billet/fields/canned.ts';
import { PowderMap } from '../billet/fields/powders.ts';
import { nearestOn } from '../canister/room.ts';
import type { Outline, Point2 } from '../geometry/outline.ts';
import { type Region, boxOf, joined, regionArea, simplified, without } from '../geometry/regions.ts';
import { type Filling, type Picture, placed } from '../picture/picture.ts';
import { materialCode } from '../shop/shop.ts';
import { type Evaluation, lastReached, stepResult } from './evaluate.ts';

/** Cells along the longer side of a face at most, and along the shorter at least, when copies are looked for. */
const MOST_CELLS = 260;
const LEAST_CELLS = 48;
/** Two neighbours further apart in the can than so many usual steps lie on both sides of a seam. */
const JUMP = 5;
/** A copy smaller than so many cells is a sliver. */
const LEAST_COPY = 12;
/** mm. Edges are set out until the walked outline is straight to this, at the scale of the can and of the face. */
const STRAIGHT_MM = 0.004;
/** An edge is halved so often at most. */
const MOST_HALVINGS = 12;
/** Newton's steps back onto the face. */
const MOST_STEPS = 30;

/** One whole appearance of a can's section on a face: where it is, and cells of it to start from. mm from the face's lower left corner. */
export interface Copy {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
  /** Where the can's axis comes out, or the nearest to it that does. */
  readonly middle: Point2;
  readonly areaMm2: number;
  readonly starts: readonly { readonly face: Point2; readonly can: Point2 }[];
}

/** A face of the finished bar, as places in a can as it was filled. */
export interface FaceOfCan {
  readonly billet: Billet;
  readonly plane: Plane;
  readonly origin: object;
  /** Where in the can a point of the face comes from; null where it does not. mm */
  at(x: number, y: number): Point2 | null;
}

/** The face of the bar that a plan has come to; null where there is none, or no steel of that can. */
export function faceOfCan(evaluation: Evaluation, canStepId: string, face: FaceName): FaceOfCan | null {
  const origin = stepResult(evaluation, canStepId)?.after?.[0]?.can?.loose?.parts.origin;
  const billet = evaluation.goalLane.ends[0] ?? lastReached(evaluation)?.after?.[0];
  if (!origin || !billet) return null;
  const plane = facePlane(billet, face);
  const { origin: o, across: a, up: u } = plane;
  return {
    billet,
    plane,
    origin,
    at(x, y) {
      const place: CanPlace | null = canPlaceOf(
        billet.field,
        o[0] + a[0] * x + u[0] * y,
        o[1] + a[1] * x + u[1] * y,
        o[2] + a[2] * x + u[2] * y,
      );
      return place && place.origin === origin ? [place.x, place.y] : null;
    },
  };
}

/** mm. Step by which it is felt which way round the can's section lies at a point of the face. */
const FEEL_MM = 1e-4;

/** Whether the can's section lies on the face as it is (1), mirrored (−1), or that cannot be told (0). */
function handAt(face: FaceOfCan, [x, y]: Point2, here: Point2): number {
  const right = face.at(x + FEEL_MM, y) ?? mirrored(face.at(x - FEEL_MM, y), here);
  const above = face.at(x, y + FEEL_MM) ?? mirrored(face.at(x, y - FEEL_MM), here);
  if (!right || !above) return 0;
  return Math.sign((right[0] - here[0]) * (above[1] - here[1]) - (right[1] - here[1]) * (above[0] - here[0]));
}

/** Every appearance of the can's section on a face, the largest first. */
export function copiesOn(face: FaceOfCan): Copy[] {
  const { widthMm, heightMm } = face.plane;
  const cell = Math.max(Math.max(widthMm, heightMm) / MOST_CELLS, Math.min(widthMm, heightMm) / LEAST_CELLS);
  const [nx, ny] = [Math.max(2, Math.floor(widthMm / cell)), Math.max(2, Math.floor(heightMm / cell))];
  const where = (k: number): Point2 => [
    (((k % nx) + 0.5) * widthMm) / nx,
    ((Math.floor(k / nx) + 0.5) * heightMm) / ny,
  ];
  const places = Array.from({ length: nx * ny }, (_, k) => face.at(...where(k)));
  // A mirrored seam is no step in the can's section, but turns it round.
  const hands = places.map((p, k) => (p ? handAt(face, where(k), p) : 0));
  const apart = (k: number, m: number): number => {
    const [p, q] = [places[k], places[m]];
    return p && q ? Math.hypot(p[0] - q[0], p[1] - q[1]) : Infinity;
  };
  const steps = places.flatMap((_, k) =>
    (k + 1) % nx && Number.isFinite(apart(k, k + 1)) ? [apart(k, k + 1)] : [],
  );
  const usual = steps.sort((a, b) => a - b)[Math.floor(steps.length / 2)] ?? 0;
  const most = JUMP * usual;
  const seen = new Uint8Array(places.length);
  const copies: Copy[] = [];
  for (let first = 0; first < places.length; first++) {
    if (seen[first] || !places[first]) continue;
    const cells: number[] = [];
    const todo = [first];
    seen[first] = 1;
    while (todo.length > 0) {
      const k = todo.pop()!;
      cells.push(k);
      const column = k % nx;
      for (const m of [column > 0 ? k - 1 : -1, column < nx - 1 ? k + 1 : -1, k - nx, k + nx])
        if (m >= 0 && m < places.length && !seen[m] && hands[m] === hands[k] && apart(k, m) <= most) {
          seen[m] = 1;
          todo.push(m);
        }
    }
    if (cells.length >= LEAST_COPY) copies.push(copyOf(cells));
  }
  return copies.sort((a, b) => b.areaMm2 - a.areaMm2);

  function copyOf(cells: readonly number[]): Copy {
    const starts = cells.map((k) => ({ face: where(k), can: places[k]! }));
    const box = boxOf([starts.map((s) => s.face)])!;
    const middle = starts.reduce((best, s) => (Math.hypot(...s.can) < Math.hypot(...best.can) ? s : best));
    const [dx, dy] = [widthMm / nx / 2, heightMm / ny / 2];
    return {
      minX: box.minX - dx,
      minY: box.minY - dy,
      maxX: box.maxX + dx,
      maxY: box.maxY + dy,
      middle: middle.face,
      areaMm2: cells.length * 4 * dx * dy,
      starts,
    };
  }
}

/** The copy in which a point of the face lies, by the nearest cell; null where there are none. */
export function copyAt(copies: readonly Copy[], [x, y]: Point2): Copy | null {
  let best: Copy | null = null;
  let least = Infinity;
  for (const copy of copies)
    for (const { face } of copy.starts) {
      const far = (face[0] - x) ** 2 + (face[1] - y) ** 2;
      if (far < least) [least, best] = [far, copy];
    }
  return best;
}

export type Walked = { ok: true; fillings: Filling[] } | { ok: false; message: string; at: Point2 };

/** Where on the face something cannot be walked back. */
class Torn extends Error {
  readonly at: Point2;

  constructor(at: Point2) {
    super('torn');
    this.at = at;
  }
}

/** A closed outline on the face, walked back to the can: set out finely enough that it stays straight between its corners. */
function ringBack(face: FaceOfCan, ring: readonly Point2[], hand: number): Point2[] {
  const walked: Point2[] = [];
  const there = (p: Point2): Point2 => {
    const q = face.at(...p);
    if (!q || handAt(face, p, q) * hand < 0) throw new Torn(p);
    return q;
  };
  const set = (p: Point2, q: Point2, a: Point2, b: Point2, halvings: number): void => {
    const m: Point2 = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
    const c = there(m);
    const off = Math.hypot(c[0] - (a[0] + b[0]) / 2, c[1] - (a[1] + b[1]) / 2);
    // Long edges are looked into even where their middle happens to lie right.
    const long = halvings < 2 && Math.hypot(q[0] - p[0], q[1] - p[1]) > 0.5;
    if (off > STRAIGHT_MM || long) {
      if (halvings >= MOST_HALVINGS) throw new Torn(m);
      set(p, m, a, c, halvings + 1);
      walked.push(c);
      set(m, q, c, b, halvings + 1);
    }
  };
  const ends = ring.map(there);
  ring.forEach((p, i) => {
    const k = (i + 1) % ring.length;
    walked.push(ends[i]);
    set(p, ring[k], ends[i], ends[k], 0);
  });
  return walked;
}

/** A region as walked: turned round where the way back mirrors it, corners that say nothing left out. */
function tidyWalk(rings: readonly Point2[][], wanted: Region): Region {
  const sign = Math.sign(regionArea(rings) * regionArea(wanted));
  const turned = sign < 0 ? rings.map((ring) => [...ring].reverse()) : rings;
  return simplified(turned, STRAIGHT_MM / 2);
}

/** mm to which walked outlines are kept. */
const KEPT = 1e4;

/**
 * The picture wanted on a face, walked back through every planned move to the can's section: its outlines there, mm. Fails with
 * the place where it leaves the can's steel or crosses a seam.
 */
export function walkedBack(face: FaceOfCan, wanted: readonly Filling[]): Walked {
  try {
    const first = wanted.flatMap((f) => f.region[0]?.slice(0, 1) ?? [])[0];
    const from = first && face.at(...first);
    const hand = from ? handAt(face, first, from) : 0;
    const fillings = wanted.map(({ powder, region }) => ({
      powder,
      region: tidyWalk(
        region.map((ring) => ringBack(face, ring, hand)),
        region,
      ).map((ring) =>
        ring.map(([x, y]): [number, number] => [Math.round(x * KEPT) / KEPT, Math.round(y * KEPT) / KEPT]),
      ),
    }));
    return { ok: true, fillings };
  } catch (error) {
    if (!(error instanceof Torn)) throw error;
    return {
      ok: false,
      at: error.at,
      message:
        'Here the picture leaves the steel of this can, or crosses a seam: move it, or make it smaller, until it lies within one copy.',
    };
  }
}

/** Where on the face a place of the can comes out, within a copy; null where it was cut or ground away. Newton's method. */
export function comesOut(face: FaceOfCan, copy: Copy, [u, v]: Point2): Point2 | null {
  const start = copy.starts.reduce((best, s) =>
    Math.hypot(s.can[0] - u, s.can[1] - v) < Math.hypot(best.can[0] - u, best.can[1] - v) ? s : best,
  );
  let [x, y] = start.face;
  const h = 1e-3;
  for (let i = 0; i < MOST_STEPS; i++) {
    const p = face.at(x, y);
    if (!p) return null;
    const [du, dv] = [u - p[0], v - p[1]];
    if (Math.hypot(du, dv) < 1e-7) return [x, y];
    const right = face.at(x + h, y) ?? mirrored(face.at(x - h, y), p);
    const above = face.at(x, y + h) ?? mirrored(face.at(x, y - h), p);
    if (!right || !above) return null;
    const [a, c] = [(right[0] - p[0]) / h, (right[1] - p[1]) / h];
    const [b, d] = [(above[0] - p[0]) / h, (above[1] - p[1]) / h];
    const area = a * d - b * c;
    if (Math.abs(area) < 1e-12) return null;
    // Past a step that leads off the face, half of it.
    let [dx, dy] = [(d * du - b * dv) / area, (a * dv - c * du) / area];
    for (let halved = 0; halved < 12 && !face.at(x + dx, y + dy); halved++) [dx, dy] = [dx / 2, dy / 2];
    [x, y] = [x + dx, y + dy];
  }
  const end = face.at(x, y);
  return end && Math.hypot(end[0] - u, end[1] - v) < 1e-3 ? [x, y] : null;
}

const mirrored = (q: Point2 | null, p: Point2): Point2 | null => q && [2 * p[0] - q[0], 2 * p[1] - q[1]];

/** Wanted and predicted beside each other, at the scale of the face. */
export interface Difference {
  /** The outlines of the can walked forward, mm from the face's lower left corner. */
  readonly predicted: readonly Filling[];
  /** Of the wanted area, how much differs: outlines against outlines, and the steel sampled against the wanted picture. */
  readonly outlineShare: number;
  readonly sampledShare: number;
  /** How far an outline is off at worst, mm. */
  readonly farthestMm: number;
}

/** Dots along the picture's longer side that are compared. */
const COMPARED = 180;

/** What the can's outlines come to on the face, and how that differs from what was wanted there. */
export function difference(
  evaluation: Evaluation,
  face: FaceOfCan,
  copy: Copy,
  wanted: readonly Filling[],
  inCan: readonly Filling[],
): Difference {
  const predicted = inCan.map(({ powder, region }) => ({
    powder,
    region: oriented(
      region
        .map((ring) => ring.map((p) => comesOut(face, copy, p)).filter((p) => p !== null))
        .map((ring) => ring.map(([x, y]): [number, number] => [x, y]))
        .filter((ring) => ring.length > 2),
      region,
    ),
  }));
  const powders = [...new Set([...wanted, ...predicted].map((f) => f.powder))];
  const of = (fillings: readonly Filling[], powder: string): Region =>
    fillings.filter((f) => f.powder === powder).reduce<Region>((all, f) => joined(all, f.region), []);
  const whole = powders.reduce((sum, p) => sum + regionArea(of(wanted, p)), 0);
  const differs = powders.reduce((sum, p) => {
    const [a, b] = [of(wanted, p), of(predicted, p)];
    return sum + regionArea(without(a, b)) + regionArea(without(b, a));
  }, 0);
  return {
    predicted,
    outlineShare: whole > 0 ? differs / whole : 0,
    sampledShare: sampledDifference(evaluation, face, wanted, powders, whole),
    farthestMm: Math.max(0, ...powders.map((p) => farthest(of(wanted, p), of(predicted, p)))),
  };
}

const oriented = (rings: [number, number][][], from: Region): [number, number][][] =>
  regionArea(rings) * regionArea(from) < 0 ? rings.map((ring) => [...ring].reverse()) : rings;

/** How far corners of either lie from the outlines of the other at worst, mm. */
function farthest(a: Region, b: Region): number {
  if (a.length === 0 || b.length === 0) return a.length === b.length ? 0 : Infinity;
  const from = (p: Point2, region: Region): number =>
    Math.min(
      ...region.map((ring) => {
        const [x, y] = nearestOn(ring as Outline, ...p);
        return Math.hypot(x - p[0], y - p[1]);
      }),
    );
  const worst = (of: Region, to: Region): number =>
    of.reduce((most, ring) => ring.reduce((m, p) => Math.max(m, from(p, to)), most), 0);
  return Math.max(worst(a, b), worst(b, a));
}

/** Share of the wanted area in which the steel, as the plan comes out, is not of the powder wanted there. */
function sampledDifference(
  { shop }: Evaluation,
  { billet, plane }: FaceOfCan,
  wanted: readonly Filling[],
  powders: readonly string[],
  whole: number,
): number {
  const box = boxOf(wanted.flatMap((f) => f.region as Region));
  if (!box || whole <= 0) return 0;
  const [cx, cy] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  const shifted = wanted.map(({ powder, region }) => ({
    code: powders.indexOf(powder) + 1,
    region: region.map((ring) => ring.map(([x, y]): Point2 => [x - cx, y - cy])),
  }));
  const map = new PowderMap(shifted, 0, w / 2, h / 2);
  const step = Math.max(w, h) / COMPARED;
  const { origin: o, across: a, up: u } = plane;
  const codes = powders.map((p) => materialCode(shop, p));
  let off = 0;
  for (let y = step / 2; y < h; y += step)
    for (let x = step / 2; x < w; x += step) {
      const [fx, fy] = [box.minX + x, box.minY + y];
      const code = codeAt(
        billet.field,
        o[0] + a[0] * fx + u[0] * fy,
        o[1] + a[1] * fx + u[1] * fy,
        o[2] + a[2] * fx + u[2] * fy,
      );
      if (codes.indexOf(code) + 1 !== map.codeAt(x - w / 2, y - h / 2)) off += step * step;
    }
  return off / whole;
}

/** The wanted picture on its face, mm from the face's lower left corner (it is placed from the face's middle). */
export function wantedOn({ plane }: FaceOfCan, { drawn, place }: Picture): Filling[] {
  return placed(drawn, { ...place, x: place.x + plane.widthMm / 2, y: place.y + plane.heightMm / 2 });
}
