import { describe, expect, it } from 'vitest';
import { sizeOf, volumeOf } from '../billet/billet.ts';
import { sectionDifference } from '../billet/sectionFlow.ts';
import { totalVolume } from '../materials/volumes.ts';
import { READY, planOf } from '../tests/plans.ts';
import { evaluate } from './evaluate.ts';
import { afterPasses, besideUsual, flowingOf, madeAgain, turnedOff } from './pressing.ts';

const made = (kind: string, parameters: object) => {
  const evaluation = evaluate(planOf([...READY.press, [kind, { heats: 1, ...parameters }]]));
  return { step: evaluation.lanes[0].steps.at(-1)!, shop: evaluation.shop, asked: evaluation };
};
const side = Math.floor(0.95 * sizeOf(made('draw', { shape: 'square', sideMm: 18 }).step.before[0]).widthMm);
const pass = (turnDeg: number, toMm: number) => ({ turnDeg, toMm });
const press = (turnDeg: number) =>
  made('press', {
    passes: [pass(turnDeg, side), pass(90, side)],
    friction: 0.5,
    held: true,
    finish: 'as pressed',
  });

describe('a step that is pressed', () => {
  const { step, shop, asked } = press(45);

  it('is seen pass by pass, from the bar as it was to the bar as it is, all its steel in it', () => {
    const stages = [0, 1, 2].map((passes) => afterPasses(step, passes, asked)!);
    expect(stages[0]).toBe(flowingOf(step, shop)!.bar);
    for (const stage of stages) expect(volumeOf(stage) / totalVolume(stage.volumes)).toBeCloseTo(1, 6);
    expect(sizeOf(stages[1]).heightMm).toBeCloseTo(side, 2);
    expect(stages[1].lengthMm).toBeGreaterThan(stages[0].lengthMm);
    expect(stages[2].lengthMm).toBeGreaterThan(stages[1].lengthMm);
    // Asked for more passes than there are, it is as after the last.
    expect(sectionDifference(afterPasses(step, 9, asked)!, stages[2])).toBe(0);
  });

  it('made again is the same again; turned off it is another, and nothing of the first changes', () => {
    const again = madeAgain(step, asked)!;
    expect(sectionDifference(again, step.after![0])).toBe(0);
    expect(again.lengthMm).toBe(step.after![0].lengthMm);
    const off = turnedOff(step, 3)!;
    expect((off.step.parameters as { passes: { turnDeg: number }[] }).passes.map((p) => p.turnDeg)).toEqual([
      48, 90,
    ]);
    expect((step.step.parameters as { passes: { turnDeg: number }[] }).passes[0].turnDeg).toBe(45);
    expect(sectionDifference(madeAgain(off, asked)!, again)).toBeGreaterThan(0.01);
  });

  it('that tips nothing cannot be tipped wrong; two passes are no re-square to compare with', () => {
    expect(turnedOff(press(90).step, 3)).toBeNull();
    expect(besideUsual(step, asked)).toBeNull();
  });
});

describe('a step that is not pressed', () => {
  it('has no flow, no passes and nothing beside it', () => {
    const { step, shop, asked } = made('draw', { shape: 'square', sideMm: side });
    expect(flowingOf(step, shop)).toBeNull();
    expect(afterPasses(step, 1, asked)).toBeNull();
    expect(besideUsual(step, asked)).toBeNull();
    expect(turnedOff(step, 2)).toBeNull();
  });

  it('that cannot be done comes to nothing when it is made again', () => {
    const { step, asked } = made('draw', { shape: 'square', sideMm: 400 });
    expect(step.findings.some((f) => f.severity === 'error')).toBe(true);
    expect(madeAgain(step, asked)).toBeNull();
  });

  it('without a bar before it has none', () => {
    const { step, shop, asked } = made('draw', { shape: 'square', sideMm: side, reckoned: 'by flow' });
    expect(flowingOf(step, shop)).not.toBeNull();
    expect(flowingOf({ ...step, before: [] }, shop)).toBeNull();
    expect(besideUsual({ ...step, before: [] }, asked)).toBeNull();
  });
});
