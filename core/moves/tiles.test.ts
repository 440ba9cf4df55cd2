import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { codeAt } from '../billet/fields/field.ts';
import { type StepResult, evaluate } from '../plan/index.ts';
import { drawSquare, planOf, resquareTo, stackOf, weldIt } from '../tests/plans.ts';

type Moves = Parameters<typeof planOf>[0];
const last = (moves: Moves): StepResult => evaluate(planOf(moves)).lanes[0].steps.at(-1)!;
const bar = (moves: Moves) => {
  const { after, findings } = last(moves);
  if (!after) throw new Error(findings.map((f) => f.text).join());
  return after[0];
};
const findingOf = (moves: Moves, code: string) => last(moves).findings.find((f) => f.code === code);

describe('tiles', () => {
  const SQUARE = [stackOf(9), weldIt, drawSquare(30), resquareTo(26)] as const;
  const tiles = (angleDeg: number, lay: unknown): Moves => [
    ...SQUARE,
    ['tile', { angleDeg, thicknessMm: 12, lay }],
  ];

  /** Largest share of a joint's edge that differs, over all joints, on the top or bottom face. */
  function worstJoint(moves: Moves, side: 1 | -1): number {
    const b = bar(moves);
    const p = moves.at(-1)![1] as { angleDeg: number; thicknessMm: number };
    const angle = (p.angleDeg * Math.PI) / 180;
    const face = 26 / Math.sin(angle);
    const cot = 1 / Math.tan(angle);
    const y = side * (p.thicknessMm / 2 - 1e-7);
    let worst = 0;
    for (let joint = 1; ; joint++) {
      const z = joint * face - (p.thicknessMm / 2) * cot - y * cot;
      if (z > b.lengthMm - 0.01) return worst;
      let differ = 0;
      for (let i = 0; i < 499; i++) {
        const x = ((i + 0.5) / 499 - 0.5) * 26;
        if (codeAt(b.field, x, y, z - 1e-6) !== codeAt(b.field, x, y, z + 1e-6)) differ++;
      }
      worst = Math.max(worst, differ / 499);
    }
  }

  it('with every other rolled over match at every joint, at any angle, on both faces', () => {
    fc.assert(
      fc.property(fc.double({ min: 30, max: 90, noNaN: true }), (angle) => {
        expect(worstJoint(tiles(angle, 'every other rolled'), 1)).toBe(0);
        expect(worstJoint(tiles(angle, 'every other rolled'), -1)).toBe(0);
      }),
      { numRuns: 12 },
    );
  });

  it('as they lie match only when the top edge agrees with the bottom edge', () => {
    const flat = [stackOf(9), weldIt, drawSquare(30)] as const;
    // Nine layers: dark at both the top and the bottom edge. Eight: dark below, bright above.
    const eight = [stackOf(8), weldIt, drawSquare(30)] as const;
    const lying = ['tile', { angleDeg: 90, thicknessMm: 12, lay: 'as they lie' }] as const;
    const jointAt = (moves: Moves) => {
      const b = bar(moves);
      return codeAt(b.field, 3, 0, 30 - 1e-6) === codeAt(b.field, 3, 0, 30 + 1e-6);
    };
    expect(jointAt([...flat, lying])).toBe(true);
    expect(jointAt([...eight, lying])).toBe(false);
    expect(worstJoint(tiles(45, 'as they lie'), 1)).toBeGreaterThan(0.05);
  });

  it('turned in the plane fit at 90° and are refused at 45° with the reason and a remedy', () => {
    const lay = ['as it lies', 'turned in the plane', 'turned about its length', 'rolled over'];
    expect(last(tiles(90, lay)).after).not.toBeNull();
    const refused = findingOf(tiles(45, lay), 'does not fit')!;
    expect(refused.severity).toBe('error');
    expect(refused.text).toContain('slant then runs the wrong way');
    // Wedge 2·t/tan θ = 24 mm for t = 12 mm at 45°: the two slants that should have met.
    expect(refused.text).toContain('24 mm');
    const remedy = refused.remedy as unknown as { set: { lay: string[] } };
    expect(last(tiles(45, remedy.set.lay)).after).not.toBeNull();
  });

  it('slide along by n·cot θ with depth; straight-cut ones stand still', () => {
    for (const angle of [40, 60, 90]) {
      const b = bar(tiles(angle, 'as they lie'));
      const slide = 1 / Math.tan((angle * Math.PI) / 180);
      for (const z of [31.3, 33.7, 37.1, 40.9])
        for (const deeper of [1, 2.5])
          expect(codeAt(b.field, 4.2, 5, z)).toBe(codeAt(b.field, 4.2, 5 - deeper, z + deeper * slide));
    }
  });

  it('are refused when none fits, and say when fewer fit than asked', () => {
    expect(
      findingOf(
        [stackOf(9, 40, 3, 20), weldIt, ['tile', { angleDeg: 30, thicknessMm: 10, lay: 'as they lie' }]],
        'too short',
      )?.severity,
    ).toBe('error');
    expect(
      findingOf(
        [...SQUARE, ['tile', { angleDeg: 45, thicknessMm: 12, lay: 'as they lie', count: 90 }]],
        'fewer',
      )?.remedy,
    ).toMatchObject({ set: { count: expect.any(Number) } });
  });
});
