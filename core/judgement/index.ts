import type { Evaluation, StepResult } from '../plan/evaluate.ts';
import type { Finding } from '../moves/contract/move.ts';
import { judgeBeads } from './beads.ts';
import { judgeBlade } from './blade.ts';
import { judgeCanister } from './canister.ts';
import { judgeCarbon } from './carbon.ts';
import { judgeFaces } from './faces.ts';
import { judgeFire } from './fire.ts';
import { judgeHandle } from './handle.ts';
import { type Case, type Judge, type Judgement, NOTHING_TO_SAY } from './judgement.ts';
import { judgePattern } from './pattern.ts';
import { judgePicture } from './picture.ts';
import { judgePress } from './press.ts';
import { judgeSizes } from './sizes.ts';
import { judgeSoundEnds } from './soundEnds.ts';
import { judgeSoft } from './soft.ts';
import { judgeStar, judgeTurned } from './star.ts';

/** Every kind of judgement, in the order their figures are shown. */
const JUDGES: readonly Judge[] = [
  judgeCanister,
  judgePicture,
  judgeSizes,
  judgePattern,
  judgeCarbon,
  judgeBlade,
  judgeFire,
  judgePress,
  judgeHandle,
  judgeFaces,
  judgeSoundEnds,
  judgeBeads,
  judgeSoft,
  judgeStar,
  judgeTurned,
];

/** What a step was judged with, and what came of it. */
interface Kept {
  readonly inputs: readonly unknown[];
  readonly judgement: Judgement;
}

const known = new WeakMap<StepResult, Kept>();

const same = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((x, i) => x === b[i]);

/**
 * Everything to be said about a step beside its move's own findings, as it was reckoned. Kept with the step's result, and judged
 * again only when what it was judged with is another.
 */
export function judge(evaluation: Evaluation, stands: StepResult): Judgement {
  const lane = evaluation.lanes.find((l) => l.steps.includes(stands));
  const result = stands.reckoned ?? stands;
  if (!lane || !result.after) return NOTHING_TO_SAY;
  const at = lane.steps.indexOf(stands);
  const taken = new Set(result.before.flatMap((b) => (b.piece?.lane ? [b.piece.lane] : [])));
  const others = evaluation.lanes.filter((l) => taken.has(l.lane.id));
  const isLast = lane === evaluation.goalLane && at === lane.steps.length - 1;
  const { blade } = evaluation.plan;
  const inputs = [
    evaluation.shop,
    isLast,
    isLast ? blade : null,
    ...lane.steps.slice(0, at),
    ...others.flatMap((l) => l.steps),
  ];
  const before = known.get(stands);
  if (before && same(before.inputs, inputs)) return before.judgement;
  const finished = isLast ? { blade } : null;
  const subject: Case = {
    lane,
    at,
    result: { ...result, after: result.after },
    stands: stands.after ?? result.after,
    shop: evaluation.shop,
    flows: evaluation.flows,
    others,
    finished,
  };
  const all = JUDGES.map((j) => j(subject));
  const judgement = { figures: all.flatMap((j) => j.figures), findings: all.flatMap((j) => j.findings) };
  known.set(stands, { inputs, judgement });
  return judgement;
}

/** All findings of a step: its move's own, and what is judged beside them. */
export const findingsOf = (evaluation: Evaluation, result: StepResult): readonly Finding[] => [
  ...result.findings,
  ...judge(evaluation, result).findings,
];

export type { Judgement } from './judgement.ts';
export { heatAfter } from './fire.ts';
export * from './planFigures.ts';
export * from './waysOn.ts';
