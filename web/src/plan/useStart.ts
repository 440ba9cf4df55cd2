import { useEffect, useState } from 'react';
import type { Plan, Start, StartAnswer } from '../../../core/plan/index.ts';
import type { Shop } from '../../../core/shop/shop.ts';
import { formatFine, formatLength } from '../../../core/units/index.ts';
import { reckoner } from '../steel/painter.ts';

/** Quiet after the last change before the plan is worked backward, ms. */
const QUIET_MS = 150;

/** Working backward, in a worker of its own; an answer that comes late is dropped. */
export function useStart(plan: Plan): StartAnswer | null {
  const [answer, setAnswer] = useState<StartAnswer | null>(null);
  useEffect(() => {
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
  }, [plan]);
  return answer;
}

/** A starting number as it is written: a count, a length, or a layer's thickness, finer than the shop's division. */
export const startText = ({ number, whole, value }: Start, { lengths }: Shop): string =>
  whole ? String(value) : number === 'thickness' ? formatFine(value, lengths) : formatLength(value, lengths);
