import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { choice, count, plainNumber } from '../../units/quantities.ts';
import { CAUTIONS, needsWelded, note, warning } from '../contract/common.ts';
import { type Finding, defineMove } from '../contract/move.ts';

const FOR = { check: 'A look: a short dip', finish: 'The finish: deep and even' } as const;

/** What it is for; water to one part of concentrate; how often and how long, and hours in coffee after. */
const parameters = z.strictObject({
  purpose: choice('For', FOR),
  partsWater: plainNumber('Water to 1 part', 0.5, 10, 'parts', 'Concentrate goes into the water'),
  dips: count('Dips', 1, 20),
  minutesEach: plainNumber('Each dip', 0.1, 240, 'min'),
  coffeeH: plainNumber('Coffee after', 0, 48, 'h'),
});

type P = z.infer<typeof parameters>;

/** Minutes of a mixture of 1 to 1 that do as much: taken as in proportion to the strength (a rule of thumb, no source). */
const strongMin = ({ partsWater, dips, minutesEach }: P): number =>
  (dips * minutesEach * 2) / (1 + partsWater);

/** At 1 : 1 some 20 min; repeated dips of weaker mixtures come to an hour or two (common practice, no source). */
const LITTLE_MIN = 6;
const DEEP_MIN = 60;
/** A weaker mixture than this etches well, but slowly; a stronger one is hard to stop. */
const STRONG_PARTS = 1.5;

function strength(p: P): Finding[] {
  const min = strongMin(p);
  if (min > DEEP_MIN)
    return [
      warning(
        'etched deep',
        `That is as much as ${Math.round(min)} min of a mixture of 1 to 1: it eats deep, a millimetre is possible. Look after every dip.`,
        { parameter: 'dips' },
      ),
    ];
  if (p.purpose === 'finish' && min < LITTLE_MIN)
    return [
      warning('etched little', 'That is a look and no finish: the relief stays too shallow to be felt.', {
        parameter: 'minutesEach',
      }),
    ];
  return [];
}

export const etch = defineMove({
  kind: 'etch',
  title: 'Etch',
  hint: 'a check-etch to look and decide, or the finish',
  group: 'Between the heats',
  begins: false,
  onBlank: true,
  parameters,
  begin: (before): P =>
    before.some((b) => b.blank)
      ? { purpose: 'finish', partsWater: 3, dips: 5, minutesEach: 15, coffeeH: 4 }
      : { purpose: 'check', partsWater: 1, dips: 1, minutesEach: 2, coffeeH: 0 },
  check(before, p) {
    const missing = needsWelded(before);
    if (missing.length > 0) return missing;
    return [
      ...strength(p),
      note(
        'mixture',
        p.partsWater <= STRONG_PARTS
          ? 'A strong mixture is quick and hard to stop, and leaves seconds to rinse an eye. With 3 to 3.5 parts of water it is slower, deeper and more even, and leaves half a minute.'
          : 'A weak mixture is slow and even: wipe the oxide off between the dips. Warm it etches faster; mild against carbon steel wants longer than nickel against carbon.',
        { parameter: 'partsWater' },
      ),
      CAUTIONS.etchant(),
    ];
  },
  apply: (before) => ({ after: before, losses: [], added: {} }),
  liesH: (p) => (p.dips * p.minutesEach) / 60 + p.coffeeH,
  does: (before, { purpose, partsWater, dips, minutesEach, coffeeH }) => [
    {
      do: 'etch',
      partsWater,
      dips,
      minutesEach,
      coffeeH,
      endsOnly: purpose === 'check' && !before.some((b) => b.blank),
    },
    ...(purpose === 'check' ? care('etch sanded off') : []),
  ],
});
