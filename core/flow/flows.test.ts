import { describe, expect, it } from 'vitest';
import { rectangle } from '../geometry/outline.ts';
import { KnownFlows, WorkedOutFlows } from './flows.ts';
import { type FlowSpec, type FlowStage, keyOf } from './run.ts';

const spec = (friction: number, passes = 3): FlowSpec => ({
  outline: rectangle(20, 20),
  passes: Array.from({ length: passes }, (_, i) => ({ turnDeg: 90 * Math.sign(i), toMm: 19 - i / 4 })),
  exponent: 0.24,
  friction,
  biteMm: 30,
  held: true,
  strength: null,
  grid: 'rough',
});
const failed = (why: string): FlowStage => ({ ok: false, why });

describe('what is known of flows', () => {
  const known = new KnownFlows();
  const worked = new WorkedOutFlows();

  it('is found by all that it depends on: another friction is another flow', () => {
    const one = spec(0.11);
    known.keep(keyOf(one, 2), failed('kept'));
    expect(known.stageOf(one, 2)).toEqual(failed('kept'));
    expect(known.stageOf(spec(0.11), 2)).toEqual(failed('kept'));
    expect(known.stageOf(spec(0.12), 2)).toBeUndefined();
    expect(known.stageOf({ ...one, held: false }, 2)).toBeUndefined();
    expect(known.stageOf({ ...one, biteMm: 'free' }, 2)).toBeUndefined();
    // Passes after the second make no difference to the second.
    expect(
      known.stageOf({ ...one, passes: [...one.passes.slice(0, 2), { turnDeg: 45, toMm: 3 }] }, 2),
    ).toEqual(failed('kept'));
  });

  it('after a pass that could not be pressed is that it could not', () => {
    const one = spec(0.21);
    known.keep(keyOf(one, 1), failed('folded'));
    expect(known.stageOf(one, 3)).toEqual(failed('folded'));
    expect(known.of(one)).toEqual(failed('folded'));
  });

  it('is worked out where it is not known, pass by pass, and then known', () => {
    const one = spec(0.31);
    expect(worked.stageOf(one, 1)).toBeUndefined();
    expect(known.of(one)).toBeNull();
    const whole = worked.of(one);
    expect(whole?.ok).toBe(true);
    for (let passes = 1; passes <= 3; passes++) expect(worked.stageOf(one, passes)?.ok).toBe(true);
    expect(worked.of(spec(0.31))).toBe(whole);
    // One more pass takes the others over.
    const first = worked.stageOf(one, 1);
    const longer = { ...one, passes: [...one.passes, { turnDeg: 90, toMm: 18 }] };
    expect(worked.of(longer)?.ok).toBe(true);
    expect(worked.stageOf(longer, 1)).toBe(first);
  });

  it('is forgotten the oldest first, so that it never grows without end', () => {
    const [oldest, newest] = [spec(0.41), spec(0.42)];
    known.keep(keyOf(oldest, 1), failed('oldest'));
    for (let i = 0; i < 399; i++) known.keep(`filler ${i}`, failed('filler'));
    expect(known.stageOf(oldest, 1)).toEqual(failed('oldest'));
    known.keep(keyOf(newest, 1), failed('newest'));
    expect(known.stageOf(oldest, 1)).toBeUndefined();
    expect(known.stageOf(newest, 1)).toEqual(failed('newest'));
  });
});
