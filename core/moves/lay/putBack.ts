import { z } from 'zod';
import type { Billet } from '../../billet/billet.ts';
import { SAME_PLACE } from '../../billet/fields/field.ts';
import { PutBackField } from '../../billet/fields/putBack.ts';
import { piecesOf } from '../../billet/laidPieces.ts';
import { cutTo } from '../../billet/removal.ts';
import { scattered } from '../../billet/scatter.ts';
import {
  type Outline,
  boundingBox,
  contains,
  moveOutline,
  rectangle,
  turnAt,
} from '../../geometry/outline.ts';
import { type Region, joined, without } from '../../geometry/regions.ts';
import type { Side } from '../../instruct/action.ts';
import { list } from '../../instruct/said.ts';
import type { LoosePiece } from '../../loose/pieces.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatFine } from '../../units/length.ts';
import { nameText } from '../../units/names.ts';
import { lengthWithinMm } from '../../units/quantities.ts';
import { CAUTIONS, error, needsOneBar, note } from '../contract/common.ts';
import { type Finding, defineMove } from '../contract/move.ts';

const LEAST_GROUND_MM = 0.05;

/** Which piece slid off, by what is written on it, and how much is ground off each face that met, its own and the other. mm */
const parameters = z.strictObject({
  piece: nameText(20, 'Say which piece slid off'),
  groundMm: lengthWithinMm('Off each face', LEAST_GROUND_MM, 20, { fine: true }),
});

type P = z.infer<typeof parameters>;
type Box = ReturnType<typeof boundingBox>;

/** mm. Faces that lie nearer to each other meet. */
const MEETS_MM = 1e-3;
/** No more of any piece is ground off a face than this share of its least size. */
const MOST_SHARE = 0.25;
/** Points asked to learn what was ground off. */
const POINTS = 1024;

/** Sides of a piece that others lie against. */
function facesOf({ outline }: LoosePiece, others: readonly LoosePiece[]): Side[] {
  const own = boundingBox(outline);
  const beside = (b: Box) => Math.min(own.maxY, b.maxY) - Math.max(own.minY, b.minY) > MEETS_MM;
  const above = (b: Box) => Math.min(own.maxX, b.maxX) - Math.max(own.minX, b.minX) > MEETS_MM;
  const near = (a: number, b: number) => Math.abs(a - b) < MEETS_MM;
  const boxes = others.map((o) => boundingBox(o.outline));
  const has: Record<Side, boolean> = {
    left: boxes.some((b) => near(b.maxX, own.minX) && beside(b)),
    right: boxes.some((b) => near(b.minX, own.maxX) && beside(b)),
    bottom: boxes.some((b) => near(b.maxY, own.minY) && above(b)),
    top: boxes.some((b) => near(b.minY, own.maxY) && above(b)),
  };
  return (Object.keys(has) as Side[]).filter((side) => has[side]);
}

const IN_BETWEEN: readonly (readonly [Side, Side])[] = [
  ['left', 'right'],
  ['bottom', 'top'],
];

/** Which way it is pushed home: −1 to the left or down, +1 to the right or up, 0 where nothing is met that way. */
const towards = (faces: readonly Side[], [low, high]: readonly [Side, Side]): number =>
  faces.includes(low) ? -1 : faces.includes(high) ? 1 : 0;

interface Along {
  readonly bed: [number, number];
  readonly now: [number, number];
}

/** Where a piece lay, what is taken off for it out to the edge of the section, and where it comes to lie. */
function placed({ groundMm }: P, bar: Billet, { outline }: LoosePiece, faces: readonly Side[]) {
  const was = boundingBox(outline);
  const all = boundingBox(bar.outline);
  const [dx, dy] = [towards(faces, IN_BETWEEN[0]), towards(faces, IN_BETWEEN[1])];
  const g = groundMm;
  const along = (d: number, low: number, high: number, least: number, most: number): Along =>
    d < 0
      ? { bed: [low - g, most], now: [low - g, high - 2 * g] }
      : d > 0
        ? { bed: [least, high + g], now: [low + 2 * g, high + g] }
        : { bed: [least, most], now: [low, high] };
  const x = along(dx, was.minX, was.maxX, all.minX, all.maxX);
  const y = along(dy, was.minY, was.maxY, all.minY, all.maxY);
  const box = (a: [number, number], b: [number, number]): Box => ({
    minX: a[0],
    maxX: a[1],
    minY: b[0],
    maxY: b[1],
  });
  return { was, bed: box(x.bed, y.bed), now: box(x.now, y.now), shift: [2 * g * dx, 2 * g * dy] as const };
}

