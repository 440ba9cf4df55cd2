import { type Crowd, type Mesh, butterflyMesh } from '../flow/mesh.ts';
import {
  type Outline,
  type Point2,
  boundingBox,
  moveOutline,
  rectangle,
  turnAt,
} from '../geometry/outline.ts';

/** A piece of several that lie together, as it lies in the section of all of them. mm */
export interface LoosePiece {
  readonly name: string;
  readonly outline: Outline;
  /** As it came from the mill: flat, with sharp corners. */
  readonly bought?: boolean | undefined;
}

/** Pieces that lie together, in a section across the bar or along it. */
export interface LaidPieces {
  readonly seen: 'from the end' | 'from the side';
  readonly each: readonly LoosePiece[];
}

/** A rectangle among them, from its left and lower side. mm */
export const laidAt = (
  name: string,
  [left, bottom]: readonly [number, number],
  [widthMm, heightMm]: readonly [number, number],
  bought?: boolean,
): LoosePiece => ({
  name,
  outline: moveOutline(rectangle(widthMm, heightMm), left + widthMm / 2, bottom + heightMm / 2),
  ...(bought && { bought }),
});

/** How a piece was got ready. mm */
export interface Preparation {
  /** How full each of its sides is in the middle. */
  readonly crownsMm: readonly number[];
  /** By what radius the corners are broken. */
  readonly cornerMm: number;
}

export const span = ([x0, y0]: Point2, [x1, y1]: Point2): number => Math.hypot(x1 - x0, y1 - y0);

/** What a broken corner takes of the sides that meet there, mm. */
export function cornerCut(outline: Outline, i: number, cornerMm: number): number {
  const turn = turnAt(outline, i);
  const shortest = Math.min(...outline.map((p, k) => span(p, outline[(k + 1) % outline.length])));
  return turn <= 0 ? 0 : Math.min(cornerMm * Math.tan(turn / 2), MOST_CORNER * shortest);
}

/** Nodes stand closer within so far of a corner, mm, and by so many times. */
const NEAR_CORNER = 1.2;
const CLOSER = 6;
/** Along a crowned face, and round a broken corner: so many pieces of it. */
const FACE_PIECES = 24;
const CORNER_PIECES = 8;
/** Elements of a piece: a block of so many each way, so many rings about it. */
export const GRID = { block: 14, rings: 3 };
/** Of the shortest side of a piece: what a broken corner takes of it at most. */
const MOST_CORNER = 0.4;

/** An outline whose sides are full in the middle and whose corners are broken. */
export function prepared(outline: Outline, { crownsMm, cornerMm }: Preparation): Outline {
  const n = outline.length;
  const sides = outline.map((p, i) => {
    const q = outline[(i + 1) % n];
    const length = span(p, q);
    return { p, tx: (q[0] - p[0]) / length, ty: (q[1] - p[1]) / length };
  });
  // Where two sides meet when both have gone inward by their crowns.
  const corners = sides.map((b, i): Point2 => {
    const before = (i + n - 1) % n;
    const a = sides[before];
    const sine = a.tx * b.ty - a.ty * b.tx;
    const cosine = a.tx * b.tx + a.ty * b.ty;
    const crown = crownsMm[i];
    const along = Math.abs(sine) < 1e-6 ? 0 : (crownsMm[before] - crown * cosine) / sine;
    return [b.p[0] + b.tx * along - b.ty * crown, b.p[1] + b.ty * along + b.tx * crown];
  });
  const cut = (i: number): number => cornerCut(outline, i, cornerMm);
  const lengths = corners.map((corner, i) => span(corner, corners[(i + 1) % n]));
  /** A point of a full side, so far from where it begins. */
  const full = (i: number, mm: number): Point2 => {
    const { tx, ty } = sides[i];
    const out = crownsMm[i] * (1 - ((2 * mm) / lengths[i] - 1) ** 2);
    return [corners[i][0] + tx * mm + ty * out, corners[i][1] + ty * mm - tx * out];
  };
  return sides.flatMap((_, i) => {
    const pieces = crownsMm[i] > 0 ? FACE_PIECES : 1;
    const next = (i + 1) % n;
    const [begin, end] = [cut(i), lengths[i] - cut(next)];
    const face = Array.from({ length: pieces + 1 }, (_, k) => full(i, begin + ((end - begin) * k) / pieces));
    if (cut(next) <= 0) return face.slice(0, -1);
    return [...face, ...broken(face[pieces], corners[next], full(next, cut(next)))];
  });
}

/** Points between two on either side of a corner, on the circle that touches both sides there (a conic whose weight makes it one). */
function broken(from: Point2, corner: Point2, to: Point2): Point2[] {
  const [ux, uy, vx, vy] = [corner[0] - from[0], corner[1] - from[1], to[0] - corner[0], to[1] - corner[1]];
  const turn = Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy);
  const weight = Math.cos(turn / 2);
  return Array.from({ length: CORNER_PIECES - 1 }, (_, k): Point2 => {
    const t = (k + 1) / CORNER_PIECES;
    const [a, b, c] = [(1 - t) ** 2, 2 * t * (1 - t) * weight, t * t];
    const at = (i: 0 | 1) => (a * from[i] + b * corner[i] + c * to[i]) / (a + b + c);
    return [at(0), at(1)];
  });
}

