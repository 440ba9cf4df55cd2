import { describe, expect, it } from 'vitest';
import type { Found } from '../../document/wishes.ts';
import { type Filters, passing } from './filters.ts';

const ALL: Filters = { group: 'all', turns: 'any', takes: 'any', order: 'unlike', isClean: false };

/** What filters look at. */
const found = (
  id: number,
  recipe: string,
  group: Found['group'],
  steelKg: number,
  hours: number,
  amiss = 0,
): Found =>
  ({
    id,
    group,
    like: null,
    offer: { spec: { recipe }, steelKg, hours, remaining: Array.from({ length: amiss }, () => ({})) },
  }) as unknown as Found;

const PLANS = [
  found(1, 'star', 'p4m', 2, 9),
  found(2, 'waves', 'pmg', 1, 8),
  found(3, 'twist', 'p2', 3, 3, 1),
  found(4, 'rods', null, 4, 4),
];
const ids = (some: Partial<Filters>) => passing(PLANS, { ...ALL, ...some }).map((one) => one.id);

describe('the gallery’s filters', () => {
  it('by family, symmetry, what is amiss; each alone and together', () => {
    expect(ids({})).toEqual([1, 2, 3, 4]);
    expect(ids({ group: 'stars' })).toEqual([1]);
    expect(ids({ turns: 'mirrors' })).toEqual([1, 2]);
    expect(ids({ turns: 'quarter' })).toEqual([1]);
    expect(ids({ turns: 'plain' })).toEqual([3, 4]);
    expect(ids({ isClean: true, turns: 'plain' })).toEqual([4]);
  });

  it('by steel and work against the others, and in their order', () => {
    expect(ids({ takes: 'steel' })).toEqual([1, 2]);
    expect(ids({ takes: 'work' })).toEqual([3, 4]);
    expect(ids({ order: 'steel' })).toEqual([2, 1, 3, 4]);
    expect(ids({ order: 'work' })).toEqual([3, 4, 2, 1]);
    expect(passing([], ALL)).toEqual([]);
  });

  it('of one recipe alone, and by a picture those that were found for it, the nearest first', () => {
    expect(ids({ recipe: 'waves' })).toEqual([2]);
    const like = (one: Found, correlation: number) =>
      ({ ...one, likePicture: { correlation, directions: 0.9 } }) as Found;
    const some = [like(PLANS[0], 0.5), PLANS[1], like(PLANS[2], 0.9)];
    expect(passing(some, { ...ALL, order: 'picture' }).map((one) => one.id)).toEqual([3, 1]);
  });
});
