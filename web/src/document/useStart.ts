import { useMemo } from 'react';
import { type Plan, type Start, type StartAnswer, flowsAwaited } from '../../../core/plan/index.ts';
import type { Shop } from '../../../core/shop/shop.ts';
import { formatFine, formatLength } from '../../../core/units/index.ts';
import { useEvaluated } from './useEvaluation.ts';
import { type AskedAnswer, useAsked } from './useAsked.ts';
import { ask } from './workers/host.ts';

/** Quiet after the last change before the plan is worked backward, ms. */
const QUIET_MS = 150;

const quiet = (): Promise<void> => new Promise((done) => setTimeout(done, QUIET_MS));

/** Working backward, in a worker of its own; asked once the plan has been left alone for a moment. */
export function useStart(plan: Plan): AskedAnswer<StartAnswer> {
  // A plan that waits for a flow cannot be worked backward yet, and must not have it worked out twice.
  const waits = flowsAwaited(useEvaluated(plan)).length > 0;
  const question = useMemo(
    () => (waits ? null : () => quiet().then(() => ask('answers', (api) => api.startFor(plan)))),
    [plan, waits],
  );
  return useAsked(question);
}

/** A starting number as it is written: a count, a length, or a layer's thickness, finer than the shop's division. */
export const startText = ({ number, whole, value }: Start, { lengths }: Shop): string =>
  whole ? String(value) : number === 'thickness' ? formatFine(value, lengths) : formatLength(value, lengths);
