import { FACE_INSET_MM } from '../geometry/tolerances.ts';
import { type Billet, sizeOf } from './billet.ts';
import { BLOCK, makePoints, makeTrace } from './fields/field.ts';

/** Places along a bar's broad face at which it is asked which tile lies there, to the mm. */
const PER_MM = 4;
const MOST_PLACES = 20_000;

/** Where along the middle of a bar's upper face one tile ends and the next begins, mm from end A. */
export function tileEndsOf(bar: Billet): number[] {
  if (!bar.field.variesAlongZ) return [];
  const { heightMm } = sizeOf(bar);
  const places = Math.min(MOST_PLACES, Math.ceil(bar.lengthMm * PER_MM));
  const at = (k: number) => ((k + 0.5) / places) * bar.lengthMm;
  const points = makePoints();
  const codes = new Uint8Array(BLOCK);
  const ends: number[] = [];
  let last = NaN;
  for (let from = 0; from < places; from += BLOCK) {
    points.count = Math.min(BLOCK, places - from);
    points.trace = makeTrace(BLOCK, 'tiles');
    for (let k = 0; k < points.count; k++) {
      points.x[k] = 0;
      points.y[k] = heightMm / 2 - FACE_INSET_MM;
      points.z[k] = at(from + k);
    }
    bar.field.sample(points, codes);
    const tile = points.trace.tile!;
    for (let k = 0; k < points.count; k++) {
      if (!Number.isNaN(last) && tile[k] !== last) ends.push(((from + k) / places) * bar.lengthMm);
      last = tile[k];
    }
  }
  return ends;
}
