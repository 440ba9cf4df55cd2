import type { Mesh } from './mesh.ts';

/** Of a section's size: nodes that differ by less stand for one another. */
const SAME = 1e-7;
/** Leaders are those farthest this way, so that they lie together; no mirror of the press takes it to itself. */
const AWAY = [1, 0.618] as const;

/** What takes a section between the dies to itself: left for right, up for down, half a turn; the signs by x and y. */
export const MIRRORS = { leftRight: [-1, 1], upDown: [1, -1], halfTurn: [-1, -1] } as const;
export type Mirror = keyof typeof MIRRORS;

/**
 * Which nodes and elements of a section stand for one another, so that only one of each set is solved for. A section without any
 * symmetry has a leader in every node.
 */
export interface Symmetry {
  readonly mirrors: readonly Mirror[];
  /** The node that each one's velocity follows, and with which signs by x and y. */
  readonly leader: Int32Array;
  readonly signX: Float64Array;
  readonly signY: Float64Array;
  /** How many follow a leader, itself counted; 0 for a node that is none. */
  readonly followers: Float64Array;
  /** What a mirror of its own holds still of a node: 1 by x, 2 by y, 3 both. */
  readonly still: Uint8Array;
  /** One element of each set, and how many there are of it. */
  readonly elements: Int32Array;
  readonly times: Float64Array;
  /** Which of those stands for each element. */
  readonly stands: Int32Array;
}

/** Where the points go by signs: the number of the one that lies there, null where one has no other. */
function goesTo(
  x: Float64Array,
  y: Float64Array,
  [sx, sy]: readonly [number, number],
  near: number,
): Int32Array | null {
  const order = Array.from(x, (_, i) => i).sort((a, b) => x[a] - x[b]);
  const sorted = Float64Array.from(order, (i) => x[i]);
  const to = new Int32Array(x.length);
  for (let i = 0; i < x.length; i++) {
    const [px, py] = [sx * x[i], sy * y[i]];
    let [low, high] = [0, sorted.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (sorted[middle] < px - near) low = middle + 1;
      else high = middle;
    }
    let found = -1;
    for (let k = low; k < sorted.length && sorted[k] <= px + near; k++)
      if (Math.abs(y[order[k]] - py) <= near) found = order[k];
    if (found < 0) return null;
    to[i] = found;
  }
  return to;
}

/** Of every set the member farthest away, and by which mirror each is reached; −1 by none. */
function leading(x: Float64Array, y: Float64Array, ways: readonly Int32Array[]): [Int32Array, Int8Array] {
  const leader = Int32Array.from(x, (_, i) => i);
  const by = new Int8Array(x.length).fill(-1);
  const away = (i: number) => AWAY[0] * x[i] + AWAY[1] * y[i];
  for (let i = 0; i < x.length; i++)
    ways.forEach((to, k) => {
      const [here, there] = [leader[i], to[i]];
      const farther = away(there) - away(here);
      if (there === here || farther < 0 || (farther === 0 && there > here)) return;
      leader[i] = there;
      by[i] = k;
    });
  return [leader, by];
}

/** The middles of the elements. */
function middles({ x, y, quads }: Mesh): [Float64Array, Float64Array] {
  const of = (p: Float64Array) =>
    Float64Array.from(
      { length: quads.length / 4 },
      (_, e) => (p[quads[4 * e]] + p[quads[4 * e + 1]] + p[quads[4 * e + 2]] + p[quads[4 * e + 3]]) / 4,
    );
  return [of(x), of(y)];
}

/**
 * The symmetry of a section about the middle of the press, of the mirrors that the dies allow; `alike`: whether two elements are
 * of the same steel.
 */
