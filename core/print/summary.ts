import { thinnestBandMm } from '../billet/bands.ts';
import { sizeOf } from '../billet/billet.ts';
import { findingsOf, judge } from '../judgement/index.ts';
import { addVolumes, massByMaterial, massKg } from '../materials/volumes.ts';
import { moveOf } from '../moves/index.ts';
import { type Evaluation, type StepResult, sayStep, startFor } from '../plan/index.ts';
import type { FigureId } from '../words/figures.ts';

/** A figure as a bare number: “press force”, 210.4, “kN”. `value` is the same as the shop writes it. */
export interface PlainFigure {
  readonly id: FigureId;
  readonly what: string;
  readonly number: number;
  readonly unit: string;
  readonly value: string;
}

const figuresOf = (evaluation: Evaluation, result: StepResult): PlainFigure[] =>
  judge(evaluation, result).figures.map(({ id, what, number, unit, value }) => ({
    id,
    what,
    number,
    unit,
    value,
  }));

/** The evaluated plan as plain figures, for the command line and for other programs. Masses kg, lengths mm. */
export function summarize(evaluation: Evaluation) {
  const { shop, goal } = evaluation;
  return {
    name: evaluation.plan.name,
    goal: goal.goal,
    reached: goal.reached,
    spare: goal.spare,
    start: startFor(evaluation.plan, evaluation.flows),
    lanes: evaluation.lanes.map(({ lane, steps }) => ({
      id: lane.id,
      name: lane.name,
      steps: steps.map((result) => ({
        id: result.step.id,
        kind: result.step.kind,
        title: moveOf(result.step.kind).title,
        pieces: result.after?.length ?? 0,
        size: result.after?.[0] ? { ...sizeOf(result.after[0]), lengthMm: result.after[0].lengthMm } : null,
        bandMm: result.after?.[0] ? thinnestBandMm(result.after[0]) : null,
        massKg: massByMaterial(addVolumes(...(result.after ?? []).map((b) => b.volumes)), shop.materials),
        addedKg: massByMaterial(result.added, shop.materials),
        lossesKg: Object.fromEntries(result.losses.map((l) => [l.cause, massKg(l.volumes, shop.materials)])),
        figures: figuresOf(evaluation, result),
        findings: findingsOf(evaluation, result),
        say: sayStep(result, shop),
      })),
    })),
  };
}