/** Several pieces on one mesh: which nodes go round each of them, which elements and nodes are its own. */
export interface LooseMesh extends Mesh {
  readonly loops: readonly Int32Array[];
  readonly pieceOf: Int32Array;
}

/** A strip so many times as long as it is thick has rows of elements along it, so many, and twice a block's along each. */
const SLENDER = 3;
const ROWS = 3;

/** The four corners of a strip, from an end of a long side; null where it is none. */
function slender(outline: Outline): Outline | null {
  if (outline.length !== 4) return null;
  const [a, b, c, d] = outline;
  const [along, across] = [span(a, b) + span(c, d), span(b, c) + span(d, a)];
  if (along > SLENDER * across) return outline;
  return across > SLENDER * along ? [b, c, d, a] : null;
}

/** Quadrilaterals in rows along a strip. */
function stripMesh([a, b, c, d]: Outline, long: number): Mesh {
  const at = (i: number, j: number): Point2 => {
    const [u, v] = [i / long, j / ROWS];
    const of = (k: 0 | 1) => (1 - v) * ((1 - u) * a[k] + u * b[k]) + v * ((1 - u) * d[k] + u * c[k]);
    return [of(0), of(1)];
  };
  const node = (i: number, j: number) => j * (long + 1) + i;
  const places = Array.from({ length: ROWS + 1 }, (_, j) =>
    Array.from({ length: long + 1 }, (_, i) => at(i, j)),
  ).flat();
  const quads = Array.from({ length: ROWS }, (_, j) =>
    Array.from({ length: long }, (_, i) => [node(i, j), node(i + 1, j), node(i + 1, j + 1), node(i, j + 1)]),
  ).flat(2);
  const lengthwise = Array.from({ length: long }, (_, i) => i);
  const crosswise = Array.from({ length: ROWS }, (_, j) => j);
  return {
    x: Float64Array.from(places, ([x]) => x),
    y: Float64Array.from(places, ([, y]) => y),
    quads: Int32Array.from(quads),
    rim: Int32Array.from([
      ...lengthwise.map((i) => node(i, 0)),
      ...crosswise.map((j) => node(long, j)),
      ...lengthwise.map((i) => node(long - i, ROWS)),
      ...crosswise.map((j) => node(0, ROWS - j)),
    ]),
  };
}

/** A piece that is no strip: nodes crowd at its corners. */
function blockMesh(outline: Outline, block: number, rings: number): Mesh {
  const { minX, maxX, minY, maxY } = boundingBox(outline);
  const [cx, cy] = [(minX + maxX) / 2, (minY + maxY) / 2];
  const centred = outline.map(([x, y]) => [x - cx, y - cy] as const);
  const corners = centred.filter((_, i) => turnAt(centred, i) > 0.1);
  const crowd: Crowd = (x, y) => {
    const near = Math.min(...corners.map(([px, py]) => Math.hypot(px - x, py - y)));
    return 1 + CLOSER * Math.exp(-((near / NEAR_CORNER) ** 2));
  };
  const mesh = butterflyMesh(centred, block, rings, crowd);
  return { ...mesh, x: mesh.x.map((x) => x + cx), y: mesh.y.map((y) => y + cy) };
}

const topologies = new Map<string, Int32Array>();

/** A mesh over every piece; `block` and `rings` as for one section. */
export function looseMesh(outlines: readonly Outline[], { block, rings } = GRID): LooseMesh {
  const xs: number[] = [];
  const ys: number[] = [];
  const quads: number[] = [];
  const pieceOf: number[] = [];
  const loops: Int32Array[] = [];
  let kinds = '';
  outlines.forEach((outline, piece) => {
    const strip = slender(outline);
    kinds += strip ? 's' : 'b';
    const own = strip ? stripMesh(strip, 2 * block) : blockMesh(outline, block, rings);
    const first = xs.length;
    xs.push(...own.x);
    ys.push(...own.y);
    own.quads.forEach((node) => quads.push(first + node));
    loops.push(own.rim.map((node) => first + node));
    for (let e = 0; e < own.quads.length / 4; e++) pieceOf.push(piece);
  });
  // Which belongs together depends on the numbers alone, so that a system of equations is analysed once.
  const key = `${kinds}/${block}/${rings}`;
  if (!topologies.has(key)) topologies.set(key, Int32Array.from(quads));
  return {
    x: Float64Array.from(xs),
    y: Float64Array.from(ys),
    quads: topologies.get(key)!,
    rim: Int32Array.from(loops.flatMap((loop) => [...loop])),
    loops,
    pieceOf: Int32Array.from(pieceOf),
  };
}
