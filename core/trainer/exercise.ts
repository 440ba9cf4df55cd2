import type { Billet } from '../billet/billet.ts';
import { type FaceName, facePlane } from '../billet/face.ts';
import { seeded } from '../canister/packing.ts';
import { KnownFlows } from '../flow/flows.ts';
import { moveOf } from '../moves/index.ts';
import { type StepResult, emptyPlan } from '../plan/index.ts';
import { Making } from '../recipes/making.ts';
import { sampleCodes } from '../render/codes.ts';
import { shopSchema } from '../shop/shop.ts';
import type { ToLay } from './laying.ts';

/** Easy, usual, hard. */
export type Level = 1 | 2 | 3;
export const LEVELS: readonly Level[] = [1, 2, 3];

/** A face of a bar, to be painted. */
export interface Seen {
  readonly bar: Billet;
  readonly face: FaceName;
  /** What it is, in words. */
  readonly caption: string;
}

/** One of the answers offered: in words, or as a face. */
export interface Choice {
  readonly text: string;
  readonly seen?: Seen;
}

/** A question with one right answer, worked out from the moves themselves. */
export interface Exercise {
  readonly question: string;
  readonly shown: readonly Seen[];
  readonly choices: readonly Choice[];
  /** Which of the choices it is, from 0. */
  readonly right: number;
  /** In place of choices: pieces to be laid by hand. */
  readonly lay?: ToLay;
  /** Why it is that one, for who took another. */
  readonly why: string;
  /** The moves that made what is asked, each by what it left. */
  readonly played: readonly Seen[];
}

export type Random = () => number;

/** A kind of exercise: always the same for a level and a seed; null where chance made one without a single right answer. */
export interface Kind {
  readonly id: string;
  readonly title: string;
  make(level: Level, random: Random): Exercise | null;
}

export const oneOf = <T>(list: readonly T[], random: Random): T => list[Math.floor(random() * list.length)];
export const between = (low: number, high: number, random: Random): number => low + (high - low) * random();

/** The same list in another order. */
export function shuffled<T>(list: readonly T[], random: Random): T[] {
  const rest = [...list];
  return list.map(() => rest.splice(Math.floor(random() * rest.length), 1)[0]);
}

/** The same chance again, as often as it is asked. */
export const replayed = (random: Random): (() => Random) => {
  const drawn = Array.from({ length: 64 }, random);
  return () => {
    let i = 0;
    return () => drawn[i++ % drawn.length];
  };
};

const flows = new KnownFlows();
const SHOP = shopSchema.parse({});

/** mm. As long as bars begin here. */
const START_MM = 400;

/** An empty bar to practise on: a plan as any other. */
export const practice = (): Making =>
  new Making(
    emptyPlan({ name: 'Practice', goal: { lengthMm: 100, widthMm: 30, thicknessMm: 5 }, shop: SHOP }),
    flows,
    START_MM,
  );

export const seen = (bar: Billet, caption: string, face: FaceName = 'end B'): Seen => ({
  bar,
  face,
  caption,
});

/** What every move of a bar left, from its stack on. */
export const playedOf = (steps: readonly StepResult[]): Seen[] =>
  steps.flatMap(({ step, after }) => {
    const { short, title } = moveOf(step.kind);
    return after?.[0] ? [seen(after[0], short ?? title, step.kind === 'tile' ? 'top' : 'end B')] : [];
  });

/** Points a side by which faces are told apart, and the least share of them that must differ. */
const POINTS = 56;
export const VISIBLE = 0.05;

/** The share of two faces that is of another steel, each laid over the other whole (0…1). */
export function difference(a: Seen, b: Seen): number {
  const [one, other] = [a, b].map(({ bar, face }) => sampleCodes(bar, facePlane(bar, face), POINTS, POINTS));
  return one.reduce((n, code, i) => n + (code === other[i] ? 0 : 1), 0) / one.length;
}

/** Whether each of them is told from every other. */
export const allDiffer = (faces: readonly Seen[]): boolean =>
  faces.every((a, i) => faces.slice(0, i).every((b) => difference(a, b) >= VISIBLE));

/** One of several things that could have been done: what it is called, and what comes of it. */
export interface Done {
  readonly text: string;
  readonly result: Seen;
}

/** Of all that could have been done so many, told apart by what comes of them, in another order; null where there are too few. */
export function toldApart(
  all: readonly Done[],
  count: number,
  random: Random,
): { done: Done[]; right: number } | null {
  const [right, ...others] = shuffled(all, random);
  const taken = [right];
  for (const one of others) {
    if (taken.length === count) break;
    if (allDiffer([...taken.map((d) => d.result), one.result])) taken.push(one);
  }
  if (taken.length < Math.min(count, 2) || taken.length < count - 1) return null;
  const done = shuffled(taken, random);
  return { done, right: done.indexOf(right) };
}

/** Tries by chance until one has a single right answer. */
const MOST_TRIES = 40;

/** The exercise of a kind for a level and a seed: the same every time. */
export function exerciseOf(kind: Kind, level: Level, seed: number): Exercise {
  for (let i = 0; i < MOST_TRIES; i++) {
    const made = kind.make(level, seeded(seed * 1009 + i * 131 + level));
    if (made) return made;
  }
  throw new Error(`No exercise “${kind.id}” at level ${level} of seed ${seed}`);
}
