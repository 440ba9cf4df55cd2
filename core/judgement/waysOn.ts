import {
  type SeamFigures,
  type StarPoints,
  seamFigures,
  starPoints,
  turnedBefore,
} from '../assembly/index.ts';
import { sizeOf } from '../billet/billet.ts';
import { grindTrue } from '../geometry/grindTrue.ts';
import { radians } from '../moves/contract/common.ts';
import { type AssembleParameters, gridPlacesOf } from '../moves/lay/assemble/laid.ts';
import type { Remedy } from '../moves/index.ts';
import { bestTrueDeg } from '../moves/saw/trueUp.ts';
import {
  type Evaluation,
  type Plan,
  type Step,
  type StepResult,
  evaluate,
  freshStepIds,
  makeStepOf,
} from '../plan/index.ts';

/** One way on from a bar whose picture stands turned: what its four-way then looks like, and what it costs. */
export interface WayOn {
  readonly id: 'as it is' | 'book-matched' | 'ground as measured' | 'ground by the picture';
  readonly title: string;
  /** The four-way, in a plan of its own: what is to be drawn. */
  readonly plan: Plan;
  readonly result: StepResult;
  /** The seam that differs most, share of it. */
  readonly mismatch: number;
  readonly points: StarPoints['worst'];
  /** Side of each piece, and the share of the steel that grinding takes. */
  readonly sideMm: number;
  readonly lostShare: number;
  /** What carries it out; nothing where nothing has to be done before the pieces are laid. */
  readonly remedy: Remedy | null;
}

/** Degrees: a turn measured smaller is none. */
const LEAST_DEG = 0.3;

/** Ways on after "What the ends show"; none where it shows no turn, or where no four-way can be laid of what is there. */
export function waysOn(evaluation: Evaluation, result: StepResult): WayOn[] {
  if (result.step.kind !== 'measure' || !result.after) return [];
  const { turnDeg } = result.step.parameters;
  const [bar] = result.after;
  if (Math.abs(turnDeg) < LEAST_DEG || (result.after.length > 1 && result.after.length < 4)) return [];
  const best = bestTrueDeg(bar);
  const { widthMm } = sizeOf(bar);
  const way = (
    id: WayOn['id'],
    title: string,
    grindDeg: number | null,
    layout: 'turned' | 'mirrored',
  ): WayOn[] => {
    const laid = fourWay(evaluation, result, grindDeg, layout);
    if (!laid) return [];
    const cost = grindDeg === null ? null : grindTrue(widthMm, radians(grindDeg));
    return [
      {
        id,
        title,
        ...laid,
        sideMm: cost?.toSideMm ?? widthMm,
        lostShare: cost?.lostShare ?? 0,
        remedy:
          grindDeg === null
            ? null
            : {
                label: `Grind true by ${grindDeg}°`,
                insertAfter: 'trueUp',
                parameters: { errorDeg: grindDeg },
              },
      },
    ];
  };
  const measured = Math.round(10 * turnDeg) / 10;
  return [
    ...way('as it is', 'Live with it, pieces turned', null, 'turned'),
    ...way('book-matched', 'Live with it, book-matched', null, 'mirrored'),
    ...(best === measured
      ? []
      : way('ground as measured', `Ground true by ${measured}°, as measured`, measured, 'mirrored')),
    ...(best === null || best === 0
      ? []
      : way('ground by the picture', `Ground true by ${best}°, as the picture wants it`, best, 'mirrored')),
  ];
}

/** The four-way of a bar or of its first four pieces, the corner with a line to the middle. */
function fourWay(
  evaluation: Evaluation,
  measured: StepResult,
  grindDeg: number | null,
  layout: 'turned' | 'mirrored',
): (Pick<WayOn, 'plan' | 'result' | 'points'> & { mismatch: number }) | null {
  const preset: AssembleParameters = { columns: 2, rows: 2, layout };
  const other: AssembleParameters = {
    ...preset,
    layout: 'free',
    places: turnedBefore(gridPlacesOf(preset)),
  };
  const laneId = evaluation.plan.lanes.find((l) => l.steps.includes(measured.step))!.id;
  const laid = [preset, other].flatMap((p) => {
    const plan = planUpTo(evaluation.plan, measured, [
      ...(grindDeg === null ? [] : [['trueUp', { errorDeg: grindDeg }] as const]),
      ...(measured.after!.length === 1 ? [['cut', { pieces: 4, cropAMm: 0, cropBMm: 0 }] as const] : []),
      ['assemble', p] as const,
    ]);
    const result = evaluate(plan, evaluation)
      .lanes.find((l) => l.lane.id === laneId)
      ?.steps.at(-1);
    if (!result?.after) return [];
    const points = starPoints(result.before, p, result.after[0]);
    const seams: SeamFigures[] = seamFigures(result.before, p, result.after[0]);
    const mismatch = Math.max(...seams.map((s) => Math.max(s.frontMismatch, s.backMismatch)));
    return [{ plan, result, points: points?.worst ?? null, mismatch }];
  });
  return laid.find((l) => l.points !== null) ?? laid[0] ?? null;
}

/** The plan with the lane of a step ended after some more steps. */
function planUpTo(
  plan: Plan,
  { step }: StepResult,
  more: readonly (readonly ['trueUp' | 'cut' | 'assemble', unknown])[],
): Plan {
  const ids = freshStepIds(plan, more.length);
  const added = more.map(([kind, parameters], i): Step => makeStepOf(ids[i], kind, parameters));
  return {
    ...plan,
    lanes: plan.lanes.map((lane) =>
      lane.steps.includes(step)
        ? { ...lane, steps: [...lane.steps.slice(0, lane.steps.indexOf(step) + 1), ...added] }
        : lane,
    ),
  };
}
