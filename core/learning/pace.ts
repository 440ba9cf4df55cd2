import type { Pace } from '../days/tasks.ts';
import type { Belief } from './believed.ts';
import { subjectOf } from './numbers.ts';
import { sortOf } from './sorts.ts';

/** No move is believed to take less than so much of its time. */
const LEAST = 0.3;

/** How long moves take a shop, against the plan, by what it learned; as planned where nothing was. */
export const paceFrom =
  (belief: Belief): Pace =>
  (what, { step, before }, shop) => {
    const { value, isTable } = belief(
      what,
      subjectOf(what, shop, step),
      sortOf(what, { step, before, shop }),
    );
    return isTable ? 1 : Math.max(LEAST, value);
  };
