import { describe, expect, it } from 'vitest';
import { sizeOf, volumeOf } from '../billet/billet.ts';
import { totalVolume } from '../materials/volumes.ts';
import { evaluate, withRemedy } from '../plan/index.ts';
import { READY, planOf } from '../tests/plans.ts';
import { SEQUENCES, idealOf, sectionDifference, type PressParameters } from './press.ts';

const pressing = (some: Partial<PressParameters>) =>
  evaluate(
    planOf([
      ...READY.press,
      [
        'press',
        {
          passes: [{ turnDeg: 45, toMm: 26 }],
          friction: 0.5,
          held: true,
          finish: 'as pressed',
          heats: 0,
          ...some,
        },
      ],
    ]),
  );
const last = (e: ReturnType<typeof pressing>) => e.lanes[0].steps.at(-1)!;
const codes = (e: ReturnType<typeof pressing>) => last(e).findings.map((f) => f.code);

describe('pressing pass by pass', () => {
  it('says when the section is worked harder than the elements can tell, and not before', () => {
    expect(codes(pressing({}))).not.toContain('elements spent');
    expect(codes(pressing({ passes: [{ turnDeg: 45, toMm: 6 }], friction: 0.9 }))).toContain(
      'elements spent',
    );
  });

  it('says when a section is far from square, and leaves it as pressed by one press', () => {
    const e = pressing({ finish: 'squared' });
    const finding = last(e).findings.find((f) => f.code === 'not square yet')!;
    const mended = evaluate(withRemedy(e, last(e), finding.remedy!).plan);
    expect(codes(mended)).not.toContain('not square yet');
    expect(last(mended).after).not.toBeNull();
  });

  it('keeps the steel, and comes near the ideal re-square without being it', () => {
    const [bar] = last(pressing({})).before;
    const { widthMm, heightMm } = sizeOf(bar);
    const e = pressing({ passes: SEQUENCES['bias re-square'](widthMm, heightMm), finish: 'squared' });
    const [after] = last(e).after!;
    expect(volumeOf(after) / totalVolume(after.volumes)).toBeCloseTo(1, 9);
    expect(totalVolume(after.volumes)).toBeCloseTo(totalVolume(bar.volumes), 3);
    const ideal = idealOf(bar, last(e).step.parameters as PressParameters, e.shop)!;
    const differs = sectionDifference(ideal, after);
    expect(differs).toBeGreaterThan(0.03);
    expect(differs).toBeLessThan(0.4);
    expect(sectionDifference(after, after)).toBe(0);
    // Turned the other way round, or twice more, it is still the same side up as the flow has it.
    for (const passes of [
      SEQUENCES['bias re-square'](widthMm, heightMm).map((q) => ({ ...q, turnDeg: -q.turnDeg })),
      SEQUENCES['bias re-square'](widthMm, heightMm).slice(0, 5),
    ]) {
      const other = pressing({ passes, finish: 'squared' });
      const like = idealOf(bar, last(other).step.parameters as PressParameters, other.shop)!;
      expect(sectionDifference(like, last(other).after![0])).toBeLessThan(0.4);
    }
  });
});
