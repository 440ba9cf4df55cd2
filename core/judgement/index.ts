import type { Evaluation, StepResult } from '../plan/evaluate.ts';
import type { Finding } from '../moves/contract/move.ts';
import { judgeCanister } from './canister.ts';
import { judgeCarbon } from './carbon.ts';
import { judgeFaces } from './faces.ts';
import { judgeFire } from './fire.ts';
import { judgeHandle } from './handle.ts';
import { type Case, type Judge, type Judgement, NOTHING_TO_SAY } from './judgement.ts';
import { judgePattern } from './pattern.ts';
import { judgePress } from './press.ts';
import { judgeSizes } from './sizes.ts';

/** Every kind of judgement, in the order their figures are shown. */
const JUDGES: readonly Judge[] = [
  judgeCanister,
  judgeSizes,
  judgePattern,
  judgeCarbon,
  judgeFire,
  judgePress,
  judgeHandle,
  judgeFaces,
];

const known = new WeakMap<Evaluation, Map<StepResult, Judgement>>();

/** Everything to be said about a step beside its move's own findings; worked out once for an evaluation, when it is asked for. */
export function judge(evaluation: Evaluation, result: StepResult): Judgement {
  const done = known.get(evaluation) ?? new Map<StepResult, Judgement>();
  known.set(evaluation, done);
  const before = done.get(result);
  if (before) return before;
  const judged = judgeAnew(evaluation, result);
  done.set(result, judged);
  return judged;
}

function judgeAnew(evaluation: Evaluation, result: StepResult): Judgement {
  const lane = evaluation.lanes.find((l) => l.steps.includes(result));
  if (!lane || !result.after) return NOTHING_TO_SAY;
  const subject: Case = {
    evaluation,
    lane,
    at: lane.steps.indexOf(result),
    result: { ...result, after: result.after },
    shop: evaluation.shop,
  };
  const all = JUDGES.map((j) => j(subject));
  return { figures: all.flatMap((j) => j.figures), findings: all.flatMap((j) => j.findings) };
}

/** All findings of a step: its move's own, and what is judged beside them. */
export const findingsOf = (evaluation: Evaluation, result: StepResult): readonly Finding[] => [
  ...result.findings,
  ...judge(evaluation, result).findings,
];

export type { Judgement } from './judgement.ts';
export { leastBandMm, resolvedMm } from '../geometry/acuity.ts';
export { heatAfter } from './fire.ts';
export { handleInUse } from './handle.ts';
export * from './planFigures.ts';
