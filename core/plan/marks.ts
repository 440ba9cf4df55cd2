import { orientationNamed } from '../geometry/orientation.ts';
import { type LaidOut, type Placed, moveOf } from '../moves/index.ts';
import { type Evaluation, type StepResult, allSteps } from './evaluate.ts';
import { laneMark } from './lanes.ts';
import type { Step } from './plan.ts';

const layoutOf = (step: Step): LaidOut | undefined => moveOf(step.kind).lays?.(step.parameters);
const laysPieces = ({ step }: StepResult): boolean => layoutOf(step) !== undefined;

/** What to write on a piece's end before sawing, so that its place can be found again. */
export interface EndMark {
  readonly piece: number;
  /** The end that will be in front. */
  readonly end: 'A' | 'B';
  /** Number (with its lane's mark), row and column from the top left, and an arrow that points up when it lies. */
  readonly text: string;
}

/** Arrow to draw on a piece's front end so that it points up when it lies as planned. */
export const upArrow = (place: Placed): string =>
  ['↑', '→', '↓', '←'][orientationNamed(place.orientation).turns];

/** The assembly that the pieces of a cut go to: the lane's own next one, or the first of another lane that takes them. */
function assemblyOf(
  evaluation: Evaluation,
  cut: StepResult,
): { result: StepResult; lane: string | undefined } | null {
  const lane = evaluation.lanes.find((l) => l.steps.includes(cut));
  if (!lane) return null;
  const own = lane.steps.slice(lane.steps.indexOf(cut) + 1).find(laysPieces);
  if (own) return { result: own, lane: undefined };
  const taker = allSteps(evaluation).find(({ step }) =>
    layoutOf(step)?.places.some((place) => place.lane === lane.lane.id),
  );
  return taker ? { result: taker, lane: lane.lane.id } : null;
}

/** The marks for the pieces of a cut, in the order of their numbers; none where nothing says yet how they will lie. */
export function endMarks(evaluation: Evaluation, cut: StepResult): EndMark[] {
  const found = assemblyOf(evaluation, cut);
  if (!found) return [];
  const p = layoutOf(found.result.step)!;
  const mark = found.lane === undefined ? '' : laneMark(evaluation.plan, found.lane);
  return p.places
    .flatMap((place, i): EndMark[] => {
      if (place.lane !== found.lane) return [];
      const [row, column] = [Math.floor(i / p.columns) + 1, (i % p.columns) + 1];
      return [
        {
          piece: place.piece,
          end: orientationNamed(place.orientation).rolled ? 'A' : 'B',
          text: `${mark}${place.piece} ${row}·${column} ${upArrow(place)}`,
        },
      ];
    })
    .sort((a, b) => a.piece - b.piece);
}
