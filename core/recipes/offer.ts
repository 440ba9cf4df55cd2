import { thinnestBandMm } from '../billet/bands.ts';
import { tasksOf } from '../days/index.ts';
import type { Flows } from '../flow/flows.ts';
import { leastBandMm } from '../geometry/acuity.ts';
import { massKg } from '../materials/volumes.ts';
import type { Finding } from '../moves/index.ts';
import {
  type Evaluation,
  type Plan,
  type Step,
  type Wish,
  allSteps,
  allStarts,
  evaluate,
  heatsIn,
  steelIn,
  withParameters,
} from '../plan/index.ts';
import { formatFine, formatMass } from '../units/index.ts';
import { aboutMm, built } from './build.ts';
import { type ElementMark, elementOn } from '../plan/element.ts';
import { recipeOf } from './families/index.ts';
import { LONG_START_MM, NotMade } from './making.ts';
import { findingsOf } from '../judgement/index.ts';
import { remainingOf, repaired, trimmed, weightOf } from './repair.ts';
import { fineMm } from './sides.ts';
import type { Offer, Offered, Piece, Spec } from './spec.ts';
import { settledNumber } from './recipe.ts';
import { roughlyStarted, started } from './starts.ts';

/** An element this near is the one wished for, as a share; from this near on its tiles alone are changed. */
const NEAR = 0.004;
const ALMOST = 0.008;
const NEARLY = 0.06;
const CORRECTIONS = 3;
/** Rebuilt at most so often with shorter bites, or fewer layers. */
const REBUILT = 3;

/** The plan of a spec: its element brought to the wish, its faults repaired by their own remedies, its starts found backward. */
export function offerOf(spec: Spec, piece: Piece, wish: Wish, flows: Flows): Offered {
  try {
    return within(offered(spec, piece, wish, flows), wish);
  } catch (error) {
    if (error instanceof NotMade) return { ok: false, reason: error.message };
    throw error;
  }
}

/** By how much it falls short of the bar that is wanted. */
function shortBy({ spare, plan }: Offer): string {
  const { lengths } = plan.shop;
  const short = Object.entries({ long: spare?.lengthMm, wide: spare?.widthMm, thick: spare?.thicknessMm })
    .filter(([, mm]) => mm !== undefined && mm < 0)
    .map(([way, mm]) => `${formatFine(-mm!, lengths)} less ${way}`);
  return short.length > 0
    ? `It comes to a bar ${short.join(' and ')} than the one wanted.`
    : 'It does not come to one welded, solid bar.';
}

/** Moves that nothing but a saw does. */
const SAWN: ReadonlySet<string> = new Set(['cut', 'tile', 'accordion', 'rip']);

/** What a wish allows at most: the number that stands in the way, and the nearest that would do. */
function within(made: Made, { mostKg, mostRounds, longestMm, hasSaw }: Wish): Offered {
  const { offer } = made;
  const { masses, lengths } = offer.plan.shop;
  if (!hasSaw && offer.plan.lanes.some((l) => l.steps.some((s) => SAWN.has(s.kind))))
    return { ok: false, reason: 'It is cut with a saw, and the shop was said to have none.' };
  if (!offer.reached) return { ok: false, reason: shortBy(offer) };
  const over = (what: string, is: string, most: string): Offered => ({
    ok: false,
    reason: `${what}: it comes to ${is}, and at most ${most} was wished for.`,
  });
  if (mostKg !== undefined && offer.steelKg > mostKg)
    return over('Steel', formatMass(offer.steelKg, masses), formatMass(mostKg, masses));
  if (mostRounds !== undefined && offer.fourWays > mostRounds)
    return over('Four-ways', String(offer.fourWays), String(mostRounds));
  if (longestMm !== undefined && offer.longestMm > longestMm)
    return over('The longest bar', formatFine(offer.longestMm, lengths), formatFine(longestMm, lengths));
  return { ok: true, ...made };
}

/** A plan that is offered, worked through. */
interface Made {
  readonly offer: Offer;
  readonly evaluation: Evaluation;
}

/** A spec as it is being worked out: what it is asked with, and the bar that comes of it with starts that are long enough. */
interface Worked {
  readonly spec: Spec;
  readonly piece: Piece;
  readonly evaluation: Evaluation;
  readonly mark: ElementMark | null;
}

