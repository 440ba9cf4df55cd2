import { z } from 'zod';
import { CROP_REASONS } from '../instruct/action.ts';
import { alongSchema } from '../sighting/along.ts';
import { sightingSchema } from '../sighting/sighting.ts';
import { nameText } from '../units/names.ts';
import {
  MOST_LENGTH_MM,
  MOST_SECTION_MM,
  angleDeg,
  choice,
  count,
  lengthMm,
  lengthOrNoneMm,
  plainNumber,
  temperatureC,
  weightKg,
} from '../units/quantities.ts';

/** An instant as ISO 8601 writes it, in UTC. */
const instant = (what: string) => z.iso.datetime(`${what} must be an instant such as 2026-01-31T12:00:00Z`);

const words = (most: number, what: string) => z.string().max(most, `${what}: at most ${most} letters`);

export const SCRAP_REASONS = {
  cracked: 'cracked',
  open: 'a weld stayed open',
  burnt: 'burnt',
  slipped: 'slid off, or lost its shape',
  misplaced: 'sawn or laid wrongly',
  lost: 'lost',
} as const;

export const RECORD_KINDS = { came: 'what came', test: 'a test piece', deviation: 'done otherwise' } as const;

/** What an end showed: its section, how far the pattern has turned (counter-clockwise, seen on end B), how much of it is spoilt. mm, degrees. */
const endSchema = z.strictObject({
  widthMm: lengthMm('Width at the end', MOST_SECTION_MM, { fine: true }).optional(),
  heightMm: lengthMm('Height at the end', MOST_SECTION_MM, { fine: true }).optional(),
  turnedDeg: angleDeg('Pattern turned', -90, 90).optional(),
  spoiltMm: lengthOrNoneMm('Distorted', 4 * MOST_SECTION_MM).optional(),
  /** What a photograph of it showed: it says more than the turn alone, and counts before it. */
  sighting: sightingSchema.optional(),
});

/** What came of one piece, named by what is written on it: only what was measured is there. mm, kg, degrees. */
export const pieceCameSchema = z.strictObject({
  piece: nameText(20, 'A piece needs its number'),
  widthMm: lengthMm('Width', MOST_SECTION_MM, { fine: true }).optional(),
  heightMm: lengthMm('Height', MOST_SECTION_MM, { fine: true }).optional(),
  lengthMm: lengthMm('Length', MOST_LENGTH_MM).optional(),
  massKg: weightKg('Weight', 0.001, 2000).optional(),
  endA: endSchema.optional(),
  endB: endSchema.optional(),
  /** What a photograph of a cut half way along showed. */
  middle: z.strictObject({ sighting: sightingSchema.optional() }).optional(),
  /** What photographs of its broad face showed, from above, stretch by stretch. */
  face: z.array(alongSchema).max(12, 'At most 12 photographs of one face').optional(),
  leansDeg: angleDeg('Leans to the right', -40, 40).optional(),
  cropped: z
    .strictObject({
      endAMm: lengthOrNoneMm('Cut back, end A', 4 * MOST_SECTION_MM),
      endBMm: lengthOrNoneMm('Cut back, end B', 4 * MOST_SECTION_MM),
      why: choice('Why', CROP_REASONS).optional(),
    })
    .optional(),
  scrapped: choice('Scrapped', SCRAP_REASONS).optional(),
});

/** Where along a piece it can be looked into, from end A to end B, and at which share of its length. */
export const LOOKED_INTO = { endA: 0, middle: 0.5, endB: 1 } as const;

export type LookedInto = keyof typeof LOOKED_INTO;

/** A photograph and what it shows. */
const pictureSchema = z.strictObject({
  id: z.uuid('A photograph is named by its id'),
  shows: words(200, 'What a photograph shows'),
  piece: z.string().max(20).optional(),
  /** The focal length as a part of the picture's diagonal, as the camera said. */
  focal: plainNumber('Focal length', 0.2, 60, '').optional(),
});

export const TIMERS = { soak: 'In the fire', hand: 'Out of the fire', other: 'Timer' } as const;

/** A timer that was begun: it runs by the clock, on every device alike. */
const timerSchema = z.strictObject({
  what: choice('Timer', TIMERS),
  began: instant('began'),
  seconds: plainNumber('Runs', 0, 1_000_000, 's'),
  /** What it is for, where that is not said by what it is. */
  label: words(80, 'What a timer is for').optional(),
});

