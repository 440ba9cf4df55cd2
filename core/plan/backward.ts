import { totalVolume } from '../materials/volumes.ts';
import { MOST_LENGTH_MM } from '../steps/fields.ts';
import { moveOf } from '../steps/index.ts';
import { divisionMm, formatLength } from '../units/length.ts';
import { type Evaluation, type StepResult, evaluate } from './evaluate.ts';
import type { Plan, Step } from './plan.ts';

/** How long the starting stack must be for the goal, or what stands in the way of any length doing it. */
export type StartAnswer =
  | { ok: true; stepId: string; lengthMm: number; reachesMm: number }
  | { ok: false; stepId: string | null; reason: string };

/** mm. Shorter than any stack; the search begins here. */
const LEAST_START_MM = 1;
const SEARCH_STEPS = 60;
/** mm. The answer is found this closely before it is rounded up to the shop's division. */
const SEARCH_TOLERANCE_MM = 1e-4;

interface Start {
  lane: number;
  step: Step & { parameters: { lengthMm: number } };
}

function startOf(plan: Plan): Start | null {
  const lane = plan.lanes.length - 1;
  const [step] = plan.lanes[lane].steps;
  if (!step || !moveOf(step.kind).begins) return null;
  return { lane, step: step as Start['step'] };
}

/** The plan with its last lane's starting stack of another length. */
export function withStartLength(plan: Plan, lengthMm: number): Plan {
  const start = startOf(plan);
  if (!start) return plan;
  const begun = { ...start.step, parameters: { ...start.step.parameters, lengthMm } };
  return {
    ...plan,
    lanes: plan.lanes.map((lane, l) =>
      l === start.lane ? { ...lane, steps: [begun, ...lane.steps.slice(1)] } : lane,
    ),
  };
}

const finalLength = (evaluation: Evaluation): number => evaluation.goal.bar?.lengthMm ?? 0;

/**
 * The shortest starting stack, in whole divisions of the shop's rule, that gives the goal's length: a search over
 * evaluations (the finished length never falls as the start grows), so the answer is checked by running forward.
 */
export function startFor(plan: Plan): StartAnswer {
  const start = startOf(plan);
  if (!start) return { ok: false, stepId: null, reason: 'The plan has no starting stack yet.' };
  const reach = (mm: number): number => finalLength(evaluate(withStartLength(plan, mm)));
  const goal = plan.goal.lengthMm;
  const step = divisionMm(plan.shop.lengths);
  let high = Math.max(LEAST_START_MM, Math.min(start.step.parameters.lengthMm, MOST_LENGTH_MM));
  while (high < MOST_LENGTH_MM && reach(high) < goal) high = Math.min(MOST_LENGTH_MM, high * 2);
  if (reach(high) < goal) return whatStandsInTheWay(plan, goal);
  let low = 0;
  for (let i = 0; i < SEARCH_STEPS && high - low > SEARCH_TOLERANCE_MM; i++) {
    const middle = (low + high) / 2;
    if (reach(middle) < goal) low = middle;
    else high = middle;
  }
  const lengthMm = Math.min(MOST_LENGTH_MM, Math.ceil(high / step - 1e-9) * step);
  return { ok: true, stepId: start.step.id, lengthMm, reachesMm: reach(lengthMm) };
}

const steelAfter = (result: StepResult): number =>
  (result.after ?? []).reduce((sum, billet) => sum + totalVolume(billet.volumes), 0);

/** Compares two very long starts: the step at which the extra steel stops arriving is the one in the way. */
function whatStandsInTheWay(plan: Plan, goalMm: number): StartAnswer {
  const long = evaluate(withStartLength(plan, MOST_LENGTH_MM / 2));
  const longer = evaluate(withStartLength(plan, MOST_LENGTH_MM));
  const stepsLong = long.lanes[long.lanes.length - 1].steps;
  const stepsLonger = longer.lanes[longer.lanes.length - 1].steps;
  const name = (i: number) => `Step ${i + 1}, ${moveOf(stepsLong[i].step.kind).title}`;
  const stopped = stepsLonger.findIndex((s) => s.after === null);
  if (stopped >= 0) {
    const error = stepsLonger[stopped].findings.find((f) => f.severity === 'error');
    return {
      ok: false,
      stepId: stepsLonger[stopped].step.id,
      reason: `No length of stack helps: ${name(stopped)} cannot be done. ${error?.text ?? ''}`.trim(),
    };
  }
  const capped = stepsLonger.findIndex((s, i) => i > 0 && steelAfter(s) < steelAfter(stepsLong[i]) * 1.001);
  const most = formatLength(finalLength(longer), plan.shop.lengths);
  if (capped >= 0)
    return {
      ok: false,
      stepId: stepsLonger[capped].step.id,
      reason: `No length of stack helps: ${name(capped)} takes only a fixed amount of steel, however long the bar. The plan comes to ${most} at most.`,
    };
  return {
    ok: false,
    stepId: stepsLonger[0].step.id,
    reason: `Even a stack of ${formatLength(MOST_LENGTH_MM, plan.shop.lengths)} comes to only ${most} of the ${formatLength(goalMm, plan.shop.lengths)} wanted: start with a larger section or draw thinner.`,
  };
}
