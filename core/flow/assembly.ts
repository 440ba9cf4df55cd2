import type { Mesh } from './mesh.ts';
import { patternOf } from './pattern.ts';
import type { SparseSystem } from './sparse.ts';
import type { Frames } from './steel.ts';
import type { Symmetry } from './symmetry.ts';

/** The equations of the nodes that lead: elements are added up in them, what is held is taken out. */
export class Assembly {
  readonly system: SparseSystem;
  readonly symmetry: Symmetry;
  /** Where each node's two unknowns are on the system's diagonal; −1 of those that follow another. */
  readonly diagonal: Int32Array;
  private readonly quads: Int32Array;
  /** Which point of the system each leading node is. */
  private readonly points: Int32Array;
  private readonly slots: Int32Array;
  /** Of each element that is solved for: its nodes all lead. */
  private readonly plain: Uint8Array;

  constructor(mesh: Mesh, startX: Float64Array, startY: Float64Array, symmetry: Symmetry) {
    this.quads = mesh.quads;
    this.symmetry = symmetry;
    const { system, slots, diagonal, points } = patternOf(mesh, startX, startY, symmetry);
    [this.system, this.slots, this.diagonal, this.points] = [system, slots, diagonal, points];
    const { leader } = symmetry;
    this.plain = Uint8Array.from(symmetry.elements, (e) =>
      [0, 1, 2, 3].every((k) => leader[mesh.quads[4 * e + k]] === mesh.quads[4 * e + k]) ? 1 : 0,
    );
  }

  /** Adds the 8 × 8 entries of an element that is solved for, their upper triangle by x and y, by its leading nodes' own directions. */
  add(one: number, block: Float64Array, { framed, tx, ty }: Frames): void {
    const { slots, system, quads, plain } = this;
    const { elements, leader, signX, signY } = this.symmetry;
    const { values } = system;
    const e = elements[one];
    let any = 1 - plain[one];
    for (let k = 0; k < 4; k++) any |= framed[leader[quads[4 * e + k]]];
    if (any) {
      for (let a = 0; a < 8; a++) for (let b = 0; b < (a & ~1); b++) block[8 * a + b] = block[8 * b + a];
      for (let k = 0; k < 4; k++) {
        const node = quads[4 * e + k];
        const [sx, sy] = [signX[node], signY[node]];
        const [c, s] = framed[leader[node]] ? [tx[leader[node]], ty[leader[node]]] : [1, 0];
        for (let b = 0; b < 8; b++) {
          const p = sx * block[16 * k + b];
          const q = sy * block[16 * k + 8 + b];
          block[16 * k + b] = c * p + s * q;
          block[16 * k + 8 + b] = c * q - s * p;
        }
        for (let a = 0; a < 8; a++) {
          const p = sx * block[8 * a + 2 * k];
          const q = sy * block[8 * a + 2 * k + 1];
          block[8 * a + 2 * k] = c * p + s * q;
          block[8 * a + 2 * k + 1] = c * q - s * p;
        }
      }
    }
    for (let a = 0; a < 8; a++)
      for (let b = a; b < 8; b++) values[slots[64 * one + 8 * a + b]] += block[8 * a + b];
    if (plain[one]) return;
    // Two nodes of one element that are each other's image: what they have in common counts for both.
    for (let a = 0; a < 8; a++)
      for (let b = a + 1; b < 8; b++) {
        const same = leader[quads[4 * e + (a >> 1)]] === leader[quads[4 * e + (b >> 1)]];
        if (same && (a & 1) === (b & 1)) values[slots[64 * one + 8 * a + b]] += block[8 * a + b];
      }
  }

  /** Rows and columns of what is held are put to the unit matrix. */
  hold(held: Uint8Array): void {
    const { quads, slots, system, diagonal } = this;
    const { elements, leader } = this.symmetry;
    const { values } = system;
    for (let one = 0; one < elements.length; one++) {
      const n0 = 4 * elements[one];
      let any = 0;
      for (let k = 0; k < 4; k++)
        any += held[2 * leader[quads[n0 + k]]] + held[2 * leader[quads[n0 + k]] + 1];
      if (any === 0) continue;
      for (let a = 0; a < 8; a++)
        for (let b = a; b < 8; b++) {
          const i = 2 * leader[quads[n0 + (a >> 1)]] + (a & 1);
          const j = 2 * leader[quads[n0 + (b >> 1)]] + (b & 1);
          if (i !== j && (held[i] || held[j])) values[slots[64 * one + 8 * a + b]] = 0;
        }
    }
    for (let d = 0; d < held.length; d++) if (held[d] && diagonal[d] >= 0) values[diagonal[d]] = 1;
  }

  /** From two numbers a node to those of the nodes that lead, in the order of the system's points; each for all that follow it. */
  led(of: Float64Array): Float64Array {
    const { points } = this;
    const { followers } = this.symmetry;
    const out = new Float64Array(2 * this.system.points);
    for (let i = 0; i < points.length; i++) {
      if (points[i] < 0) continue;
      out[2 * points[i]] = followers[i] * of[2 * i];
      out[2 * points[i] + 1] = followers[i] * of[2 * i + 1];
    }
    return out;
  }

  /** Back to the nodes that lead, nothing for the others. */
  spread(led: Float64Array, into: Float64Array): void {
    const { points } = this;
    for (let i = 0; i < points.length; i++) {
      into[2 * i] = points[i] < 0 ? 0 : led[2 * points[i]];
      into[2 * i + 1] = points[i] < 0 ? 0 : led[2 * points[i] + 1];
    }
  }
}
