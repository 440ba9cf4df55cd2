import { DAY_S, type WallS, type Window } from './hours.ts';
import type { Days } from './schedule.ts';

/** What is done of a task on one day. */
export interface DayRow extends Window {
  readonly task: string;
  /** `work`: at the fire, the dies, the bench; the others go on by themselves. */
  readonly what: 'work' | 'kiln' | 'cool' | 'lies';
  /** Whose hands are at it, from 0. */
  readonly makers: readonly number[];
  readonly heats: number;
}

/** One day of the board, counted from 1970-01-01. */
export interface BoardDay {
  readonly day: number;
  readonly rows: readonly DayRow[];
}

/** The days as they are read: of each task what is done on a day is one row, in the order of the clock. What goes through a night is of the day it begins on. */
export function boardOf({ slots }: Days): BoardDay[] {
  const rows = new Map<string, DayRow & { day: number }>();
  for (const { task, what, fromS, toS, maker } of slots) {
    const day = Math.floor(fromS / DAY_S);
    const kind = what === 'kiln' || what === 'cool' || what === 'lies' ? what : 'work';
    const key = `${day} ${kind} ${task}`;
    const known = rows.get(key);
    const makers = [...new Set([...(known?.makers ?? []), ...(maker === null ? [] : [maker])])].sort();
    rows.set(key, {
      day,
      task,
      what: kind,
      fromS: Math.min(fromS, known?.fromS ?? Infinity),
      toS: Math.max(toS, known?.toS ?? -Infinity),
      makers,
      heats: (known?.heats ?? 0) + (what === 'dies' ? 1 : 0),
    });
  }
  const days = new Map<number, DayRow[]>();
  for (const { day, ...row } of rows.values()) days.set(day, [...(days.get(day) ?? []), row]);
  return [...days]
    .map(([day, own]) => ({ day, rows: own.sort((a, b) => a.fromS - b.fromS || a.toS - b.toS) }))
    .sort((a, b) => a.day - b.day);
}

/** Year, month from 1, day, hour, minute of the shop's clock. */
export function wallClock(
  s: WallS,
): [year: number, month: number, day: number, hour: number, minute: number] {
  const at = new Date(Math.round(s / 60) * 60_000);
  return [at.getUTCFullYear(), at.getUTCMonth() + 1, at.getUTCDate(), at.getUTCHours(), at.getUTCMinutes()];
}
