import { chunk, mean, quantileSorted, sampleVariance, sumNthPowerDeviations } from 'simple-statistics';
import { finishedSizes, sizeOf } from '../billet/billet.ts';
import { handsSeconds } from '../days/tasks.ts';
import { type Belief, type NumberId, NUMBER_IDS } from '../learning/index.ts';
import { massKg } from '../materials/volumes.ts';
import {
  type Element,
  type ElementMark,
  type Evaluation,
  type Goal,
  type StepResult,
  allSteps,
  elementOn,
  evaluate,
  flowsAwaited,
  goalWithinMm,
  heatsIn,
  sideMark,
} from '../plan/index.ts';
import { doneSteps } from '../records/record.ts';
import { Chance, happeningBy, timesOf } from './chance.ts';

/** Between which sizes eight of ten come, and the one in the middle. mm, or the number's own unit. */
export interface Band {
  readonly low: number;
  readonly middle: number;
  readonly high: number;
}

/** Share of all runs that lie in a band. */
const BAND = 0.8;

/** How the bar, or each of the pieces alike, comes after a step. */
export interface StepBands {
  readonly step: string;
  readonly widthMm: Band;
  readonly heightMm: Band;
  readonly lengthMm: Band;
}

/** What a plan comes to when it is run forward many times with the numbers of the shop as they happen to be. */
export interface Forecast {
  readonly runs: number;
  /** Of those how many reach the goal. */
  readonly reached: number;
  /** In how many the bar comes shorter, narrower or thinner than it may. */
  readonly short: { readonly length: number; readonly width: number; readonly thickness: number };
  /** Finished sizes, of the runs that come to a bar; null where none does. */
  readonly finished: {
    readonly lengthMm: Band;
    readonly widthMm: Band;
    readonly thicknessMm: Band;
    readonly massKg: Band;
  } | null;
  /** What one piece of the bar that is brought to the side takes of the finished face: along and across; null where none is. */
  readonly face: { readonly alongMm: Band; readonly acrossMm: Band } | null;
  /** How far the worst line misses its corner of all re-squares still to be done, degrees; null without one. */
  readonly missDeg: Band | null;
  /** At the fire, the saw and the bench of what is still to be done. */
  readonly hours: Band;
  readonly steps: readonly StepBands[];
  /** From which numbers the doubt about the length comes, shares of its variance, the largest first; those that are nothing are left out. What is left of 1 comes of several together. */
  readonly doubt: readonly { readonly number: NumberId; readonly share: number }[];
  /** How much longer and wider than asked for the bar comes, of all runs, the least first; short is less than 0. mm */
  readonly spare: { readonly lengthMm: readonly number[]; readonly widthMm: readonly number[] };
}

function band(values: readonly number[]): Band {
  const sorted = values.toSorted((a, b) => a - b);
  const at = (share: number) => quantileSorted(sorted, share);
  return { low: at((1 - BAND) / 2), middle: at(0.5), high: at((1 + BAND) / 2) };
}

/** One run of a plan. */
interface Run {
  readonly evaluation: Evaluation;
  readonly chance: Chance;
}

/** mm. A length that differs by no more between all runs is a point, and there is no doubt to share out. */
const A_POINT_MM = 1e-6;
/** A share of the variance below this is chance. */
const LEAST_SHARE = 0.02;
/** Runs that count as alike in a number. */
const ALIKE = 15;

function* runs(planned: Evaluation, belief: Belief, seed: number, count: number): Generator<Run> {
  for (let i = 0; i < count; i++) {
    const chance = new Chance(belief, seed * 65_537 + i);
    const evaluation = evaluate(planned.plan, undefined, planned.flows, happeningBy(chance, planned));
    yield { evaluation, chance };
  }
}

/** Why nothing can be foretold: the plan comes to no bar, or its flows are not known yet; null where it can. */
export const unforetold = (planned: Evaluation): string | null =>
  flowsAwaited(planned).length > 0
    ? 'How the section flows is still being worked out.'
    : planned.goal.bar
      ? null
      : 'The plan does not come to a finished bar yet.';

/** Gathers runs; what it says can be asked at any time. */
class Gathered {
  private readonly lengths: number[] = [];
  private readonly widths: number[] = [];
  private readonly thicknesses: number[] = [];
  private readonly misses: number[] = [];
  private readonly seconds: number[] = [];
  private readonly masses: number[] = [];
  private readonly faces: Element[] = [];
  private readonly sizes = new Map<string, { w: number[]; h: number[]; l: number[] }>();
  private readonly met: Map<NumberId, number[]>[] = [];
  private reached = 0;
  private readonly short = { length: 0, width: 0, thickness: 0 };
  private count = 0;
  private readonly goal: Goal;
  private readonly planned: Evaluation;
  private readonly mark: ElementMark | null;
  private readonly hands: readonly { readonly result: StepResult; readonly seconds: number }[];

  constructor(planned: Evaluation) {
    const done = doneSteps(planned.plan.records);
    this.planned = planned;
    this.goal = planned.plan.goal;
    this.hands = allSteps(planned)
      .filter(({ step }) => !done.has(step.id))
      .map((result) => ({ result, seconds: handsSeconds(result, planned) }));
    this.mark = sideMark(planned);
  }

