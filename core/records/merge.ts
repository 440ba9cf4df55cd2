import same from 'fast-deep-equal';
import { type BenchRecord, recordSchema } from './record.ts';

type Content = Readonly<Record<string, unknown>>;

const isContent = (value: unknown): value is Content =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Lists of a record whose entries have a name of their own. */
const NAMED_BY: Readonly<Record<string, string>> = { pieces: 'piece', pictures: 'id', timers: 'what' };

const nameOf = (entry: unknown, by: string | undefined): string =>
  isContent(entry) ? String(entry[by ?? '']) : String(entry);

/** A list as what has names: order is the first list's, what only the other has comes after. */
const byName = (list: readonly unknown[], by: string | undefined): Content =>
  Object.fromEntries(list.map((entry) => [` ${nameOf(entry, by)}`, entry]));

interface Both {
  readonly from: unknown;
  readonly mine: unknown;
  readonly theirs: unknown;
}

/** What was read of one photograph is taken whole: parts of two would be of neither. */
const WHOLE = new Set(['sighting', 'face']);

/** What was changed on one side only is taken from there; what was changed on both is taken part by part, and at last from `later`. */
function joined({ from, mine, theirs }: Both, later: 'mine' | 'theirs', field = ''): unknown {
  if (same(mine, from) || same(mine, theirs)) return theirs;
  if (same(theirs, from)) return mine;
  if (WHOLE.has(field)) return later === 'mine' ? mine : theirs;
  const parts = (a: Content, b: Content, c: Content): Content =>
    Object.fromEntries(
      [...new Set([...Object.keys(c), ...Object.keys(b)])].flatMap((key) => {
        const value = joined({ from: a[key], mine: b[key], theirs: c[key] }, later, key);
        return value === undefined ? [] : [[key, value]];
      }),
    );
  if (isContent(mine) && isContent(theirs)) return parts(isContent(from) ? from : {}, mine, theirs);
  if (Array.isArray(mine) && Array.isArray(theirs)) {
    const by = (list: readonly unknown[]) => byName(list, NAMED_BY[field]);
    return Object.values(parts(by(Array.isArray(from) ? from : []), by(mine), by(theirs)));
  }
  return later === 'mine' ? mine : theirs;
}

/**
 * One record that two wrote on from the same `from`: what each changed is in it, piece by piece and size by size; of what both
 * changed, what was written later. It counts as written after both.
 */
export function mergedRecord(from: BenchRecord, mine: BenchRecord, theirs: BenchRecord): BenchRecord {
  const later = mine.written >= theirs.written ? 'mine' : 'theirs';
  const written = new Date(Math.max(Date.parse(mine.written), Date.parse(theirs.written)) + 1).toISOString();
  const made = recordSchema.safeParse({
    ...(joined({ from, mine, theirs }, later) as Content),
    id: theirs.id,
    written,
  });
  // Together they may be more than a record holds.
  return made.success ? made.data : { ...(later === 'mine' ? mine : theirs), written };
}

/** What was written before `wrote` put back in its place, and whatever another wrote since left as it is; null where nothing is left. */
export function takenBack(
  before: BenchRecord | null,
  wrote: BenchRecord | null,
  now: BenchRecord | null,
): BenchRecord | null {
  if (!wrote || !now || same({ ...wrote, written: '' }, { ...now, written: '' })) return before;
  const { id, step, kind, began, written } = wrote;
  return mergedRecord(wrote, before ?? { id, step, kind, began, written }, now);
}
