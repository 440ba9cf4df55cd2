import { useEffect, useState } from 'react';
import { type Plan, type Start, type StartAnswer, flowsAwaited } from '../../../core/plan/index.ts';
import type { Shop } from '../../../core/shop/shop.ts';
import { formatFine, formatLength } from '../../../core/units/index.ts';
import { useEvaluated } from './useEvaluation.ts';
import { reckoner } from './workers/painter.ts';

/** Quiet after the last change before the plan is worked backward, ms. */
const QUIET_MS = 150;

/** Working backward, in a worker of its own; an answer that comes late is dropped. */
export function useStart(plan: Plan): StartAnswer | null {
  const [answer, setAnswer] = useState<StartAnswer | null>(null);
  // A plan that waits for a flow cannot be worked backward yet, and must not have it worked out twice.
  const waits = flowsAwaited(useEvaluated(plan)).length > 0;
  useEffect(() => {
    if (waits) return;
    let stale = false;
    const timer = setTimeout(() => {
      void reckoner.startFor(plan).then((found) => {
        if (!stale) setAnswer(found);
      });
    }, QUIET_MS);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [plan, waits]);
  return answer;
}

/** A starting number as it is written: a count, a length, or a layer's thickness, finer than the shop's division. */
export const startText = ({ number, whole, value }: Start, { lengths }: Shop): string =>
  whole ? String(value) : number === 'thickness' ? formatFine(value, lengths) : formatLength(value, lengths);
