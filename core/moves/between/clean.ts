import { z } from 'zod';
import { SIDES } from '../../instruct/action.ts';
import { CLEANINGS } from '../../instruct/betweenAction.ts';
import { choice, plainNumber } from '../../units/quantities.ts';
import { CAUTIONS, needsOneBar, warning } from '../contract/common.ts';
import { defineMove } from '../contract/move.ts';

/** How scale or oil comes off, and how long it lies for that. Hours. */
const parameters = z.strictObject({
  how: choice('How', CLEANINGS),
  hours: plainNumber('Lies in it', 0, 72, 'h'),
});

type P = z.infer<typeof parameters>;

/** h. Vinegar is slow (common practice, no source). */
const OVERNIGHT_H = 8;
const isWet = ({ how }: P): boolean => how === 'vinegar' || how === 'pickled';

export const clean = defineMove({
  kind: 'clean',
  title: 'Clean',
  hint: 'scale off in vinegar or acid, oil off in a solvent',
  group: 'Between the heats',
  begins: false,
  onBlank: true,
  parameters,
  begin: (): P => ({ how: 'vinegar', hours: 12 }),
  bares: (p) => (p.how === 'solvent' ? [] : SIDES),
  check(before, p) {
    if (before.length === 0) return needsOneBar(before);
    return [
      ...(p.how === 'vinegar' && p.hours < OVERNIGHT_H
        ? [
            warning('scale stays', `Vinegar takes forge scale off overnight, not in ${p.hours} h.`, {
              parameter: 'hours',
              remedy: { label: 'Overnight', set: { hours: 12 } },
            }),
          ]
        : []),
      p.how === 'ground' ? CAUTIONS.grinder() : CAUTIONS.cleaning(),
    ];
  },
  apply: (before) => ({ after: before, losses: [], added: {} }),
  liesH: (p) => (isWet(p) ? p.hours : 0),
  does: (_before, { how, hours }) => [{ do: 'clean', how, hours }],
});
