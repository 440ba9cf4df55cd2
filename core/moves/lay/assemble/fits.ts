import { type Billet, atPlace, pieceName } from '../../../billet/billet.ts';
import { list } from '../../../instruct/said.ts';
import { orientationNamed } from '../../../geometry/orientation.ts';
import { wedgeOf } from '../../../geometry/shapes.ts';
import { type Shop } from '../../../shop/shop.ts';
import { formatFine, formatLength } from '../../../units/length.ts';
import { error, note, plural, warning } from '../../contract/common.ts';
import { type Finding } from '../../contract/move.ts';
import { FIT_MM, LENGTH_MM, type Laid, type P, gridSizes, isOwn, gridPlacesOf } from './laid.ts';
import { pointedBase } from './wedges.ts';

export function checkPlaces(before: readonly Billet[], p: P): Finding[] {
  const wanted = p.columns * p.rows;
  const places = gridPlacesOf(p);
  const findings: Finding[] = [];
  if (places.length !== wanted)
    findings.push(
      error(
        'places',
        `The layout says how ${plural(places.length, 'piece')} lie; ${p.columns} × ${p.rows} needs ${wanted}.`,
        { parameter: 'places' },
      ),
    );
  const there = before.filter(isOwn);
  const own = there.length;
  const asked = places.filter((place) => place.lane === undefined).map((l) => l.piece);
  const highest = Math.max(0, ...asked);
  const missing = asked.filter((piece) => !atPlace(there, piece));
  if (missing.length > 0 && there.some((bar) => bar.piece?.place !== undefined))
    findings.push(
      error(
        'piece gone',
        `${p.columns} × ${p.rows} lays piece ${list(missing.map(String))}, which is scrapped: ${plural(own, 'piece')} left. Lay fewer, or a piece of another bar in its place.`,
        { parameter: 'places' },
      ),
    );
  else if (missing.length > 0)
    findings.push(
      error(
        'too few',
        `${p.columns} × ${p.rows} takes ${wanted} pieces and there ${own === 1 ? 'is' : 'are'} ${own}: cut ${highest} pieces, or lay fewer.`,
        {
          parameter: 'columns',
          remedy: own === 1 ? { label: 'Cut first', insertBefore: 'cut' } : undefined,
        },
      ),
    );
  const keys = places.map((place) => `${place.lane ?? ''}\n${place.piece}`);
  const twice = keys.findIndex((key, i) => keys.indexOf(key) !== i);
  if (twice >= 0)
    findings.push(
      error('twice', `Piece ${places[twice].piece} lies in two places.`, { parameter: 'places' }),
    );
  return findings;
}

/** Share of a piece's side that grinding may take before another way is asked for. */
const MOST_GROUND = 0.25;

export function checkFit(laid: Laid[], p: P, shop: Shop): Finding[] {
  return p.layout === 'brick' ? checkBricks(laid, p, shop) : checkGround(laid, shop);
}

const fineSize = (w: number, h: number, shop: Shop) =>
  `${formatFine(w, shop.lengths)} × ${formatFine(h, shop.lengths)}`;

/** Pieces that must be ground to lie beside the others: said where that is little, refused where it is much. */
function checkGround(laid: Laid[], shop: Shop): Finding[] {
  const over = laid.filter((l) => l.offWidthMm > FIT_MM || l.offHeightMm > FIT_MM);
  if (over.length === 0) return [];
  const share = (l: Laid) =>
    Math.max(l.offWidthMm / (l.widthMm + l.offWidthMm), l.offHeightMm / (l.heightMm + l.offHeightMm));
  const l = over.reduce((a, b) => (share(b) > share(a) ? b : a));
  const name = pieceName(l.billet);
  const is = fineSize(l.widthMm + l.offWidthMm, l.heightMm + l.offHeightMm, shop);
  const room = fineSize(l.widthMm, l.heightMm, shop);
  const gap = formatFine(Math.max(l.offWidthMm, l.offHeightMm), shop.lengths);
  if (share(l) > MOST_GROUND)
    return [
      error(
        'misfit',
        `Piece ${name} lies ${is} where the others leave ${room}: turned a quarter or of unlike size, it leaves a gap of ${gap}. Draw it to the same size (an oblong piece lies only as it is or half turned).`,
        { parameter: 'layout' },
      ),
    ];
  return [
    warning(
      'fit',
      `${over.length === 1 ? `Piece ${name} is` : `Pieces ${over.map((o) => pieceName(o.billet)).join(', ')} are`} up to ${gap} larger than what lies beside: ground to ${over.length === 1 ? room : 'the smallest'}, half off each side, it fits. The picture and the instructions have it so.`,
      { parameter: 'layout' },
    ),
  ];
}

