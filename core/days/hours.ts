import type { z } from 'zod';
import type { workSchema } from '../shop/shop.ts';

export type WorkHours = z.infer<typeof workSchema>;

/** Wall-clock seconds since 1970-01-01 00:00 of the shop's own clock: days of 86,400 s, no time zone. */
export type WallS = number;

export const DAY_S = 86_400;

/** A stretch of the wall clock. */
export interface Window {
  readonly fromS: WallS;
  readonly toS: WallS;
}

/** 1970-01-01 was a Thursday; 0 is Monday. */
const weekday = (day: number): number => (((day + 3) % 7) + 7) % 7;

const WORKS: Record<WorkHours['days'], (weekday: number) => boolean> = {
  week: (d) => d < 5,
  six: (d) => d < 6,
  weekend: (d) => d >= 5,
  all: () => true,
};

/** The shop's hours of a day, counted from 1970-01-01; null where it is shut. */
export function hoursOf({ days, fromH, toH }: WorkHours, day: number): Window | null {
  if (!WORKS[days](weekday(day)) || toH <= fromH) return null;
  const at = (hour: number): WallS => day * DAY_S + Math.round(hour * 3600);
  return { fromS: at(fromH), toS: at(toH) };
}

/** The first hours that are not over at `s`, cut to begin there; null where the shop is never open. */
export function openFrom(hours: WorkHours, s: WallS): Window | null {
  for (let day = Math.floor(s / DAY_S), i = 0; i < 8; i++, day++) {
    const open = hoursOf(hours, day);
    if (open && open.toS > s) return { fromS: Math.max(open.fromS, s), toS: open.toS };
  }
  return null;
}
