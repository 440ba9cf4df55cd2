import type { z } from 'zod';
import type { Billet, Loss } from '../../billet/billet.ts';
import type { FlowSpec, FlowStage } from '../../flow/run.ts';
import type { PieceCut } from '../../geometry/cutting.ts';
import type { Can } from '../../canister/can.ts';
import type { CanPressingInPasses } from '../../canister/consolidate.ts';
import type { Action, Side } from '../../instruct/action.ts';
import type { KilnSegment } from '../../kiln/program.ts';
import type { OrientationName } from '../../geometry/orientation.ts';
import type { Volumes } from '../../materials/volumes.ts';
import type { Shop, ShopSettings } from '../../shop/shop.ts';
import type { Figure } from '../../units/figure.ts';

/** `waiting`: nothing is amiss, only not worked out yet. */
export type Severity = 'error' | 'warning' | 'note' | 'caution' | 'waiting';

/** A change that answers a finding with one press: new values for this step's numbers (or another's, by its id), another move put before or after it (with its own first numbers unless some are given), or new numbers for the shop. */
export type Remedy = { label: string } & (
  | { set: Readonly<Record<string, unknown>>; step?: string }
  | { insertBefore: string; parameters?: unknown }
  | { insertAfter: string; parameters?: unknown }
  | { shop: Partial<ShopSettings> }
);

/** Something a maker should know about a step. An error stops the plan here; the rest is advice. */
export interface Finding {
  readonly code: string;
  readonly severity: Severity;
  /** Which of the step's numbers it speaks of, where it is one. */
  readonly parameter?: string;
  readonly text: string;
  readonly remedy?: Remedy;
  /** The figure behind it, where it is one that can be asked. */
  readonly why?: Figure;
}

export const MOVE_GROUPS = [
  'Begin',
  'Heat and press',
  'Saw and grind',
  'Lay together',
  'Surface',
  'Between the heats',
] as const;
export type MoveGroup = (typeof MOVE_GROUPS)[number];

/** A piece of a lane, by its number. */
export interface PieceRef {
  readonly lane: string;
  readonly piece: number;
}

/** What another lane ends with, for moves that lay its pieces. */
export interface LaneEnds {
  readonly id: string;
  readonly pieces: readonly Billet[];
}

/** Something that a step makes many of, counted from its numbers alone; of more than `most` nothing is worked out. */
export interface Toll {
  /** Of them, in words: “tiles”. */
  readonly what: string;
  readonly count: number;
  readonly most: number;
  /** The number that makes it so many. */
  readonly parameter: string;
}

/** Steel as it must be got ready for a step: so many pieces of one size. mm. */
export interface Bought {
  readonly what: 'strip' | 'sheet' | 'block' | 'rod' | 'ball' | 'powder' | 'spring' | 'chain';
  readonly material: string;
  readonly widthMm: number;
  readonly thicknessMm: number;
  readonly lengthMm: number;
  readonly count: number;
}

/** Volume of one such piece, mm³: round ones by their diameter; springs and chain by their wire, as long as it is; powder is one piece, its solid volume said by its sizes. */
export function boughtVolume({ what, widthMm, thicknessMm, lengthMm }: Bought): number {
  const oblong = widthMm * thicknessMm * lengthMm;
  if (what === 'ball') return (oblong * Math.PI) / 6;
  return what === 'rod' || what === 'spring' || what === 'chain' ? (oblong * Math.PI) / 4 : oblong;
}

/** Whether it is sawn off a bar, and not counted or weighed out. */
export const isSawn = ({ what }: Bought): boolean =>
  what !== 'ball' && what !== 'powder' && what !== 'spring' && what !== 'chain';

/** What the dies take hold of: contact across the bar, height before and after, and how far along at one bite. mm. */
export interface Pressing {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly toHeightMm: number;
  readonly biteMm: number;
}

/** A number of a starting move that working backward may change. */
export interface FreeNumber<P> {
  readonly id: string;
  readonly label: string;
  readonly whole: boolean;
  readonly most: number;
  of(parameters: P): number;
  with(parameters: P, value: number): P;
}

/** A bar as it goes between the dies, and all that decides how it flows there. */
export interface Flowing {
  readonly bar: Billet;
  readonly spec: FlowSpec;
}

/** A saw cut on the bar seen from the side: its stations at the bottom and top edge, mm from end A. */
export interface SideCut {
  readonly bottomMm: number;
  readonly topMm: number;
  /** Where it is marked on the bar, in the shop's divisions. */
  readonly mark?: string;
  /** Begins so far above the bottom, or ends so far below the top, mm: a cut that does not go through. */
  readonly from?: number;
  readonly to?: number;
}

/** How a bar is sawn, seen from the side, and what its parts are called. */
export interface SideSawing {
  readonly saws: readonly SideCut[];
  readonly names: readonly { readonly text: string; readonly atMm: number }[];
}

/** What lies in one place of an assembly: a piece by its number (of another lane, where one is named), and how it lies. */
export interface Placed {
  lane?: string | undefined;
  piece: number;
  orientation: OrientationName;
}

/** Pieces laid in a grid, rows from the top. */
export interface LaidOut {
  readonly columns: number;
  readonly rows: number;
  readonly places: readonly Placed[];
}

export interface Outcome {
  readonly after: readonly Billet[];
  /** Pieces that lie aside then, of a move that chooses. */
  readonly aside?: readonly Billet[];
  readonly losses: readonly Loss[];
  /** Steel that came in with this step, mm³ by material. */
  readonly added: Volumes;
}

