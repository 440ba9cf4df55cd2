import { z } from 'zod';
import { turnedBar } from '../../billet/turned.ts';
import { orientationNamed } from '../../geometry/orientation.ts';
import { turnsTo } from '../../instruct/action.ts';
import { choice } from '../../units/quantities.ts';
import { needsWelded } from '../contract/common.ts';
import { eachPiece } from '../contract/each.ts';
import { defineMove } from '../contract/move.ts';

/** How it comes to lie, from as it lies, seen on the end in front. */
const parameters = z.strictObject({
  to: choice('Turn', {
    'turned 90°': 'A quarter, counter-clockwise',
    'turned 270°': 'A quarter, clockwise',
    'turned 180°': 'Half round',
    'rolled left–right': 'End for end, left to right',
    'rolled top–bottom': 'End for end, top to bottom',
    'rolled, turned 90°': 'End for end, then a quarter counter-clockwise',
    'rolled, turned 270°': 'End for end, then a quarter clockwise',
  }),
});

export const turn = defineMove({
  kind: 'turn',
  title: 'Turn the bar',
  short: 'Turn',
  hint: 'another face up, or the other end in front',
  group: 'Lay together',
  begins: false,
  parameters,
  begin: () => ({ to: 'turned 90°' as const }),
  check: (before) => needsWelded(before).slice(0, 1),
  apply: (before, { to }) => ({
    after: before.map((bar) => turnedBar(bar, orientationNamed(to))),
    losses: [],
    added: {},
  }),
  turns: ({ to }) => to,
  does: (before, { to }) =>
    eachPiece(before, () => [
      ...turnsTo(undefined, to),
      { do: 'mark as it lies', otherEnds: orientationNamed(to).rolled },
    ]),
});
