import { describe, expect, it } from 'vitest';
import { cutInto, drawSquare, planOf, stackOf, weldIt } from '../tests/plans.ts';
import { differencesOf } from './differences.ts';
import type { Plan } from './plan.ts';

const plan = planOf([stackOf(9), weldIt, drawSquare(24), cutInto(4)]);
const withStep = (at: number, parameters: object): Plan => ({
  ...plan,
  lanes: plan.lanes.map((lane) => ({
    ...lane,
    steps: lane.steps.map((s, i) =>
      i === at ? ({ ...s, parameters: { ...s.parameters, ...parameters } } as typeof s) : s,
    ),
  })),
});

describe('what differs between two plans is said', () => {
  it('with nothing said where nothing does', () =>
    expect(differencesOf(plan, JSON.parse(JSON.stringify(plan)) as Plan)).toEqual([]));

  it('by step and number, in the shop’s units', () => {
    expect(differencesOf(withStep(2, { sideMm: 22.5 }), plan)).toEqual([
      'Draw out, step 3: Side 22.5 mm here, 24 mm there',
    ]);
    const inches = (p: Plan): Plan => ({ ...p, shop: { ...p.shop, lengths: { unit: 'in', division: 32 } } });
    expect(differencesOf(inches(withStep(2, { sideMm: 25.4 })), inches(plan))).toEqual([
      'Draw out, step 3: Side 1" here, 15/16" there',
    ]);
    expect(differencesOf(withStep(3, { pieces: 5, cropAMm: 7 }), plan)).toEqual([
      'Cut, step 4: Equal pieces 5 here, 4 there; Crop end A 7 mm here, 5 mm there',
    ]);
  });

  it('by what is only in one, and what stands elsewhere', () => {
    const [lane] = plan.lanes;
    const without = { ...plan, lanes: [{ ...lane, steps: lane.steps.filter((_, i) => i !== 2) }] };
    expect(differencesOf(without, plan)).toEqual(['Draw out, step 3: only there']);
    const turned = { ...plan, lanes: [{ ...lane, steps: [0, 1, 3, 2].map((i) => lane.steps[i]) }] };
    expect(differencesOf(turned, plan)).toEqual([
      'Cut, step 3: Cut, step 4 there',
      'Draw out, step 4: Draw out, step 3 there',
    ]);
    expect(differencesOf(plan, without)).toContain('Draw out, step 3: only here');
    const two = { ...plan, lanes: [lane, { id: 'other', name: 'Second', steps: [] }] };
    expect(differencesOf(two, plan)).toEqual(['Bar Second: only here']);
  });

  it('for all that a plan holds beside its moves', () => {
    const other: Plan = {
      ...plan,
      name: 'Other',
      notes: 'hot',
      goal: { ...plan.goal, widthMm: 40 },
      shop: { ...plan.shop, kerfMm: 2 },
      free: { s1: ['lengthMm'] },
    };
    const said = differencesOf(other, plan);
    expect(said).toHaveLength(5);
    expect(said.join('\n')).toMatch(/Name “Other” here, “Trial” there/);
    expect(said.join('\n')).toMatch(/Finished bar 300 × 40 × 5 mm here, 300 × 38 × 5 mm there/);
    expect(said.join('\n')).toMatch(/Shop: Kerf 2 mm here, 1 mm there/);
  });
});
