import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { KnownFlows } from '../flow/flows.ts';
import { judge } from '../judgement/index.ts';
import { MOVE_KINDS, moveOf } from '../moves/index.ts';
import { makeShop } from '../shop/shop.ts';
import { READY, planOf, planOfLanes, stackOf, weldIt } from '../tests/plans.ts';
import { allSteps, evaluate, readPlan, sayStep } from './index.ts';

const shop = makeShop();
const canWith = (inserts: object[], more: object = {}) =>
  ['can', { ...(moveOf('can').begin([], shop) as object), ...more, inserts }] as const;
const balls = (count: number, sizeMm = 5) => ({
  shape: 'ball',
  material: '52100',
  sizeMm,
  count,
  lay: 'rows',
});
const LARGE = { widthMm: 300, heightMm: 300, lengthMm: 500 };
const LONG = [stackOf(8, 30, 3.6, 9000), weldIt];

const refusal = (moves: Parameters<typeof planOf>[0]) =>
  evaluate(planOf(moves))
    .lanes[0].steps.at(-1)!
    .findings.find((f) => f.code === 'too much');

describe('a plan that would take for ever is refused before anything is worked out', () => {
  it.each([
    ['inserts and lengths', 'inserts', [canWith([{ ...balls(3), shape: 'rod', cutMm: 1e-6, gapMm: 0 }])]],
    [
      'inserts and lengths',
      'inserts',
      [
        canWith(
          Array.from({ length: 12 }, () => balls(2000)),
          LARGE,
        ),
      ],
    ],
    ['places for one kind', 'inserts', [canWith([{ ...balls(3, 0.001), shape: 'rod' }])]],
    ['tiles', 'thicknessMm', [...LONG, ['tile', { angleDeg: 90, thicknessMm: 0.01, lay: 'as they lie' }]]],
    ['legs', 'legMm', [...LONG, ['accordion', { openingDeg: 30, rootMm: 3, legMm: 0.01 }]]],
    [
      'passes',
      'passMm',
      [canWith([]), ['consolidate', { ...(moveOf('consolidate').begin([], shop) as object), passMm: 1e-6 }]],
    ],
  ] as const)('for its %s, with the number that makes it so: %s', (what, parameter, moves) => {
    const found = refusal(moves as unknown as Parameters<typeof planOf>[0]);
    expect(found).toMatchObject({ severity: 'error', parameter });
    expect(found!.text).toContain(what);
    expect(found!.text).toMatch(/at most [\d,]+ can be worked out/);
  });

  it('which its parts are not one by one, at the part with which it is too much; and no more when an earlier one is smaller', () => {
    const cans = (first: number) =>
      planOfLanes(
        Object.fromEntries(
          [first, 2700, 2700, 2700, 2700].map((n, i) => [
            `l${i}`,
            [canWith([balls(n / 2), balls(n / 2, 5.5)], LARGE)],
          ]),
        ),
      );
    const plan = cans(2700);
    const first = evaluate(plan);
    const codes = (e: typeof first) =>
      e.lanes.map((l) => l.steps[0].findings.some((f) => f.code === 'too much'));
    expect(codes(first)).toEqual([false, false, false, false, true]);
    const lanes = [cans(100).lanes[0], ...plan.lanes.slice(1)];
    expect(codes(evaluate({ ...plan, lanes }, first))).toEqual([false, false, false, false, false]);
  });
});

it('whatever number of a plan is changed, it is refused by its field or worked through: nothing throws', () => {
  const before = (kind: (typeof MOVE_KINDS)[number]) =>
    READY[kind].length > 0 ? evaluate(planOf(READY[kind]), undefined, new KnownFlows()).lanes[0].ends : [];
  const plans = MOVE_KINDS.map((kind) =>
    planOf([...READY[kind], [kind, moveOf(kind).begin(before(kind), shop)]]),
  );
  const extremes = fc.oneof(
    fc.constantFrom(0, 1e-9, 1e-6, 1e-3, 0.1, 1, 2, 60, 500, 2000, 10_000, -1),
    fc.double({ min: -4, max: 4, noNaN: true }).map((power) => 10 ** power),
  );
  let worked = 0;
  fc.assert(
    fc.property(fc.constantFrom(...plans), fc.nat(), extremes, fc.boolean(), (plan, which, number, whole) => {
      const copy = JSON.parse(JSON.stringify(plan)) as unknown;
      const leaves = numbersIn((copy as typeof plan).lanes);
      const { of, key } = leaves[which % leaves.length];
      of[key] = whole ? Math.round(number) : number;
      const read = readPlan(copy);
      if (!read.ok) {
        expect(read.problems[0].path).not.toBe('');
        return;
      }
      worked++;
      const evaluation = evaluate(read.plan, undefined, new KnownFlows());
      for (const result of allSteps(evaluation)) {
        judge(evaluation, result);
        sayStep(result, evaluation.shop);
      }
    }),
    { numRuns: Number(process.env.MUTATED ?? 150) },
  );
  expect(worked).toBeGreaterThan(20);
});

type Leaf = { of: Record<string, unknown>; key: string };

function numbersIn(value: unknown): Leaf[] {
  if (typeof value !== 'object' || value === null) return [];
  const of = value as Record<string, unknown>;
  return Object.keys(of).flatMap((key) => (typeof of[key] === 'number' ? [{ of, key }] : numbersIn(of[key])));
}
