import type { Outline } from '../outline.ts';

/** Directions by which the side of an outline that a ray meets is looked for. */
const DIRECTIONS = 720;
const ROUND = 2 * Math.PI;

/** How far an outline reaches from its middle in every direction, mm; for outlines that every ray from there meets once, counter-clockwise. */
export class Reach {
  /** The sides in turn: where each begins, what it runs by, and the direction (0…2π) of its beginning. */
  private readonly sides: Float64Array;
  private readonly angles: Float64Array;
  private readonly first = new Int32Array(DIRECTIONS);

  constructor(outline: Outline) {
    const angleOf = ([x, y]: readonly [number, number]) => (Math.atan2(y, x) + ROUND) % ROUND;
    const lowest = outline.reduce((best, p, i) => (angleOf(p) < angleOf(outline[best]) ? i : best), 0);
    const turned = outline.map((_, i) => outline[(lowest + i) % outline.length]);
    const n = turned.length;
    this.sides = new Float64Array(4 * n);
    this.angles = new Float64Array(n);
    turned.forEach(([x, y], i) => {
      const [x1, y1] = turned[(i + 1) % n];
      this.sides.set([x, y, x1 - x, y1 - y], 4 * i);
      this.angles[i] = angleOf(turned[i]);
    });
    for (let k = 0, side = n - 1; k < DIRECTIONS; k++) {
      const angle = (k * ROUND) / DIRECTIONS;
      if (side === n - 1 && angle >= this.angles[0] && angle < this.angles[n - 1]) side = 0;
      while (side < n - 1 && this.angles[side + 1] <= angle) side++;
      this.first[k] = side;
    }
  }

  /** Towards a point. */
  towards(x: number, y: number): number {
    const { sides, angles } = this;
    const n = angles.length;
    const angle = (Math.atan2(y, x) + ROUND) % ROUND;
    let side = this.first[Math.min(DIRECTIONS - 1, Math.floor((angle * DIRECTIONS) / ROUND))];
    // The last side runs over the direction 0.
    if (side === n - 1 && angle >= angles[0] && angle < angles[n - 1]) side = 0;
    while (side < n - 1 && angles[side + 1] <= angle) side++;
    const [px, py, dx, dy] = [sides[4 * side], sides[4 * side + 1], sides[4 * side + 2], sides[4 * side + 3]];
    return ((px * dy - py * dx) * Math.hypot(x, y)) / (x * dy - y * dx);
  }

  /** From the square |u|, |v| ≤ 1 to the outline's inside, along the rays from the middle. */
  fromSquare(u: number, v: number, out: [number, number]): void {
    const most = Math.max(Math.abs(u), Math.abs(v));
    const scale = most === 0 ? 0 : (this.towards(u, v) * most) / Math.hypot(u, v);
    [out[0], out[1]] = [u * scale, v * scale];
  }

  /** And back. */
  toSquare(x: number, y: number, out: [number, number]): void {
    const most = Math.max(Math.abs(x), Math.abs(y));
    const scale = most === 0 ? 0 : Math.hypot(x, y) / (this.towards(x, y) * most);
    [out[0], out[1]] = [x * scale, y * scale];
  }
}