/** What came of a step: one entry of the log. docs/plan-format.md. */
export const recordSchema = z.strictObject({
  id: z.string().min(1, 'An id cannot be empty').max(60),
  step: z.string().min(1, 'A record belongs to a step').max(60),
  kind: choice('Kind', RECORD_KINDS),
  began: instant('began'),
  /** Missing while it is being done. */
  ended: instant('ended').optional(),
  /** When it was last changed: of two that are not alike the later one counts. */
  written: instant('written'),
  by: nameText(60, 'Who wrote it needs a name').optional(),
  pieces: z.array(pieceCameSchema).max(400).optional(),
  heats: count('Heats', 0, 200).optional(),
  passes: count('Passes', 0, 2000).optional(),
  /** Length of bar under the dies at one bite, as it was. */
  biteMm: lengthMm('Bite', 500).optional(),
  minutesAtHeat: plainNumber('At heat', 0, 10_000, 'min').optional(),
  hottestC: temperatureC('Hottest', 20, 1600).optional(),
  /** From the last heat until it could be held in a glove, in still air. */
  coolMin: plainNumber('Cooled for', 0, 10_000, 'min').optional(),
  /** In the etchant, all dips together. */
  bathMin: plainNumber('In the bath', 0, 10_000, 'min').optional(),
  /** For how long somebody was at it, s: without the nights and the hours in which nothing was written. */
  workedS: plainNumber('Worked at it', 0, 100_000_000, 's').optional(),
  /** Which lines of the instruction are done, by their marks; a number, as older plans have it, counts for nothing. */
  ticked: z
    .array(z.union([z.string().max(20), z.int().min(0).max(2000)]))
    .max(2000)
    .optional(),
  /** The timers that run, the last of each kind. */
  timers: z.array(timerSchema).max(3, 'One timer of each kind runs').optional(),
  pictures: z.array(pictureSchema).max(60, 'At most 60 photographs to a record').optional(),
  remark: words(4000, 'A remark').optional(),
});

export type BenchRecord = z.infer<typeof recordSchema>;
export type BenchTimer = z.infer<typeof timerSchema>;
export type PieceCame = z.infer<typeof pieceCameSchema>;
export type EndCame = z.infer<typeof endSchema>;

/** More records than any piece was made with. */
export const MOST_RECORDS = 4000;

export const recordsSchema = z
  .array(recordSchema)
  .max(MOST_RECORDS, `A plan may hold at most ${MOST_RECORDS} records`);

const byTime = (a: BenchRecord, b: BenchRecord): number =>
  a.began < b.began ? -1 : a.began > b.began ? 1 : a.id < b.id ? -1 : a.id > b.id ? 1 : 0;

/** Records in the order in which things were done, whatever order they were entered in. */
export const inTime = (records: readonly BenchRecord[]): BenchRecord[] => [...records].sort(byTime);

/** Those that count for the bar itself: a test piece is another. */
export const ofTheBar = (records: readonly BenchRecord[]): BenchRecord[] =>
  records.filter((r) => r.kind !== 'test');

/** A step is done when something of it has ended and nothing of it is still being done. */
export function isDone(records: readonly BenchRecord[]): boolean {
  const own = ofTheBar(records);
  return own.length > 0 && own.every((r) => r.ended !== undefined);
}

/** A timer of a dip in the etchant is called so. */
export const ETCH_TIMER = 'Etch';

/** A record without some of its timers, at an instant: what lay in the bath by their clock is written down with it, to a tenth of a minute. */
export function timersStopped(
  { timers = [], bathMin = 0 }: BenchRecord,
  instant: string,
  stops: (timer: BenchTimer) => boolean = () => true,
): Pick<BenchRecord, 'timers' | 'bathMin'> {
  const left = timers.filter((t) => !stops(t));
  const lay = timers
    .filter((t) => stops(t) && t.label === ETCH_TIMER)
    .reduce((min, t) => min + Math.max(0, Date.parse(instant) - Date.parse(t.began)) / 60_000, bathMin);
  return {
    timers: left.length > 0 ? left : undefined,
    bathMin: lay > 0 ? Math.round(10 * lay) / 10 : undefined,
  };
}

/** Longer than this nobody stands at one thing without writing of it: the shop was shut, or other work came between. s */
const AWAY_S = 3 * 3600;

/** For how long somebody was at it when it is written again at an instant, s. */
export function workedUntil({ workedS, began, written, ended }: BenchRecord, instant: string): number {
  const since = (Date.parse(instant) - Math.max(Date.parse(began), Date.parse(written))) / 1000;
  const before = workedS ?? Math.max(0, (Date.parse(written) - Date.parse(began)) / 1000);
  return before + (ended === undefined && since > 0 && since <= AWAY_S ? since : 0);
}

const NONE: readonly BenchRecord[] = [];

/** The records of each step, in time. */
export function recordsByStep(records: readonly BenchRecord[] = NONE): ReadonlyMap<string, BenchRecord[]> {
  const by = new Map<string, BenchRecord[]>();
  for (const record of inTime(records)) {
    const own = by.get(record.step);
    if (own) own.push(record);
    else by.set(record.step, [record]);
  }
  return by;
}

/** The steps that are done. */
export const doneSteps = (records: readonly BenchRecord[] = NONE): ReadonlySet<string> =>
  new Set([...recordsByStep(records)].filter(([, own]) => isDone(own)).map(([step]) => step));
