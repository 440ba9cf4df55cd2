import { boundingBox } from '../geometry/outline.ts';
import { wholeMm } from '../units/length.ts';
import type { SeamPress, SeamQuestion } from './question.ts';
import { pressed } from './report.ts';
import { openBy } from './seams.ts';

/** Each press takes so many times what stands open, so much at least (mm) and of the size at most; a way is given up after so many presses, or so much of the size. */
const TAKES = [1.5, 3, 6, 12];
const LEAST_TAKEN = 0.2;
const MOST_TAKEN = 0.1;
const MOST_PRESSES = 16;
const MOST_TRAVEL = 0.2;

/** A way of pressing all round by quarter turns, each press taking so much. */
export interface SeamWay {
  readonly takesMm: number;
  readonly presses: readonly SeamPress[];
  /** Travel at which everything was shut; null where it was not. */
  readonly allShutAtMm: number | null;
  /** What is still open at the worst where it was not, mm. */
  readonly openMm: number;
  readonly voidMm2: number;
  /** Why it could not be pressed so. */
  readonly stopped: string | null;
}

/** Light presses all round or heavy ones: what shuts every seam with the least travel first. Heights by so much. mm */
export function waysToShut(
  question: SeamQuestion,
  roundMm: number,
  progress?: (share: number, ways: readonly SeamWay[]) => void,
): SeamWay[] {
  const { minX, maxX, minY, maxY } = boundingBox(question.pieces.flatMap((p) => p.outline));
  const size = Math.min(maxX - minX, maxY - minY);
  const takes = [
    ...new Set(
      TAKES.map((times) =>
        Math.max(
          roundMm,
          wholeMm(Math.min(MOST_TAKEN * size, Math.max(LEAST_TAKEN, times * question.gapMm)), roundMm),
        ),
      ),
    ),
  ];
  const ways: SeamWay[] = [];
  takes.forEach((takesMm, k) => {
    let travel = 0;
    const answer = pressed(
      question,
      (i, { widthMm, heightMm }) => {
        if (i === MOST_PRESSES || travel > MOST_TRAVEL * size) return null;
        travel += takesMm;
        const now = i > 0 ? widthMm : heightMm;
        return { turned: i > 0, toMm: wholeMm(now - takesMm, roundMm) };
      },
      (i, share, shut) => {
        progress?.((k + Math.min(0.95, (i + share) / 8)) / takes.length, ways);
        return shut;
      },
    );
    const last = answer.states.at(-1)!;
    ways.push({
      takesMm,
      presses: answer.presses,
      allShutAtMm: answer.allShutAtMm,
      openMm: Math.max(0, ...answer.seams.map((seam, i) => openBy(seam, last, i) ?? 0)),
      voidMm2: Math.max(0, ...last.voidsMm2),
      stopped: answer.stopped,
    });
    ways.sort((a, b) => (a.allShutAtMm ?? 1e3 + a.openMm) - (b.allShutAtMm ?? 1e3 + b.openMm));
  });
  return ways;
}
