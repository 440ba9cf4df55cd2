import { assemble } from './assemble.ts';
import { cut } from './cut.ts';
import { draw } from './draw.ts';
import { grind } from './grind.ts';
import { resquare } from './resquare.ts';
import { stack } from './stack.ts';
import { tile } from './tile.ts';
import { weld } from './weld.ts';
import type { Move } from './step.ts';

/** Every move there is, in the order a maker meets them. */
export const MOVES = { stack, weld, draw, resquare, cut, grind, assemble, tile } as const;

export type MoveKind = keyof typeof MOVES;
export type ParametersOf<K extends MoveKind> = (typeof MOVES)[K] extends Move<string, infer P> ? P : never;

export const MOVE_KINDS = Object.keys(MOVES) as [MoveKind, ...MoveKind[]];

/** A move by its kind, with its parameter type set aside: the plan's schema has already matched the two. */
export const moveOf = (kind: MoveKind): Move<MoveKind, unknown> =>
  MOVES[kind] as unknown as Move<MoveKind, unknown>;

export type { Finding, Move, Outcome, Remedy, Severity } from './step.ts';
