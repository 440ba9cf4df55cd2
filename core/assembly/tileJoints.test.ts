import { describe, expect, it } from 'vitest';
import { moveOf } from '../moves/index.ts';
import { makeShop } from '../shop/shop.ts';
import { SQUARE_BAR, evaluated, planOf } from '../tests/plans.ts';
import { tileJoints } from './index.ts';

const shop = makeShop();

const jointsOf = (angleDeg: number, lay: string) => {
  const p = { angleDeg, thicknessMm: 9, lay, count: 6 };
  const { before, after } = evaluated(planOf([...SQUARE_BAR, ['tile', p]])).lanes[0].steps.at(-1)!;
  const joints = moveOf('tile').joints!(before[0], p, shop);
  return tileJoints(after![0], joints, (angleDeg * Math.PI) / 180);
};

describe('joints of tiles', () => {
  it.each([45, 60, 90])(
    'at %d° match on both faces for any pattern when every other tile is rolled over',
    (deg) => {
      // Handbook, geometry, "Which flips fit": each joint is then a mirror between mates. On the faces of a slanted row the mates
      // have slid by the tile’s own depth, alike on both sides of the joint.
      const joints = jointsOf(deg, 'every other rolled');
      expect(joints).toHaveLength(5);
      for (const joint of joints)
        expect(Math.max(joint.topMismatch, joint.bottomMismatch)).toBeLessThan(0.02);
    },
  );

  it('do not where the top edge of one meets the bottom edge of the next', () => {
    for (const joint of jointsOf(45, 'as they lie')) {
      expect(joint.topMismatch).toBeGreaterThan(0.05);
      expect(joint.bottomMismatch).toBeGreaterThan(0.05);
    }
  });
});
