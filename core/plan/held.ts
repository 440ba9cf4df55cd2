import { moveOf } from '../moves/index.ts';
import { doneSteps } from '../records/record.ts';
import type { Plan, Problem, Step } from './plan.ts';

const where = (
  plan: Plan,
): Map<string, { readonly step: Step; readonly lane: string; readonly rank: number }> =>
  new Map(
    plan.lanes.flatMap((lane) => lane.steps.map((step, rank) => [step.id, { step, lane: lane.id, rank }])),
  );

const same = (a: Step, b: Step): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** A plan that came from elsewhere, with the steps that it shares with another as the very same objects: nothing is worked out again for them. */
export function sharing(plan: Plan, known: Plan): Plan {
  const steps = where(known);
  const shared = (step: Step): Step => {
    const mine = steps.get(step.id)?.step;
    return mine && same(mine, step) ? mine : step;
  };
  return {
    ...plan,
    shop: JSON.stringify(plan.shop) === JSON.stringify(known.shop) ? known.shop : plan.shop,
    materials:
      JSON.stringify(plan.materials) === JSON.stringify(known.materials) ? known.materials : plan.materials,
    lanes: plan.lanes.map((lane) => ({ ...lane, steps: lane.steps.map(shared) })),
  };
}

/**
 * What is held fast of a plan whose steps are done: their numbers are what was meant, and they stay where they are. One problem for
 * each that was changed, taken out or moved among the others that are done.
 */
export function heldProblems(before: Plan, after: Plan, records: Plan['records']): Problem[] {
  if (!records || records.length === 0 || before.lanes === after.lanes) return [];
  const done = doneSteps(records);
  const [was, is] = [where(before), where(after)];
  /** Which of the done steps that both have comes the how manieth. */
  const ranks = (steps: typeof was, others: typeof was): string[] =>
    [...steps.keys()].filter((id) => done.has(id) && others.has(id));
  const [rankWas, rankIs] = [ranks(was, is), ranks(is, was)];
  return [...was].flatMap(([id, { step, lane }]): Problem[] => {
    const now = is.get(id);
    const stays = now?.lane === lane && rankWas.indexOf(id) === rankIs.indexOf(id);
    if (!done.has(id) || (now && stays && same(now.step, step))) return [];
    const { title } = moveOf(step.kind);
    return [
      {
        path: `lanes.${lane}.${id}`,
        message: `“${title}” is done at the bench: open it again there before it is changed.`,
      },
    ];
  });
}
