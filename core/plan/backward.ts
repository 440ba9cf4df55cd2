import { totalVolume } from '../materials/volumes.ts';
import { MOST_LENGTH_MM } from '../steps/fields.ts';
import { moveOf } from '../steps/index.ts';
import { divisionMm, formatLength } from '../units/length.ts';
import { type Evaluation, type StepResult, evaluate } from './evaluate.ts';
import { goalLaneOf, lanesFeeding } from './lanes.ts';
import type { Plan, Step } from './plan.ts';

/** One starting stack: whose, which step, and how long it must be. */
export interface Start {
  readonly laneId: string;
  readonly stepId: string;
  readonly lengthMm: number;
}

/** How long the starting stacks must be for the goal, or what stands in the way of any length doing it. */
export type StartAnswer =
  | { ok: true; starts: readonly Start[]; reachesMm: number }
  | { ok: false; stepId: string | null; reason: string };

/** mm. Shorter than any stack; the search begins here. */
const LEAST_START_MM = 1;
const SEARCH_STEPS = 60;
/** Share. The common factor is found this closely before each stack is looked at alone. */
const FACTOR_TOLERANCE = 1e-6;
/** mm. Each length is found this closely before it is rounded up to the shop's division. */
const SEARCH_TOLERANCE_MM = 1e-3;

type BegunStep = Step & { parameters: { lengthMm: number } };

/** The stacks that the finished bar is made from, as they stand. */
export function startsOf(plan: Plan): Start[] {
  return lanesFeeding(plan, goalLaneOf(plan).id).flatMap((lane) => {
    const [step] = lane.steps;
    if (!step || moveOf(step.kind).begins !== true) return [];
    return [{ laneId: lane.id, stepId: step.id, lengthMm: (step as BegunStep).parameters.lengthMm }];
  });
}

/** The plan with other starting lengths. */
export function withStarts(plan: Plan, starts: readonly Start[]): Plan {
  const wanted = new Map(starts.map((s) => [s.stepId, s.lengthMm]));
  const lanes = plan.lanes.map((lane) => {
    const [step, ...rest] = lane.steps;
    const lengthMm = step && wanted.get(step.id);
    if (lengthMm === undefined || (step as BegunStep).parameters.lengthMm === lengthMm) return lane;
    return {
      ...lane,
      steps: [{ ...step, parameters: { ...(step as BegunStep).parameters, lengthMm } }, ...rest],
    };
  });
  return { ...plan, lanes };
}

const finalLength = (evaluation: Evaluation): number => evaluation.goal.bar?.lengthMm ?? 0;

/** Smallest value in low…high at which `enough` holds, to a tolerance; `enough(high)` must hold. */
function least(low: number, high: number, tolerance: number, enough: (value: number) => boolean): number {
  for (let i = 0; i < SEARCH_STEPS && high - low > tolerance; i++) {
    const middle = (low + high) / 2;
    if (enough(middle)) high = middle;
    else low = middle;
  }
  return high;
}

const scaled = (starts: readonly Start[], factor: number): Start[] =>
  starts.map((s) => ({
    ...s,
    lengthMm: Math.min(MOST_LENGTH_MM, Math.max(LEAST_START_MM, s.lengthMm * factor)),
  }));

/**
 * The shortest starting stacks, in whole divisions of the shop's rule, that give the goal's length: all are lengthened by one
 * factor first, then each is shortened as far as the others let it. A search over evaluations (the finished length never
 * falls as a start grows), so the answer is checked by running forward.
 */
export function startFor(plan: Plan): StartAnswer {
  const starts = startsOf(plan);
  if (starts.length === 0) return { ok: false, stepId: null, reason: 'The plan has no starting stack yet.' };
  let last: Evaluation | undefined;
  const reach = (some: readonly Start[]): number => {
    last = evaluate(withStarts(plan, some), last);
    return finalLength(last);
  };
  const goal = plan.goal.lengthMm;
  const most = MOST_LENGTH_MM / Math.min(...starts.map((s) => s.lengthMm));
  let factor = 1;
  while (factor < most && reach(scaled(starts, factor)) < goal) factor = Math.min(most, factor * 2);
  if (reach(scaled(starts, factor)) < goal) return whatStandsInTheWay(plan, starts, goal);
  factor = least(0, factor, FACTOR_TOLERANCE * factor, (f) => reach(scaled(starts, f)) >= goal);
  const step = divisionMm(plan.shop.lengths);
  const whole = (mm: number) => Math.min(MOST_LENGTH_MM, Math.ceil(mm / step - 1e-6) * step);
  let found = scaled(starts, factor).map((s) => ({ ...s, lengthMm: whole(s.lengthMm) }));
  for (let i = 0; starts.length > 1 && i < starts.length; i++) {
    const withLength = (mm: number) => found.map((s, k) => (k === i ? { ...s, lengthMm: mm } : s));
    const shortest = least(0, found[i].lengthMm, SEARCH_TOLERANCE_MM, (mm) => reach(withLength(mm)) >= goal);
    found = withLength(whole(shortest));
  }
  return { ok: true, starts: found, reachesMm: reach(found) };
}

const steelAfter = (result: StepResult): number =>
  (result.after ?? []).reduce((sum, billet) => sum + totalVolume(billet.volumes), 0);

/** Compares two very long starts: the step at which the extra steel stops arriving is the one in the way. */
function whatStandsInTheWay(plan: Plan, starts: readonly Start[], goalMm: number): StartAnswer {
  const all = (lengthMm: number) =>
    withStarts(
      plan,
      starts.map((s) => ({ ...s, lengthMm })),
    );
  const long = evaluate(all(MOST_LENGTH_MM / 2));
  const longer = evaluate(all(MOST_LENGTH_MM));
  const most = formatLength(finalLength(longer), plan.shop.lengths);
  for (const { id } of lanesFeeding(plan, goalLaneOf(plan).id)) {
    const lane = longer.lanes.find((l) => l.lane.id === id)!;
    const shorter = long.lanes.find((l) => l.lane.id === id)!.steps;
    const where = plan.lanes.length > 1 ? ` of “${lane.lane.name}”` : '';
    const name = (i: number) => `Step ${i + 1}${where}, ${moveOf(lane.steps[i].step.kind).title}`;
    const stopped = lane.steps.findIndex((s) => s.after === null);
    if (stopped >= 0) {
      const error = lane.steps[stopped].findings.find((f) => f.severity === 'error');
      return {
        ok: false,
        stepId: lane.steps[stopped].step.id,
        reason: `No length of stack helps: ${name(stopped)} cannot be done. ${error?.text ?? ''}`.trim(),
      };
    }
    const capped = lane.steps.findIndex((s, i) => i > 0 && steelAfter(s) < steelAfter(shorter[i]) * 1.001);
    if (capped >= 0)
      return {
        ok: false,
        stepId: lane.steps[capped].step.id,
        reason: `No length of stack helps: ${name(capped)} takes only a fixed amount of steel, however long the bar. The plan comes to ${most} at most.`,
      };
  }
  return {
    ok: false,
    stepId: starts[0].stepId,
    reason: `Even a stack of ${formatLength(MOST_LENGTH_MM, plan.shop.lengths)} comes to only ${most} of the ${formatLength(goalMm, plan.shop.lengths)} wanted: start with a larger section or draw thinner.`,
  };
}