export function symmetryOf(
  mesh: Mesh,
  allowed: readonly Mirror[],
  alike: (a: number, b: number) => boolean,
): Symmetry {
  const { x, y } = mesh;
  const [mx, my] = middles(mesh);
  const near = SAME * x.reduce((most, v, i) => Math.max(most, Math.abs(v), Math.abs(y[i])), 0);
  const found: { mirror: Mirror; nodes: Int32Array; elements: Int32Array }[] = allowed.flatMap((mirror) => {
    const nodes = goesTo(x, y, MIRRORS[mirror], near);
    const elements = nodes && goesTo(mx, my, MIRRORS[mirror], near);
    return nodes && elements?.every((to, e) => alike(e, to)) ? [{ mirror, nodes, elements }] : [];
  });
  // Two of them are always the third too, which rounding may have missed.
  if (found.length === 2) {
    const [a, b] = found;
    const mirror = (Object.keys(MIRRORS) as Mirror[]).find((m) => m !== a.mirror && m !== b.mirror)!;
    found.push({
      mirror,
      nodes: a.nodes.map((i) => b.nodes[i]),
      elements: a.elements.map((e) => b.elements[e]),
    });
  }
  const [leader, by] = leading(
    x,
    y,
    found.map(({ nodes }) => nodes),
  );
  const [first] = leading(
    mx,
    my,
    found.map(({ elements }) => elements),
  );
  const sign = (k: 0 | 1) => Float64Array.from(by, (b) => (b < 0 ? 1 : MIRRORS[found[b].mirror][k]));
  const followers = new Float64Array(x.length);
  leader.forEach((i) => followers[i]++);
  const still = new Uint8Array(x.length);
  for (const { mirror, nodes } of found)
    nodes.forEach((to, i) => {
      const [sx, sy] = MIRRORS[mirror];
      if (to === i) still[i] |= (sx < 0 ? 1 : 0) | (sy < 0 ? 2 : 0);
    });
  const counts = new Float64Array(first.length);
  first.forEach((e) => counts[e]++);
  const elements = Int32Array.from([...counts.keys()].filter((e) => counts[e] > 0));
  return {
    mirrors: found.map(({ mirror }) => mirror),
    leader,
    signX: sign(0),
    signY: sign(1),
    followers,
    still,
    elements,
    times: Float64Array.from(elements, (e) => counts[e]),
    stands: first,
  };
}

/** Gives every node what its leader has, two numbers a node; a mirror's own has none across it. */
export function follow({ leader, signX, signY, still, mirrors }: Symmetry, v: Float64Array): void {
  if (mirrors.length === 0) return;
  for (let i = 0; i < leader.length; i++) {
    const to = leader[i];
    if (to !== i) {
      v[2 * i] = signX[i] * v[2 * to];
      v[2 * i + 1] = signY[i] * v[2 * to + 1];
    }
    if (still[i] & 1) v[2 * i] = 0;
    if (still[i] & 2) v[2 * i + 1] = 0;
  }
}

/** Of forces that one element of each set gave for all of it: what each node bears. */
export function shareOut(symmetry: Symmetry, forces: Float64Array): void {
  const { leader, signX, signY, followers, mirrors } = symmetry;
  if (mirrors.length === 0) return;
  for (let i = 0; i < leader.length; i++) {
    const to = leader[i];
    if (to === i) continue;
    forces[2 * to] += signX[i] * forces[2 * i];
    forces[2 * to + 1] += signY[i] * forces[2 * i + 1];
  }
  for (let i = 0; i < leader.length; i++)
    if (followers[i] > 1) {
      forces[2 * i] /= followers[i];
      forces[2 * i + 1] /= followers[i];
    }
  follow(symmetry, forces);
}

/** Puts places exactly where their leaders' are, in place. */
export function evened(
  { leader, signX, signY, still, mirrors }: Symmetry,
  { x, y }: { readonly x: Float64Array; readonly y: Float64Array },
): void {
  if (mirrors.length === 0) return;
  for (let i = 0; i < leader.length; i++) {
    x[i] = still[i] & 1 ? 0 : signX[i] * x[leader[i]];
    y[i] = still[i] & 2 ? 0 : signY[i] * y[leader[i]];
  }
}
