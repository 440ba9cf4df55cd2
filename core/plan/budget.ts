import type { Billet } from '../billet/billet.ts';
import { type Finding, type Toll, moveOf } from '../moves/index.ts';
import type { Shop } from '../shop/shop.ts';
import type { Step } from './plan.ts';

/** How many steps that are each as large as one may be a whole plan may hold. */
const MOST_TOGETHER = 4;

const whole = (n: number): string =>
  n < 1e9 ? Math.round(n).toLocaleString('en') : 'more than a thousand million';

const tooMuch = (text: string, parameter: string): Finding => ({
  code: 'too much',
  severity: 'error',
  text,
  parameter,
});

const aloneTooMuch = ({ what, count, most, parameter }: Toll): Finding =>
  tooMuch(
    `These numbers would make ${whole(count)} ${what}; at most ${whole(most)} can be worked out. Nothing is worked out until it is fewer.`,
    parameter,
  );

/**
 * What a plan may cost to work out, counted from its numbers before anything is: a step that makes too many of something is refused
 * with the number that makes it so, and so is the first step with which a whole plan becomes too much.
 */
export class Budget {
  private spent = 0;

  refuses(step: Step, before: readonly Billet[], shop: Shop): Finding[] {
    const tolls = moveOf(step.kind).tolls?.(before, step.parameters, shop) ?? [];
    const over = tolls.find(({ count, most }) => !(count <= most));
    if (over) return [aloneTooMuch(over)];
    const share = Math.max(0, ...tolls.map(({ count, most }) => count / most));
    if (this.spent + share > MOST_TOGETHER) {
      const { what, count, parameter } = tolls.reduce((a, b) =>
        a.count / a.most > b.count / b.most ? a : b,
      );
      return [
        tooMuch(
          `With what comes before it in this plan, ${whole(count)} ${what} more are too much to be worked out. Fewer here, or in an earlier step.`,
          parameter,
        ),
      ];
    }
    this.spent += share;
    return [];
  }
}

/** Whether a step was refused for what it would cost: that may be otherwise though nothing of its own has changed. */
export const overBudget = (findings: readonly Finding[]): boolean =>
  findings.some((f) => f.code === 'too much');
