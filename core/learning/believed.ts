import { group } from 'd3-array';
import { type Estimate, type Prior, estimated } from './estimate.ts';
import type { Evidence } from './evidence.ts';
import { type NumberId, NUMBER_IDS, tableFor } from './numbers.ts';

/** What is believed of one number of one set-up, handle, powder or kind of move. */
export interface Learned<E extends Evidence = Evidence> extends Estimate {
  readonly number: NumberId;
  readonly of: string;
  /** In time. */
  readonly evidence: readonly E[];
}

/** What is believed of a number; `isTable`: nothing of it was measured, and where a shop or plan says a value of its own, that stands in its place. */
export type Belief = (number: NumberId, of: string) => Prior & { readonly isTable?: boolean };

/** Everything that was learned, number by number in the order of the table, the most measured first. */
export function learnedFrom<E extends Evidence>(evidence: readonly E[]): Learned<E>[] {
  return NUMBER_IDS.flatMap((number) => {
    const by = group(
      evidence.filter((e) => e.number === number),
      (e) => e.of,
    );
    return [...by]
      .map(([of, own]) => ({
        number,
        of,
        evidence: own.toSorted((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0)),
        ...estimated(tableFor(number), own),
      }))
      .sort((a, b) => b.count - a.count);
  });
}

/** Beliefs from what was learned; with `times` the spreads are widened or narrowed, number by number. */
export function beliefFrom(
  learned: readonly Learned[],
  times: Partial<Record<NumberId, number>> = {},
): Belief {
  const by = new Map(learned.map((l) => [`${l.number}\n${l.of}`, l]));
  return (number, of) => {
    const known = by.get(`${number}\n${of}`);
    const { value, sure, spread } = known ?? tableFor(number);
    const wide = times[number] ?? 1;
    return { value, sure: sure * wide, spread: spread * wide, ...(!known && { isTable: true }) };
  };
}
