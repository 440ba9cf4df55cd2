import { z } from 'zod';
import {
  MOST_SECTION_MM,
  choice,
  count,
  lengthMm,
  lengthWithinMm,
  materialId,
  share,
  weightKg,
} from '../units/quantities.ts';

/** How the picture comes to the side of the bar. */
export const SIDES = {
  slanted: 'Slanted tiles',
  straight: 'Straight tiles',
  accordion: 'Accordion',
  upset: 'Upset on end',
  along: 'Left along the bar',
} as const;
export type Side = keyof typeof SIDES;

/** So much more steel than was reckoned is begun with where nobody says otherwise (common practice, no source). */
const USUAL_SPARE = 0.1;

/**
 * What a maker wishes for beside the bar itself, all of which may be left open: one element on the finished face along and
 * across (mm), the steels and how thick they are at hand (mm), what the shop can do, how much steel (kg) and how many rounds at most,
 * and how much more steel than was reckoned, to be sure.
 */
export const wishSchema = z.strictObject({
  alongMm: lengthWithinMm('Along the blade', 2, 400).optional(),
  acrossMm: lengthWithinMm('Across it', 2, MOST_SECTION_MM).optional(),
  toldApart: z.boolean().default(true),
  dark: materialId('Dark steel').default('1084'),
  bright: materialId('Bright steel').default('15n20'),
  darkMm: lengthMm('Dark, thick', 60, { fine: true }).optional(),
  brightMm: lengthMm('Bright, thick', 60, { fine: true }).optional(),
  sides: z.array(choice('To the side by', SIDES)).min(1, 'At least one way to the side').optional(),
  hasSaw: z.boolean().default(true),
  hasPress: z.boolean().default(true),
  hasPowder: z.boolean().default(true),
  longestMm: lengthWithinMm('Longest bar', 100, 5000).optional(),
  mostKg: weightKg('Steel', 0.05, 500).optional(),
  mostRounds: count('Times laid', 0, 6).optional(),
  spareShare: share('Steel to spare', 0, 0.5, {
    hint: 'more to begin with, and the bar drawn a little wider',
  }).default(USUAL_SPARE),
});

export type Wish = z.infer<typeof wishSchema>;
