import { describe, expect, it } from 'vitest';
import { type Billet, sizeOf, volumeOf } from '../billet/billet.ts';
import { outlineArea } from '../geometry/outline.ts';
import { SIDES } from '../instruct/action.ts';
import { totalVolume } from '../materials/volumes.ts';
import { withRemedy } from '../plan/index.ts';
import { makeShop } from '../shop/shop.ts';
import {
  type Move,
  READY,
  SQUARE_BAR,
  cutInto,
  evaluated,
  fourWay,
  planOf,
  planOfLanes,
  stackOf,
  weldIt,
} from '../tests/plans.ts';
import { facesWithSeams } from './forge/bead.ts';
import { moveOf } from './index.ts';

const shop = makeShop();
const laneOf = (moves: readonly Move[]) => evaluated(planOf(moves)).lanes[0];
const barOf = (moves: readonly Move[]): Billet => laneOf(moves).ends[0];
const finding = (moves: readonly Move[], code: string) =>
  laneOf(moves)
    .steps.at(-1)!
    .findings.find((f) => f.code === code);

describe('bars laid end to end', () => {
  const two = (angleDeg: number): Move[] => [...SQUARE_BAR, cutInto(2), ['scarf', { angleDeg }]];

  it('are as long as both, less what a scarf reaches over: the height over the tangent of its angle', () => {
    const pieces = laneOf([...SQUARE_BAR, cutInto(2)]).ends;
    const sum = pieces.reduce((mm, b) => mm + b.lengthMm, 0);
    const { heightMm } = sizeOf(pieces[0]);
    expect(barOf(two(90)).lengthMm).toBeCloseTo(sum, 9);
    expect(barOf(two(30)).lengthMm).toBeCloseTo(sum - heightMm * Math.sqrt(3), 9);
    const joined = barOf(two(30));
    expect(volumeOf(joined)).toBeCloseTo(totalVolume(joined.volumes), 6);
    // Half of the reach of one section falls off either end.
    expect(totalVolume(laneOf(two(30)).steps.at(-1)!.losses[0].volumes)).toBeCloseTo(
      outlineArea(joined.outline) * heightMm * Math.sqrt(3),
      6,
    );
    expect(laneOf(two(90)).steps.at(-1)!.losses).toEqual([]);
  });

  it('say that a butt wants pressure from the ends, and that a scarf grows with the bar', () => {
    expect(finding(two(90), 'butts')?.severity).toBe('note');
    expect(finding(two(30), 'drawn scarf')?.severity).toBe('note');
  });

  it('of one bar alone ask for another; too short a piece takes a butt', () => {
    expect(finding([...SQUARE_BAR, ['scarf', { angleDeg: 45 }]], 'only piece')?.severity).toBe('error');
    const short: Move[] = [...SQUARE_BAR, cutInto(24), ['scarf', { angleDeg: 15 }]];
    expect(finding(short, 'too short')?.remedy).toMatchObject({ set: { angleDeg: 90 } });
  });

  it('may be pieces of other lanes, which come after those in hand', () => {
    const e = evaluated(
      planOfLanes({
        one: [...SQUARE_BAR, ['scarf', { angleDeg: 60, from: [{ lane: 'other', piece: 1 }] }], weldIt],
        other: [...SQUARE_BAR],
      }),
    );
    expect(e.lanes[0].steps.at(-1)!.findings.filter((f) => f.severity === 'error')).toEqual([]);
    expect(e.lanes[0].ends[0].lengthMm).toBeGreaterThan(1.9 * e.lanes[1].steps.at(-1)!.after![0].lengthMm);
    const begun = moveOf('scarf').begin([e.lanes[1].ends[0] ?? barOf(SQUARE_BAR)], shop, [
      { id: 'other', pieces: [barOf(SQUARE_BAR)] },
    ]);
    expect(begun).toEqual({ angleDeg: 45, from: [{ lane: 'other', piece: 1 }] });
  });
});

describe('edges welded shut', () => {
  it('have their bead where more than one piece comes to a face', () => {
    expect(facesWithSeams(barOf(READY.weld))).toEqual(['left', 'right']);
    expect(facesWithSeams(barOf([...SQUARE_BAR, cutInto(4), fourWay('turned')]))).toEqual(SIDES);
  });

  it('take a bead no deeper than half of the bar stands, or stay open, by one press', () => {
    const mended = (thick: number, beadMm: number) => {
      const moves = [
        stackOf(2, 30, thick),
        ['weld', { heats: 1, temperatureC: 1200, edges: 'welded shut', beadMm }],
      ] as Move[];
      const e = evaluated(planOf(moves));
      const step = e.lanes[0].steps[1];
      const remedy = step.findings.find((f) => f.code === 'bead')!.remedy!;
      expect(evaluated(withRemedy(e, step, remedy).plan).lanes[0].ends).toHaveLength(1);
      return remedy;
    };
    expect(mended(4, 3)).toMatchObject({ set: { beadMm: 2 } });
    expect(mended(0.5, 3)).toMatchObject({ set: { edges: 'open' } });
  });

  it('cost their bead on the faces that seams come out at, and on both ends; the rest stays', () => {
    const weld = (more: object) =>
      evaluated(planOf([stackOf(8, 30), ['weld', { heats: 1, temperatureC: 1200, ...more }]])).lanes[0];
    const open = weld({}).ends[0];
    const shut = weld({ edges: 'welded shut', beadMm: 1.5 }).ends[0];
    expect(sizeOf(open).widthMm - sizeOf(shut).widthMm).toBeCloseTo(3, 9);
    expect(sizeOf(shut).heightMm).toBeCloseTo(sizeOf(open).heightMm, 9);
    expect(open.lengthMm - shut.lengthMm).toBeCloseTo(3, 9);
  });

  it('are offered first where copper lies between, which would run out', () => {
    const ends = (steels: string[]) =>
      evaluated(
        planOf([
          [
            'stack',
            {
              layers: 3,
              pattern: steels.map((material) => ({ material, thicknessMm: 6 })),
              widthMm: 40,
              lengthMm: 100,
            },
          ],
        ]),
      ).lanes[0].ends;
    expect(moveOf('weld').begin(ends(['1084', 'copper']), makeShop())).toMatchObject({
      edges: 'welded shut',
    });
    expect(moveOf('weld').begin(ends(['1084', '15n20']), makeShop())).not.toHaveProperty('edges');
  });
});
