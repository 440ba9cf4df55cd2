import { type Billet, finishedSizes } from '../billet/billet.ts';
import type { Shop } from '../shop/shop.ts';
import { divisionMm } from '../units/length.ts';
import type { Goal } from './plan.ts';

export interface GoalResult {
  readonly goal: Goal;
  /** The bar that the plan comes to, if it gets there. */
  readonly bar: Billet | null;
  /** Its sizes: of a blank those of the bar that it was forged of. */
  readonly sizes: ReturnType<typeof finishedSizes> | null;
  /** How much longer, wider and thicker than asked for, mm; negative is short. */
  readonly spare: Goal | null;
  /** What it is not yet, however large: solid, or welded. */
  readonly unfinished: 'loose powder' | 'open seams' | null;
  readonly reached: boolean;
}

/** mm. A finished size this close is what was asked for. */
const GOAL_TOLERANCE_MM = 0.05;

/** So much less than asked for is not short, mm: what is shown decides, and it reads as the size that was typed. */
export const goalWithinMm = ({ lengths }: Shop): number =>
  Math.max(GOAL_TOLERANCE_MM, divisionMm(lengths) / 2);

/** How a bar stands against what is asked for. */
export function judgedGoal(goal: Goal, bar: Billet | null, shop: Shop): GoalResult {
  if (!bar) return { goal, bar, sizes: null, spare: null, unfinished: null, reached: false };
  const sizes = finishedSizes(bar);
  const { lengthMm, widthMm, heightMm } = sizes;
  const spare = {
    lengthMm: lengthMm - goal.lengthMm,
    widthMm: widthMm - goal.widthMm,
    thicknessMm: heightMm - goal.thicknessMm,
  };
  const within = goalWithinMm(shop);
  const unfinished = bar.can?.loose ? 'loose powder' : bar.loose ? 'open seams' : null;
  const reached = unfinished === null && Object.values(spare).every((mm) => mm > -within);
  return { goal, bar, sizes, spare, unfinished, reached };
}
