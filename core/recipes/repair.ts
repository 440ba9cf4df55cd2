import { findingsOf } from '../judgement/index.ts';
import type { Finding, Remedy } from '../moves/index.ts';
import { type Evaluation, allSteps, evaluate, freshStepId, makeStepOf, withRemedy } from '../plan/index.ts';

/** mm. Pieces that are laid together differ by no more. */
const ALIKE_MM = 0.3;
/** More than this is no trimming. */
const MOST_OVER_MM = 40;

/** Pieces of several bars that are laid together come to one length: the longer are cropped to the shortest. */
export function trimmed(evaluation: Evaluation): Evaluation {
  const taking = evaluation.goalLane.steps.find(
    (s) => s.step.kind === 'assemble' && s.before.some((b) => b.piece?.lane),
  );
  if (!taking) return evaluation;
  const least = Math.min(...taking.before.map((b) => b.lengthMm));
  const { plan } = evaluation;
  const lanes = plan.lanes.map((lane) => {
    const own = taking.before.filter((b) => b.piece?.lane === lane.id);
    const over = Math.min(...own.map((b) => b.lengthMm)) - least;
    if (own.length === 0 || over < ALIKE_MM || over > MOST_OVER_MM) return lane;
    const at = lane.steps.findLastIndex((s) => s.kind === 'cut');
    if (at < 0) {
      const id = freshStepId(plan);
      return { ...lane, steps: [...lane.steps, makeStepOf(id, 'crop', { endAMm: 0, endBMm: over })] };
    }
    const steps = lane.steps.map((s, i) =>
      i === at && s.kind === 'cut'
        ? {
            ...s,
            parameters: { ...s.parameters, cropBMm: s.parameters.cropBMm + s.parameters.pieces * over },
          }
        : s,
    );
    return { ...lane, steps };
  });
  return evaluate({ ...plan, lanes }, evaluation, evaluation.flows);
}

/** Findings that a maker would have to live with. */
const isBad = (f: Finding): boolean => f.severity === 'error' || f.severity === 'warning';

const MOST_REPAIRS = 14;

/** What a repair would leave too little of to be done at the disc: a face is bare from so much on. */
const NO_REPAIR = ['ground away'];

/** Of the shop nothing is changed for one finding, but which of its handles is taken. */
const changesShop = (remedy: Remedy): boolean =>
  'shop' in remedy && Object.keys(remedy.shop).some((key) => key !== 'handle');

/** Its own remedies pressed, one after the other, while that leaves less to be said. */
export function repaired(first: Evaluation): Evaluation {
  let now = first;
  const tried = new Set<string>();
  for (let i = 0; i < MOST_REPAIRS; i++) {
    const bad = allSteps(now).flatMap((result) =>
      findingsOf(now, result)
        .filter((f) => isBad(f) && f.remedy && !changesShop(f.remedy) && !NO_REPAIR.includes(f.code))
        .map((finding) => ({ result, finding, key: `${result.step.id} ${finding.code}` })),
    );
    const next = bad.find((b) => !tried.has(b.key));
    if (!next) break;
    tried.add(next.key);
    const plan = withRemedy(now, next.result, next.finding.remedy!).plan;
    const then = evaluate(plan, now, now.flows);
    if (then.goal.bar && weight(then) < weight(now)) now = then;
  }
  return now;
}

export const remainingOf = (e: Evaluation): Finding[] =>
  allSteps(e).flatMap((result) => findingsOf(e, result).filter(isBad));

/** A bar too narrow or too thin is a fault like any other; its length is found after. */
const shortOf = ({ goal }: Evaluation): number =>
  goal.spare && Math.min(goal.spare.widthMm, goal.spare.thicknessMm) < -0.25 ? 5 : 0;

/** How much is amiss: an error weighs as ten warnings. */
export const weightOf = (remaining: readonly Finding[]): number =>
  remaining.reduce((sum, f) => sum + (f.severity === 'error' ? 10 : 1), 0);

const weight = (e: Evaluation): number => weightOf(remainingOf(e)) + (e.goal.bar ? 0 : 100) + shortOf(e);
