import { doneSteps } from '../records/record.ts';
import { type Evaluation, type StepResult, actionsOf, stepResult } from './evaluate.ts';
import type { GoalResult } from './goalResult.ts';
import { sentencesOf } from '../instruct/words.ts';
import { lanesInOrder } from './lanes.ts';

/** Every move in an order in which it can be done: bars that others take from first. */
export function benchOrder(evaluation: Evaluation): StepResult[] {
  const { order, circular } = lanesInOrder(evaluation.plan);
  return [...order, ...circular].flatMap(
    ({ id }) => evaluation.lanes.find((l) => l.lane.id === id)?.steps ?? [],
  );
}

/** The first move that is not done, and can be as far as is known; the first that is not done where none can. */
export function nextAtBench(evaluation: Evaluation): StepResult | undefined {
  const done = doneSteps(evaluation.plan.records);
  const open = benchOrder(evaluation).filter(({ step }) => !done.has(step.id));
  return open.find((r) => r.after !== null || r.waits !== null) ?? open[0];
}

/** A move that comes later and is said otherwise than before. */
export interface TargetChanged {
  readonly result: StepResult;
  /** The sentences that are new. */
  readonly now: readonly string[];
  /** Cannot be done any more. */
  readonly stopped: boolean;
}

/** What something that was written changes: the finished bar, and what is still to be done. */
export interface Changed {
  readonly before: GoalResult;
  readonly after: GoalResult;
  readonly targets: readonly TargetChanged[];
}

/** Compares how a piece stood with how it stands; nothing of moves that are done. */
export function changedBetween(before: Evaluation, after: Evaluation): Changed {
  const done = doneSteps(after.plan.records);
  const { shop } = after;
  const targets = benchOrder(after).flatMap((result): TargetChanged[] => {
    const was = stepResult(before, result.step.id);
    if (done.has(result.step.id) || !was || was === result) return [];
    // What only waits for an earlier move is not said once more.
    const stopped = was.after !== null && result.findings.some((f) => f.severity === 'error');
    const said = new Set(sentencesOf(actionsOf(was, shop), shop));
    const now = sentencesOf(actionsOf(result, shop), shop).filter((text) => !said.has(text));
    return stopped || (now.length > 0 && was.after) ? [{ result, now, stopped }] : [];
  });
  return { before: before.goal, after: after.goal, targets };
}
