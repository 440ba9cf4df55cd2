import { type EventAttributes, createEvents } from 'ics';
import { type BoardDay, wallClock } from '../../../../core/days/index.ts';

/** What a task is called, and whose hands are at it. */
type Named = (task: string) => string;

/** The board as iCalendar (RFC 5545), in the shop's own clock: an event for each row that wants hands or the kiln. Throws what the library refuses. */
export function daysIcs(board: readonly BoardDay[], named: Named): string {
  const events = board.flatMap(({ day, rows }) =>
    rows
      .filter((row) => row.what !== 'cool' && row.what !== 'lies')
      .map((row): EventAttributes => ({
        uid: `${row.task.replaceAll(' ', '-')}-${day}-${row.what}@retablo`,
        title: named(row.task),
        start: wallClock(row.fromS),
        end: wallClock(Math.max(row.toS, row.fromS + 60)),
        startInputType: 'local',
        startOutputType: 'local',
        endInputType: 'local',
        endOutputType: 'local',
        ...(row.what === 'kiln' && { description: 'In the kiln, by itself', busyStatus: 'FREE' as const }),
      })),
  );
  const { error, value } = createEvents(events, { productId: 'retablo', calName: 'Retablo' });
  if (error || !value) throw new Error(`The calendar could not be written: ${error?.message}`);
  return value;
}
