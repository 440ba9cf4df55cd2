import { type Mesh, neighboursOf } from './mesh.ts';
import { SparseSystem, dissected } from './sparse.ts';

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
  /** For every element, where its 8 × 8 entries are kept. */
  readonly slots: Int32Array;
  readonly diagonal: Int32Array;
}

const patterns = new WeakMap<Int32Array, Pattern>();

/** The pattern of a mesh, dissected by where its nodes stood at the start. */
export function patternOf(mesh: Mesh, startX: Float64Array, startY: Float64Array): Pattern {
  const known = patterns.get(mesh.quads);
  if (known) return known;
  const { quads } = mesh;
  const around = neighboursOf(mesh);
  const system = new SparseSystem(around, dissected(startX, startY, around));
  const slots = new Int32Array(16 * quads.length);
  for (let e = 0; e < quads.length; e += 4)
    for (let a = 0; a < 8; a++)
      for (let b = 0; b < 8; b++)
        slots[16 * e + 8 * a + b] = system.slot(
          2 * quads[e + (a >> 1)] + (a & 1),
          2 * quads[e + (b >> 1)] + (b & 1),
        );
  const diagonal = Int32Array.from({ length: 2 * mesh.x.length }, (_, d) => system.slot(d, d));
  const pattern = { system, slots, diagonal };
  patterns.set(quads, pattern);
  return pattern;
}
