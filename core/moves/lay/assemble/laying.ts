import { type Billet, pieceName } from '../../../billet/billet.ts';
import { type Orientation, frontEnd, orientationNamed, planeMatrix } from '../../../geometry/orientation.ts';
import { type Action, SIDES, type Side, arrowAfter, turnsTo } from '../../../instruct/action.ts';
import type { Shop } from '../../../shop/shop.ts';
import { FIT_MM, type Laid, type P, laidPieces, stripSizes } from './laid.ts';
import { areWedges, flanks } from './wedges.ts';

const lies = ({
  place,
}: Laid): { orientation: Orientation; lies: { front: 'A' | 'B'; arrow: ReturnType<typeof arrowAfter> } } => {
  const orientation = orientationNamed(place.orientation);
  return { orientation, lies: { front: frontEnd(orientation), arrow: arrowAfter(orientation.turns) } };
};

/** What is ground off a piece as it lies so that it fits, half on each side. */
const groundOff = (l: Laid): Action[] =>
  (
    [
      ['left', l.offWidthMm],
      ['right', l.offWidthMm],
      ['top', l.offHeightMm],
      ['bottom', l.offHeightMm],
    ] as const
  ).flatMap(([side, mm]) =>
    mm > FIT_MM ? [{ do: 'grind off', piece: pieceName(l.billet), side, offMm: mm / 2 } as const] : [],
  );

/** A piece into its row and place; the last of every other row of bricks is sawn in two for both its ends. */
export function layPiece(l: Laid, i: number, p: P, shop: Shop): Action[] {
  const piece = pieceName(l.billet);
  const [row, column] = [Math.floor(i / p.columns), i % p.columns];
  const of = { rows: p.rows, places: p.columns };
  const { lies: lying } = lies(l);
  const into = (name: string, place: number, places = of.places): Action => ({
    do: 'lay',
    piece: name,
    row: row + 1,
    place,
    of: { ...of, places },
    ...lying,
  });
  const turns = turnsTo(piece, l.place.orientation);
  if (p.layout !== 'brick') return [...turns, ...groundOff(l), into(piece, column + 1)];
  const last = column === p.columns - 1;
  const off = (side: 'left' | 'right'): Action => ({ do: 'grind off', piece, side, offMm: shop.kerfMm / 2 });
  if (row % 2 === 0)
    return [
      ...turns,
      ...(column === 0 ? [off('left')] : []),
      ...(last ? [off('right')] : []),
      into(piece, column + 1),
    ];
  if (!last) return [...turns, into(piece, column + 2, p.columns + 1)];
  const half = (l.widthMm - shop.kerfMm) / 2;
  const [left, right] = [`${piece} left`, `${piece} right`];
  return [
    ...turns,
    {
      do: 'saw along',
      piece,
      way: 'upright',
      nearMm: half,
      kerfMm: shop.kerfMm,
      parts: [left, right],
      sizesMm: [half, half],
    },
    into(right, 1, p.columns + 1),
    into(left, p.columns + 1, p.columns + 1),
  ];
}

const SIDE_VECTORS: Readonly<Record<Side, readonly [number, number]>> = {
  right: [1, 0],
  top: [0, 1],
  left: [-1, 0],
  bottom: [0, -1],
};

/** The piece's own side that lies on a side of its place: the rotation's transpose takes places back. */
function ownSide(orientation: Orientation, side: Side): Side {
  const [a, b, c, d] = planeMatrix(orientation);
  const [x, y] = SIDE_VECTORS[side];
  const [u, v] = [a * x + c * y, b * x + d * y];
  return SIDES.find((s) => SIDE_VECTORS[s][0] === u && SIDE_VECTORS[s][1] === v)!;
}

/** Which of every piece's own long faces will lie on another piece or on a strip. */
export function facesThatMeet(before: readonly Billet[], p: P): Side[][] {
  const laid = laidPieces(before, p);
  const { frameMm } = stripSizes(p);
  const met = new Map<Billet, Side[]>();
  laid.forEach(({ billet, place }, i) => {
    const [row, column] = [Math.floor(i / p.columns), i % p.columns];
    const beside: Record<Side, boolean> = {
      left: column > 0,
      right: column < p.columns - 1,
      top: row > 0,
      bottom: row < p.rows - 1,
    };
    const orientation = orientationNamed(place.orientation);
    const sides = SIDES.filter((side) => beside[side] || frameMm > 0);
    met.set(billet, areWedges([billet]) ? flanks(billet) : sides.map((side) => ownSide(orientation, side)));
  });
  return before.map((billet) => met.get(billet) ?? []);
}
