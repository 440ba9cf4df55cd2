import type { DieFace } from './dies.ts';
import type { Frames } from './steel.ts';
import type { Symmetry } from './symmetry.ts';

/** mm. So near a node is brought to a die that is not flat. */
const ON_THE_DIE = 1e-5;
/** Two faces that meet at less (the sine of it) are not both held to. */
const SAME_WAY = 0.1;
/** Of the largest force: a pull as weak as this is none. */
const PULLED = 1e-6;
/** Let go so often in one step a node stays free. */
const MOST_RELEASES = 2;

/** Which nodes of the rim touch which faces of the dies, and in which directions they may then move. */
export class Contact {
  readonly faces: readonly DieFace[];
  readonly frames: Frames;
  /** How fast the die goes along a touching node's tangent. */
  readonly slide: Float64Array;
  /** The one or two faces each node touches, −1 for none. */
  private readonly first: Int8Array;
  private readonly second: Int8Array;
  private readonly rim: Int32Array;

  constructor(rim: Int32Array, nodes: number, faces: readonly DieFace[]) {
    [this.rim, this.faces] = [rim, faces];
    this.first = new Int8Array(nodes).fill(-1);
    this.second = new Int8Array(nodes).fill(-1);
    this.frames = {
      framed: new Uint8Array(nodes),
      tx: new Float64Array(nodes).fill(1),
      ty: new Float64Array(nodes),
    };
    this.slide = new Float64Array(nodes);
  }

  /** Nothing touches. */
  clear(): void {
    this.first.fill(-1);
    this.second.fill(-1);
  }

  /** What is needed to go back to how it is now. */
  kept(): () => void {
    const [first, second] = [Int8Array.from(this.first), Int8Array.from(this.second)];
    return () => {
      this.first.set(first);
      this.second.set(second);
    };
  }

  /** Nodes that touch the upper die. */
  *onUpper(): Generator<number> {
    for (const node of this.rim)
      if (this.first[node] >= 0 && this.faces[this.first[node]].of === 'upper') yield node;
  }

  /** From x and y to the nodes' own directions, or back, in place. */
  byFrames(v: Float64Array, back: boolean): void {
    const { framed, tx, ty } = this.frames;
    for (const node of this.rim) {
      if (!framed[node]) continue;
      const [c, s] = [tx[node], back ? -ty[node] : ty[node]];
      const [p, q] = [v[2 * node], v[2 * node + 1]];
      v[2 * node] = c * p + s * q;
      v[2 * node + 1] = c * q - s * p;
    }
  }

  /**
   * Sets the directions of the nodes that touch, and the speeds the dies give them, so that at the end of a step of `time` they
   * lie on the dies. Which unknowns are thereby held. `v` by x and y.
   */
  heldBy(
    x: Float64Array,
    y: Float64Array,
    v: Float64Array,
    time: number,
    endHeight: number,
    sticking: boolean,
  ): Uint8Array {
    const { first, second, faces, slide } = this;
    const { framed, tx, ty } = this.frames;
    const held = new Uint8Array(v.length);
    for (const node of this.rim) {
      framed[node] = first[node] >= 0 ? 1 : 0;
      if (!framed[node]) continue;
      const face = faces[first[node]];
      const [vx, vy] = [v[2 * node], v[2 * node + 1]];
      const [px, py] = [x[node] + vx * time, y[node] + vy * time];
      const { gap, nx, ny } = face.clear(px, py, endHeight);
      tx[node] = ny;
      ty[node] = -nx;
      const normal = nx * vx + ny * vy - gap / time;
      slide[node] = ny * face.speedX - nx * face.speedY;
      let tangent = ny * vx - nx * vy;
      held[2 * node + 1] = 1;
      if (second[node] >= 0) {
        const other = faces[second[node]].clear(px, py, endHeight);
        const sine = ny * other.nx - nx * other.ny;
        const cosine = nx * other.nx + ny * other.ny;
        if (Math.abs(sine) > SAME_WAY) {
          const wanted = other.nx * vx + other.ny * vy - other.gap / time;
          tangent = (wanted - cosine * normal) / sine;
          held[2 * node] = 1;
        }
      } else if (sticking) {
        tangent = slide[node];
        held[2 * node] = 1;
      }
      v[2 * node] = ny * tangent + nx * normal;
      v[2 * node + 1] = -nx * tangent + ny * normal;
    }
    return held;
  }

