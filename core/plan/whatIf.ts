import { thinnestBandMm } from '../billet/bands.ts';
import { sizeOf } from '../billet/billet.ts';
import { shapeOf } from '../geometry/shapes.ts';
import { leastBandMm } from '../geometry/acuity.ts';
import { type Evaluation, type StepResult, evaluate } from './evaluate.ts';
import { type MoveKind, moveOf } from '../moves/index.ts';
import { type Plan, type Step, makeStepOf } from './plan.ts';

/** What the plan would come to with so many more four-way rounds. */
export interface RoundsAnswer {
  readonly rounds: number;
  readonly plan: Plan;
  /** Finished length, mm; 0 where it cannot be done. */
  readonly lengthMm: number;
  readonly reached: boolean;
  /** Thinnest band on the finished bar, mm, and whether the eye still tells it at the shop's distance. */
  readonly bandMm: number;
  readonly seen: boolean;
}

const MOST_ROUNDS = 4;

/** Where more rounds would go in the goal's lane: after the last square bar before the end grain is brought to the side. */
function placeForRounds({ goalLane: { steps } }: Evaluation): number | null {
  const side = steps.findIndex((s) => moveOf(s.step.kind).toTheSide);
  const until = side < 0 ? steps.length : side;
  for (let i = until - 1; i >= 0; i--) {
    const bars = steps[i].after;
    if (bars?.length !== 1 || bars[0].loose || shapeOf(bars[0].outline) !== 'rectangle') continue;
    const { widthMm, heightMm } = sizeOf(bars[0]);
    if (Math.abs(widthMm / heightMm - 1) < 0.05) return i + 1;
  }
  return null;
}

/** One four-way round that ends at the size it began with. */
function roundMoves(sideMm: number, evaluation: Evaluation): [MoveKind, unknown][] {
  const { cropMm, fayingMm, forge } = evaluation.shop;
  const off = { topMm: fayingMm, bottomMm: fayingMm, leftMm: fayingMm, rightMm: fayingMm };
  return [
    ['cut', { pieces: 4, cropAMm: cropMm, cropBMm: cropMm }],
    ['grind', off],
    ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }],
    ['weld', { heats: 2, temperatureC: forge.weldingC }],
    ['draw', { shape: 'square', sideMm, heats: 2 }],
  ];
}

/** The plan with more four-way rounds put in; null where no square bar stands before the end grain is turned. */
function withRounds(evaluation: Evaluation, rounds: number): Plan | null {
  const at = placeForRounds(evaluation);
  if (at === null) return null;
  const { plan, goalLane } = evaluation;
  const side = sizeOf(goalLane.steps[at - 1].after![0]).widthMm;
  const taken = new Set(plan.lanes.flatMap((l) => l.steps.map((s) => s.id)));
  let n = 1;
  const freshId = (): string => {
    while (taken.has(`r${n}`)) n++;
    taken.add(`r${n}`);
    return `r${n}`;
  };
  const more = Array.from({ length: rounds }, () => roundMoves(side, evaluation))
    .flat()
    .map(([kind, parameters]) => makeStepOf(freshId(), kind, parameters));
  const lanes = plan.lanes.map((lane) =>
    lane.id === goalLane.lane.id
      ? { ...lane, steps: [...lane.steps.slice(0, at), ...more, ...lane.steps.slice(at)] }
      : lane,
  );
  return { ...plan, lanes };
}

/** How many more four-way rounds the steel allows, and what each makes of the elements. The first answer is the plan as it is. */
export function roundsAffordable(evaluation: Evaluation): RoundsAnswer[] {
  const least = leastBandMm(evaluation.shop.viewingMm);
  return Array.from({ length: MOST_ROUNDS + 1 }, (_, rounds) => rounds).flatMap((rounds): RoundsAnswer[] => {
    const plan = rounds === 0 ? evaluation.plan : withRounds(evaluation, rounds);
    if (!plan) return [];
    const { goal } = rounds === 0 ? evaluation : evaluate(plan, evaluation);
    const bandMm = goal.bar ? thinnestBandMm(goal.bar) : 0;
    return [
      {
        rounds,
        plan,
        lengthMm: goal.sizes?.lengthMm ?? 0,
        reached: goal.reached,
        bandMm,
        seen: bandMm >= least,
      },
    ];
  });
}

/** What the plan would come to if the bar after a step were only so long: the evaluation with the rest cropped off there. */
export function ifOnlySoLong(
  evaluation: Evaluation,
  result: StepResult,
  lengthMm: number,
): Evaluation | null {
  const bar = result.after?.length === 1 ? result.after[0] : undefined;
  if (!bar || lengthMm >= bar.lengthMm) return null;
  const crop: Step = {
    id: 'if-only',
    kind: 'crop',
    parameters: { endAMm: 0, endBMm: bar.lengthMm - lengthMm },
  };
  const { plan } = evaluation;
  const lanes = plan.lanes.map((lane) => {
    const at = lane.steps.findIndex((s) => s.id === result.step.id);
    return at < 0
      ? lane
      : { ...lane, steps: [...lane.steps.slice(0, at + 1), crop, ...lane.steps.slice(at + 1)] };
  });
  return evaluate({ ...plan, lanes }, evaluation);
}
