import { type Billet, sizeOf, writtenOn } from '../billet/billet.ts';
import { massKg } from '../materials/volumes.ts';
import { moveOf } from '../moves/index.ts';
import { type BenchRecord, inTime } from '../records/record.ts';
import { type Evaluation, type StepResult, allSteps } from './evaluate.ts';

/** A size of one piece as it was reckoned and as it came. mm, kg */
export interface Measured {
  readonly piece: string;
  readonly what: 'width' | 'height' | 'length' | 'weight';
  readonly reckoned: number;
  readonly came: number;
}

/** One record of the log beside what was reckoned of its move. */
export interface LogEntry {
  readonly record: BenchRecord;
  /** Its move; null where the plan has it no more. */
  readonly result: StepResult | null;
  readonly title: string;
  readonly measured: readonly Measured[];
}

function measuredOf({ pieces = [] }: BenchRecord, made: readonly Billet[], { shop }: Evaluation): Measured[] {
  return pieces.flatMap((came): Measured[] => {
    const bar = made.find((b, i) => writtenOn(b, i) === came.piece);
    if (!bar) return [];
    const { widthMm, heightMm } = sizeOf(bar);
    const off = (came.cropped?.endAMm ?? 0) + (came.cropped?.endBMm ?? 0);
    const kept = 1 - off / bar.lengthMm;
    const size = (what: Measured['what'], reckoned: number, is: number | undefined): Measured[] =>
      is === undefined ? [] : [{ piece: came.piece, what, reckoned, came: is }];
    return [
      ...size('width', widthMm, came.widthMm),
      ...size('height', heightMm, came.heightMm),
      ...size('length', bar.lengthMm * kept, came.lengthMm),
      ...size('weight', massKg(bar.volumes, shop.materials) * kept, came.massKg),
    ];
  });
}

/** Everything that was written of a piece, in time, beside what was reckoned from what came before it. */
export function logOf(stands: Evaluation): LogEntry[] {
  const steps = new Map(allSteps(stands).map((r) => [r.step.id, r]));
  return inTime(stands.plan.records ?? []).map((record) => {
    const result = steps.get(record.step) ?? null;
    const made = (result?.reckoned ?? result)?.after ?? [];
    return {
      record,
      result,
      title: result ? moveOf(result.step.kind).title : 'A move that the plan has no more',
      measured: measuredOf(record, made, stands),
    };
  });
}
