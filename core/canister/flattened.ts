import { type InsertSpot, gauge } from '../billet/fields/canned.ts';
import { SpotIndex } from '../billet/fields/spotIndex.ts';

/** Points asked to find how far flattened inserts reach. */
const POINTS = 30_000;
/** The plastic sequence of three dimensions (Roberts), for points spread evenly without a lattice. */
const R3 = [0.8191725133961645, 0.6710436067037893, 0.5497004779019703];
/** An insert may not reach further than this, as a share of itself. */
const MOST_REACH = 2;

/**
 * How much larger than themselves inserts must be taken where they flatten against each other (each point goes to the one it
 * is deepest in) so that together they fill `share` (0…1) of the room: 1 where none touch. Found by sampling.
 */
export function reachFor(
  spots: readonly InsertSpot[],
  halfX: number,
  halfY: number,
  fromMm: number,
  toMm: number,
  share: number,
): number {
  if (spots.length === 0) return 1;
  const depths = new Float64Array(POINTS);
  const index = new SpotIndex(spots, MOST_REACH, halfX, halfY, fromMm, toMm);
  for (let i = 0; i < POINTS; i++) {
    const x = (((0.5 + i * R3[0]) % 1) - 0.5) * 2 * halfX;
    const y = (((0.5 + i * R3[1]) % 1) - 0.5) * 2 * halfY;
    const z = fromMm + ((0.5 + i * R3[2]) % 1) * (toMm - fromMm);
    let least = MOST_REACH;
    const at = index.cellAt(x, y, z);
    for (let k = index.starts[at]; k < index.starts[at + 1]; k++)
      least = Math.min(least, gauge(spots[index.lists[k]], x, y, z));
    depths[i] = least;
  }
  const sorted = depths.sort();
  const touching = sorted.filter((d) => d <= 1).length / POINTS;
  // Sampling errs by some tenths of a per cent: what already fits is left as it is.
  if (touching >= share * (1 - 0.01)) return 1;
  return Math.min(MOST_REACH, sorted[Math.min(POINTS - 1, Math.round(share * POINTS))]);
}
