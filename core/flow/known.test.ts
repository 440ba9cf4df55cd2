import { describe, expect, it } from 'vitest';
import { rectangle } from '../geometry/outline.ts';
import { flowOf, keepStage, stageOf } from './known.ts';
import { type FlowSpec, type FlowStage, keyOf } from './run.ts';

const spec = (friction: number, passes = 3): FlowSpec => ({
  outline: rectangle(20, 20),
  passes: Array.from({ length: passes }, (_, i) => ({ turnDeg: 90 * Math.sign(i), toMm: 19 - i / 4 })),
  exponent: 0.24,
  friction,
  biteMm: 30,
  held: true,
  strength: null,
  rough: true,
});
const failed = (why: string): FlowStage => ({ ok: false, why });

describe('what is known of flows', () => {
  it('is found by all that it depends on: another friction is another flow', () => {
    const one = spec(0.11);
    keepStage(keyOf(one, 2), failed('kept'));
    expect(stageOf(one, 2)).toEqual(failed('kept'));
    expect(stageOf(spec(0.11), 2)).toEqual(failed('kept'));
    expect(stageOf(spec(0.12), 2)).toBeUndefined();
    expect(stageOf({ ...one, held: false }, 2)).toBeUndefined();
    expect(stageOf({ ...one, biteMm: 'free' }, 2)).toBeUndefined();
    // Passes after the second make no difference to the second.
    expect(stageOf({ ...one, passes: [...one.passes.slice(0, 2), { turnDeg: 45, toMm: 3 }] }, 2)).toEqual(
      failed('kept'),
    );
  });

  it('after a pass that could not be pressed is that it could not', () => {
    const one = spec(0.21);
    keepStage(keyOf(one, 1), failed('folded'));
    expect(stageOf(one, 3)).toEqual(failed('folded'));
    expect(flowOf(one)).toEqual(failed('folded'));
  });

  it('is worked out where it is not known, pass by pass, and then known', () => {
    const one = spec(0.31);
    expect(stageOf(one, 1)).toBeUndefined();
    const whole = flowOf(one);
    expect(whole?.ok).toBe(true);
    for (let passes = 1; passes <= 3; passes++) expect(stageOf(one, passes)?.ok).toBe(true);
    expect(flowOf(spec(0.31))).toBe(whole);
    // One more pass takes the others over.
    const first = stageOf(one, 1);
    const longer = { ...one, passes: [...one.passes, { turnDeg: 90, toMm: 18 }] };
    expect(flowOf(longer)?.ok).toBe(true);
    expect(stageOf(longer, 1)).toBe(first);
  });

  it('is forgotten the oldest first, so that it never grows without end', () => {
    const [oldest, newest] = [spec(0.41), spec(0.42)];
    keepStage(keyOf(oldest, 1), failed('oldest'));
    for (let i = 0; i < 399; i++) keepStage(`filler ${i}`, failed('filler'));
    expect(stageOf(oldest, 1)).toEqual(failed('oldest'));
    keepStage(keyOf(newest, 1), failed('newest'));
    expect(stageOf(oldest, 1)).toBeUndefined();
    expect(stageOf(newest, 1)).toEqual(failed('newest'));
  });
});
