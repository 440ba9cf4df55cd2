import { describe, expect, it } from 'vitest';
import { type Billet, sizeOf } from '../billet/billet.ts';
import { codeAt } from '../billet/fields/field.ts';
import { type Blade, PROFILES, bladeFrom, sectionOfBlade } from '../blade/index.ts';
import { moveOf } from '../moves/index.ts';
import { forgedFor } from '../moves/forge/shape.ts';
import { materialCode } from '../shop/shop.ts';
import { Hand } from '../tests/hand.ts';
import {
  type Move,
  cutInto,
  drawSquare,
  fourWay,
  planOf,
  resquareTo,
  stackOf,
  weldIt,
} from '../tests/plans.ts';
import {
  type Evaluation,
  bladeOnSection,
  evaluate,
  leadsStraight,
  placeBefore,
  quarterTurnBefore,
} from './index.ts';

/** A star of four re-squared bars, turned so that half of it stands on the edge, drawn out flat. */
const STAR: Move[] = [
  stackOf(8, 30, 3.6, 700),
  weldIt,
  drawSquare(24),
  resquareTo(22),
  cutInto(4),
  fourWay('turned'),
  weldIt,
  drawSquare(34),
];
const flat: Move = ['draw', { shape: 'flat', widthMm: 60, thicknessMm: 8, heats: 0 }];
const turned: Move = ['turn', { to: 'turned 270°' }];
const NO_SCALE = { shop: { scalePerHeat: 0 } };
const worked = (moves: readonly Move[]): Evaluation => evaluate(planOf(moves, NO_SCALE));
/** Its edge lies on the middle line of the bar: of the star one half is blade, the other is thrown away. */
const halfOf = (bar: Billet): Blade => ({
  ...bladeFrom(PROFILES[0], bar.lengthMm, 30, 8),
  heightMm: 28,
  acrossMm: 14,
});

describe('a blade laid on the section of its bar before it is drawn out', () => {
  it('lies, point by point, where a hand that follows the instruction takes its steel from', () => {
    const moves = [...STAR, turned, flat];
    const e = worked(moves);
    const [turn, draw] = e.goalLane.steps.slice(-2);
    const back = placeBefore(e, turn.step.id)!;
    const bar = e.goal.bar!;
    const [star] = turn.before;
    const codeOf = (name: string) => materialCode(e.shop, e.shop.materials.find((m) => m.name === name)!.id);
    const hand = new Hand(new Map([['1', star]]), codeOf)
      .follow(moveOf('turn').does(turn.before, turn.step.parameters, e.shop))
      .follow(moveOf('draw').does(draw.before, draw.step.parameters, e.shop));
    const blade = halfOf(bar);
    let [same, asked] = [0, 0];
    for (const share of [0.01, 0.3, 0.6, 0.95]) {
      const u = share * blade.lengthMm;
      for (const [x, y] of sectionOfBlade(bar, blade, u)!.outline) {
        const z = blade.heelMm + u;
        const place = back([x, y, z])!;
        asked++;
        if (hand.result().codeAt(x, y, z) === codeAt(star.field, ...place)) same++;
        // It lies in the bar, and in its right half as it was turned.
        expect(Math.abs(place[0])).toBeLessThanOrEqual(17.001);
        expect(place[2]).toBeGreaterThan(0);
        expect(place[2]).toBeLessThan(star.lengthMm);
      }
    }
    expect(same / asked).toBeGreaterThan(0.99);
  });

  it('the half star on the edge lies right side up at both ends: its edge on the middle of the star, its spine outside', () => {
    const e = worked([...STAR, turned, flat]);
    const turn = e.goalLane.steps.at(-2)!;
    const blade = halfOf(e.goal.bar!);
    const sections = bladeOnSection(e, turn.step.id, blade)!;
    expect(sections).toHaveLength(3);
    // Towards the tip the edge rises.
    for (const { edge, spine, kept } of sections.slice(0, 2)) {
      // A quarter turn clockwise takes the bar's top to the right: the spine, and there it came from.
      expect(Math.hypot(...edge)).toBeLessThan(2);
      expect(spine[1]).toBeGreaterThan(edge[1] + 3);
      expect(Math.abs(spine[0])).toBeLessThan(1e-6);
      expect(kept).toBeLessThan(0.5);
    }
    expect(sections[0].atMm).toBeLessThan(sections[2].atMm);
    // Turned the other way the same half of the star would stand on its head.
    const other = worked([...STAR, ['turn', { to: 'turned 90°' }], flat]);
    const onItsHead = bladeOnSection(other, other.goalLane.steps.at(-2)!.step.id, blade)!;
    expect(onItsHead[0].spine[1]).toBeLessThan(onItsHead[0].edge[1] - 3);
  });

  it('follows a blade forged to shape back through its forging', () => {
    const blade = { ...bladeFrom(PROFILES[0], 500, 60, 6), lengthMm: 200, tangLengthMm: 60, heelMm: 61 };
    const e = worked([...STAR, flat, ['shape', { ...forgedFor(blade, 8), heats: 0 }]]);
    const draw = e.goalLane.steps.at(-2)!;
    const sections = bladeOnSection(e, draw.step.id, blade)!;
    const { widthMm, heightMm } = sizeOf(draw.before[0]);
    for (const { outline } of sections) {
      for (const [x, y] of outline) {
        expect(Math.abs(x)).toBeLessThanOrEqual(widthMm / 2);
        expect(Math.abs(y)).toBeLessThanOrEqual(heightMm / 2);
      }
    }
    // Forged, most of the section becomes blade; at the tip a part of it was cut off.
    expect(sections[0].kept).toBeGreaterThan(0.5);
    expect(sections[2].kept).toBeLessThan(sections[0].kept);
  });

  it('is not asked where the bar is laid of pieces after it', () => {
    const e = worked([...STAR, flat]);
    expect(leadsStraight(e, e.goalLane.steps[3].step.id)).toBe(false);
    expect(leadsStraight(e, e.goalLane.steps.at(-1)!.step.id)).toBe(true);
    expect(bladeOnSection(e, e.goalLane.steps[3].step.id, halfOf(e.goal.bar!))).toBeNull();
  });

  it('turns the bar a quarter at a press, back and round', () => {
    const plan = planOf([...STAR, flat]);
    const id = plan.lanes[0].steps.at(-1)!.id;
    const tos = (p: typeof plan) =>
      p.lanes[0].steps.flatMap((s) => (s.kind === 'turn' ? [s.parameters.to] : []));
    const once = quarterTurnBefore(plan, id, 'turned 270°');
    expect(tos(once)).toEqual(['turned 270°']);
    expect(tos(quarterTurnBefore(once, id, 'turned 270°'))).toEqual(['turned 180°']);
    expect(quarterTurnBefore(once, id, 'turned 90°').lanes[0].steps).toEqual(plan.lanes[0].steps);
  });
});
