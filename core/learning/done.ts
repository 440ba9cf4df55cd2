import { type Billet, writtenOn } from '../billet/billet.ts';
import { type MoveKind, moveOf } from '../moves/index.ts';
import { type Evaluation, type LaneResult, type Step, type StepResult, heatsIn } from '../plan/index.ts';
import { type BenchRecord, type PieceCame, ofTheBar } from '../records/record.ts';

/** What an instrument is right to counts as two standard deviations of its error (common practice, no source). */
export const READ_SD = 0.5;
/** Share. A stack's mass is known this well from the sizes of its strips (common practice, no source). */
export const STACK_RIGHT_TO = 0.005;
/** Off a face: more than so many times what the shop takes to make it clean is taken off for another reason. */
export const ONLY_CLEANED = 2.5;
/** Moves after which a section has a size that was pressed to. */
export const TO_SIZE: readonly MoveKind[] = ['draw', 'resquare'];

/** A move that was done, as it was planned and reckoned, and what was written of it. */
export interface Done {
  readonly result: StepResult;
  readonly lane: LaneResult;
  readonly evaluation: Evaluation;
  /** The piece as it was planned, before anything came. */
  readonly planned: Evaluation;
  readonly records: readonly BenchRecord[];
  readonly came: readonly PieceCame[];
  /** What it was reckoned to come to from what was there before. */
  readonly reckoned: readonly Billet[];
}

export const defined = (values: readonly (number | undefined)[]): number[] =>
  values.filter((v): v is number => v !== undefined);

export const heatsOf = ({ records, result }: Done): number => {
  const counted = defined(records.map((r) => r.heats));
  return counted.length > 0 ? counted.reduce((a, b) => a + b, 0) : heatsIn(result.step);
};

/** What all pieces weighed together; null unless every one was weighed. */
export function weighed({ came, reckoned }: Done): number | null {
  const by = new Map(came.map((c) => [c.piece, c.massKg]));
  const all = reckoned.map((bar, i) => by.get(writtenOn(bar, i)));
  const known = defined(all);
  return known.length === reckoned.length && known.length > 0 ? known.reduce((a, b) => a + b, 0) : null;
}

/** The piece of a record with the bar that it was reckoned to be, where nothing was cut off it or given up. */
export const paired = ({ came, reckoned }: Done): { piece: PieceCame; bar: Billet }[] =>
  came.flatMap((piece) => {
    const bar = reckoned.find((b, i) => writtenOn(b, i) === piece.piece);
    return bar && !piece.scrapped ? [{ piece, bar }] : [];
  });

/** How one bar was to be sawn into equal pieces; null of any other move. */
export const cutOf = ({ result: { step, before }, evaluation }: Done) =>
  before.length === 1
    ? (moveOf(step.kind).cuts?.(before[0], step.parameters, evaluation.shop) ?? null)
    : null;

/** Moves that leave a section as it is. */
const KEEPS_SECTION: readonly MoveKind[] = ['cut', 'crop', 'clean', 'choose', 'turn'];

/** What was measured of the pieces before a move: after the move before it, of the section also before a cut; null where nothing was. */
export function measuredBefore({ lane, result }: Done): readonly PieceCame[] | null {
  for (let at = lane.steps.indexOf(result) - 1; at >= 0; at--) {
    const { step, records } = lane.steps[at];
    const pieces = ofTheBar(records).flatMap((r) => r.pieces ?? []);
    if (pieces.some((p) => p.heightMm !== undefined || p.widthMm !== undefined)) return pieces;
    if (!KEEPS_SECTION.includes(step.kind)) return null;
  }
  return null;
}

/** Of a bar that was measured by itself what was measured last; nothing where there were several. */
export const ofOne = (pieces: readonly PieceCame[] | null): PieceCame | undefined =>
  pieces && new Set(pieces.map((p) => p.piece)).size === 1 ? pieces.at(-1) : undefined;

/** How long the bar was before a move, by the rule, where it was measured after the very move before it and nothing was sawn since. mm */
export function lengthBefore({ lane, result }: Done): number | undefined {
  const before = lane.steps[lane.steps.indexOf(result) - 1];
  const pieces = ofTheBar(before?.records ?? []).flatMap((r) => r.pieces ?? []);
  return ofOne(pieces.filter((p) => p.lengthMm !== undefined))?.lengthMm;
}

/** Grindings after which something is still welded to the faces: they are ground until they are clean, and not to a size. */
export function fayingGrinds({ lanes, goalLane }: Evaluation): ReadonlySet<string> {
  return new Set(
    lanes.flatMap(({ lane, steps }) => {
      const welds = steps.findLastIndex(({ step }) => moveOf(step.kind).welds === true);
      const last = lane.id === goalLane.lane.id ? welds : steps.length;
      return steps.flatMap(({ step }, i) => (step.kind === 'grind' && i < last ? [step.id] : []));
    }),
  );
}

/** Cuts of a bar whose ends come out of the fire, and were not sawn since: how much of them is sound is seen only then. */
export function freshCuts({ lanes }: Evaluation): ReadonlySet<string> {
  return new Set(
    lanes.flatMap(({ steps }) =>
      steps.flatMap(({ step }, i) => {
        if (step.kind !== 'cut') return [];
        const hot = steps.slice(0, i).findLastIndex((s) => heatsIn(s.step) > 0);
        const sawn = steps.slice(0, i).findLastIndex((s) => ENDS_SAWN.includes(s.step.kind));
        return hot > sawn ? [step.id] : [];
      }),
    ),
  );
}
const ENDS_SAWN: readonly MoveKind[] = ['cut', 'crop', 'tile'];

/** Whether nothing is taken off in it, hot or cold, that anybody would reckon with. */
export const isLaid = (step: Step): boolean =>
  heatsIn(step) === 0 && moveOf(step.kind).group !== 'Saw and grind';
