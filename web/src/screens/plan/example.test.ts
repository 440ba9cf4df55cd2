import { describe, expect, it } from 'vitest';
import { findingsOf } from '../../../../core/judgement/index.ts';
import { allSteps, evaluate, readPlan, startFor, withStarts } from '../../../../core/plan/index.ts';
import { makeShop } from '../../../../core/shop/shop.ts';
import { exampleSteps } from './example.ts';

const SIZES = [
  [38, 5, 4, 2],
  [42, 5, 6, 3],
  [30, 4, 3, 1.5],
  [50, 6, 6, 3],
];

describe('the worked example', () => {
  it.each(SIZES)(
    'comes to a bar %s × %s mm from layers of %s and %s mm',
    (widthMm, thicknessMm, dark, bright) => {
      const goal = { lengthMm: 366, widthMm, thicknessMm };
      const steps = exampleSteps(goal, { dark, bright }, makeShop());
      const read = readPlan({
        format: 'retablo-plan',
        version: 2,
        name: 'x',
        goal,
        lanes: [{ id: 'a', name: 'A', steps }],
      });
      if (!read.ok) throw new Error(read.problems[0].message);
      const answer = startFor(read.plan);
      if (!answer.ok) throw new Error(answer.reason);
      const evaluation = evaluate(withStarts(read.plan, answer.starts));
      expect(evaluation.goal.reached).toBe(true);
      // What a small press cannot do at one bite is said truly; nothing else is wrong with it.
      const wrong = allSteps(evaluation)
        .flatMap((s) => findingsOf(evaluation, s))
        .filter((f) => f.severity === 'error' || f.severity === 'warning')
        .map((f) => f.code);
      expect(wrong.filter((code) => code !== 'press weak')).toEqual([]);
    },
  );
});
