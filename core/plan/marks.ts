import type { Action, Arrow } from '../instruct/action.ts';
import { moveOf } from '../moves/index.ts';
import { type Evaluation, type StepResult, actionsOf, allSteps } from './evaluate.ts';
import { laneMark } from './lanes.ts';

type Lay = Extract<Action, { do: 'lay' | 'lay wedge' }>;

const laysPieces = ({ step }: StepResult): boolean => moveOf(step.kind).lays !== undefined;
const isLay = (action: Action): action is Lay => action.do === 'lay' || action.do === 'lay wedge';

/** How a piece will lie, to be written on it before sawing so that its place can be found again: from the instruction that lays it. */
export interface EndMark {
  /** Number, after its lane's mark where another lane takes it. */
  readonly piece: string;
  /** The end that will be in front. */
  readonly front: 'A' | 'B';
  /** Row from the top and place from the left, or the side of the square. */
  readonly place: string;
  /** Where the arrow, drawn straight up on both ends of the bar, will point. */
  readonly arrow: Arrow;
}

const ARROWS: Readonly<Record<Arrow, string>> = { up: '↑', right: '→', down: '↓', left: '←' };
export const arrowSign = (arrow: Arrow): string => ARROWS[arrow];

const placeOf = (lay: Lay): string => (lay.do === 'lay' ? `${lay.row}·${lay.place}` : lay.side);

/** The assembly that the pieces of a cut go to: the lane's own next one, or the first of another lane that takes them. */
function assemblyOf(evaluation: Evaluation, cut: StepResult): { result: StepResult; mark: string } | null {
  const lane = evaluation.lanes.find((l) => l.steps.includes(cut));
  if (!lane) return null;
  const own = lane.steps.slice(lane.steps.indexOf(cut) + 1).find(laysPieces);
  if (own) return { result: own, mark: '' };
  const taker = allSteps(evaluation).find(({ step }) =>
    moveOf(step.kind)
      .lays?.(step.parameters)
      .places.some((place) => place.lane === lane.lane.id),
  );
  return taker ? { result: taker, mark: laneMark(evaluation.plan, lane.lane.id) } : null;
}

/** How the pieces of a cut will lie, in the order of their numbers; none where nothing says so yet. */
export function endMarks(evaluation: Evaluation, cut: StepResult): EndMark[] {
  const found = assemblyOf(evaluation, cut);
  if (!found) return [];
  const numberOf = (piece: string) =>
    piece.startsWith(found.mark) ? Number(piece.slice(found.mark.length)) : NaN;
  return actionsOf(found.result, evaluation.shop)
    .filter(isLay)
    .filter(({ piece }) => !Number.isNaN(numberOf(piece)))
    .map((lay) => ({ piece: lay.piece, front: lay.front, place: placeOf(lay), arrow: lay.arrow }))
    .sort((a, b) => numberOf(a.piece) - numberOf(b.piece));
}