const boxed = ({ minX, maxX, minY, maxY }: Box): Outline =>
  moveOutline(rectangle(maxX - minX, maxY - minY), (minX + maxX) / 2, (minY + maxY) / 2);

const holds = (b: Box, x: number, y: number): boolean => x > b.minX && x < b.maxX && y > b.minY && y < b.maxY;

/** Pieces that have a name of their own: steel that was bought for the seams is laid anew instead. */
export const namedPieces = (bar: Billet): readonly LoosePiece[] =>
  (piecesOf(bar)?.each ?? [])
    .filter((one) => !one.bought)
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));

/** The pieces as they lie, the one that is meant among them, and what it meets. */
function found(bar: Billet, p: Pick<P, 'piece'>) {
  const each = piecesOf(bar)?.each ?? [];
  const piece = namedPieces(bar).find((one) => one.name === p.piece);
  const others = each.filter((one) => one !== piece);
  return { each, piece, others, faces: piece ? facesOf(piece, others) : [] };
}

/** Pieces that can have slid off: nothing holds them on both sides. */
const looseOnes = (bar: Billet): LoosePiece[] =>
  namedPieces(bar).filter((piece) => {
    const { faces } = found(bar, { piece: piece.name });
    return faces.length > 0 && !IN_BETWEEN.some((both) => both.every((side) => faces.includes(side)));
  });

export const putBack = defineMove({
  kind: 'putBack',
  title: 'Put a piece back',
  hint: 'one that slid off before it was welded: ground bright, pushed home',
  group: 'Lay together',
  begins: false,
  parameters,
  begin(before): P {
    const can = before.length === 1 ? looseOnes(before[0]) : [];
    return { piece: can.at(-1)?.name ?? '1', groundMm: 0.5 };
  },
  check(before, p, shop) {
    const missing = needsOneBar(before);
    if (missing.length > 0) return missing;
    const [bar] = before;
    const { each, piece, faces } = found(bar, p);
    if (piecesOf(bar)?.seen !== 'from the end' || each.length < 2)
      return [
        error(
          'nothing loose',
          'Nothing lies together loosely here: this stands between an arrangement and its weld. A piece that came off a welded bar is laid to it anew.',
        ),
      ];
    if (namedPieces(bar).length === 0)
      return [
        error(
          'nothing loose',
          'All that lies here is as it was bought: what slid off is laid anew, not put back.',
        ),
      ];
    if (!each.every(isUpright))
      return [
        error(
          'no square pieces',
          'Pieces with slanting faces fit nowhere but where they lay: lay them anew, as much smaller as was ground off.',
        ),
      ];
    const can = looseOnes(bar);
    const take = (name: string) => ({ label: `Piece ${name}`, set: { piece: name } });
    if (!piece)
      return [
        error(
          'no such piece',
          `No piece here is called ${p.piece}: there are ${list(namedPieces(bar).map((o) => o.name))}.`,
          {
            parameter: 'piece',
            ...(can.length > 0 && { remedy: take(can[0].name) }),
          },
        ),
      ];
    if (!can.includes(piece))
      return [
        error(
          'held on both sides',
          `Piece ${piece.name} lies between others: it cannot slide off, only one at the outside can.`,
          { parameter: 'piece', ...(can.length > 0 && { remedy: take(can[0].name) }) },
        ),
      ];
    return checkDepth(p, each, faces, shop);
  },
  apply(before, p, shop) {
    const [bar] = before;
    const { piece, others, faces } = found(bar, p);
    const { was, bed, now, shift } = placed(p, bar, piece!, faces);
    const bedRegion: Region = [boxed(bed)];
    const whole = joined(without([bar.outline], bedRegion), [boxed(now)]);
    const outline = cornersAlone(whole[0] as Outline);
    const ground = (x: number, y: number): boolean =>
      holds(was, x, y) ? !holds(moved(now, -shift[0], -shift[1]), x, y) : true;
    const { billet, lost } = cutTo(bar, outline, shop, (points) => {
      let count = 0;
      for (let i = 0; i < POINTS; i++) {
        const x = bed.minX + (bed.maxX - bed.minX) * scattered(i, 0);
        const y = bed.minY + (bed.maxY - bed.minY) * scattered(i, 1);
        if (!contains(bar.outline, x, y) || !ground(x, y)) continue;
        points.x[count] = x;
        points.y[count] = y;
        points.z[count++] = bar.lengthMm * scattered(i, 2);
      }
      return count;
    });
    const box = boundingBox(outline);
    const [tx, ty] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
    const left = others.map((o): LoosePiece => ({
      ...o,
      outline: without([o.outline], bedRegion)[0] as Outline,
    }));
    const after: Billet = {
      ...billet,
      field: new PutBackField(bar.field, now, shift, { ...SAME_PLACE, tx, ty }),
      laid: {
        seen: 'from the end',
        each: [...left, { ...piece!, outline: boxed(now) }].map((o) => ({
          ...o,
          outline: moveOutline(o.outline, -tx, -ty),
        })),
      },
    };
    return { after: [after], losses: [{ cause: 'grinding', volumes: lost }], added: {} };
  },
  does([bar], p) {
    const { piece, faces } = found(bar, p);
    const own = boundingBox(piece!.outline);
    const all = boundingBox(bar.outline);
    return [
      {
        do: 'put back',
        piece: p.piece,
        fromMm: [own.minX - all.minX, own.minY - all.minY],
        sizesMm: [own.maxX - own.minX, own.maxY - own.minY],
        faces,
        offMm: p.groundMm,
      },
    ];
  },
});

