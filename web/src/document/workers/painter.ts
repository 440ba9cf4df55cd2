import * as Comlink from 'comlink';
import type { Plan } from '../../../../core/plan/index.ts';
import type { Painter } from './painter.worker.ts';

export const painter = Comlink.wrap<Painter>(
  new Worker(new URL('./painter.worker.ts', import.meta.url), { type: 'module', name: 'painter' }),
);

/** Working backward has a worker of its own, so that a search never holds up a picture. */
export const reckoner = Comlink.wrap<Painter>(
  new Worker(new URL('./painter.worker.ts', import.meta.url), { type: 'module', name: 'reckoner' }),
);

const keys = new WeakMap<Plan, number>();
let lastKey = 0;

/** The key of a plan, made known to the painter the first time it is asked for. Plans are never changed in place. */
export function planKey(plan: Plan): number {
  const known = keys.get(plan);
  if (known !== undefined) return known;
  keys.set(plan, ++lastKey);
  void painter.know(lastKey, plan);
  return lastKey;
}