  take({ evaluation, chance }: Run): void {
    this.count++;
    const { goal } = evaluation;
    if (goal.reached) this.reached++;
    this.seconds.push(
      this.hands.reduce((sum, { result, seconds }) => {
        const heats = heatsIn(result.step) > 0 ? timesOf('heats', result, evaluation.shop, chance) : 1;
        return sum + seconds * heats * timesOf('minutes', result, evaluation.shop, chance);
      }, 0),
    );
    const turns = allSteps(evaluation).flatMap(({ step }) =>
      step.kind === 'resquare' && this.hands.some((h) => h.result.step.id === step.id)
        ? [Math.abs(chance.of('turn', evaluation.shop.handle, step.id))]
        : [],
    );
    if (turns.length > 0) this.misses.push(Math.max(...turns));
    for (const { step, after } of allSteps(evaluation)) {
      const bar = after?.[0];
      if (!bar) continue;
      const own = this.sizes.get(step.id) ?? { w: [], h: [], l: [] };
      const { widthMm, heightMm } = sizeOf(bar);
      own.w.push(widthMm);
      own.h.push(heightMm);
      own.l.push(bar.lengthMm);
      this.sizes.set(step.id, own);
    }
    // A blade that the bar is too short for cannot be forged: what there was of it then.
    const bar = evaluation.goalLane.steps.findLast((s) => s.after?.length === 1)?.after?.[0];
    if (!bar) return;
    const sizes = goal.sizes ?? finishedSizes(bar);
    const within = goalWithinMm(evaluation.shop);
    if (sizes.lengthMm < this.goal.lengthMm - within) this.short.length++;
    if (sizes.widthMm < this.goal.widthMm - within) this.short.width++;
    if (sizes.heightMm < this.goal.thicknessMm - within) this.short.thickness++;
    this.lengths.push(sizes.lengthMm);
    this.widths.push(sizes.widthMm);
    this.thicknesses.push(sizes.heightMm);
    this.masses.push(massKg(bar.volumes, evaluation.shop.materials));
    const face = this.mark && elementOn(evaluation, this.mark);
    if (face) this.faces.push(face);
    this.met.push(chance.met);
  }

  /**
   * Shares of the length's variance by each number, each of which came up apart from the others: the correlation ratio, how far the
   * means of runs alike in it lie apart (K. Pearson 1905, as corrected by T. L. Kelley, Proc. Natl. Acad. Sci. 21 (1935) 554–559;
   * from memory), so that steps count as well as slopes.
   */
  private doubt(): Forecast['doubt'] {
    const { lengths } = this;
    if (lengths.length < 4 * ALIKE || Math.max(...lengths) - Math.min(...lengths) < A_POINT_MM) return [];
    const all = sampleVariance(lengths);
    const shares = NUMBER_IDS.flatMap((number) => {
      const values = this.met.map((d) => mean(d.get(number) ?? [0]));
      if (values.every((v) => v === values[0])) return [];
      const order = values.map((_, i) => i).sort((a, b) => values[a] - values[b]);
      const groups = chunk(order, Math.ceil(order.length / Math.floor(order.length / ALIKE)));
      // What lies apart in a group of runs alike is not of this number.
      const within =
        groups.reduce(
          (sum, own) =>
            sum +
            sumNthPowerDeviations(
              own.map((i) => lengths[i]),
              2,
            ),
          0,
        ) /
        (lengths.length - groups.length);
      const share = 1 - within / all;
      return share >= LEAST_SHARE ? [{ number, share }] : [];
    });
    return shares.sort((a, b) => b.share - a.share);
  }

  forecast(): Forecast {
    const { lengths, widths, thicknesses } = this;
    return {
      runs: this.count,
      reached: this.reached,
      short: { ...this.short },
      finished:
        lengths.length > 0
          ? {
              lengthMm: band(lengths),
              widthMm: band(widths),
              thicknessMm: band(thicknesses),
              massKg: band(this.masses),
            }
          : null,
      face:
        this.faces.length > 0
          ? {
              alongMm: band(this.faces.map((f) => f.alongMm)),
              acrossMm: band(this.faces.map((f) => f.acrossMm)),
            }
          : null,
      missDeg: this.misses.length > 0 ? band(this.misses) : null,
      hours: band(this.seconds.map((s) => s / 3600)),
      steps: allSteps(this.planned).flatMap(({ step }) => {
        const own = this.sizes.get(step.id);
        return own
          ? [{ step: step.id, widthMm: band(own.w), heightMm: band(own.h), lengthMm: band(own.l) }]
          : [];
      }),
      doubt: this.doubt(),
      spare: {
        lengthMm: lengths.map((mm) => mm - this.goal.lengthMm).sort((a, b) => a - b),
        widthMm: widths.map((mm) => mm - this.goal.widthMm).sort((a, b) => a - b),
      },
    };
  }
}

/** How many runs are gathered before whoever waits hears of it. */
const AT_A_TIME = 10;

/** Runs a plan forward `count` times, told as it goes; the same seed gives the same. Pure. */
export function* foretelling(
  planned: Evaluation,
  belief: Belief,
  { seed, count }: { readonly seed: number; readonly count: number },
): Generator<number, Forecast> {
  const gathered = new Gathered(planned);
  let done = 0;
  for (const run of runs(planned, belief, seed, count)) {
    gathered.take(run);
    if (++done % AT_A_TIME === 0) yield done / count;
  }
  return gathered.forecast();
}

/** The same at once. */
export function forecastOf(
  planned: Evaluation,
  belief: Belief,
  ask: { readonly seed: number; readonly count: number },
): Forecast {
  const steps = foretelling(planned, belief, ask);
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
  }
}
