import type { Remedy } from '../../../core/moves/index.ts';
import { type Evaluation, type StepResult, withRemedy } from '../../../core/plan/index.ts';
import { editPlan, select } from './planStore.ts';

/** Carries out a finding's remedy; a move that comes in is selected. */
export function carryOut(evaluation: Evaluation, result: StepResult, remedy: Remedy): void {
  const { plan, inserted } = withRemedy(evaluation, result, remedy);
  editPlan(() => plan, `remedy ${result.step.id}`);
  if (inserted) select(inserted);
}
