import { plainNumber } from '../units/quantities.ts';
import { sizeOf } from '../billet/billet.ts';
import { heightForRatio, pictureRatio } from '../geometry/tiling.ts';
import { type Evaluation, type LaneResult, type StepResult, evaluate } from './evaluate.ts';
import type { GoalResult } from './goalResult.ts';
import { type Step, withParameters } from './plan.ts';
import { withSome } from './remedy.ts';

/** New numbers for one step of the plan. */
export interface StepChange {
  readonly stepId: string;
  readonly set: Readonly<Record<string, unknown>>;
}

/** One way to give the picture the wanted length-to-width ratio. */
export interface TileAdvice {
  readonly what: 'height' | 'angle' | 'tile thickness' | 'final thickness';
  /** mm, or degrees for the angle; null where no such number does it. */
  readonly value: number | null;
  /** What to change; empty where that is not offered. */
  readonly changes: readonly StepChange[];
  /** Why it is not offered: no step of the plan holds this number, the plan could not be carried out then, or the finished bar would be of another thickness. */
  readonly why: 'no step' | 'cannot be done' | 'not the finished thickness' | null;
}

export interface TileStretchNow {
  /** Length over width of one end-grain picture on the finished bar. */
  readonly ratio: number;
  readonly advice: readonly TileAdvice[];
}

const radians = (deg: number): number => (deg * Math.PI) / 180;
const LEAST_ANGLE_DEG = 20;

/** The flat bar that a tiled billet is drawn to later in its lane, if it is. */
function flatDrawAfter(lane: LaneResult, tile: StepResult): StepResult | undefined {
  return lane.steps
    .slice(lane.steps.indexOf(tile) + 1)
    .findLast((s) => s.step.kind === 'draw' && s.step.parameters.shape === 'flat');
}

/** How the tiles' picture is stretched, and what would give it the length-to-width ratio `wanted`. */
export function tileAdvice(evaluation: Evaluation, tile: StepResult, wanted: number): TileStretchNow | null {
  const lane = evaluation.lanes.find((l) => l.steps.includes(tile));
  const [bar] = tile.before;
  if (!lane || !bar || !tile.after?.[0] || tile.step.kind !== 'tile') return null;
  const p = tile.step.parameters;
  const { widthMm, heightMm } = sizeOf(bar);
  const drawn = flatDrawAfter(lane, tile);
  const end = drawn?.after?.[0] ? sizeOf(drawn.after[0]) : sizeOf(tile.after[0]);
  const angleRad = radians(p.angleDeg);
  const stretch = {
    heightMm,
    widthMm,
    thicknessMm: p.thicknessMm,
    angleRad,
    toThicknessMm: end.heightMm,
    toWidthMm: end.widthMm,
  };
  const ratio = pictureRatio(stretch);
  const height = heightForRatio(wanted, stretch);
  const sine = (Math.sin(angleRad) * ratio) / wanted;
  const angleDeg = sine <= 1 ? (Math.asin(sine) * 180) / Math.PI : null;
  const before = lane.steps.slice(0, lane.steps.indexOf(tile)).findLast((s) => s.step.kind === 'draw');
  const way = (
    what: TileAdvice['what'],
    value: number | null,
    step: Step | undefined,
    set: (value: number) => Record<string, unknown>,
  ): TileAdvice => {
    if (value === null) return { what, value, changes: [], why: null };
    if (!step) return { what, value, changes: [], why: 'no step' };
    const changes = [{ stepId: step.id, set: set(value) }];
    const why = whatBreaks(evaluation, changes);
    return { what, value, changes: why === null ? changes : [], why };
  };
  return {
    ratio,
    advice: [
      way('height', height, before?.step, (mm) => ({
        shape: 'flat',
        sideMm: undefined,
        widthMm,
        thicknessMm: mm,
      })),
      way('angle', angleDeg !== null && angleDeg >= LEAST_ANGLE_DEG ? angleDeg : null, tile.step, (deg) => ({
        angleDeg: deg,
      })),
      way('tile thickness', (p.thicknessMm * wanted) / ratio, tile.step, (mm) => ({ thicknessMm: mm })),
      way('final thickness', (end.heightMm * ratio) / wanted, drawn?.step, (mm) => ({ thicknessMm: mm })),
    ],
  };
}

/** mm. A finished bar this near to its goal's thickness has it. */
const THICK_ENOUGH_MM = 0.25;

/** What of the plan breaks when some numbers are changed: it is worked through with them. */
function whatBreaks(evaluation: Evaluation, changes: readonly StepChange[]): TileAdvice['why'] {
  const { plan, goal } = evaluation;
  const set = (step: Step): Step => {
    const change = changes.find((c) => c.stepId === step.id);
    return change ? withParameters(step, withSome(step.parameters, change.set)) : step;
  };
  const changed = { ...plan, lanes: plan.lanes.map((l) => ({ ...l, steps: l.steps.map(set) })) };
  const then = evaluate(changed, evaluation);
  const wrong = ({ lanes }: Evaluation) =>
    lanes.flatMap((l) => l.steps.flatMap((s) => s.findings.filter((f) => f.severity === 'error'))).length;
  if (wrong(then) > wrong(evaluation) || !then.goal.bar) return 'cannot be done';
  const off = (e: GoalResult) => Math.abs(e.spare?.thicknessMm ?? 0);
  return off(then.goal) > Math.max(off(goal), THICK_ENOUGH_MM) ? 'not the finished thickness' : null;
}

/** How many times as long as wide a picture may be wanted. */
export const WANTED_STRETCH = plainNumber('Wanted, long by wide', 0.1, 20);
