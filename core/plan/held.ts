import { moveOf } from '../moves/index.ts';
import { doneSteps } from '../records/record.ts';
import type { Plan, Problem, Step } from './plan.ts';

const where = (
  plan: Plan,
): Map<string, { readonly step: Step; readonly lane: string; readonly rank: number }> =>
  new Map(
    plan.lanes.flatMap((lane) => lane.steps.map((step, rank) => [step.id, { step, lane: lane.id, rank }])),
  );

/**
 * What is held fast of a plan whose steps are done: their numbers are what was meant, and they stay where they are. One problem for
 * each that was changed, taken out or moved among the others that are done.
 */
export function heldProblems(before: Plan, after: Plan, records: Plan['records']): Problem[] {
  if (!records || records.length === 0 || before.lanes === after.lanes) return [];
  const done = doneSteps(records);
  const [was, is] = [where(before), where(after)];
  const order = (steps: ReturnType<typeof where>, lane: string): string =>
    [...steps].flatMap(([id, s]) => (s.lane === lane && done.has(id) ? [id] : [])).join();
  return [...was].flatMap(([id, { step, lane }]): Problem[] => {
    if (!done.has(id)) return [];
    const now = is.get(id);
    if (now?.step === step && now.lane === lane && order(was, lane) === order(is, lane)) return [];
    const { title } = moveOf(step.kind);
    return [
      {
        path: `lanes.${lane}.${id}`,
        message: `“${title}” is done at the bench: open it again there before it is changed.`,
      },
    ];
  });
}
