import { type Billet, type Loss, sizeOf } from '../billet/billet.ts';
import { type Volumes, addVolumes } from '../materials/volumes.ts';
import { type Shop, makeShop } from '../shop/shop.ts';
import { moveOf } from '../steps/index.ts';
import type { Finding } from '../steps/step.ts';
import type { Goal, Lane, Plan, Step } from './plan.ts';

export interface StepResult {
  readonly step: Step;
  readonly before: readonly Billet[];
  /** Null where an error here or earlier stopped the lane. */
  readonly after: readonly Billet[] | null;
  readonly losses: readonly Loss[];
  readonly added: Volumes;
  readonly findings: readonly Finding[];
}

export interface LaneResult {
  readonly lane: Lane;
  readonly steps: readonly StepResult[];
  /** What the lane ends with: one bar, several pieces, or nothing where it was stopped. */
  readonly ends: readonly Billet[];
}

export interface GoalResult {
  readonly goal: Goal;
  /** The bar that the plan comes to, if it gets there. */
  readonly bar: Billet | null;
  /** How much longer, wider and thicker than asked for, mm; negative is short. */
  readonly spare: Goal | null;
  readonly reached: boolean;
}

export interface Evaluation {
  readonly plan: Plan;
  readonly shop: Shop;
  readonly lanes: readonly LaneResult[];
  readonly goal: GoalResult;
}

/** mm. A finished size this close is what was asked for. */
const GOAL_TOLERANCE_MM = 0.05;

function evaluateStep(step: Step, before: readonly Billet[], shop: Shop): StepResult {
  const move = moveOf(step.kind);
  const findings: Finding[] = [];
  if (move.begins && before.length > 0)
    findings.push({
      code: 'not first',
      severity: 'error',
      text: `${move.title} begins a bar and can only stand first.`,
    });
  else findings.push(...move.check(before, step.parameters, shop));
  if (findings.some((f) => f.severity === 'error'))
    return { step, before, after: null, losses: [], added: {}, findings };
  return { step, before, findings, ...move.apply(before, step.parameters, shop) };
}

function evaluateLane(lane: Lane, shop: Shop): LaneResult {
  const steps: StepResult[] = [];
  let now: readonly Billet[] | null = [];
  for (const step of lane.steps) {
    const result: StepResult = now
      ? evaluateStep(step, now, shop)
      : { step, before: [], after: null, losses: [], added: {}, findings: [] };
    steps.push(result);
    now = result.after;
  }
  return { lane, steps, ends: now ?? [] };
}

function judge(goal: Goal, bar: Billet | null): GoalResult {
  if (!bar) return { goal, bar, spare: null, reached: false };
  const { widthMm, heightMm } = sizeOf(bar);
  const spare = {
    lengthMm: bar.lengthMm - goal.lengthMm,
    widthMm: widthMm - goal.widthMm,
    thicknessMm: heightMm - goal.thicknessMm,
  };
  const reached = Object.values(spare).every((mm) => mm >= -GOAL_TOLERANCE_MM);
  return { goal, bar, spare, reached };
}

/** Works a plan through: what every step makes of the steel, what it loses, what is to be said about it. Pure. */
export function evaluate(plan: Plan): Evaluation {
  const shop = makeShop(plan.shop, plan.materials);
  const lanes = plan.lanes.map((lane) => evaluateLane(lane, shop));
  const last = lanes[lanes.length - 1];
  return { plan, shop, lanes, goal: judge(plan.goal, last.ends[0] ?? null) };
}

/** The result of one step, wherever it is. */
export const stepResult = (evaluation: Evaluation, stepId: string): StepResult | undefined =>
  evaluation.lanes.flatMap((l) => l.steps).find((s) => s.step.id === stepId);

/** The last move of the plan that comes to something. */
export const lastReached = (evaluation: Evaluation): StepResult | undefined =>
  evaluation.lanes.at(-1)?.steps.findLast((s) => s.after !== null);

/** Everything that came in over all steps, mm³ by material. */
export const steelIn = (evaluation: Evaluation): Volumes =>
  addVolumes(...evaluation.lanes.flatMap((l) => l.steps.map((s) => s.added)));

/** Everything that was lost over all steps, mm³ by material. */
export const steelLost = (evaluation: Evaluation): Volumes =>
  addVolumes(
    ...evaluation.lanes.flatMap((l) => l.steps.flatMap((s) => s.losses.map((loss) => loss.volumes))),
  );

/** The instruction for a step, or nothing while it cannot be done. */
export function sayStep(result: StepResult, shop: Shop): string[] {
  return result.after ? moveOf(result.step.kind).say(result.before, result.step.parameters, shop) : [];
}
