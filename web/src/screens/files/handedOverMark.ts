import { MOST_MARK } from '../../../../core/plan/index.ts';

/** How the revision is called that was handed over; after the name that it has already, where there is room for both. */
export function handedOverMark(to: string, named: string | null = null): string {
  const mark = `handed over to ${to}`;
  const both = named && !named.endsWith(mark) ? `${named}, ${mark}` : mark;
  return both.length <= MOST_MARK ? both : named!;
}
