import { accordion } from './saw/accordion.ts';
import { assemble } from './lay/assemble/assemble.ts';
import { can } from './begin/can/can.ts';
import { choose } from './lay/choose.ts';
import { clean } from './between/clean.ts';
import { etch } from './between/etch.ts';
import { treat } from './between/treat.ts';
import { consolidate } from './forge/consolidate/consolidate.ts';
import { corners } from './forge/corners.ts';
import { crop } from './saw/crop.ts';
import { cut } from './saw/cut.ts';
import { draw } from './forge/draw.ts';
import { feather } from './forge/feather.ts';
import { flatten } from './surface/flatten.ts';
import { found } from './begin/found.ts';
import { grind } from './saw/grind.ts';
import { grooves } from './surface/grooves.ts';
import { jacket } from './lay/jacket.ts';
import { join } from './lay/join.ts';
import { laminate } from './lay/laminate.ts';
import { lean } from './forge/lean.ts';
import { measure } from './surface/measure.ts';
import { peel } from './saw/peel.ts';
import { press } from './forge/press/press.ts';
import { resquare } from './forge/resquare.ts';
import { rip } from './saw/rip.ts';
import { putBack } from './lay/putBack.ts';
import { scarf } from './lay/scarf.ts';
import { shape } from './forge/shape.ts';
import { stack } from './begin/stack.ts';
import { stand } from './lay/stand.ts';
import { tile } from './saw/tile.ts';
import { trueUp } from './saw/trueUp.ts';
import { turn } from './lay/turn.ts';
import { twist } from './forge/twist.ts';
import { upset } from './forge/upset.ts';
import { wedge } from './forge/wedge.ts';
import { weld } from './forge/weld.ts';
import type { Billet } from '../billet/billet.ts';
import type { Shop } from '../shop/shop.ts';
import { handyNumbers } from '../units/handy.ts';
import type { LaneEnds, Move } from './contract/move.ts';

/** Every move there is, in the order a maker meets them. */
export const MOVES = {
  stack,
  found,
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
  feather,
  upset,
  shape,
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
  turn,
  choose,
  join,
  scarf,
  putBack,
  tile,
  accordion,
  grooves,
  flatten,
  measure,
  treat,
  clean,
  etch,
} as const;

export type MoveKind = keyof typeof MOVES;
export type ParametersOf<K extends MoveKind> = (typeof MOVES)[K] extends Move<string, infer P> ? P : never;

export const MOVE_KINDS = Object.keys(MOVES) as [MoveKind, ...MoveKind[]];

/** A move by its kind, with its parameter type set aside: the plan's schema has already matched the two. */
export const moveOf = (kind: MoveKind): Move<MoveKind, unknown> =>
  MOVES[kind] as unknown as Move<MoveKind, unknown>;

/** What often comes next, the likeliest first (common practice, no source). */
const OFTEN_NEXT: Partial<Record<MoveKind, readonly MoveKind[]>> = {
  stack: ['weld', 'jacket'],
  can: ['consolidate'],
  consolidate: ['crop', 'peel', 'draw'],
  weld: ['draw', 'resquare', 'crop'],
  draw: ['cut', 'resquare', 'tile', 'twist', 'grooves', 'shape'],
  resquare: ['cut', 'draw', 'measure'],
  press: ['draw', 'cut', 'measure'],
  corners: ['twist', 'resquare'],
  twist: ['draw', 'cut'],
  lean: ['cut', 'rip'],
  wedge: ['cut', 'rip'],
  feather: ['draw', 'crop'],
  upset: ['draw', 'cut'],
  found: ['draw', 'cut', 'resquare'],
  cut: ['grind', 'assemble', 'choose', 'measure'],
  crop: ['draw', 'cut', 'resquare'],
  rip: ['grind', 'assemble', 'cut', 'turn'],
  grind: ['assemble', 'weld', 'cut'],
  trueUp: ['cut', 'assemble'],
  peel: ['draw', 'cut'],
  assemble: ['weld', 'jacket'],
  laminate: ['weld', 'jacket'],
  jacket: ['weld'],
  stand: ['jacket', 'weld'],
  turn: ['assemble', 'cut'],
  choose: ['assemble', 'cut', 'grind'],
  join: ['weld'],
  scarf: ['weld', 'jacket'],
  putBack: ['weld', 'jacket'],
  tile: ['jacket', 'weld'],
  accordion: ['draw', 'flatten'],
  grooves: ['flatten'],
  flatten: ['draw'],
  measure: ['trueUp', 'cut', 'assemble'],
  shape: ['treat', 'clean', 'etch'],
  treat: ['cut', 'clean', 'grind'],
  clean: ['etch', 'cut', 'assemble'],
  etch: ['measure', 'cut', 'grind'],
};

/** What often comes after a move, the likeliest first; nothing is known of some. */
export const oftenAfter = (kind: MoveKind | undefined): readonly MoveKind[] =>
  kind ? (OFTEN_NEXT[kind] ?? []) : ['stack', 'can', 'found'];

export type {
  Flowing,
  Bought,
  Finding,
  Toll,
  FreeNumber,
  LaidOut,
  LaneEnds,
  Move,
  MoveGroup,
  Outcome,
  PieceRef,
  Placed,
  Pressing,
  Remedy,
  Severity,
  SideCut,
  SideSawing,
} from './contract/move.ts';
export { MOVE_GROUPS, boughtVolume, isSawn } from './contract/move.ts';

/** Why a move cannot be done on what is there, and no press would make it so: of one that only wants something before it nothing is said. */
export function whyNot(
  kind: MoveKind,
  before: readonly Billet[],
  shop: Shop,
  lanes?: readonly LaneEnds[],
): string | null {
  const move = moveOf(kind);
  const first = firstNumbers(kind, before, shop, lanes);
  // What it would take from other bars stands in another place.
  if ((move.takes?.(first) ?? []).length > 0) return null;
  const error = move.check(before, first, shop).find((f) => f.severity === 'error');
  return error && !error.remedy ? error.text : null;
}

/** The first numbers of a move on what is there, as this shop would set them; as they come where those could not be done. */
export function firstNumbers<K extends MoveKind>(
  kind: K,
  before: readonly Billet[],
  shop: Shop,
  lanes?: readonly LaneEnds[],
): ParametersOf<K> {
  const move = moveOf(kind);
  const plain = move.begin(before, shop, lanes);
  const set = handyNumbers(move.parameters, plain, shop);
  const wrong = (p: unknown) => move.check(before, p, shop).some((f) => f.severity === 'error');
  return (wrong(set) && !wrong(plain) ? plain : set) as ParametersOf<K>;
}
