import { type Outline, type Point2, outlineSize, turnAt } from '../geometry/outline.ts';

/** Quadrilaterals over a section: corners counter-clockwise, four node numbers an element. mm */
export interface Mesh {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly quads: Int32Array;
  /** Nodes along the outline, counter-clockwise. */
  readonly rim: Int32Array;
}

/** Of the section, how large the square block in its middle is. */
const BLOCK = 0.58;
/** How far the block's sides go from the outline's towards straight ones: a round's would not meet in corners. */
const STRAIGHT = 0.7;
/** A corner of the outline turns by at least so much, rad. */
const CORNER = 0.5;
/** An outline of fewer points has no place for four anchors. */
const FEW = 4;
/** So sharp a turn of the outline is given a node. */
const SHARP = 0.2;

/**
 * A butterfly mesh: an n × n block in the middle and `rings` of quadrilaterals about it, so that each corner of the section is
 * shared by two of them. The outline's four sharpest corners (or, where it has none, the points along the diagonals) are nodes;
 * between them nodes stand evenly, or crowd where they are told to.
 */
export function butterflyMesh(outline: Outline, n: number, rings: number, crowd?: Crowd): Mesh {
  const rim = rimPoints(crowd || outline.length < FEW ? divided(outline) : outline, n, crowd);
  const around = 4 * n;
  const inner = (n + 1) * (n + 1);
  const count = inner + rings * around;
  const x = new Float64Array(count);
  const y = new Float64Array(count);
  // The block is a shrunken transfinite patch of the outline's four sides, straightened.
  const side = (s: number, i: number): Point2 => {
    const p = rim[(s * n + i) % around];
    const [from, to] = [rim[(s * n) % around], rim[((s + 1) * n) % around]];
    const along = (k: 0 | 1) => p[k] + STRAIGHT * (from[k] + ((to[k] - from[k]) * i) / n - p[k]);
    return [along(0), along(1)];
  };
  for (let j = 0; j <= n; j++)
    for (let i = 0; i <= n; i++) {
      const [u, v] = [i / n, j / n];
      const at = (k: 0 | 1): number => {
        const [bottom, right, top, left] = [
          side(0, i)[k],
          side(1, j)[k],
          side(2, n - i)[k],
          side(3, n - j)[k],
        ];
        const [c00, c10, c11, c01] = [side(0, 0)[k], side(1, 0)[k], side(2, 0)[k], side(3, 0)[k]];
        return (
          (1 - v) * bottom +
          v * top +
          (1 - u) * left +
          u * right -
          ((1 - u) * (1 - v) * c00 + u * (1 - v) * c10 + u * v * c11 + (1 - u) * v * c01)
        );
      };
      x[j * (n + 1) + i] = BLOCK * at(0);
      y[j * (n + 1) + i] = BLOCK * at(1);
    }
  /** Node of the block's own rim. */
  const blockRim = (k: number): number => {
    const [s, i] = [Math.floor(k / n), k % n];
    const [column, row] = [
      [i, 0],
      [n, i],
      [n - i, n],
      [0, n - i],
    ][s];
    return row * (n + 1) + column;
  };
  const node = (ring: number, k: number): number =>
    ring === 0 ? blockRim(k % around) : inner + (ring - 1) * around + (k % around);
  for (let ring = 1; ring <= rings; ring++)
    for (let k = 0; k < around; k++) {
      const t = ring / rings;
      const from = blockRim(k);
      x[node(ring, k)] = (1 - t) * x[from] + t * rim[k][0];
      y[node(ring, k)] = (1 - t) * y[from] + t * rim[k][1];
    }
  const quads: number[] = [];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const a = j * (n + 1) + i;
      quads.push(a, a + 1, a + n + 2, a + n + 1);
    }
  for (let ring = 0; ring < rings; ring++)
    for (let k = 0; k < around; k++)
      quads.push(node(ring, k), node(ring + 1, k), node(ring + 1, k + 1), node(ring, k + 1));
  return {
    x,
    y,
    quads: Int32Array.from(quads),
    rim: Int32Array.from({ length: around }, (_, k) => node(rings, k)),
  };
}

