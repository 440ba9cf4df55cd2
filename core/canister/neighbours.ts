/** A point that may be looked for, with how far it reaches. mm */
export interface Spot {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly reachMm: number;
}

/** Spots in cells as large as two of the largest need to touch: whoever may touch a spot lies in its cell or one beside it. */
export class Cells {
  private readonly cells = new Map<string, number[]>();
  private readonly cellMm: number;

  constructor(spots: readonly Spot[], which: readonly number[], leastReachMm = 0) {
    const reach = which.reduce((most, i) => Math.max(most, spots[i].reachMm), leastReachMm);
    this.cellMm = Math.max(2 * reach, 1e-6);
    for (const i of which) {
      const key = this.keyOf(spots[i], 0, 0, 0);
      const there = this.cells.get(key);
      if (there) there.push(i);
      else this.cells.set(key, [i]);
    }
  }

  /** Indices of all that may touch a spot. */
  *near(spot: Spot): Generator<number> {
    for (let dz = -1; dz <= 1; dz++)
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) yield* this.cells.get(this.keyOf(spot, dx, dy, dz)) ?? [];
  }

  private keyOf({ x, y, z }: Spot, dx: number, dy: number, dz: number): string {
    const at = (mm: number, d: number): number => Math.floor(mm / this.cellMm) + d;
    return `${at(x, dx)} ${at(y, dy)} ${at(z, dz)}`;
  }
}
