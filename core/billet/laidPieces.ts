import { boundingBox } from '../geometry/outline.ts';
import type { LaidPieces } from '../loose/pieces.ts';
import type { Billet } from './billet.ts';

/** mm. */
const SAME_BOX = 1e-6;

/** The loose pieces of a bar as they lie in one section; null where there are none, or they were changed since they were laid. */
export function piecesOf({ loose, laid, outline, lengthMm }: Billet): LaidPieces | null {
  if (!loose || !laid) return null;
  const [own, whole] = [boundingBox(outline), boundingBox(laid.each.flatMap((piece) => piece.outline))];
  const wide = laid.seen === 'from the side' ? lengthMm : own.maxX - own.minX;
  const same =
    Math.abs(whole.maxX - whole.minX - wide) < SAME_BOX &&
    Math.abs(whole.maxY - whole.minY - (own.maxY - own.minY)) < SAME_BOX;
  return same ? laid : null;
}
