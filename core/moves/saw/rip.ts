import { z } from 'zod';
import { splitSection } from '../../billet/split.ts';
import { type Billet, pieceName, sizeOf } from '../../billet/billet.ts';
import { type Outline, boundingBox, clipOutline, isConvex } from '../../geometry/outline.ts';
import { common } from '../../geometry/regions.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatFine, formatLength } from '../../units/length.ts';
import { CAUTIONS, error, needsWelded, note } from '../contract/common.ts';
import { MOST_SECTION_MM, choice, lengthOrNoneMm, signedMm } from '../../units/quantities.ts';
import { sawEach, sawnInto } from '../contract/each.ts';
import { defineMove } from '../contract/move.ts';

/** Saw lengthwise, upright (into left and right) or level (into bottom and top), so far off the centre line. mm. */
const parameters = z.strictObject({
  way: choice('Saw', { upright: 'Upright: left and right', level: 'Level: bottom and top' }),
  offCentreMm: signedMm('Off the centre line', MOST_SECTION_MM, {
    fine: true,
    hint: 'More than 0: towards the right, or the top',
  }),
  kerfMm: lengthOrNoneMm('Saw kerf', 10, { fine: true, shop: 'kerfMm' }).optional(),
});

type P = z.infer<typeof parameters>;

/** Where the two parts lie, left or bottom first; null where the saw would miss the bar. */
function halves(bar: Billet, p: P, shop: Shop): [Outline, Outline] | null {
  const { widthMm, heightMm } = sizeOf(bar);
  const half = (p.kerfMm ?? shop.kerfMm) / 2;
  const reach = (p.way === 'upright' ? widthMm : heightMm) / 2;
  const [low, high] = [p.offCentreMm - half, p.offCentreMm + half];
  if (low <= -reach || high >= reach) return null;
  const [nx, ny] = p.way === 'upright' ? [1, 0] : [0, 1];
  return [clipOutline(bar.outline, nx, ny, low), clipOutline(bar.outline, -nx, -ny, -high)];
}

/** Whether each side of the saw is one part. */
function leavesTwo(bar: Billet, p: P, shop: Shop): boolean {
  if (isConvex(bar.outline)) return true;
  const box = boundingBox(bar.outline);
  const half = (p.kerfMm ?? shop.kerfMm) / 2;
  const [low, high] = [p.offCentreMm - half, p.offCentreMm + half];
  const sides =
    p.way === 'upright'
      ? [
          { ...box, maxX: low },
          { ...box, minX: high },
        ]
      : [
          { ...box, maxY: low },
          { ...box, minY: high },
        ];
  return sides.every(({ minX, minY, maxX, maxY }) => {
    const side = [
      [minX, minY],
      [maxX, minY],
      [maxX, maxY],
      [minX, maxY],
    ] as const;
    return common([bar.outline], [side]).length <= 1;
  });
}

export const rip = defineMove({
  kind: 'rip',
  title: 'Rip lengthwise',
  short: 'Rip',
  hint: 'saw the bar, or every piece, into two along its length',
  group: 'Saw and grind',
  begins: false,
  wantsSoundEnds: true,
  parameters,
  begin: () => ({ way: 'upright' as const, offCentreMm: 0 }),
  check(before, p, shop) {
    const missing = needsWelded(before);
    if (missing.length > 0) return missing.slice(0, 1);
    if (!before.every((bar) => leavesTwo(bar, p, shop)))
      return [
        error(
          'hollow',
          'The section is hollow on a side: a saw there leaves more than two parts. Saw the other way, or press it square first.',
          { parameter: 'way', remedy: { label: 'Draw it square first', insertBefore: 'draw' } },
        ),
      ];
    const missed = before.find((bar) => !halves(bar, p, shop));
    const { widthMm, heightMm } = sizeOf(missed ?? before[0]);
    const across = p.way === 'upright' ? widthMm : heightMm;
    if (missed)
      return [
        error(
          'misses',
          `${missed.piece ? `Piece ${pieceName(missed)}` : 'The bar'} is ${formatLength(across, shop.lengths)} ${p.way === 'upright' ? 'wide' : 'high'}: a cut ${formatFine(Math.abs(p.offCentreMm), shop.lengths)} off its centre line leaves nothing on one side.`,
          { parameter: 'offCentreMm', remedy: { label: 'On the centre line', set: { offCentreMm: 0 } } },
        ),
      ];
    return [
      ...(p.offCentreMm === 0
        ? []
        : [
            note(
              'unequal',
              `The two parts differ by ${formatFine(2 * Math.abs(p.offCentreMm), shop.lengths)}.`,
            ),
          ]),
      CAUTIONS.saw(),
    ];
  },
  apply(before, p, shop) {
    const { pieces, lost } = sawnInto(before, (bar) => {
      const { parts, lost: kerf } = splitSection(bar, halves(bar, p, shop)!, shop);
      const { fromMm, toMm } = bar.piece ?? { fromMm: 0, toMm: bar.lengthMm };
      return { parts: parts.map((part) => ({ ...part, piece: { fromMm, toMm } })), lost: kerf };
    });
    return { after: pieces, losses: [{ cause: 'kerf' as const, volumes: lost }], added: {} };
  },
  splits: () => 2,
  bares: ({ way }, piece) =>
    way === 'upright' ? [piece % 2 === 1 ? 'right' : 'left'] : [piece % 2 === 1 ? 'top' : 'bottom'],
  does(before, p, shop) {
    const counted = p.way === 'upright' ? 'from the left' : 'from the bottom';
    return sawEach(before, 2, counted, (bar, names, piece) => {
      const { widthMm, heightMm } = sizeOf(bar);
      const across = p.way === 'upright' ? widthMm : heightMm;
      const kerfMm = p.kerfMm ?? shop.kerfMm;
      const nearMm = across / 2 + p.offCentreMm - kerfMm / 2;
      return {
        do: 'saw along',
        ...piece,
        way: p.way,
        nearMm,
        kerfMm,
        parts: [names[0], names[1]],
        sizesMm: [nearMm, across - nearMm - kerfMm],
      };
    });
  },
});
