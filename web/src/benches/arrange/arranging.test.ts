import { type Placed } from '../../../../core/moves/index.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  ORIENTATION_NAMES,
  compose,
  orientationName,
  orientationNamed,
} from '../../../../core/geometry/orientation.ts';
import { QUARTER, readingOrder, turnedBefore } from '../../../../core/assembly/index.ts';
import { ROLL, free, movedOn, swapped } from './arranging.ts';

const places: Placed[] = [1, 2, 3, 4].map((piece, i) => ({ piece, orientation: ORIENTATION_NAMES[2 * i] }));
const anyPlaces = fc
  .array(fc.constantFrom(...ORIENTATION_NAMES), { minLength: 2, maxLength: 9 })
  .map((ways): Placed[] => ways.map((orientation, i) => ({ piece: i + 1, orientation })));

describe('arranging by hand', () => {
  it('four quarter turns and two rolls change nothing', () => {
    fc.assert(
      fc.property(anyPlaces, (laid) => {
        const at = laid.length - 1;
        let turned = laid;
        for (let i = 0; i < 4; i++) turned = movedOn(turned, at, QUARTER);
        expect(turned).toEqual(laid);
        expect(movedOn(movedOn(laid, at, ROLL), at, ROLL)).toEqual(laid);
      }),
    );
  });

  it('a roll brings the other end to the front, a turn does not', () => {
    expect(movedOn(places, 0, ROLL)[0].orientation).toBe('rolled left–right');
    expect(movedOn(places, 0, QUARTER)[0].orientation).toBe('turned 90°');
    expect(movedOn(places, 0, QUARTER).slice(1)).toEqual(places.slice(1));
  });

  it('another corner in the middle keeps mirrors mirrors, and after four of them all is as it was', () => {
    const block: Placed[] = (
      ['as it lies', 'rolled left–right', 'rolled top–bottom', 'turned 180°'] as const
    ).map((orientation, i) => ({ piece: i + 1, orientation }));
    const next = turnedBefore(block);
    expect(next[0].orientation).toBe('turned 90°');
    const [left, right] = next.map((l) => orientationNamed(l.orientation));
    expect(orientationName(compose(ROLL, left))).toBe(orientationName(right));
    expect(turnedBefore(turnedBefore(turnedBefore(next)))).toEqual(block);
  });

  it('swapping twice changes nothing; each piece keeps the way it lies', () => {
    const once = swapped(places, 0, 3);
    expect(once[0]).toEqual(places[3]);
    expect(swapped(once, 3, 0)).toEqual(places);
  });

  it('an order moves the pieces and leaves the places’ orientations', () => {
    const moved = readingOrder(places, [2, 0, 3, 1]);
    expect(moved.map((p) => p.piece)).toEqual([3, 1, 4, 2]);
    expect(moved.map((p) => p.orientation)).toEqual(places.map((p) => p.orientation));
    expect(free(moved)).toEqual({ layout: 'free', places: moved, clash: undefined });
  });
});
