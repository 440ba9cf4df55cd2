import { type Billet, type Removal } from '../../../billet/billet.ts';
import { splitSection } from '../../../billet/split.ts';
import { turnedBar } from '../../../billet/turned.ts';
import {
  AS_IT_LIES,
  type Orientation,
  ROLLED_LEFT_RIGHT,
  compose,
  orientationName,
  orientationNamed,
} from '../../../geometry/orientation.ts';
import type { Outline } from '../../../geometry/outline.ts';
import { type Wedge, wedgeOf } from '../../../geometry/shapes.ts';
import { type Action, SIDES, type Side, arrowAfter, turnsTo } from '../../../instruct/action.ts';
import type { Shop } from '../../../shop/shop.ts';
import { pieceName } from '../../../billet/billet.ts';
import type { Laid } from './laid.ts';

/** Four wedges, points to the middle, whatever way each stands as it comes: turned point down, ground to a point where it is blunt. */

/** Sides of the square in the order of the places, and how a wedge that stood on its point comes to lie there. */
export const WEDGE_SIDES = [
  ['right', 3],
  ['top', 0],
  ['left', 1],
  ['bottom', 2],
] as const;

export const areWedges = (pieces: readonly Billet[]): boolean =>
  pieces.length > 0 && pieces.every((b) => wedgeOf(b.outline) !== null);

const turning = (turns: Orientation['turns']): Orientation => ({ turns, rolled: false });

/** How it comes to stand point down. */
const standing = (wedge: Wedge): Orientation => turning(wedge.toPointDown);

/** How the wedge in a place lies in the end. */
export function wedgeLies({ billet, place }: Laid, i: number): Orientation {
  const roll = orientationNamed(place.orientation).rolled ? ROLLED_LEFT_RIGHT : AS_IT_LIES;
  return compose(turning(WEDGE_SIDES[i][1]), compose(roll, standing(wedgeOf(billet.outline)!)));
}

/** Broad side of a wedge once it has its point; what a blunt one has less is ground off its flanks. mm */
export const pointedBase = ({ baseMm, bluntMm }: Wedge): number => baseMm - bluntMm;

/** By how much each flank of a blunt wedge of 90° is ground so that they meet where it was blunt, mm. */
const offFlank = ({ bluntMm }: Wedge): number => bluntMm / (2 * Math.SQRT2);

/** A wedge as it goes in: standing on its point, its blunt end ground to one. */
export function pointed(bar: Billet, shop: Shop): Removal {
  const wedge = wedgeOf(bar.outline)!;
  const stood = wedge.toPointDown === 0 ? bar : turnedBar(bar, standing(wedge));
  if (wedge.bluntMm === 0) return { billet: stood, lost: {} };
  const [x, y] = [pointedBase(wedge) / 2, wedge.deepMm / 2];
  const triangle: Outline = [
    [0, -y],
    [x, y],
    [-x, y],
  ];
  const { parts, lost } = splitSection(stood, [triangle], shop);
  return { billet: parts[0], lost };
}

/** Which side its point looks to as it comes. */
const pointsTo = ({ toPointDown }: Wedge): Side => (['bottom', 'left', 'top', 'right'] as const)[toPointDown];

/** Its flanks as it comes; those that are ground are bare. */
export function flanks(bar: Billet): Side[] {
  const wedge = wedgeOf(bar.outline)!;
  if (wedge.bluntMm > 0) return [];
  const upright = wedge.toPointDown % 2 === 0;
  return SIDES.filter((side) => (side === 'left' || side === 'right') === upright);
}

export function layWedge(l: Laid, i: number): Action[] {
  const piece = pieceName(l.billet);
  const wedge = wedgeOf(l.billet.outline)!;
  const lies = wedgeLies(l, i);
  return [
    ...(wedge.bluntMm > 0
      ? [{ do: 'grind to a point', piece, point: pointsTo(wedge), offMm: offFlank(wedge) } as const]
      : []),
    ...turnsTo(piece, orientationName(lies)),
    {
      do: 'lay wedge',
      piece,
      side: WEDGE_SIDES[i][0],
      front: lies.rolled ? 'A' : 'B',
      arrow: arrowAfter(lies.turns),
    },
  ];
}