/**
 * A forging move: one file or folder in core/moves exports one of these. Everything is pure; `check` comes first, and `apply`
 * and `does` are only called when it found no error. `flow` is the stage after all passes of `flows`, as far as it is known:
 * without it a move shows what such bars usually do, or waits.
 */
export interface Move<K extends string = string, P = unknown> {
  readonly kind: K;
  /** As the shop says it. */
  readonly title: string;
  /** The same on a panel, where the title is too long for one. */
  readonly short?: string;
  /** What it does, in a line, for someone choosing a move. */
  readonly hint: string;
  /** Where it stands in the menu of moves. */
  readonly group: MoveGroup;
  /** Whether a lane must begin with it (it brings the steel), may, or it works on what is there. */
  readonly begins: boolean | 'may';
  readonly parameters: z.ZodType<P>;
  /** What multiplies when it is worked out; asked before anything else, of whatever bars there are. */
  tolls?(before: readonly Billet[], parameters: P, shop: Shop): readonly Toll[];
  /** Sensible numbers for a new step on what is there. */
  begin(before: readonly Billet[], shop: Shop, lanes?: readonly LaneEnds[]): P;
  check(before: readonly Billet[], parameters: P, shop: Shop, flow?: FlowStage | null): Finding[];
  apply(before: readonly Billet[], parameters: P, shop: Shop, flow?: FlowStage | null): Outcome;
  /** Whether it works on a can whose powder is not solid yet; nothing else may. */
  readonly onPowder?: boolean;
  /** Whether it works on what is forged to the shape of a blade; nothing else may. */
  readonly onBlank?: boolean;
  /** Pieces of other lanes that it lays; they stand in `before` after the lane's own, in this order. */
  /** Bars of other lanes that stand in it from end to end, and how long they are then, mm. */
  stands?(parameters: P): readonly { readonly lane: string; readonly longMm: number }[];
  takes?(parameters: P): PieceRef[];
  /** The steel that it adds, piece by piece; together as much as `apply` adds. Nothing of what is there already. */
  buys?(before: readonly Billet[], parameters: P, shop: Shop): Bought[];
  /** The flow of the section that it is worked out by, where it is. */
  flows?(before: readonly Billet[], parameters: P, shop: Shop): Flowing | null;
  /** Whether it comes to nothing until its flow is known. */
  needsFlow?: boolean;
  /** The bar by the usual map and by the flow, both squared, where both are known. */
  beside?(
    before: readonly Billet[],
    parameters: P,
    shop: Shop,
    flow: FlowStage | null,
  ): { readonly usual: Billet; readonly flowed: Billet } | null;
  /** The same move with its tipping turned off by so many degrees; null where it tips nothing. */
  turnedOff?(parameters: P, deg: number): P | null;
  /** What its dies take hold of at the hardest, where the flow does not tell; nothing where no dies are used. */
  presses?(before: readonly Billet[], parameters: P, shop: Shop): Pressing | null;
  /** Which long faces of each piece before it will lie on another: they must be bare. */
  meets?(before: readonly Billet[], parameters: P): (readonly Side[])[];
  /** Which long faces it leaves bare and flat, of the piece of that number where it makes several. */
  bares?(parameters: P, piece: number): readonly Side[];
  /** Into how many parts it saws each piece, where they are numbered on from the first piece to the last. */
  splits?(parameters: P): number;
  /** Lays pieces aside and brings them back: it is given those that lie aside as well. */
  readonly chooses?: boolean;
  /** How the bar lies after it, where it only turns it. */
  turns?(parameters: P): OrientationName;
  /** Closes seams at welding heat. */
  welds?: boolean;
  /** Sawn across into equal pieces, numbered on their ends before that. */
  cuts?(bar: Billet, parameters: P, shop: Shop): PieceCut;
  /** The bar from the side with its saw cuts. */
  sawing?(bar: Billet, parameters: P, shop: Shop): SideSawing;
  /** How the pieces lie. */
  lays?(parameters: P): LaidOut;
  /** The can that it fills, and how a can is pressed solid. */
  fills?(parameters: P): Can;
  closes?(parameters: P): CanPressingInPasses;
  /** How far along a bar that leaves it until what it makes comes again, mm. */
  repeatMm?(after: Billet, parameters: P): number;
  /** Brings the end grain to the side of the bar. */
  toTheSide?: boolean;
  /** The steel that it lays in for an edge. */
  core?(parameters: P): string;
  /** Whether it works on the whole length: ends that hold no picture must be cropped before. */
  wantsSoundEnds?: boolean;
  /** What is ground off each long face, mm. */
  grinds?(parameters: P): Readonly<Record<'topMm' | 'bottomMm' | 'leftMm' | 'rightMm', number>>;
  /** Joints across the bar after it, mm from its end A. */
  joints?(bar: Billet, parameters: P, shop: Shop): number[];
  /** Of a layered start: so many times fewer and thicker layers; one steel in place of another. New numbers, or nothing. */
  coarser?(parameters: P, times: number): { readonly layers: number; readonly set: Partial<P> } | null;
  exchanged?(parameters: P, from: string, to: string): Partial<P>;
  /** For moves that begin a bar: what of it may be left to working backward. The first is free unless the maker says otherwise. */
  free?: readonly FreeNumber<P>[];
  /** What the kiln does of it, by itself. */
  kiln?(parameters: P): readonly KilnSegment[];
  /** Hours that it lies by itself: in vinegar, in acid, in coffee. */
  liesH?(parameters: P): number;
  /** What hands do, in order, as data. */
  does(before: readonly Billet[], parameters: P, shop: Shop): Action[];
}

/** Keeps a move's own types while it is written down. */
export const defineMove = <const K extends string, P>(move: Move<K, P>): Move<K, P> => move;
