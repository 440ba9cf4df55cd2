import { accordion } from './accordion.ts';
import { assemble } from './assemble.ts';
import { can } from './can.ts';
import { consolidate } from './consolidate.ts';
import { corners } from './corners.ts';
import { crop } from './crop.ts';
import { cut } from './cut.ts';
import { draw } from './draw.ts';
import { flatten } from './flatten.ts';
import { grind } from './grind.ts';
import { grooves } from './grooves.ts';
import { jacket } from './jacket.ts';
import { join } from './join.ts';
import { laminate } from './laminate.ts';
import { lean } from './lean.ts';
import { measure } from './measure.ts';
import { peel } from './peel.ts';
import { press } from './press.ts';
import { resquare } from './resquare.ts';
import { rip } from './rip.ts';
import { stack } from './stack.ts';
import { stand } from './stand.ts';
import { tile } from './tile.ts';
import { trueUp } from './trueUp.ts';
import { twist } from './twist.ts';
import { upset } from './upset.ts';
import { wedge } from './wedge.ts';
import { weld } from './weld.ts';
import type { Move } from './step.ts';

/** Every move there is, in the order a maker meets them. */
export const MOVES = {
  stack,
  can,
  consolidate,
  weld,
  draw,
  resquare,
  press,
  corners,
  lean,
  twist,
  wedge,
  upset,
  cut,
  crop,
  rip,
  grind,
  trueUp,
  peel,
  assemble,
  laminate,
  jacket,
  stand,
  join,
  tile,
  accordion,
  grooves,
  flatten,
  measure,
} as const;

export type MoveKind = keyof typeof MOVES;
export type ParametersOf<K extends MoveKind> = (typeof MOVES)[K] extends Move<string, infer P> ? P : never;

export const MOVE_KINDS = Object.keys(MOVES) as [MoveKind, ...MoveKind[]];

/** A move by its kind, with its parameter type set aside: the plan's schema has already matched the two. */
export const moveOf = (kind: MoveKind): Move<MoveKind, unknown> =>
  MOVES[kind] as unknown as Move<MoveKind, unknown>;

export type {
  Flowing,
  Bought,
  Finding,
  FreeNumber,
  LaneEnds,
  Move,
  MoveGroup,
  Outcome,
  PieceRef,
  Pressing,
  Remedy,
  Severity,
} from './step.ts';
export { FLOW_PENDING, MOVE_GROUPS, boughtVolume, isSawn } from './step.ts';
