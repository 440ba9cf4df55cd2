import type { Remedy } from '../../../core/moves/index.ts';
import { type Evaluation, type StepResult, withRemedies } from '../../../core/plan/index.ts';
import { editPlan, select } from './planStore.ts';

/** Carries out a finding's remedy, or several one after the other; the move that came in last is selected. */
export function carryOut(
  evaluation: Evaluation,
  result: StepResult,
  remedies: Remedy | readonly Remedy[],
): void {
  const { plan, inserted } = withRemedies(evaluation, result, [remedies].flat());
  editPlan(() => plan, `remedy ${result.step.id}`);
  const last = inserted.at(-1);
  if (last) select(last);
}
