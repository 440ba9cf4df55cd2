import { fillOf, roomOf, withBars } from '../canister/can.ts';
import { type Outline, rectangle } from '../geometry/outline.ts';
import { materialById } from '../materials/material.ts';
import { type Filling, fillingsOf } from '../picture/picture.ts';
import { type Evaluation, type StepResult, sayStep } from '../plan/index.ts';
import { moveOf } from '../moves/index.ts';
import { liftsOf } from '../moves/begin/can/canDoes.ts';
import { formatFine, formatLength, formatSizes } from '../units/length.ts';
import { formatMass } from '../units/mass.ts';

/** One powder on the sheet: where it goes, and how much in all and with every lift. */
export interface SheetPowder {
  readonly id: string;
  readonly name: string;
  readonly where: string;
  readonly ready: string;
  readonly goesIn: string;
  readonly eachLift: string;
}

/** What is filled into one can, in order, as it hangs beside the scale. */
export interface FillSheet {
  readonly stepId: string;
  readonly lane: string;
  readonly box: string;
  /** Inside of the can and the powders' outlines in it, mm: drawn in true size. */
  readonly outline: Outline;
  readonly fillings: readonly Filling[];
  readonly powders: readonly SheetPowder[];
  readonly lifts: string;
  /** In the order it is done. */
  readonly order: readonly string[];
  readonly fullWeight: string;
  /** How it is pressed, where that is planned next. */
  readonly press: readonly string[];
  readonly cautions: readonly string[];
}

function sheetOf(
  evaluation: Evaluation,
  laneName: string,
  result: StepResult,
  next: StepResult | undefined,
): FillSheet {
  const { shop } = evaluation;
  const can = withBars(moveOf(result.step.kind).fills!(result.step.parameters), result.before);
  const fill = fillOf(can, shop.materials, result.before);
  const room = roomOf(can);
  const lifts = liftsOf(can);
  const kg = (mass: number) => formatMass(mass, shop.masses);
  const filled = fill.powders.filter((p) => p.kg > 0);
  const powders = filled.map(({ powder, kg: mass }): SheetPowder => ({
    id: powder,
    name: materialById(shop.materials, powder)?.name ?? powder,
    where:
      filled.length === 1
        ? 'everywhere'
        : powder === can.powder
          ? 'the ground, round the form'
          : 'inside its outlines',
    ready: kg(mass * (1 + can.spill)),
    goesIn: kg(mass),
    eachLift: kg(mass / lifts),
  }));
  return {
    stepId: result.step.id,
    lane: laneName,
    box: `${formatSizes([can.widthMm, can.shape === 'box' ? can.heightMm : can.widthMm], shop.lengths)} outside, ${formatLength(can.lengthMm, shop.lengths)} long, wall ${formatFine(can.wallMm, shop.lengths)}`,
    outline: room.outline ?? rectangle(room.widthMm, room.heightMm),
    fillings: can.picture ? fillingsOf(can.picture) : [],
    powders,
    lifts: `${lifts} lifts of ${formatFine(room.depthMm / lifts, shop.lengths)}`,
    order: sayStep(result, shop),
    fullWeight: kg(fill.fullKg),
    press: next && moveOf(next.step.kind).closes ? sayStep(next, shop) : [],
    cautions: result.findings.filter((f) => f.severity === 'caution').map((f) => f.text),
  };
}

/** A sheet for every can of a plan that can be filled. */
export const fillSheets = (evaluation: Evaluation): FillSheet[] =>
  evaluation.lanes.flatMap(({ lane, steps }) =>
    steps.flatMap((result, i) =>
      moveOf(result.step.kind).fills && result.after
        ? [sheetOf(evaluation, lane.name, result, steps[i + 1] as StepResult | undefined)]
        : [],
    ),
  );