  /** What its own mirror image holds still of a node is held, by the node's own directions. */
  holdStill({ still, mirrors }: Symmetry, held: Uint8Array): void {
    if (mirrors.length === 0) return;
    const { framed, tx } = this.frames;
    for (let i = 0; i < still.length; i++) {
      // A mirror goes through the middle of the press, and a die that a node on it touches stands across or along it.
      const along = framed[i] && Math.abs(tx[i]) < 0.5 ? 1 : 0;
      if (still[i] & 1) held[2 * i + along] = 1;
      if (still[i] & 2) held[2 * i + 1 - along] = 1;
    }
  }

  /**
   * What of the rim each touching node stands for, mm. One that touches alone stands for half of what there is to its neighbours:
   * without friction at its tip a bar would roll over whatever the dies.
   */
  lengths(x: Float64Array, y: Float64Array): Float64Array {
    const { first, second, rim } = this;
    const lengths = new Float64Array(x.length);
    const apart = (a: number, b: number) => Math.hypot(x[b] - x[a], y[b] - y[a]);
    rim.forEach((node, i) => {
      const next = rim[(i + 1) % rim.length];
      if (first[node] < 0 || first[next] < 0) return;
      const shared =
        first[node] === first[next] ||
        first[node] === second[next] ||
        second[node] === first[next] ||
        (second[node] >= 0 && second[node] === second[next]);
      if (!shared) return;
      const part = apart(node, next) / 2;
      lengths[node] += part;
      lengths[next] += part;
    });
    rim.forEach((node, i) => {
      if (first[node] < 0 || lengths[node] > 0) return;
      const [last, next] = [rim[(i + rim.length - 1) % rim.length], rim[(i + 1) % rim.length]];
      lengths[node] = (apart(last, node) + apart(node, next)) / 2;
    });
    return lengths;
  }

  /** Free nodes that lie on or past a face by `past` now touch it. Whether any was taken on. */
  takeOn(x: Float64Array, y: Float64Array, height: number, past: number, barred?: Uint8Array): boolean {
    const { first, second, faces } = this;
    let any = false;
    for (const node of this.rim) {
      if (second[node] >= 0 || (barred && barred[node] >= MOST_RELEASES)) continue;
      for (let f = 0; f < faces.length; f++) {
        if (first[node] === f || second[node] >= 0) continue;
        if (faces[f].clear(x[node], y[node], height).gap > past) continue;
        if (first[node] < 0) first[node] = f;
        else second[node] = f;
        any = true;
      }
    }
    return any;
  }

  /** Puts touching nodes exactly onto their faces. */
  ontoDies(x: Float64Array, y: Float64Array, height: number): void {
    const { first, second, faces } = this;
    for (const node of this.rim)
      for (const f of [first[node], second[node]]) {
        if (f < 0) continue;
        const { gap, nx, ny } = faces[f].clear(x[node], y[node], height);
        x[node] -= gap * nx;
        y[node] -= gap * ny;
      }
  }

  /**
   * Lets go what is pulled, for a die can only push; `x`, `y`: where the nodes are at the end of a step, when the dies stand at
   * a height. Whether the balance must be found anew, also because a node is not yet on its die.
   */
  letGo(
    x: Float64Array,
    y: Float64Array,
    forces: Float64Array,
    endHeight: number,
    released: Uint8Array,
  ): boolean {
    const { first, second, faces, rim } = this;
    let largest = 0;
    for (const node of rim)
      if (first[node] >= 0) largest = Math.max(largest, Math.hypot(forces[2 * node], forces[2 * node + 1]));
    let changed = false;
    for (const node of rim) {
      if (first[node] < 0) continue;
      const one = faces[first[node]].clear(x[node], y[node], endHeight);
      if (Math.abs(one.gap) > ON_THE_DIE) changed = true;
      const [gx, gy] = [forces[2 * node], forces[2 * node + 1]];
      let push = gx * one.nx + gy * one.ny;
      let pushOther = 0;
      if (second[node] >= 0) {
        const other = faces[second[node]].clear(x[node], y[node], endHeight);
        const cross = one.nx * other.ny - one.ny * other.nx;
        if (Math.abs(cross) > SAME_WAY) {
          push = (gx * other.ny - gy * other.nx) / cross;
          pushOther = (one.nx * gy - one.ny * gx) / cross;
        }
      }
      if (pushOther < -PULLED * largest) second[node] = -1;
      else if (push < -PULLED * largest) {
        first[node] = second[node];
        second[node] = -1;
      } else continue;
      released[node]++;
      changed = true;
    }
    return changed;
  }
}