/** Without points on a straight side. */
const cornersAlone = (outline: Outline): Outline =>
  outline.filter((_, i) => Math.abs(turnAt(outline, i)) > MEETS_MM);

/** All its sides level or upright: the one that is put back is then a rectangle, for nothing was ground off it but by this. */
const isUpright = ({ outline }: LoosePiece): boolean =>
  outline.every(([x, y], i) => {
    const [x1, y1] = outline[(i + 1) % outline.length];
    return Math.abs(x1 - x) < MEETS_MM || Math.abs(y1 - y) < MEETS_MM;
  });

const moved = ({ minX, maxX, minY, maxY }: Box, x: number, y: number): Box => ({
  minX: minX + x,
  maxX: maxX + x,
  minY: minY + y,
  maxY: maxY + y,
});

function checkDepth(p: P, each: readonly LoosePiece[], faces: readonly Side[], shop: Shop): Finding[] {
  const least = Math.min(
    ...each.flatMap(({ outline }) => {
      const b = boundingBox(outline);
      return [b.maxX - b.minX, b.maxY - b.minY];
    }),
  );
  const most = MOST_SHARE * least;
  const less = Math.floor(100 * most) / 100;
  if (p.groundMm > most)
    return [
      error(
        'ground through',
        `${formatFine(p.groundMm, shop.lengths)} off each face goes too deep: at most ${formatFine(most, shop.lengths)}.`,
        {
          parameter: 'groundMm',
          ...(less >= LEAST_GROUND_MM && {
            remedy: { label: `Only ${formatFine(less, shop.lengths)}`, set: { groundMm: less } },
          }),
        },
      ),
    ];
  return [
    note(
      'stands back',
      `Its outer ${faces.length > 1 ? 'faces stand' : 'face stands'} ${formatFine(2 * p.groundMm, shop.lengths)} behind the others then; drawing and squaring take that out, and the picture moves with it.`,
    ),
    CAUTIONS.grinder(),
  ];
}
