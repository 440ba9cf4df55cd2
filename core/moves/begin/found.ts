import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { DottedField } from '../../billet/fields/dotted.ts';
import { SolidField } from '../../billet/fields/layers.ts';
import { rectangle } from '../../geometry/outline.ts';
import { type DotsKept, MOST_STEELS, bandsOf, countsOf, dotsOf, dotsSchema } from '../../picture/runs.ts';
import { materialCode } from '../../shop/shop.ts';
import { MOST_LENGTH_MM, MOST_SECTION_MM, lengthMm, materialId } from '../../units/quantities.ts';
import { freeLength, needsMaterials, note, steelCautions } from '../contract/common.ts';
import { defineMove } from '../contract/move.ts';

/**
 * A bar that is there already, bought, found or left over: its sizes, the steels in it, and its end as dots of these, seen on end B;
 * without dots it is of the first steel throughout. Lengths mm.
 */
const parameters = z
  .strictObject({
    widthMm: lengthMm('Width', MOST_SECTION_MM, { fine: true }),
    heightMm: lengthMm('Height', MOST_SECTION_MM, { fine: true }),
    lengthMm: lengthMm('Length'),
    steels: z
      .array(materialId('Steel'))
      .min(1, 'A bar is of one steel at least')
      .max(MOST_STEELS, `At most ${MOST_STEELS} steels are told apart`),
    dots: dotsSchema.optional(),
  })
  .refine(({ steels, dots }) => !dots || countsOf(dots).every((n, k) => n === 0 || k < steels.length), {
    error: 'The picture has more tones than there are steels',
    path: ['dots'],
  });

export type FoundParameters = z.infer<typeof parameters>;

/** Less of a steel than this is not looked at for the finest band, of the section. */
const LEAST_SHARE = 0.01;

/** The thinnest of the bands of its steels, mm. */
function bandMm(dots: DotsKept, widthMm: number, heightMm: number): number {
  const counts = countsOf(dots);
  const all = dots.side ** 2;
  const wide = bandsOf(dots).filter((_, k) => counts[k] > LEAST_SHARE * all);
  const dotMm = Math.sqrt(widthMm * heightMm) / dots.side;
  return Math.min(widthMm, heightMm, ...wide.map((n) => n * dotMm));
}

export const found = defineMove({
  kind: 'found',
  title: 'A bar that is there',
  short: 'Bar there',
  hint: 'begin with a bar that was bought, found or left over; its end photographed',
  group: 'Begin',
  begins: true,
  parameters,
  begin: (): FoundParameters => ({ widthMm: 25, heightMm: 25, lengthMm: 200, steels: ['1084', '15n20'] }),
  check(_before, p, shop) {
    const missing = needsMaterials(p.steels, shop, 'steels');
    if (missing.length > 0) return missing;
    return [
      p.dots
        ? note(
            'as photographed',
            'What lies inside is taken to be as its end shows: look at the other end, and at a cut in the middle.',
          )
        : note('one steel', 'Without a photograph of its end it is taken to be of one steel throughout.'),
      ...steelCautions(p.steels),
    ];
  },
  apply(_before, p, shop) {
    const { widthMm, heightMm, dots, steels } = p;
    const volume = widthMm * heightMm * p.lengthMm;
    const codes = steels.map((id) => materialCode(shop, id));
    const volumes: Record<string, number> = {};
    const counts = dots ? countsOf(dots) : [1];
    const all = counts.reduce((a, b) => a + b, 0);
    counts.forEach((n, k) => {
      if (n > 0) volumes[steels[k]] = (volumes[steels[k]] ?? 0) + (volume * n) / all;
    });
    const billet = {
      outline: rectangle(widthMm, heightMm),
      lengthMm: p.lengthMm,
      field: dots
        ? new DottedField(
            dots.side,
            dotsOf(dots).map((k) => codes[k]),
            widthMm,
            heightMm,
          )
        : new SolidField(codes[0]),
      volumes,
      loose: false,
      bandMm: dots ? bandMm(dots, widthMm, heightMm) : Math.min(widthMm, heightMm),
      piece: null,
      jacket: null,
    };
    return { after: [billet], losses: [], added: volumes };
  },
  free: [freeLength<FoundParameters>(MOST_LENGTH_MM)],
  exchanged: (p, from, to) => ({ steels: p.steels.map((id) => (id === from ? to : id)) }),
  does: () => care('a bar that is there', 'top marked'),
});