function offered(spec: Spec, piece: Piece, wish: Wish, flows: Flows): Made {
  if (wish.dark === wish.bright)
    throw new NotMade('Dark and bright steel are the same: nothing would show. Take two that etch unlike.');
  let now = worked(spec, piece, wish, flows);
  for (let i = 0; i < REBUILT; i++) {
    const layers = fewerLayers(now, wish);
    const bites = shorterBites(now);
    if (layers === null && bites === null) break;
    now = worked(
      layers === null ? now.spec : { ...now.spec, numbers: { ...now.spec.numbers, layers } },
      bites === null ? now.piece : { ...now.piece, shop: { ...now.piece.shop, biteMm: bites } },
      wish,
      flows,
    );
  }
  return finished(now, wish);
}

/** The least starts; repaired before where something is amiss, and the element set to a hair by the tiles. */
function finished({ spec, evaluation, mark }: Worked, wish: Wish): Made {
  const { fixesLength } = recipeOf(spec.recipe);
  const rough = roughlyStarted(evaluation, fixesLength ? wish.spareShare : 0);
  const set = elementSet(repaired(rough), spec, mark);
  // What goes into a can was counted for a length: another would not fit it.
  const begun = fixesLength && set.goal.reached ? set : started(set, wish.spareShare);
  const even = trimmed(begun);
  const better = repaired(even);
  const last = better.goal.reached ? better : even;
  if (wish.alongMm) checkNear(last, spec, mark);
  return whatItComesTo(spec, last, mark);
}

/** Off by more, an element is not the one that was wished for. */
const WISHED = 0.01;

function checkNear(evaluation: Evaluation, spec: Spec, mark: ElementMark | null): void {
  const share = shareOf(evaluation, spec, mark);
  if (Math.abs(share - 1) < WISHED) return;
  const { nearest } = recipeOf(spec.recipe);
  const said = (mm: number) => formatFine(mm, evaluation.shop.lengths);
  throw new NotMade(
    `One element comes to ${said(share * spec.alongMm)} along the blade, not ${said(spec.alongMm)}: this way comes no nearer${nearest ? `; ${nearest}` : ''}`,
  );
}

/** The element along the blade over the one wanted; 1 where none is followed. */
function shareOf(evaluation: Evaluation, spec: Spec, mark: ElementMark | null): number {
  if (!mark) return 1;
  const element = elementOn(evaluation, mark);
  if (!element) throw new NotMade('The element cannot be followed to the face');
  return element.alongMm / spec.alongMm;
}

/** The tiles as thick, the bar twisted as often as the element wants; the same where it is right. */
function elementSet(evaluation: Evaluation, spec: Spec, mark: ElementMark | null): Evaluation {
  const off = shareOf(evaluation, spec, mark);
  // Within its own fine division the thickness makes no difference.
  if (Math.abs(off - 1) < NEAR) return evaluation;
  const { plan, shop, flows } = evaluation;
  const set = (s: Step): Step => {
    if (s.kind === 'tile')
      return withParameters(s, {
        ...s.parameters,
        thicknessMm: fineMm(s.parameters.thicknessMm / off, shop),
      });
    if (s.kind === 'twist')
      return withParameters(s, { ...s.parameters, turns: Math.round(100 * s.parameters.turns * off) / 100 });
    if (s.kind !== 'accordion') return s;
    const { legMm, rootMm } = s.parameters;
    return withParameters(s, {
      ...s.parameters,
      legMm: fineMm(legMm / off, shop),
      rootMm: fineMm(rootMm / off, shop),
    });
  };
  const lanes = plan.lanes.map((lane) => ({ ...lane, steps: lane.steps.map(set) }));
  const then = evaluate({ ...plan, lanes }, evaluation, flows);
  return then.goal.bar && weightOf(remainingOf(then)) <= weightOf(remainingOf(evaluation))
    ? then
    : evaluation;
}

/** The thinnest bands of the finished bar, mm. */
const bandOf = ({ goalLane }: Evaluation): number =>
  goalLane.ends[0] ? thinnestBandMm(goalLane.ends[0]) : 0;

/** What is amiss under the press alone: how long the bar is counts for nothing there. */
const underPress = (evaluation: Evaluation): readonly Finding[] =>
  allSteps(evaluation).flatMap((r) => (r.step.kind === 'draw' ? findingsOf(evaluation, r) : []));

