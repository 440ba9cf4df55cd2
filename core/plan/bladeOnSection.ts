import type { Billet } from '../billet/billet.ts';
import {
  type AxisMap,
  type Field,
  type Points,
  SAME_PLACE,
  afterMap,
  makePoints,
} from '../billet/fields/field.ts';
import { type Blade, sectionOfBlade } from '../blade/index.ts';
import { type Point2, outlineArea } from '../geometry/outline.ts';
import { compose, orientationName, orientationNamed } from '../geometry/orientation.ts';
import { moveOf } from '../moves/index.ts';
import { freshStepId } from './remedy.ts';
import { type Plan, type Step, makeStepOf } from './plan.ts';
import { type Evaluation, type StepResult, makeStep } from './evaluate.ts';

type Place = readonly [x: number, y: number, z: number];

/** Tells where it was asked. */
class Told implements Field {
  readonly variesAlongZ = true;
  private readonly map: AxisMap;
  private readonly at: { place: Place | null };

  constructor(at: { place: Place | null }, map: AxisMap = SAME_PLACE) {
    this.at = at;
    this.map = map;
  }

  sample({ x, y, z, count }: Points, out: Uint8Array): void {
    const { kx, ky, kz, tx, ty, tz } = this.map;
    if (count > 0) this.at.place = [x[0] * kx + tx, y[0] * ky + ty, z[0] * kz + tz];
    out.fill(1, 0, count);
  }

  through(map: AxisMap): Field {
    return new Told(this.at, afterMap(map, this.map));
  }
}

/** The moves of the goal's lane from one on, where one bar goes in and the same comes out of each; nothing otherwise. */
function sameBarFrom({ goalLane, goal }: Evaluation, stepId: string): StepResult[] {
  const at = goalLane.steps.findIndex((s) => s.step.id === stepId);
  if (at < 0 || !goal.bar) return [];
  const on = goalLane.steps.slice(at);
  const same = on.every(
    ({ step, before, after }) => before.length === 1 && after?.length === 1 && !moveOf(step.kind).toTheSide,
  );
  return same ? on : [];
}

/** Whether the finished bar can be followed back to before a move of it. */
export const leadsStraight = (evaluation: Evaluation, stepId: string): boolean =>
  sameBarFrom(evaluation, stepId).length > 0;

/** Where a place of the finished bar was before a move, in the bar as it then lay; null where it was none of it. mm */
export function placeBefore(evaluation: Evaluation, stepId: string): ((place: Place) => Place | null) | null {
  const on = sameBarFrom(evaluation, stepId);
  if (on.length === 0) return null;
  const at: { place: Place | null } = { place: null };
  let bar: Billet = { ...on[0].before[0], field: new Told(at) };
  for (const { step } of on) {
    const made = makeStep(step, [bar], evaluation.shop, evaluation.flows);
    if (made.after?.length !== 1) return null;
    [bar] = made.after;
  }
  const points = makePoints(1);
  const out = new Uint8Array(1);
  return ([x, y, z]) => {
    at.place = null;
    [points.x[0], points.y[0], points.z[0]] = [x, y, z];
    points.count = 1;
    bar.field.sample(points, out);
    return at.place;
  };
}

/** One section of the blade, as it lay in the bar before a move. mm */
export interface LaidSection {
  /** From the heel, on the blade; and from end A, in the bar before. */
  readonly fromHeelMm: number;
  readonly atMm: number;
  readonly outline: readonly Point2[];
  readonly edge: Point2;
  readonly spine: Point2;
  /** How much of the bar's section becomes blade there, 0…1. */
  readonly kept: number;
}

/** Shares of the blade's length at which it is looked at. */
const LOOKED_AT = [0.02, 0.5, 0.92] as const;

/** Where the blade lies in the section of the bar before a move: what is outside is cut, forged or ground away. Null where the bar cannot be followed back. */
export function bladeOnSection(evaluation: Evaluation, stepId: string, blade: Blade): LaidSection[] | null {
  const back = placeBefore(evaluation, stepId);
  const [first] = sameBarFrom(evaluation, stepId);
  const { bar } = evaluation.goal;
  if (!back || !first || !bar) return null;
  const [before] = first.before;
  return LOOKED_AT.flatMap((share): LaidSection[] => {
    const fromHeelMm = share * blade.lengthMm;
    const section = sectionOfBlade(bar, blade, fromHeelMm);
    if (!section) return [];
    const z = blade.heelMm + fromHeelMm;
    const places = section.outline.map(([x, y]) => back([x, y, z]));
    const ends = [section.edge, section.spine].map(([x, y]) => back([x, y, z]));
    if ([...places, ...ends].some((p) => p === null)) return [];
    const there = places as Place[];
    const outline = there.map(([x, y]): Point2 => [x, y]);
    const [edge, spine] = ends.map((p): Point2 => [p![0], p![1]]);
    return [
      {
        fromHeelMm,
        atMm: there.reduce((sum, p) => sum + p[2], 0) / there.length,
        outline,
        edge,
        spine,
        kept: Math.abs(outlineArea(outline)) / outlineArea(before.outline),
      },
    ];
  });
}

/** The plan with the bar turned a quarter before a move: by a turn that stands there already, or one put in. */
export function quarterTurnBefore(plan: Plan, stepId: string, way: 'turned 90°' | 'turned 270°'): Plan {
  const turnIn = (steps: readonly Step[]): readonly Step[] => {
    const at = steps.findIndex((s) => s.id === stepId);
    if (at < 0) return steps;
    const last = steps[at - 1];
    if (last?.kind !== 'turn')
      return [...steps.slice(0, at), makeStepOf(freshStepId(plan), 'turn', { to: way }), ...steps.slice(at)];
    const to = orientationName(compose(orientationNamed(way), orientationNamed(last.parameters.to)));
    const turned = to === 'as it lies' ? [] : [makeStepOf(last.id, 'turn', { to })];
    return [...steps.slice(0, at - 1), ...turned, ...steps.slice(at)];
  };
  return { ...plan, lanes: plan.lanes.map((lane) => ({ ...lane, steps: turnIn(lane.steps) })) };
}
