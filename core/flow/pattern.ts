import type { Mesh } from './mesh.ts';
import { SparseSystem, dissected } from './sparse.ts';
import type { Symmetry } from './symmetry.ts';

/** Gauss points of a quadrilateral. */
const G = 1 / Math.sqrt(3);
export const GAUSS = [
  [-G, -G],
  [G, -G],
  [G, G],
  [-G, G],
] as const;
/** Derivatives of the four shape functions by u and by v, at each Gauss point. */
export const BY_U = GAUSS.map(([, v]) => [-(1 - v) / 4, (1 - v) / 4, (1 + v) / 4, -(1 + v) / 4]);
export const BY_V = GAUSS.map(([u]) => [-(1 - u) / 4, -(1 + u) / 4, (1 + u) / 4, (1 - u) / 4]);

/** What depends only on which nodes belong together: the same for every state of a mesh. */
interface Pattern {
  readonly system: SparseSystem;
  /** Of the nodes that lead, each one's place among the system's points. */
  readonly points: Int32Array;
  /** For every element that is solved for, where its 8 × 8 entries are kept. */
  readonly slots: Int32Array;
  /** Of the unknowns of the nodes that lead; −1 of the others. */
  readonly diagonal: Int32Array;
}

const patterns = new WeakMap<Int32Array, { symmetry: Symmetry; pattern: Pattern }[]>();

const equal = (a: Int32Array, b: Int32Array): boolean =>
  a.length === b.length && a.every((v, i) => v === b[i]);

/** The pattern of a mesh, dissected by where its nodes stood at the start. */
export function patternOf(
  mesh: Mesh,
  startX: Float64Array,
  startY: Float64Array,
  symmetry: Symmetry,
): Pattern {
  const all = patterns.get(mesh.quads) ?? [];
  patterns.set(mesh.quads, all);
  const known = all.find(
    (one) => equal(one.symmetry.leader, symmetry.leader) && equal(one.symmetry.elements, symmetry.elements),
  );
  if (known) return known.pattern;
  const pattern = analysed(mesh, startX, startY, symmetry);
  all.push({ symmetry, pattern });
  return pattern;
}

function analysed(
  { quads }: Mesh,
  startX: Float64Array,
  startY: Float64Array,
  { leader, elements }: Symmetry,
): Pattern {
  const leaders = [...leader.keys()].filter((i) => leader[i] === i);
  const points = new Int32Array(leader.length).fill(-1);
  leaders.forEach((node, k) => (points[node] = k));
  const sets = leaders.map(() => new Set<number>());
  for (const e of elements)
    for (let a = 0; a < 4; a++)
      for (let b = 0; b < 4; b++) {
        const [p, q] = [points[leader[quads[4 * e + a]]], points[leader[quads[4 * e + b]]]];
        if (p !== q) sets[p].add(q);
      }
  const around = sets.map((set) => [...set]);
  const of = (start: Float64Array) => leaders.map((node) => start[node]);
  const system = new SparseSystem(around, dissected(of(startX), of(startY), around));
  const slots = new Int32Array(64 * elements.length);
  elements.forEach((e, k) => {
    const unknown = (a: number) => 2 * points[leader[quads[4 * e + (a >> 1)]]] + (a & 1);
    for (let a = 0; a < 8; a++)
      for (let b = 0; b < 8; b++) slots[64 * k + 8 * a + b] = system.slot(unknown(a), unknown(b));
  });
  const diagonal = Int32Array.from({ length: 2 * leader.length }, (_, d) =>
    points[d >> 1] < 0 ? -1 : system.slot(2 * points[d >> 1] + (d & 1), 2 * points[d >> 1] + (d & 1)),
  );
  return { system, points, slots, diagonal };
}