/** Fewer layers, where those there are cannot be told apart and are to be; null where they can, or there are few already. */
function fewerLayers({ spec, evaluation }: Worked, wish: Wish): number | null {
  const least = leastBandMm(evaluation.shop.viewingMm);
  const band = bandOf(evaluation);
  const { isLayered, numbers } = recipeOf(spec.recipe);
  if (!isLayered || band >= least || !wish.toldApart) return null;
  const fewest = numbers.layers.least;
  const now = spec.numbers.layers;
  if (now <= fewest) return null;
  return settledNumber(numbers.layers, Math.min(now - 2, Math.floor((0.95 * now * band) / least) - 1));
}

/** The bites that a press too weak for longer ones is told to take; null where it is not. mm */
function shorterBites({ evaluation }: Worked): number | null {
  const bites = underPress(evaluation).flatMap(({ code, remedy }) =>
    code === 'press weak' && remedy && 'shop' in remedy && remedy.shop.biteMm ? [remedy.shop.biteMm] : [],
  );
  return bites.length > 0 ? Math.min(...bites) : null;
}

/** A start is laid so much longer than would about do, until its least is found. */
const LONG_ENOUGH = 1.3;

/** The plan of a spec, its element as wished for, its start longer than it need be. */
function worked(spec: Spec, piece: Piece, wish: Wish, flows: Flows): Worked {
  let { alongMm } = spec;
  let startMm = LONG_ENOUGH * aboutMm(piece.goal);
  let earlier: Evaluation | undefined;
  for (let i = 0; ; i++) {
    const { making, mark } = longEnough(
      (long) => built({ ...spec, alongMm }, piece, wish, flows, long, earlier),
      startMm,
    );
    const { evaluation } = making;
    earlier = evaluation;
    const near = shareOf(evaluation, spec, mark);
    const { fixesLength } = recipeOf(spec.recipe);
    const isNear = Math.abs(near - 1) < (spec.side === 'along' || fixesLength ? NEAR : NEARLY);
    if (isNear && (i > 0 || !fixesLength)) {
      const set = elementSet(evaluation, spec, mark);
      if (i === CORRECTIONS || Math.abs(shareOf(set, spec, mark) - 1) < ALMOST)
        return { spec, piece, mark, evaluation: set };
    }
    if (i === CORRECTIONS) return { spec, piece, mark, evaluation };
    alongMm /= near;
    if (!fixesLength) continue;
    // What goes in is counted for the length: about what is needed, and a little more.
    const least = roughlyStarted(evaluation, wish.spareShare).plan;
    startMm = A_LITTLE_MORE * Math.max(...allStarts(least).map((s) => s.value));
  }
}

const A_LITTLE_MORE = 1.03;

/** Built with a start so long, or with a very long one where that was too short for all its pieces. */
function longEnough<T>(build: (startMm: number) => T, startMm: number): T {
  try {
    return build(startMm);
  } catch (error) {
    if (!(error instanceof NotMade)) throw error;
    return build(Math.max(LONG_START_MM, 3 * startMm));
  }
}

/** Work at the bench and at the fire, hours. */
const hoursOf = (evaluation: Evaluation): number =>
  tasksOf('', evaluation)
    .flatMap((t) => t.legs)
    .reduce(
      (s, leg) => s + (leg.what === 'heat' ? leg.soakS + leg.workS : leg.what === 'bench' ? leg.seconds : 0),
      0,
    ) / 3600;

/** The longest bar that is held in the fire, mm. */
const longestOf = (evaluation: Evaluation): number =>
  Math.max(
    0,
    ...allSteps(evaluation).flatMap((s) =>
      heatsIn(s.step) > 0 ? (s.after ?? []).map((b) => b.lengthMm) : [],
    ),
  );

function whatItComesTo(spec: Spec, evaluation: Evaluation, mark: ElementMark | null): Made {
  const steps = allSteps(evaluation);
  const bandMm = bandOf(evaluation);
  const plan: Plan = evaluation.plan;
  const offer: Offer = {
    spec,
    plan,
    element: mark && elementOn(evaluation, mark),
    steelKg: massKg(steelIn(evaluation), evaluation.shop.materials),
    fourWays: steps.filter((s) => s.step.kind === 'assemble').length,
    heats: steps.reduce((n, s) => n + heatsIn(s.step), 0),
    hours: hoursOf(evaluation),
    longestMm: longestOf(evaluation),
    bandMm,
    isToldApart: bandMm >= leastBandMm(evaluation.shop.viewingMm),
    reached: evaluation.goal.reached,
    spare: evaluation.goal.spare,
    remaining: remainingOf(evaluation),
  };
  return { offer, evaluation };
}
