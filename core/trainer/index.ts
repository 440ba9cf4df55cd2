import type { Kind } from './exercise.ts';
import { layThem } from './laying.ts';
import { layFour, otherEnd, whichMove, whichTurn } from './moved.ts';
import { howBig, howLong, whichTile, willNest } from './reckoned.ts';
import { whatWentWrong } from './wrong.ts';

/** Every kind of exercise, in the order a beginner meets them. */
export const KINDS: readonly Kind[] = [
  whichMove,
  whichTurn,
  otherEnd,
  layFour,
  layThem,
  whatWentWrong,
  howLong,
  whichTile,
  willNest,
  howBig,
];

export const kindOf = (id: string): Kind => KINDS.find((k) => k.id === id) ?? KINDS[0];

export { judgedLaying } from './laying.ts';
export type { ToLay } from './laying.ts';
export { LEVELS, VISIBLE, difference, exerciseOf } from './exercise.ts';
export type { Choice, Exercise, Kind, Level, Seen } from './exercise.ts';
