import { type Billet, pieceName, sizeOf } from '../../../billet/billet.ts';
import { orientationNamed } from '../../../geometry/orientation.ts';
import { type Shop } from '../../../shop/shop.ts';
import { formatFine, formatLength } from '../../../units/length.ts';
import { error, plural, warning } from '../../contract/common.ts';
import { type Finding } from '../../contract/move.ts';
import { FIT_MM, LENGTH_MM, type Laid, type P, gridSizes, isOwn, gridPlacesOf } from './laid.ts';

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
  const own = before.filter(isOwn).length;
  const highest = Math.max(0, ...places.filter((place) => place.lane === undefined).map((l) => l.piece));
  if (highest > own)
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

export function checkFit(laid: Laid[], p: P, shop: Shop): Finding[] {
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const misfit = laid.findIndex(
    (l, i) =>
      widths[i % p.columns] - l.widthMm > FIT_MM || heights[Math.floor(i / p.columns)] - l.heightMm > FIT_MM,
  );
  if (misfit < 0) return [];
  const l = laid[misfit];
  const size = (w: number, h: number) => `${formatFine(w, shop.lengths)} × ${formatFine(h, shop.lengths)}`;
  const room = [widths[misfit % p.columns], heights[Math.floor(misfit / p.columns)]];
  const gap = Math.max(room[0] - l.widthMm, room[1] - l.heightMm);
  return [
    error(
      'misfit',
      `Piece ${pieceName(l.billet)} lies ${size(l.widthMm, l.heightMm)} in a place of ${size(room[0], room[1])}: turned a quarter or of unlike size, it leaves a gap of ${formatFine(gap, shop.lengths)} beside the others. Draw or grind it to the same size (an oblong piece lies only as it is or half turned).`,
      { parameter: 'layout' },
    ),
  ];
}

export function checkWedges(laid: Laid[], p: P): Finding[] {
  if (laid.length !== 4)
    return [
      error('wedges', 'Wedges are laid four together, points to the middle: 2 × 2.', {
        parameter: 'columns',
        remedy: { label: '2 × 2', set: { columns: 2, rows: 2 } },
      }),
    ];
  const open = laid.find(({ billet }) => {
    const { widthMm, heightMm } = sizeOf(billet);
    return Math.abs(widthMm - 2 * heightMm) > 2 * FIT_MM;
  });
  if (open)
    return [error('apex', `Piece ${pieceName(open.billet)} has no 90° point: four of them leave a gap.`)];
  if (p.strips) return [error('strips', 'Strips cannot go between wedges.', { parameter: 'strips' })];
  const turned = laid.find(({ place }) => orientationNamed(place.orientation).turns !== 0);
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
