import { exactLength } from '../units/length.ts';
import type { Units } from '../units/quantityText.ts';
import type { Action } from './action.ts';
import { stopsSaid } from './said.ts';
import { sayingsOf } from './words.ts';

/** A line of an instruction as it is followed at the bench, to be ticked: where it is one stop of several, its block is `big`. */
export interface BenchLine {
  readonly text: string;
  readonly big?: string;
  /** Says what the lines after it are for; not ticked by itself. */
  readonly heads?: boolean;
}

const SIDE = { height: 'lying flat', width: 'on edge' } as const;

/** The stop blocks of an action in turn; none again that the shop's rule shows as the one before on that side. */
function stopsOf(action: Action, { lengths }: Units): BenchLine[] {
  const say = (mm: number, text: string): BenchLine => ({ big: exactLength(mm, lengths), text });
  const all =
    action.do === 'draw' || action.do === 'press solid'
      ? action.passes.map(({ pressed, stopMm }) => say(stopMm, SIDE[pressed]))
      : action.do === 'press both ways'
        ? action.stopsMm.map((mm) => say(mm, 'both ways, corners first'))
        : [];
  const last = new Map<string, string>();
  return all.filter(({ big, text }) => {
    const again = last.get(text) === big;
    last.set(text, big!);
    return !again;
  });
}

const stopsAlone = (action: Action, { lengths }: Units): string | null =>
  action.do === 'draw' ? `Stop blocks in turn: ${stopsSaid(action.passes, lengths)}.` : null;

/** An instruction line by line, every stop block a line of its own. */
export const benchLines = (actions: readonly Action[], units: Units): BenchLine[] =>
  sayingsOf(actions, units).flatMap(({ actions: together, said }): BenchLine[] => {
    const stops = stopsOf(together[0], units);
    // Each is a line of its own then.
    const alone = said.filter((text) => text !== stopsAlone(together[0], units));
    const lines = alone.map((text, i) => ({ text, ...(i === 0 && stops.length > 0 && { heads: true }) }));
    return [...lines.slice(0, 1), ...stops, ...lines.slice(1)];
  });
