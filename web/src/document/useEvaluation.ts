import { createContext, useContext, useMemo } from 'react';
import { type Evaluation, type Plan, evaluate, flowsAwaited } from '../../../core/plan/index.ts';
import { type Shop, makeShop } from '../../../core/shop/shop.ts';
import { useFlows } from './flows.ts';
import { asItStands, useRecords } from './records.ts';
import { usePlanStore } from './planStore.ts';

const known = new WeakMap<Plan, Evaluation>();

/** The evaluations made last, as planned and as it stands: what did not change since is taken over from them. */
const latest: { planned?: Evaluation; stands?: Evaluation } = {};

/** The plan worked through, once per plan object, and again when a flow that it waits for has become known. */
export function evaluated(plan: Plan, flows = useFlows.getState().flows): Evaluation {
  const before = known.get(plan);
  if (before && !flowsAwaited(before).some((spec) => flows.of(spec))) return before;
  const how = plan.records ? 'stands' : 'planned';
  const fresh = evaluate(plan, latest[how] ?? latest.planned, flows);
  latest[how] = fresh;
  known.set(plan, fresh);
  return fresh;
}

/** The same for a component: worked through again when a flow becomes known. */
export function useEvaluated(plan: Plan): Evaluation {
  const flows = useFlows((state) => state.flows);
  return evaluated(plan, flows);
}

/** The plan being edited, without what came of it. Only inside a screen that has one open. */
function usePlan(): Plan {
  const plan = usePlanStore((state) => state.plan);
  if (!plan) throw new Error('no plan is open');
  return plan;
}

/** The evaluation of the plan being edited, as it stands at the bench unless it is looked at as planned. */
export function useEvaluation(): Evaluation {
  const plan = usePlan();
  const { records, planned } = useRecords();
  return useEvaluated(planned ? plan : asItStands(plan, records));
}

/** The same as it stands, and as it was planned, whichever is looked at. */
export function useBoth(): { readonly stands: Evaluation; readonly planned: Evaluation } {
  const plan = usePlan();
  const records = useRecords((state) => state.records);
  return { stands: useEvaluated(asItStands(plan, records)), planned: useEvaluated(plan) };
}

/** The shop for screens that have no plan open, such as the shop's own. */
export const ShopContext = createContext<Shop | null>(null);

/** The shop whose units and materials are used here: that of the screen, else of the plan being edited. */
export function useShop(): Shop {
  const here = useContext(ShopContext);
  const plan = usePlanStore((state) => state.plan);
  const records = useRecords((state) => state.records);
  return useMemo(
    () => here ?? (plan ? evaluated(asItStands(plan, records)).shop : makeShop()),
    [here, plan, records],
  );
}
