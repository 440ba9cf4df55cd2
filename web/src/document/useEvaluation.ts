import { createContext, useContext, useMemo } from 'react';
import { type Evaluation, type Plan, evaluate, flowsAwaited } from '../../../core/plan/index.ts';
import { type Shop, makeShop } from '../../../core/shop/shop.ts';
import { useFlows } from './flows.ts';
import { usePlanStore } from './planStore.ts';

const known = new WeakMap<Plan, Evaluation>();

/** The evaluation made last: what did not change since is taken over from it. */
let latest: Evaluation | undefined;

/** The plan worked through, once per plan object, and again when a flow that it waits for has become known. */
export function evaluated(plan: Plan, flows = useFlows.getState().flows): Evaluation {
  const before = known.get(plan);
  if (before && !flowsAwaited(before).some((spec) => flows.of(spec))) return before;
  latest = evaluate(plan, latest, flows);
  const fresh = latest;
  known.set(plan, fresh);
  return fresh;
}

/** The same for a component: worked through again when a flow becomes known. */
export function useEvaluated(plan: Plan): Evaluation {
  const flows = useFlows((state) => state.flows);
  return evaluated(plan, flows);
}

/** The evaluation of the plan being edited. Only inside a screen that has one open. */
export function useEvaluation(): Evaluation {
  const plan = usePlanStore((state) => state.plan);
  if (!plan) throw new Error('no plan is open');
  return useEvaluated(plan);
}

/** The shop for screens that have no plan open, such as the shop's own. */
export const ShopContext = createContext<Shop | null>(null);

/** The shop whose units and materials are used here: that of the screen, else of the plan being edited. */
export function useShop(): Shop {
  const here = useContext(ShopContext);
  const plan = usePlanStore((state) => state.plan);
  return useMemo(() => here ?? (plan ? evaluated(plan).shop : makeShop()), [here, plan]);
}