/** How much closer together nodes stand at a point of the outline than elsewhere. */
export type Crowd = (x: number, y: number) => number;

/** Pieces into which the sides of an outline are divided so that nodes can crowd along them: of its box. */
const PIECES = 60;

function divided(outline: Outline): Outline {
  const { widthMm, heightMm } = outlineSize(outline);
  const piece = Math.max(widthMm, heightMm) / PIECES;
  return outline.flatMap((p, i) => {
    const q = outline[(i + 1) % outline.length];
    const parts = Math.max(1, Math.ceil(Math.hypot(q[0] - p[0], q[1] - p[1]) / piece));
    return Array.from({ length: parts }, (_, k): Point2 => {
      const t = k / parts;
      return [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
    });
  });
}

/** 4n points along an outline, the four anchors among them, first the one lower left. */
function rimPoints(outline: Outline, n: number, crowd: Crowd = () => 1): Point2[] {
  const anchors = anchorsOf(outline);
  const points: Point2[] = [];
  for (let s = 0; s < 4; s++) {
    const from = anchors[s];
    const to = anchors[(s + 1) % 4];
    const stretch: Point2[] = [];
    for (let i = from; ; i = (i + 1) % outline.length) {
      stretch.push(outline[i]);
      if (i === to) break;
    }
    const lengths = stretch
      .slice(1)
      .map(
        (p, i) =>
          Math.hypot(p[0] - stretch[i][0], p[1] - stretch[i][1]) *
          crowd((p[0] + stretch[i][0]) / 2, (p[1] + stretch[i][1]) / 2),
      );
    const whole = lengths.reduce((a, b) => a + b, 0);
    let piece = 0;
    let before = 0;
    for (let k = 0; k < n; k++) {
      const at = (whole * k) / n;
      while (piece < lengths.length - 1 && before + lengths[piece] < at - 1e-12) before += lengths[piece++];
      const t = lengths[piece] > 0 ? (at - before) / lengths[piece] : 0;
      const [p, q] = [stretch[piece], stretch[piece + 1]];
      points.push([p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t]);
    }
    // Of two corners nearest to one node the second finds it taken.
    const step = whole / n;
    let along = 0;
    const taken = new Set([0, n]);
    for (let i = 1; i < stretch.length - 1; i++) {
      along += lengths[i - 1];
      const k = Math.round(along / step);
      if (taken.has(k) || turnAt(outline, (from + i) % outline.length) < SHARP) continue;
      taken.add(k);
      points[s * n + k] = stretch[i];
    }
  }
  return points;
}

/** Places of four anchors in an outline, counter-clockwise from the lower left: its sharpest corners where it has four, else the points furthest along the diagonals. */
function anchorsOf(outline: Outline): number[] {
  const turns = outline.map((_, i) => turnAt(outline, i));
  const sharp = turns.map((turn, i) => ({ turn, i })).sort((a, b) => b.turn - a.turn);
  const corners = sharp.slice(0, 4);
  const found =
    corners[3].turn > CORNER && (sharp[4] === undefined || sharp[4].turn < 0.8 * corners[3].turn)
      ? corners.map((c) => c.i)
      : [
          [-1, -1],
          [1, -1],
          [1, 1],
          [-1, 1],
        ].map(([dx, dy]) =>
          outline.reduce(
            (best, p, i) =>
              p[0] * dx + p[1] * dy > outline[best][0] * dx + outline[best][1] * dy + 1e-9 ? i : best,
            0,
          ),
        );
  const sorted = [...new Set(found)].sort((a, b) => a - b);
  while (sorted.length < 4) {
    sorted.push(middleOfLongest(outline, sorted));
    sorted.sort((a, b) => a - b);
  }
  // Counter-clockwise from the one most to the lower left.
  const lowest = sorted.reduce(
    (best, i) => (outline[i][0] + outline[i][1] < outline[best][0] + outline[best][1] - 1e-9 ? i : best),
    sorted[0],
  );
  const at = sorted.indexOf(lowest);
  return [...sorted.slice(at), ...sorted.slice(0, at)];
}

/** The point of an outline in the middle of the longest stretch between anchors: a three-cornered section has no fourth. */
function middleOfLongest(outline: Outline, anchors: readonly number[]): number {
  const n = outline.length;
  const sides = outline.map(([x, y], i) => {
    const [x1, y1] = outline[(i + 1) % n];
    return Math.hypot(x1 - x, y1 - y);
  });
  let best = { length: -1, at: 0 };
  anchors.forEach((from, k) => {
    const count = (anchors[(k + 1) % anchors.length] - from + n) % n || n;
    const along = Array.from({ length: count }, (_, i) => sides[(from + i) % n]);
    const length = along.reduce((a, b) => a + b, 0);
    if (count < 2 || length <= best.length) return;
    let gone = 0;
    const steps = along.findIndex((side) => (gone += side) >= length / 2);
    best = { length, at: (from + Math.min(count - 1, Math.max(1, steps + 1))) % n };
  });
  return best.at;
}

/** A fresh grid, of like numbers, over a section as it now is, of the area that it is to have. mm² */
export function regridded(
  mesh: Mesh,
  n: number,
  rings: number,
  crowd?: Crowd,
  areaMm2 = meshArea(mesh),
): Mesh {
  const fresh = butterflyMesh(
    Array.from(mesh.rim, (node) => [mesh.x[node], mesh.y[node]] as const),
    n,
    rings,
    crowd,
  );
  const grow = Math.sqrt(areaMm2 / meshArea(fresh));
  const middle = (of: Float64Array) => fresh.rim.reduce((sum, node) => sum + of[node], 0) / fresh.rim.length;
  const [cx, cy] = [middle(fresh.x), middle(fresh.y)];
  return {
    ...mesh,
    x: fresh.x.map((x) => cx + (x - cx) * grow),
    y: fresh.y.map((y) => cy + (y - cy) * grow),
  };
}

/** Nodes that share an element with each node. */
export function neighboursOf({ x, quads }: Mesh): number[][] {
  const sets = Array.from(x, () => new Set<number>());
  for (let e = 0; e < quads.length; e += 4)
    for (let a = 0; a < 4; a++) for (let b = 0; b < 4; b++) if (a !== b) sets[quads[e + a]].add(quads[e + b]);
  return sets.map((s) => [...s]);
}

/** Area of the section, mm². */
export function meshArea({ x, y, quads }: Mesh): number {
  let twice = 0;
  for (let e = 0; e < quads.length; e += 4) {
    const [a, b, c, d] = quads.subarray(e, e + 4);
    twice += (x[c] - x[a]) * (y[d] - y[b]) - (x[d] - x[b]) * (y[c] - y[a]);
  }
  return twice / 2;
}

/** Worst corner of all elements: 2·(a × b)/(a² + b²) of the edges that meet there. 1 is a square's, below 0 is folded. */
export function worstShape({ x, y, quads }: Mesh): number {
  let worst = 1;
  for (let e = 0; e < quads.length; e += 4)
    for (let k = 0; k < 4; k++) {
      const p = quads[e + ((k + 3) % 4)];
      const q = quads[e + k];
      const r = quads[e + ((k + 1) % 4)];
      const ax = x[r] - x[q];
      const ay = y[r] - y[q];
      const bx = x[p] - x[q];
      const by = y[p] - y[q];
      worst = Math.min(worst, (2 * (ax * by - ay * bx)) / (ax * ax + ay * ay + bx * bx + by * by));
    }
  return worst;
}
