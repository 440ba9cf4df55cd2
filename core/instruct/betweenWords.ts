import { formatRate, formatTemperature } from '../units/temperature.ts';
import type { BetweenAction, Cleaning } from './betweenAction.ts';
import { type Sentences, plural } from './said.ts';

const hours = (h: number): string => plural(Number(h.toFixed(1)), 'hour');

const CLEANED: Record<Cleaning, (h: number) => readonly string[]> = {
  vinegar: (h) => [
    `Lay it in vinegar for ${hours(h)}, then brush the scale off and rinse; dry it at once, or it rusts.`,
  ],
  pickled: (h) => [
    `Lay it in the acid for ${hours(h)} at most and look at it often: out as soon as the scale lets go.`,
    'Brush and rinse, neutralise with soda in water, rinse again and dry.',
  ],
  ground: () => [
    'Grind or blast the scale off, no deeper than it goes. Scale ruins a ceramic belt: take an old one.',
  ],
  solvent: () => ['Wash the oil off in clean solvent, twice, and let it dry in the open.'],
};

export const BETWEEN_SENTENCES: Sentences<BetweenAction> = {
  kiln: ({ what, steel, legs }, { temperatures: t }) => [
    `${what}, by the program for ${steel}:`,
    ...legs.map(({ rateKPerH, targetC, holdMin, then }) => {
      const how = rateKPerH === null ? 'As fast as the kiln goes' : `At ${formatRate(rateKPerH, t)}`;
      const hold = holdMin > 0 ? `, hold ${holdMin} min` : '';
      return `${how} to ${formatTemperature(targetC, t)}${hold}${then ? `; then ${then}` : ''}.`;
    }),
  ],
  clean: ({ how, hours: h }) => CLEANED[how](h),
  etch: ({ partsWater, dips, minutesEach, coffeeH, endsOnly }) => [
    `${endsOnly ? 'Grind the ends fine and wash' : 'Wash'} the oil off, and wear clean gloves from here on: a fingerprint stays.`,
    `Ferric chloride, 1 part of concentrate into ${Number(partsWater.toFixed(1))} of water: ${dips === 1 ? `${minutesEach} min` : `${dips} dips of ${minutesEach} min, the oxide wiped off after each`}.`,
    'Neutralise in soda and water, rinse, dry, oil.',
    ...(coffeeH > 0
      ? [
          `Then in strong instant coffee, cold, for ${hours(coffeeH)}: it darkens the dark steel and leaves the bright. Rinse and oil.`,
        ]
      : []),
  ],
};
