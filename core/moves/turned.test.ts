import { describe, expect, it } from 'vitest';
import {
  type AxisMap,
  type Field,
  type Points,
  SAME_PLACE,
  afterMap,
  codeAt,
} from '../billet/fields/field.ts';
import { grooveDepth } from '../geometry/maps/grooving.ts';
import { sentencesOf } from '../instruct/words.ts';
import { bar, CODES, shop } from '../tests/mottled.ts';
import { drawSquare, evaluated, planOf, stackOf, weldIt } from '../tests/plans.ts';
import { moveOf } from './index.ts';

/** Twelve sectors about the axis, no three in a row alike. */
class Sectors implements Field {
  readonly variesAlongZ = false;
  private readonly map: AxisMap;
  constructor(map: AxisMap = SAME_PLACE) {
    this.map = map;
  }
  sample({ x, y, count }: Points, out: Uint8Array): void {
    const { kx, ky, tx, ty } = this.map;
    for (let i = 0; i < count; i++) {
      const turn = Math.atan2(y[i] * ky + ty, x[i] * kx + tx) / (2 * Math.PI);
      out[i] = CODES[[0, 1, 2, 0, 3, 4, 1, 5, 2, 3, 5, 4][Math.floor(((turn + 1) % 1) * 12)]];
    }
  }
  through(map: AxisMap): Field {
    return new Sectors(afterMap(map, this.map));
  }
}

/** The share of a small circle about the axis at which two fields agree, the second turned first by so many degrees counter-clockwise. */
function agree(a: Field, za: number, b: Field, zb: number, deg: number): number {
  let same = 0;
  for (let i = 0; i < 360; i++) {
    const at = ((i + 0.5) * Math.PI) / 180;
    const from = at - (deg * Math.PI) / 180;
    if (
      codeAt(a, 0.2 * Math.cos(at), 0.2 * Math.sin(at), za) ===
      codeAt(b, 0.2 * Math.cos(from), 0.2 * Math.sin(from), zb)
    )
      same++;
  }
  return same / 360;
}

describe('what is turned in the dies is turned as it is said', () => {
  it.each([
    ['left', 0],
    ['right', 0],
    ['left', 8],
    ['right', -8],
  ])('re-squared to the %s, %f° too far', (turn, errorDeg) => {
    const p = { turn, errorDeg, sideMm: 26, heats: 0 };
    const before = bar(30, 30, 100, { field: new Sectors() });
    const [made] = moveOf('resquare').apply([before], p, shop).after;
    const said = moveOf('resquare')
      .does([before], p, shop)
      .flatMap((a) => (a.do === 'turn' ? [a] : []))[0];
    const deg = said.way === 'clockwise' ? -said.deg : said.deg;
    // The flow shears: sectors do not all turn alike.
    expect(agree(made.field, 1, before.field, 1, deg)).toBeGreaterThan(0.7);
    expect(agree(made.field, 1, before.field, 1, -deg)).toBeLessThan(0.6);
  });

  it.each([20, -20])('pressed %f° off its face, by the flow', (turnDeg) => {
    const passes = [{ turnDeg, toMm: 25 }];
    const p = { passes, friction: 0.5, held: true, finish: 'as pressed', heats: 0 };
    const { before, after, step } = evaluated(
      planOf([stackOf(2, 26, 14, 200), weldIt, drawSquare(24), ['press', p]]),
    ).lanes[0].steps.at(-1)!;
    const [said] = moveOf('press')
      .does(before, step.parameters, shop)
      .flatMap((a) => (a.do === 'turn' ? [a] : []));
    const deg = said.way === 'clockwise' ? -said.deg : said.deg;
    // The seam through the middle lies as the bar was turned, give or take what the press does to it.
    const above = (at: number) => {
      const turn = ((deg + at) * Math.PI) / 180;
      return codeAt(after![0].field, 0.5 * Math.cos(turn), 0.5 * Math.sin(turn), 1);
    };
    expect(above(15)).not.toBe(above(-15));
    expect(above(15)).toBe(above(165));
  });

  it.each([0.1, -0.1])('twisted by %f of a turn', (turns) => {
    const before = bar(30, 30, 100, { field: new Sectors() });
    const [made] = moveOf('twist').apply([before], { turns, heats: 0 }, shop).after;
    const words = sentencesOf(moveOf('twist').does([before], { turns, heats: 0 }, shop), shop).join(' ');
    const deg = words.includes('counter-clockwise') ? 36 : -36;
    // End B against end A, seen on end B.
    expect(agree(made.field, made.lengthMm, made.field, 0, deg)).toBeGreaterThan(0.97);
  });

  it.each([30, -30])(
    'grooves slanting by %f°: the right end of each is nearer the end that is said',
    (slantDeg) => {
      const p = {
        pattern: 'diagonal',
        how: 'ground',
        depthMm: 3,
        widthMm: 6,
        pitchMm: 20,
        slantDeg,
        heats: 1,
      };
      const words = sentencesOf(moveOf('grooves').does([bar(30, 30, 100)], p, shop), shop).join(' ');
      const grooves = {
        ...p,
        pattern: 'diagonal' as const,
        slantRad: (slantDeg * Math.PI) / 180,
        top: true,
        bottomShiftMm: null,
      };
      // From the groove through the middle of the bar, a little to the right and towards that end it is still the deepest.
      const towardsA = grooveDepth(grooves, 4, 40 - 4 * Math.tan(Math.PI / 6));
      const towardsB = grooveDepth(grooves, 4, 40 + 4 * Math.tan(Math.PI / 6));
      expect(words).toContain(`nearer end ${towardsA > towardsB ? 'A' : 'B'}`);
      expect(Math.max(towardsA, towardsB)).toBeCloseTo(3, 9);
    },
  );

  it.each([12, -12])('leaned by %f°: the corners pressed are the ones that come nearer', (leanDeg) => {
    const before = bar(30, 30, 100);
    const p = { leanDeg, heats: 0 };
    const words = sentencesOf(moveOf('lean').does([before], p, shop), shop).join(' ');
    const { outline } = moveOf('lean').apply([before], p, shop).after[0];
    const far = (kx: number, ky: number) =>
      outline.reduce((best, q) => (kx * q[0] + ky * q[1] > kx * best[0] + ky * best[1] ? q : best));
    const apart = (a: readonly [number, number], b: readonly [number, number]) =>
      Math.hypot(a[0] - b[0], a[1] - b[1]);
    const falling = apart(far(-1, 1), far(1, -1));
    const rising = apart(far(1, 1), far(-1, -1));
    expect(words.includes('upper left and lower right')).toBe(falling < rising);
  });
});
