import { type LengthDisplay, exactLength } from '../units/length.ts';
import type { Units } from '../units/quantityText.ts';
import { OLD } from './action.ts';
import type { Stop } from './forgeAction.ts';

export type { Units };

/** What a sentence without a name is about: the bar, each of several pieces, or the few that were just named. */
export type Whole = 'the bar' | 'each piece' | 'this piece';

/** A sentence, or a few, for each kind of action. */
export type Sentences<A extends { readonly do: string }> = {
  [K in A['do']]: (action: Extract<A, { do: K }>, units: Units, whole: Whole) => string | readonly string[];
};

export const plural = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
export const list = (words: readonly string[]): string => words.join(', ');
export const begin = (words: string): string => words[0].toUpperCase() + words.slice(1);
export const named = (piece: string | undefined, whole: Whole): string =>
  piece === undefined
    ? whole
    : piece.startsWith(OLD)
      ? `what was piece ${piece.slice(OLD.length)}`
      : `piece ${piece}`;
export const inHeats = (heats: number): string => (heats === 0 ? '' : ` in ${plural(heats, 'heat')}`);

/** Stop blocks in turn: which side is between the dies, and none again that the shop's rule shows as the one before on that side. */
export function stopsSaid(stops: readonly Stop[], lengths: LengthDisplay): string {
  const last = { height: '', width: '' };
  const said = stops.flatMap(({ pressed, stopMm }) => {
    const text = exactLength(stopMm, lengths);
    if (last[pressed] === text) return [];
    last[pressed] = text;
    return [`${text} ${pressed === 'height' ? 'lying flat' : 'on edge'}`];
  });
  return list(said);
}
