import { type Billet, sizeOf, writtenOn } from '../billet/billet.ts';
import { massKg } from '../materials/volumes.ts';
import { MOVE_KINDS, moveOf } from '../moves/index.ts';
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

const GONE = 'A move that the plan has no more';

/** What a kind of move is called, which may be none that is known here. */
export const titleOfKind = (kind: string | null): string => {
  const known = MOVE_KINDS.find((k) => k === kind);
  return known ? moveOf(known).title : GONE;
};

/** Everything that was written of a piece, in time, beside what was reckoned from what came before it. */
export function logOf(stands: Evaluation): LogEntry[] {
  const steps = new Map(allSteps(stands).map((r) => [r.step.id, r]));
  return inTime(stands.plan.records ?? []).map((record) => {
    const result = steps.get(record.step) ?? null;
    const made = (result?.reckoned ?? result)?.after ?? [];
    return {
      record,
      result,
      title: titleOfKind(result?.step.kind ?? null),
      measured: measuredOf(record, made, stands),
    };
  });
}

/** A measured size with the kind of move that it came of. */
export interface MeasuredOf extends Measured {
  readonly kind: string;
}

/** Every size that was measured of a piece, in time; of moves that the plan has no more it is not known what was reckoned. */
export const measuredSizes = (stands: Evaluation): MeasuredOf[] =>
  logOf(stands).flatMap(({ record, result, measured }) =>
    result && record.kind !== 'test' ? measured.map((m) => ({ ...m, kind: result.step.kind })) : [],
  );

/** How far off what was reckoned sizes of one kind came, after one kind of move, in per cent of it. */
export interface OffBy {
  readonly kind: string;
  readonly what: Measured['what'];
  readonly count: number;
  readonly least: number;
  readonly middle: number;
  readonly most: number;
}

/** Per cent beyond what was reckoned. */
export const offPercent = ({ reckoned, came }: Measured): number => 100 * (came / reckoned - 1);

/** “−4.0 %”, with a sign whichever way. */
export const percentSaid = (off: number): string =>
  Math.abs(off) < 0.05 ? '0 %' : `${off < 0 ? '−' : '+'}${Math.abs(off).toFixed(1)} %`;

/** Sizes of many pieces, put together by move and by what was measured; moves in the order of `kinds`, others left out. */
export function offByMove(measured: readonly MeasuredOf[], kinds: readonly string[]): OffBy[] {
  return kinds.flatMap((kind) =>
    (['length', 'width', 'height', 'weight'] as const).flatMap((what): OffBy[] => {
      const off = measured
        .filter((m) => m.kind === kind && m.what === what)
        .map(offPercent)
        .sort((a, b) => a - b);
      if (off.length === 0) return [];
      const middle = (off[(off.length - 1) >> 1] + off[off.length >> 1]) / 2;
      return [{ kind, what, count: off.length, least: off[0], middle, most: off.at(-1)! }];
    }),
  );
}
