import { type Billet, type Removal, sizeOf } from '../../billet/billet.ts';
import { piecesOf } from '../../billet/laidPieces.ts';
import { grindFace, keepLength } from '../../billet/removal.ts';
import { boundingBox } from '../../geometry/outline.ts';
import { type Action, SIDES, type Side, endCrop } from '../../instruct/action.ts';
import { addVolumes } from '../../materials/volumes.ts';
import type { Shop } from '../../shop/shop.ts';

/** Within this a piece reaches a face, mm. */
const REACHES_MM = 1e-3;

/** The long faces that seams come out at: those that more than one of the pieces reach; all four where it is not known how they lie. */
export function facesWithSeams(bar: Billet): readonly Side[] {
  const laid = piecesOf(bar);
  if (laid?.seen !== 'from the end') return SIDES;
  const whole = boundingBox(laid.each.flatMap((p) => p.outline));
  const boxes = laid.each.map((p) => boundingBox(p.outline));
  const away: Record<Side, (b: typeof whole) => number> = {
    top: (b) => whole.maxY - b.maxY,
    bottom: (b) => b.minY - whole.minY,
    left: (b) => b.minX - whole.minX,
    right: (b) => whole.maxX - b.maxX,
  };
  return SIDES.filter((side) => boxes.filter((b) => away[side](b) < REACHES_MM).length > 1);
}

/** How deep a bead may be: off a face and the one across, half of what is there stays. mm */
export function mostBeadMm(bar: Billet): number {
  const { widthMm, heightMm } = sizeOf(bar);
  return Math.min(widthMm, heightMm, bar.lengthMm) / 4;
}

/** The bead ground off the faces that seams come out at, and cut off both ends. */
export function withoutBead(bar: Billet, sides: readonly Side[], beadMm: number, shop: Shop): Removal {
  const { lengthMm } = bar;
  return sides.reduce<Removal>(
    ({ billet, lost }, side) => {
      const next = grindFace(billet, side, beadMm, shop);
      return { billet: next.billet, lost: addVolumes(lost, next.lost) };
    },
    keepLength(bar, beadMm, lengthMm - beadMm, shop),
  );
}

/** The same as hands do it. */
export const grindBeadOff = ({ lengthMm }: Billet, sides: readonly Side[], beadMm: number): Action[] => [
  ...endCrop('A', beadMm, lengthMm - beadMm),
  ...endCrop('B', beadMm, lengthMm - 2 * beadMm),
  ...sides.map((side): Action => ({ do: 'grind off', side, offMm: beadMm })),
];
