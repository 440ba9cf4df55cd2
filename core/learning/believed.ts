import { group } from 'd3-array';
import { type Estimate, type Prior, estimated } from './estimate.ts';
import type { Evidence } from './evidence.ts';
import { type NumberId, NUMBER_IDS, tableFor } from './numbers.ts';

/** What is believed of one number of one set-up, handle, powder or kind of move; with a `sort` of some of those moves alone. */
export interface Learned<E extends Evidence = Evidence> extends Estimate {
  readonly number: NumberId;
  readonly of: string;
  readonly sort?: string;
  /** Where it began. */
  readonly table: Prior;
  /** In time. */
  readonly evidence: readonly E[];
}

/** What is believed of a number; `isTable`: nothing of it was measured, and where a shop or plan says a value of its own, that stands in its place. */
export type Belief = (
  number: NumberId,
  of: string,
  sort?: string | null,
) => Prior & { readonly isTable?: boolean };

/** Sorts are told apart from so many measurements of each. */
const LEAST_OF_A_SORT = 3;

const inTime = <E extends Evidence>(evidence: readonly E[]): E[] =>
  evidence.toSorted((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));

/** One number from its own evidence. */
function learnedOf<E extends Evidence>(
  number: NumberId,
  of: string,
  all: readonly E[],
  sort?: string,
): Learned<E> {
  const evidence = inTime(all);
  const table = tableFor(number, of);
  return { number, of, ...(sort !== undefined && { sort }), table, evidence, ...estimated(table, evidence) };
}

/** The sorts of one number by themselves, where two or more were measured often enough. */
function bySort<E extends Evidence>({ number, of, evidence }: Learned<E>): Learned<E>[] {
  const sorts = [
    ...group(
      evidence.filter((e) => e.sort !== undefined),
      (e) => e.sort!,
    ),
  ].filter(([, own]) => own.length >= LEAST_OF_A_SORT);
  return sorts.length < 2
    ? []
    : sorts
        .map(([sort, own]) => learnedOf(number, of, own, sort))
        .sort((a, b) => (a.sort! < b.sort! ? -1 : 1));
}

/** Everything that was learned, number by number in the order of the table, the most measured first, each followed by its sorts. */
export function learnedFrom<E extends Evidence>(evidence: readonly E[]): Learned<E>[] {
  return NUMBER_IDS.flatMap((number) => {
    const by = group(
      evidence.filter((e) => e.number === number),
      (e) => e.of,
    );
    return [...by]
      .map(([of, own]) => learnedOf(number, of, own))
      .sort((a, b) => b.count - a.count)
      .flatMap((whole) => [whole, ...bySort(whole)]);
  });
}

const keyOf = (number: NumberId, of: string, sort?: string | null): string =>
  `${number}\n${of}\n${sort ?? ''}`;

/** What a number was learned to be, without what that rests on. */
export type Known = Prior & Pick<Learned, 'number' | 'of' | 'sort'>;

/** Beliefs from what was learned: of its own sort where that is known; with `times` the spreads are widened or narrowed, number by number. */
export function beliefFrom(learned: readonly Known[], times: Partial<Record<NumberId, number>> = {}): Belief {
  const by = new Map(learned.map((l) => [keyOf(l.number, l.of, l.sort), l]));
  return (number, of, sort) => {
    const known = by.get(keyOf(number, of, sort)) ?? by.get(keyOf(number, of));
    const { value, sure, spread } = known ?? tableFor(number, of);
    const wide = times[number] ?? 1;
    return { value, sure: sure * wide, spread: spread * wide, ...(!known && { isTable: true }) };
  };
}
