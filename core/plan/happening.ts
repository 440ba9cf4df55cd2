import type { Billet } from '../billet/billet.ts';
import type { Shop } from '../shop/shop.ts';
import type { StepResult } from './evaluate.ts';
import type { Step } from './plan.ts';

/** What a step may come to in place of what is reckoned: by other numbers of the shop than are known, by a hand that misses. */
export interface Happening {
  /** Null where it comes as reckoned. */
  make(step: Step, before: readonly Billet[], shop: Shop): StepResult | null;
}
