import { type Billet, type LossCause, sizeOf } from '../billet/billet.ts';
import { outlineArea } from '../geometry/outline.ts';
import { airCoolingSeconds } from '../heat/cooling.ts';
import { HOT_STEEL } from '../heat/soak.ts';
import { benchLines } from '../instruct/benchLines.ts';
import { judge } from '../judgement/index.ts';
import { legsOf } from '../kiln/program.ts';
import { totalVolume } from '../materials/volumes.ts';
import { boughtVolume, isSawn, moveOf } from '../moves/index.ts';
import { type Evaluation, type StepResult, actionsOf, benchOrder, heatsIn } from '../plan/index.ts';
import { isDone, ofTheBar } from '../records/record.ts';
import type { Shop } from '../shop/shop.ts';

/** What one stretch of a move holds: `heat` is a soak and the work at the dies that follows at once. */
export type Leg =
  | { readonly what: 'heat'; readonly soakS: number; readonly workS: number }
  /** Cold work at the bench, the saw, the grinder: it can be left and gone on with. */
  | { readonly what: 'bench'; readonly seconds: number }
  /** In still air, until it can be held. */
  | { readonly what: 'cool'; readonly seconds: number }
  /** In vinegar, acid or coffee, by itself. */
  | { readonly what: 'lies'; readonly seconds: number }
  /** In the kiln, by itself. */
  | { readonly what: 'kiln'; readonly seconds: number };

/** A move, or a kiln program, with what is left of it, and what has to be done before. */
export interface Task {
  readonly id: string;
  readonly title: string;
  readonly legs: readonly Leg[];
  readonly after: readonly string[];
  /** It cannot be done as the piece stands. */
  readonly isStopped?: boolean;
}

/** How many times as long as planned something takes: heats of a move, the time at it, cooling until it can be held, the bath. */
export type Pace = (what: 'heats' | 'minutes' | 'cooling' | 'etch', result: StepResult, shop: Shop) => number;

const AS_PLANNED: Pace = () => 1;

/** A bar that can be held in a glove, °C (common practice, no source). */
const HELD_C = 50;
/** The section by which the shop says how fast it saws and grinds. */
const SQUARE_MM2 = 2500;
/** A soak of more than so long is the kiln's: no fire is left alone. s */
const LONG_SOAK_S = 2 * 3600;
/** Where no section is known yet, s. */
const SOME_SOAK_S = 600;

/** Volume over surface of a bar, mm. */
function thickness(bar: Billet): number {
  const { widthMm, heightMm } = sizeOf(bar);
  const area = outlineArea(bar.outline);
  return (area * bar.lengthMm) / (2 * area + 2 * (widthMm + heightMm) * bar.lengthMm);
}

/** Until bars that come off the dies can be held, in still air. s */
export const heldAfter = (bars: readonly Billet[], shop: Shop): number =>
  Math.max(
    0,
    ...bars.map((bar) =>
      airCoolingSeconds(
        { thicknessMm: thickness(bar), heatJm3K: HOT_STEEL.heatJm3K },
        shop.forge.stopC,
        HELD_C,
      ),
    ),
  );

/** Sawing by area, grinding by volume, everything else by the line. s */
function benchSeconds(result: StepResult, { shop }: Evaluation, lines: number): number {
  const { sawMin, grindMin, lineMin } = shop.work;
  const lost = (cause: LossCause) =>
    result.losses.filter((l) => l.cause === cause).reduce((sum, l) => sum + totalVolume(l.volumes), 0);
  const bought = (moveOf(result.step.kind).buys?.(result.before, result.step.parameters, shop) ?? []).filter(
    isSawn,
  );
  const strips = bought.reduce((sum, b) => sum + (b.count * boughtVolume(b)) / b.lengthMm, 0);
  const sawn = strips + (shop.kerfMm > 0 ? lost('kerf') / shop.kerfMm : 0);
  const minutes = (sawMin * sawn + grindMin * lost('grinding')) / SQUARE_MM2 + lineMin * lines;
  return 60 * minutes;
}

/** What goes on without hands once it was begun. */
function byItself(result: StepResult, shop: Shop, pace: Pace): Leg[] {
  const { step } = result;
  const { kiln, liesH } = moveOf(step.kind);
  const segments = kiln?.(step.parameters);
  const lies =
    3600 * (liesH?.(step.parameters) ?? 0) * (step.kind === 'etch' ? pace('etch', result, shop) : 1);
  return [
    ...(segments ? [{ what: 'kiln', seconds: legsOf({ segments }, shop.kiln).at(-1)!.endS } as const] : []),
    ...(lies > 0 ? [{ what: 'lies', seconds: lies } as const] : []),
  ];
}

