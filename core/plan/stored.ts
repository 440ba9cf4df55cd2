import type { LengthDisplay } from '../units/length.ts';
import type { BenchRecord } from '../records/record.ts';
import type { ShopSettings } from '../shop/shop.ts';
import type { MeasuredOf } from './log.ts';
import type { Goal, Plan } from './plan.ts';

/** What server and page tell each other of pieces. */
export const PROJECT_STATES = ['planning', 'at the bench', 'done'] as const;
export type ProjectState = (typeof PROJECT_STATES)[number];

export interface StoredProject {
  readonly id: string;
  readonly name: string;
  readonly state: ProjectState;
  readonly revision: number;
  readonly updatedAt: string;
  readonly plan: Plan;
  /** What was written at the bench, kept beside the plan, and how much of it there is. */
  readonly records: readonly BenchRecord[];
  readonly log: number;
}

/** A record as it was written last; null once it was taken back. */
export interface WrittenRecord {
  readonly id: string;
  readonly record: BenchRecord | null;
  readonly written: string;
  /** What stood on the server, as far as it was known, when this was written over it. */
  readonly from?: BenchRecord | null;
}

/** A record of any piece, with as much of the piece as is said beside it. */
export interface FoundRecord {
  readonly projectId: string;
  readonly name: string;
  readonly lengths: LengthDisplay | null;
  /** Of its move; null where the plan has it no more. */
  readonly kind: string | null;
  readonly record: BenchRecord;
}

/** What was written of all pieces, the latest first: so many of them, from `offset`. */
export interface ShopLog {
  readonly total: number;
  readonly found: readonly FoundRecord[];
}

/** What was measured of a piece, beside what was reckoned. */
export interface PieceMeasured {
  readonly projectId: string;
  readonly name: string;
  readonly measured: readonly MeasuredOf[];
}

/** A plan as it was saved once, and what the maker calls it. */
export interface Revision {
  readonly revision: number;
  readonly savedAt: string;
  readonly mark: string | null;
}

/** The longest name of a revision. */
export const MOST_MARK = 80;

/** Own saves that a save may name as sent before it without an answer, the last of them. */
export const MOST_UNANSWERED = 16;

/** How a plan stands to its goal; 'not worked out' where it cannot be read, or takes too much. */
export const VERDICTS = ['reached', 'short', 'unfinished', 'no bar', 'not worked out'] as const;
export type Verdict = (typeof VERDICTS)[number];

/** What the shelf shows of a piece without opening its plan. */
export interface ProjectHead extends Omit<StoredProject, 'plan' | 'records'> {
  readonly goal: Goal | null;
  /** When it was taken off the shelf; null while it is on it. */
  readonly removedAt: string | null;
  readonly lengths: LengthDisplay | null;
  /** Of which revision, and how much of the log, there is a picture, and how that one stands to its goal; null until one is made. */
  readonly preview: {
    readonly revision: number;
    readonly log: number;
    readonly verdict: Verdict;
    readonly hasPicture: boolean;
  } | null;
}

/** Days that a removed piece is kept before it goes for good. */
export const KEPT_DAYS = 30;

/** Which pieces, in which order, and which part of them. */
export interface ShelfQuery {
  readonly search: string;
  readonly state: ProjectState | 'any' | 'removed';
  readonly sort: 'changed' | 'name';
  readonly offset: number;
  readonly limit: number;
}

export interface ShelfPage {
  readonly total: number;
  readonly projects: readonly ProjectHead[];
}

/** A bar that a piece took from the rack, and how much of it went back. mm. */
export interface TakenBar {
  readonly material: string;
  readonly widthMm: number;
  readonly thicknessMm: number;
  readonly lengthMm: number;
  readonly restMm: number;
}

/** A named set of the shop's numbers. */
export interface StoredSetup {
  readonly id: string;
  readonly name: string;
  readonly settings: ShopSettings;
}
