import { v4 as newId } from 'uuid';
import { useMaker } from './maker.ts';
import { useRecords, write } from './records.ts';
import {
  type BenchRecord,
  type BenchTimer,
  type PieceCame,
  inTime,
  isDone,
  ofTheBar,
  timersStopped,
  workedUntil,
} from '../../../core/records/record.ts';

/** What is being written of one move at the bench. */
export interface Doing {
  /** Everything written of it, in time. */
  readonly all: readonly BenchRecord[];
  /** The entry that is written into now; nothing before the first. */
  readonly record: BenchRecord | undefined;
  readonly done: boolean;
  /** Some of it, or what follows from what stands there by then. */
  change(some: Partial<BenchRecord> | ((now: BenchRecord) => Partial<BenchRecord>)): void;
  /** Some of what came of a piece, over what was written of it. */
  changePiece(piece: string, some: Partial<PieceCame>): void;
  begin(timer: BenchTimer): void;
  end(): void;
  reopen(): void;
}

const now = (): string => new Date().toISOString();

const fresh = (step: string, began: string): BenchRecord => ({
  id: newId(),
  step,
  kind: 'came',
  began,
  written: now(),
  ...(useMaker.getState().name && { by: useMaker.getState().name }),
});

/** The entry of a step as it is by now: what was pressed a moment ago is in it. */
function currentOf(step: string, began = now()): BenchRecord {
  const own = ofTheBar(inTime(useRecords.getState().records.filter((r) => r.step === step)));
  return own.findLast((r) => r.ended === undefined) ?? own.at(-1) ?? fresh(step, began);
}

const withoutNothing = <T extends object>(some: T): T =>
  Object.fromEntries(Object.entries(some).filter(([, value]) => value !== undefined)) as T;

/** Writes into the record of a step, which begins with the first thing that is written: now, or when it is said to have been done. */
export function useDoing(step: string, doneAt?: string): Doing {
  const records = useRecords((state) => state.records);
  const all = inTime(records.filter((r) => r.step === step));
  const own = ofTheBar(all);
  const change: Doing['change'] = (some) => {
    const current = currentOf(step, doneAt);
    // How long it took what is typed in from paper does not say.
    const workedS = doneAt === undefined ? workedUntil(current, now()) : current.workedS;
    write(
      withoutNothing({
        ...current,
        workedS,
        ...(typeof some === 'function' ? some(current) : some),
      }) as BenchRecord,
    );
  };
  return {
    all,
    record: own.findLast((r) => r.ended === undefined) ?? own.at(-1),
    done: isDone(all),
    change,
    changePiece(piece, some) {
      const pieces = currentOf(step).pieces ?? [];
      const known = pieces.find((p) => p.piece === piece);
      const next = withoutNothing({ ...(known ?? { piece }), ...some });
      const said = Object.keys(next).length > 1;
      change({
        pieces: known
          ? pieces.flatMap((p) => (p !== known ? [p] : said ? [next] : []))
          : said
            ? [...pieces, next]
            : pieces,
      });
    },
    begin(timer) {
      const { timers = [] } = currentOf(step);
      // In the fire or out of it: not both. Another timer goes on beside them.
      const stays = (t: BenchTimer) => (t.what === 'other') !== (timer.what === 'other');
      change({ timers: [...timers.filter(stays), timer] });
    },
    end: () => change((is) => ({ ended: doneAt ?? now(), ...timersStopped(is, now()) })),
    reopen: () => change({ ended: undefined }),
  };
}
