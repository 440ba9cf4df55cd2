import { plural } from '../instruct/said.ts';
import type { Units } from '../units/quantityText.ts';
import { formatLength } from '../units/length.ts';
import type { Band, Forecast, StepBands } from './forecast.ts';

/** How a plan is run forward wherever nobody says otherwise: the same chances on screen and on paper. */
export const USUAL_RUNS = { seed: 1, count: 300 } as const;

/** Of a hundred runs how many reach the goal. */
export const inHundred = ({ reached, runs }: Pick<Forecast, 'reached' | 'runs'>): number =>
  Math.round((100 * reached) / runs);

/** “82 times in 100”. */
export const inHundredSaid = (forecast: Pick<Forecast, 'reached' | 'runs'>): string =>
  `${plural(inHundred(forecast), 'time')} in 100`;

/** “250.5 to 263.5 mm long”; nothing where both ends read the same. */
function bandSaid({ low, high }: Band, what: string, { lengths }: Units): string[] {
  const [from, to] = [formatLength(low, lengths), formatLength(high, lengths)];
  return from === to ? [] : [`${from} to ${to} ${what}`];
}

/** How sizes after a move may come, in a line; nothing where the shop's rule sees no difference. */
export function bandsSaid({ widthMm, heightMm, lengthMm }: StepBands, units: Units): string {
  const parts = [
    ...bandSaid(widthMm, 'wide', units),
    ...bandSaid(heightMm, 'high', units),
    ...bandSaid(lengthMm, 'long', units),
  ];
  return parts.length > 0 ? `Eight times in ten ${parts.join(', ')}.` : '';
}
