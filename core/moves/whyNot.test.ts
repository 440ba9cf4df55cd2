import { describe, expect, it } from 'vitest';
import { evaluate } from '../plan/index.ts';
import { makeShop } from '../shop/shop.ts';
import { SQUARE_BAR, cutInto, planOf, stackOf } from '../tests/plans.ts';
import { type MoveKind, whyNot } from './index.ts';

type Moves = Parameters<typeof planOf>[0];
const shop = makeShop();

describe('why a move cannot be done, before it is put in', () => {
  const why = (kind: MoveKind, moves: Moves) => whyNot(kind, evaluate(planOf(moves)).lanes[0].ends, shop, []);

  it('is said where no press would make it so', () => {
    expect(why('peel', [...SQUARE_BAR])).toContain('no jacket');
    expect(why('consolidate', [...SQUARE_BAR])).toContain('no loose can');
    expect(why('choose', [...SQUARE_BAR])).toContain('one piece');
  });

  it('is not where something has only to be done first, or it can be done', () => {
    // A tile wants its pieces laid together and welded first: one press each.
    expect(why('tile', [...SQUARE_BAR, cutInto(4)])).toBeNull();
    expect(why('draw', [stackOf(9)])).toBeNull();
    const wedges: Moves = [...SQUARE_BAR, cutInto(4), ['wedge', { apexDeg: 90, heats: 1 }]];
    for (const kind of ['trueUp', 'draw', 'rip', 'choose'] as const)
      expect(why(kind, wedges), kind).toBeNull();
    for (const kind of ['draw', 'rip', 'cut', 'turn', 'resquare'] as const)
      expect(why(kind, [...SQUARE_BAR]), kind).toBeNull();
  });
});
