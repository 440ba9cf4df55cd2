import { type Flows, KnownFlows, WorkedOutFlows } from '../../../../core/flow/flows.ts';
import type { FlowStage } from '../../../../core/flow/run.ts';
import { type Evaluation, type Plan, evaluate } from '../../../../core/plan/index.ts';

/** Plans that may still be asked about. */
const KEPT_PLANS = 24;
const plans = new Map<number, Plan>();
const evaluations = new Map<number, Evaluation>();
let latest: Evaluation | undefined;

/** Pictures never wait for a flow: the page has them worked out and hands them over. Everyone else may work them out. */
export const flows: Flows & KnownFlows = self.name === 'painting' ? new KnownFlows() : new WorkedOutFlows();

/** A plan that came over with the parts that have not changed since the last one put back in place, so that what was worked out for them is taken over. */
function interned(plan: Plan): Plan {
  const last = latest?.plan;
  if (!last) return plan;
  const keep = <T>(fresh: T, old: T): T => (JSON.stringify(fresh) === JSON.stringify(old) ? old : fresh);
  const steps = new Map(last.lanes.flatMap((l) => l.steps.map((s) => [s.id, s])));
  return {
    ...plan,
    shop: keep(plan.shop, last.shop),
    materials: keep(plan.materials, last.materials),
    lanes: plan.lanes.map((lane) => ({
      ...lane,
      steps: lane.steps.map((step) => keep(step, steps.get(step.id) ?? step)),
    })),
  };
}

/** The evaluation of a plan that was made known; null of one that was not, or long ago. */
export function evaluatedByKey(planKey: number): Evaluation | null {
  const known = evaluations.get(planKey);
  if (known && !known.lanes.some((l) => l.steps.some((s) => s.waits && flows.of(s.waits)))) return known;
  const plan = plans.get(planKey);
  if (!plan) return null;
  latest = evaluate(known ? plan : interned(plan), latest, flows);
  evaluations.set(planKey, latest);
  return latest;
}

export const knowledge = {
  /** Makes a plan known by its key; it is then asked about by the key alone. */
  know(planKey: number, plan: Plan): void {
    plans.set(planKey, plan);
    if (plans.size <= KEPT_PLANS) return;
    const oldest = plans.keys().next().value!;
    plans.delete(oldest);
    evaluations.delete(oldest);
  },
  /** Before anything is asked about it. */
  workThrough(planKey: number): void {
    evaluatedByKey(planKey);
  },
  /** A flow became known. */
  keepStage(key: string, stage: FlowStage): void {
    flows.keep(key, stage);
  },
};
