import { group } from 'd3-array';
import { quantile } from 'simple-statistics';
import { estimated, halfBand } from './estimate.ts';
import type { Evidence } from './evidence.ts';
import { type NumberId, NUMBER_IDS, tableFor } from './numbers.ts';

/** How often what came of one number lay in the band that was promised from what was known before it. */
export interface Calibration {
  readonly number: NumberId;
  readonly count: number;
  readonly held: number;
  /** How many times as wide the bands have to be, so that they hold as often as is said. */
  readonly times: number;
}

/** Share of all that comes which a band promises to hold. */
const PROMISED = 0.8;
/** So many measurements are believed to be as promised before any is judged; no band is widened or narrowed by more than so much. */
const BELIEVED = 20;
const MOST_TIMES = 2;
/** Of one number what is promised is worked out anew so many times at most. */
const MOST_PROMISES = 25;

/** Of each number how far off its measurements were from what was promised of them just before, in half-widths of the band. */
function offs(evidence: readonly Evidence[], number: NumberId): number[] {
  const own = evidence.filter((e) => e.number === number);
  return [...group(own, (e) => e.of).values()].flatMap((all) => {
    const inTime = all.toSorted((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
    const every = Math.max(1, Math.ceil(inTime.length / MOST_PROMISES));
    const table = tableFor(number, inTime[0]?.of);
    let promise = estimated(table, []);
    return inTime.flatMap((e, i) => {
      if (i % every === 0) promise = estimated(table, inTime.slice(0, i));
      return e.isAtMost ? [] : [Math.abs(e.value - promise.value) / halfBand(promise, PROMISED, e.error)];
    });
  });
}

/** Every number that was measured, each measurement held against what the ones before it promised. */
export const calibrated = (evidence: readonly Evidence[]): Calibration[] =>
  NUMBER_IDS.flatMap((number): Calibration[] => {
    const off = offs(evidence, number);
    if (off.length === 0) return [];
    const needed = quantile(off, PROMISED);
    const times = (off.length * needed + BELIEVED) / (off.length + BELIEVED);
    return [
      {
        number,
        count: off.length,
        held: off.filter((o) => o <= 1).length,
        times: Math.min(MOST_TIMES, Math.max(1 / MOST_TIMES, times)),
      },
    ];
  });

/** How much each number's spread is widened or narrowed by it. */
export const timesFrom = (calibrations: readonly Calibration[]): Partial<Record<NumberId, number>> =>
  Object.fromEntries(calibrations.map(({ number, times }) => [number, times]));