/** Out of the fire, or out of the kiln. */
const comesHot = ({ step }: StepResult): boolean => heatsIn(step) > 0 || moveOf(step.kind).kiln !== undefined;

/** What is left to do of a move as it stands: nothing where it is done, fewer heats where some were counted. */
function legsLeft(result: StepResult, evaluation: Evaluation, pace: Pace): Leg[] {
  if (isDone(result.records)) return [];
  const { shop } = evaluation;
  const written = ofTheBar(result.records);
  const counted = written.reduce((sum, r) => sum + (r.heats ?? 0), 0);
  const times = pace('minutes', result, shop);
  const planned = Math.round(heatsIn(result.step) * pace('heats', result, shop));
  const heats = heatsIn(result.step) === 0 ? 0 : Math.max(1, planned - counted);
  const planSoakS = judge(evaluation, result).figures.find((f) => f.id === 'soak')?.number ?? SOME_SOAK_S;
  const soakS = times * planSoakS;
  const workS = times * 60 * shop.work.heatMin;
  const lines = benchLines(actionsOf(result, shop), shop).length;
  const bench = times * benchSeconds(result, evaluation, heats > 0 ? 1 : lines);
  const long = planSoakS > LONG_SOAK_S;
  const each: Leg[] = long
    ? [
        { what: 'kiln', seconds: soakS },
        { what: 'bench', seconds: workS },
      ]
    : [{ what: 'heat', soakS, workS }];
  return [
    ...(bench > 0 && (heats === 0 || written.length === 0)
      ? [{ what: 'bench', seconds: bench } as const]
      : []),
    ...Array.from({ length: heats }, () => each).flat(),
    ...byItself(result, shop, pace),
  ];
}

/** How long somebody is at a move as it was planned, s: soaks and work of its heats, sawing, grinding; not what cools, lies or runs by itself. */
export const handsSeconds = (result: StepResult, evaluation: Evaluation, pace = AS_PLANNED): number =>
  legsLeft({ ...result, records: [] }, evaluation, pace).reduce(
    (sum, leg) =>
      sum + (leg.what === 'heat' ? leg.soakS + leg.workS : leg.what === 'bench' ? leg.seconds : 0),
    0,
  );

/**
 * Everything that is left to do of a piece, move by move and then its kiln programs: what is hot cools before it is sawn, ground or
 * laid. `piece` begins the ids, so that those of several pieces do not meet.
 */
export function tasksOf(piece: string, evaluation: Evaluation, pace = AS_PLANNED): Task[] {
  const { plan, shop } = evaluation;
  const idOf = (step: string) => `${piece} ${step}`;
  const tasks = benchOrder(evaluation).map((result): Task => {
    const lane = evaluation.lanes.find((l) => l.steps.includes(result))!;
    const at = lane.steps.indexOf(result);
    const before = lane.steps.at(at - 1);
    const feeding = (moveOf(result.step.kind).takes?.(result.step.parameters) ?? []).flatMap(
      (ref) => evaluation.lanes.find((l) => l.lane.id === ref.lane)?.steps.at(-1) ?? [],
    );
    const first = [...new Set(at > 0 && before ? [before, ...feeding] : feeding)];
    const legs = legsLeft(result, evaluation, pace);
    const isHot = heatsIn(result.step) > 0;
    // What came off the dies and is not done yet, or was done just now, cools first.
    const cools =
      !isHot && !moveOf(result.step.kind).kiln && first.some((r) => comesHot(r) && !isDone(r.records));
    return {
      id: idOf(result.step.id),
      title: moveOf(result.step.kind).title,
      legs:
        legs.length > 0 && cools
          ? [
              { what: 'cool', seconds: heldAfter(result.before, shop) * pace('cooling', result, shop) },
              ...legs,
            ]
          : legs,
      after: first.map((r) => idOf(r.step.id)),
      isStopped: result.after === null && result.waits === null && !isDone(result.records),
    };
  });
  const last = evaluation.goalLane.steps.at(-1);
  let after = last ? [idOf(last.step.id)] : [];
  for (const [i, program] of (plan.kiln ?? []).entries()) {
    const id = `${piece} kiln ${i + 1}`;
    const seconds = legsOf(program, shop.kiln).at(-1)?.endS ?? 0;
    tasks.push({ id, title: program.name, legs: [{ what: 'kiln', seconds }], after });
    after = [id];
  }
  return tasks;
}
