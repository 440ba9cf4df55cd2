import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { exactLength } from '../units/length.ts';
import type { Units } from '../units/quantityText.ts';
import type { Action } from './action.ts';
import { stopsSaid } from './said.ts';
import { sayingsOf } from './words.ts';

/** A line of an instruction as it is followed at the bench, to be ticked: where it is one stop of several, its block is `big`. */
export interface BenchLine {
  /** What it says, whatever units it is said in: a tick belongs to it, and to no other line that stands there when the plan has changed. */
  readonly mark: string;
  readonly text: string;
  readonly big?: string;
  /** Says what the lines after it are for; not ticked by itself. */
  readonly heads?: boolean;
}

type Unmarked = Omit<BenchLine, 'mark'> & { readonly says: string };

const SIDE = { height: 'lying flat', width: 'on edge' } as const;

/** The stop blocks of an action in turn; none again that the shop's rule shows as the one before on that side. */
function stopsOf(action: Action, { lengths }: Units): Unmarked[] {
  const say = (mm: number, text: string): Unmarked => ({
    big: exactLength(mm, lengths),
    text,
    says: `${text} ${mm.toFixed(2)}`,
  });
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

/** What marks are made from: everything said in one way. */
const ONE_WAY: Units = { lengths: { unit: 'mm', division: 0.1 }, masses: 'kg', temperatures: 'C' };

/** A mark for each line: short, another for other words, counted where the same is said again. */
function marked(lines: readonly Unmarked[]): BenchLine[] {
  const times = new Map<string, number>();
  return lines.map(({ says, ...line }) => {
    const nth = times.get(says) ?? 0;
    times.set(says, nth + 1);
    return { ...line, mark: `${bytesToHex(sha256(utf8ToBytes(says))).slice(0, 12)} ${nth}` };
  });
}

/** An instruction line by line, every stop block a line of its own. */
export function benchLines(actions: readonly Action[], units: Units): BenchLine[] {
  const inOneWay = sayingsOf(actions, ONE_WAY);
  return marked(
    sayingsOf(actions, units).flatMap(({ actions: together, said }, s): Unmarked[] => {
      const stops = stopsOf(together[0], units);
      const lines = said.flatMap((text, i): Unmarked[] =>
        // Each is a line of its own then.
        text === stopsAlone(together[0], units) ? [] : [{ text, says: inOneWay[s].said[i] ?? text }],
      );
      const [first, ...rest] = lines;
      return [...(first ? [stops.length > 0 ? { ...first, heads: true } : first] : []), ...stops, ...rest];
    }),
  );
}
