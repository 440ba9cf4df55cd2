/** A point that may be looked for, with how far it reaches. mm */
export interface Spot {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly reachMm: number;
}

/** Spots in cells as large as two of the largest need to touch: whoever may touch a spot lies in its cell or one beside it. */
export class Cells {
  private readonly cells = new Map<number, number[]>();
  private readonly cellMm: number;

  constructor(spots: readonly Spot[], which: readonly number[], leastReachMm = 0) {
    const reach = which.reduce((most, i) => Math.max(most, spots[i].reachMm), leastReachMm);
    this.cellMm = Math.max(2 * reach, 1e-6);
    for (const i of which) {
      const key = this.keyOf(spots[i]);
      const there = this.cells.get(key);
      if (there) there.push(i);
      else this.cells.set(key, [i]);
    }
  }

  /** Indices of all that may touch a spot. */
  *near(spot: Spot): Generator<number> {
    const key = this.keyOf(spot);
    for (let dz = -1; dz <= 1; dz++)
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const there = this.cells.get(key + (dz * APART + dy) * APART + dx);
          if (there) yield* there;
        }
  }

  /** A cell's place as one whole number: with more cells in a row than are ever filled, none comes twice. */
  private keyOf({ x, y, z }: Spot): number {
    const mm = this.cellMm;
    return (Math.floor(z / mm) * APART + Math.floor(y / mm)) * APART + Math.floor(x / mm);
  }
}

const APART = 2 ** 17;
