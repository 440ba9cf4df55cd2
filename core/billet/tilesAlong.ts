import { FACE_INSET_MM } from '../geometry/tolerances.ts';
import { type Billet, sizeOf } from './billet.ts';
import { BLOCK, makePoints, makeTrace } from './fields/field.ts';

/** Places along a bar's broad face at which it is asked which tile lies there, to the mm. */
const PER_MM = 4;
const MOST_PLACES = 20_000;

/** A tile as it lies along a bar's upper face: its number in the row that was laid, mm from end A. */
export interface TileAlong {
  readonly number: number;
  readonly fromMm: number;
  readonly toMm: number;
}

/** Which tiles lie along the middle of a bar's upper face; none where there are no tiles. */
export function tilesAlong(bar: Billet): TileAlong[] {
  if (!bar.field.variesAlongZ) return [];
  const { heightMm } = sizeOf(bar);
  const places = Math.min(MOST_PLACES, Math.ceil(bar.lengthMm * PER_MM));
  const stepMm = bar.lengthMm / places;
  const points = makePoints();
  const codes = new Uint8Array(BLOCK);
  const tiles: { number: number; fromMm: number; toMm: number }[] = [];
  for (let from = 0; from < places; from += BLOCK) {
    points.count = Math.min(BLOCK, places - from);
    points.trace = makeTrace(BLOCK, 'tiles');
    for (let k = 0; k < points.count; k++) {
      points.x[k] = 0;
      points.y[k] = heightMm / 2 - FACE_INSET_MM;
      points.z[k] = (from + k + 0.5) * stepMm;
    }
    bar.field.sample(points, codes);
    for (let k = 0; k < points.count; k++) {
      const number = points.trace.tile![k];
      const last = tiles.at(-1);
      if (last?.number === number) last.toMm = (from + k + 1) * stepMm;
      else tiles.push({ number, fromMm: (from + k) * stepMm, toMm: (from + k + 1) * stepMm });
    }
  }
  return tiles.filter((t) => t.number > 0);
}