function checkBricks(laid: Laid[], p: P, shop: Shop): Finding[] {
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const misfit = laid.findIndex(
    (l, i) =>
      widths[i % p.columns] - l.widthMm > FIT_MM || heights[Math.floor(i / p.columns)] - l.heightMm > FIT_MM,
  );
  if (misfit < 0) return [];
  const l = laid[misfit];
  const room = [widths[misfit % p.columns], heights[Math.floor(misfit / p.columns)]];
  return [
    error(
      'misfit',
      `Piece ${pieceName(l.billet)} lies ${fineSize(l.widthMm, l.heightMm, shop)} in a place of ${fineSize(room[0], room[1], shop)}: bricks must be of one size. Draw or grind it to the same.`,
      { parameter: 'layout' },
    ),
  ];
}

export function checkWedges(laid: Laid[], p: P, shop: Shop): Finding[] {
  if (laid.length !== 4)
    return [
      error('wedges', 'Wedges are laid four together, points to the middle: 2 × 2.', {
        parameter: 'columns',
        remedy: { label: '2 × 2', set: { columns: 2, rows: 2 } },
      }),
    ];
  const wedges = laid.map(({ billet }) => wedgeOf(billet.outline)!);
  const open = wedges.findIndex((w) => Math.abs(pointedBase(w) - 2 * w.deepMm) > 2 * FIT_MM);
  if (open >= 0)
    return [
      error('apex', `Piece ${pieceName(laid[open].billet)} has no 90° point: four of them leave a gap.`),
    ];
  const sides = wedges.map(pointedBase);
  if (Math.max(...sides) - Math.min(...sides) > FIT_MM)
    return [
      error(
        'unlike wedges',
        `The wedges are from ${formatFine(Math.min(...sides), shop.lengths)} to ${formatFine(Math.max(...sides), shop.lengths)} across: four of one size make a square. Grind the larger ones down.`,
        { parameter: 'layout' },
      ),
    ];
  if (p.strips && p.strips.where !== 'cross')
    return [
      error('strips', 'Between wedges strips lie as a cross from corner to corner.', {
        parameter: 'strips',
        remedy: { label: 'A cross', set: { strips: { ...p.strips, where: 'cross' } } },
      }),
    ];
  const turned = laid.find(({ place }) => orientationNamed(place.orientation).turns !== 0);
  const blunt = wedges.find((w) => w.bluntMm > 0);
  if (!turned && blunt)
    return [
      note(
        'blunt',
        `The wedges are blunt, ${formatFine(blunt.bluntMm, shop.lengths)} across: their flanks are ground until they meet in an edge.`,
      ),
    ];
  return turned
    ? [
        error('turned', 'A wedge goes in as it lies or rolled left–right; turned, its point looks outward.', {
          parameter: 'layout',
          remedy: { label: 'All alike', set: { layout: 'alike', places: undefined } },
        }),
      ]
    : [];
}

/** What is used of the lane's own pieces, by place in `before`. */
export const spareOf = (before: readonly Billet[], laid: Laid[]): Billet[] => {
  const used = new Set(laid.map((l) => l.billet));
  return before.filter((b) => isOwn(b) && !used.has(b));
};

export function lengthNote(laid: Laid[], shop: Shop): Finding[] {
  const lengths = laid.map((l) => l.billet.lengthMm);
  const over = Math.max(...lengths) - Math.min(...lengths);
  return over > LENGTH_MM
    ? [
        warning(
          'unequal length',
          `The pieces differ by ${formatLength(over, shop.lengths)} in length; the longer ones are trimmed to ${formatLength(Math.min(...lengths), shop.lengths)}.`,
        ),
      ]
    : [];
}
