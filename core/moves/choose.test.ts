import { describe, expect, it } from 'vitest';
import { pieceName } from '../billet/billet.ts';
import { judge } from '../judgement/index.ts';
import { type LaneResult, sayStep } from '../plan/index.ts';
import { pieces } from '../tests/following.ts';
import { type Move, SQUARE_BAR, cutInto, evaluated, planOf, planOfLanes, weldIt } from '../tests/plans.ts';
import { shop } from '../tests/mottled.ts';
import { moveOf } from './index.ts';

const work = (...moves: Move[]) => evaluated(planOf([...SQUARE_BAR, ...moves]));
const lane = (...moves: Move[]): LaneResult => work(...moves).lanes[0];
const names = (l: LaneResult) => l.ends.map(pieceName);
const row = (columns: number): Move => ['assemble', { columns, rows: 1, layout: 'mirrored' }];
const thin: Move = ['grind', { topMm: 1, bottomMm: 0, leftMm: 0, rightMm: 0 }];

describe('pieces that are chosen', () => {
  it('are worked on; the others lie aside as they were, and come back', () => {
    const l = lane(cutInto(4), ['choose', { pieces: [2, 4] }], thin, ['choose', { pieces: [1, 2, 3, 4] }]);
    expect(names(l)).toEqual(['S1', '2', 'S3', '4']);
    const all = l.steps.at(-4)!.after!;
    expect(l.ends.map((b) => b.volumes === all[0].volumes)).toEqual([true, false, true, false]);
    expect(l.steps.at(-2)!.aside.map(pieceName)).toEqual(['S1', 'S3']);
    expect(l.steps.at(-1)!.aside).toEqual([]);
  });

  it('never share a name with what is sawn later, and the words say what is written', () => {
    const e = work(cutInto(6), ['choose', { pieces: [4, 5, 6] }], row(3), weldIt, cutInto(3), [
      'choose',
      { pieces: [1, 2] },
    ]);
    const steps = e.lanes[0].steps;
    // In hand are 1, 2, 3; aside S1, S2, S3: in the order 1, S1, 2, S2 … the first two stay, one of them comes back.
    expect(steps.at(-1)!.after!.map(pieceName)).toEqual(['1', 'S1']);
    expect(steps.at(-1)!.aside.map(pieceName)).toEqual(['S4', 'S2', 'S5', 'S3']);
    expect(new Set(names(e.lanes[0])).size).toBe(6);
    expect(sayStep(steps.at(-1)!, e.shop)).toEqual([
      'Take piece S1 back to the bench.',
      'Strike out 2, 3 and write S4, S5 instead, on both ends; A, B and the arrow stay.',
      'Set pieces S4, S5 aside.',
    ]);
  });

  it('go to two bars: three in this one, the rest in another, by what is written on them', () => {
    const e = evaluated(
      planOfLanes({
        P: [...SQUARE_BAR, cutInto(6), ['choose', { pieces: [1, 2, 3] }]],
        Q: [['assemble', { columns: 3, rows: 1, layout: 'alike', from: ['P'] }]],
        R: [
          [
            'assemble',
            {
              columns: 3,
              rows: 1,
              layout: 'free',
              places: [4, 5, 6].map((piece) => ({ lane: 'P', piece, orientation: 'as it lies' })),
            },
          ],
        ],
      }),
    );
    expect(e.lanes[1].ends).toHaveLength(1);
    expect(e.lanes[2].steps[0].before.map(pieceName)).toEqual(['PS4', 'PS5', 'PS6']);
    expect(e.lanes[2].ends).toHaveLength(1);
  });

  it('three of six lie on each side of another bar in one choice', () => {
    const centre: Move[] = [...SQUARE_BAR, cutInto(1)];
    const e = evaluated(
      planOfLanes({
        P: [...SQUARE_BAR, cutInto(6)],
        Q: centre,
        R: [['assemble', { columns: 7, rows: 1, layout: 'mirrored', from: ['P', 'Q'], fill: 'either side' }]],
      }),
    );
    const laid = e.lanes[2].steps[0];
    expect(laid.after, laid.findings.map((f) => f.text).join()).not.toBeNull();
    expect(moveOf('assemble').lays!(laid.step.parameters).places.map((p) => `${p.lane}${p.piece}`)).toEqual([
      'P1',
      'P2',
      'P3',
      'Q1',
      'P4',
      'P5',
      'P6',
    ]);
  });

  it('keep their scale while others are ground', () => {
    const drawn: Move = ['draw', { shape: 'square', sideMm: 18, heats: 1 }];
    const off: Move = ['grind', { topMm: 0.3, bottomMm: 0.3, leftMm: 0.3, rightMm: 0.3 }];
    const scaly = (...moves: Move[]) => {
      const e = work(cutInto(4), ...moves, row(2));
      return judge(e, e.lanes[0].steps.at(-1)!).findings.some((f) => f.code === 'unground');
    };
    const first: Move = ['choose', { pieces: [1, 2] }];
    const rest: Move = ['choose', { pieces: [3, 4] }];
    expect(scaly(drawn, off)).toBe(false);
    expect(scaly(drawn, first, off)).toBe(false);
    expect(scaly(drawn, first, off, rest)).toBe(true);
    expect(scaly(first, drawn, rest, off)).toBe(false);
    // A bar that has no number, chosen among what lies aside, is as it came out of the fire.
    expect(scaly(first, row(2), weldIt, ['choose', { pieces: [1] }], cutInto(2))).toBe(true);
  });

  it('must be there, and one at least must be left to choose', () => {
    const codes = (n: number, chosen: number[]) =>
      moveOf('choose')
        .check(pieces(n, 20, 20), { pieces: chosen }, shop)
        .map((f) => [f.code, f.remedy?.label]);
    expect(codes(1, [1])).toEqual([['only piece', undefined]]);
    expect(codes(3, [1, 5])).toEqual([['not there', 'Leave them out']]);
    expect(codes(3, [1])).toEqual([['aside', undefined]]);
    expect(codes(3, [1, 2, 3])).toEqual([]);
  });
});
