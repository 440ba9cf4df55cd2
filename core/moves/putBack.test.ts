import { describe, expect, it } from 'vitest';
import { volumeOf } from '../billet/billet.ts';
import { piecesOf } from '../billet/laidPieces.ts';
import { outlineArea, outlineSize } from '../geometry/outline.ts';
import { findingsOf } from '../judgement/index.ts';
import { totalVolume } from '../materials/volumes.ts';
import { sayStep, withRemedy } from '../plan/index.ts';
import { SQUARE_BAR, cutInto, evaluated, planOf } from '../tests/plans.ts';

type Move = readonly [string, object];
const weldIt: Move = ['weld', { heats: 1, temperatureC: 1200 }];
const fourWay = (piece: string, groundMm = 1, ...more: Move[]) =>
  evaluated(
    planOf([
      ...SQUARE_BAR,
      cutInto(4),
      ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }],
      ['putBack', { piece, groundMm }],
      ...more,
    ]),
  );

describe('a piece that slid off is put back', () => {
  it.each(['1', '2', '3', '4'])(
    'piece %s: ground on two faces, and its bed; its outer faces stand back',
    (piece) => {
      const e = fourWay(piece);
      const [laid, back] = e.lanes[0].steps.slice(-2);
      expect(findingsOf(e, back).filter((f) => f.severity === 'error')).toEqual([]);
      expect(back.findings.map((f) => f.code)).toContain('stands back');
      const [before, after] = [laid.after![0], back.after![0]];
      const { widthMm, heightMm } = outlineSize(before.outline);
      const [w, h] = [widthMm / 2, heightMm / 2];
      // Two faces of its own, two of its bed with the corner between: 1 mm of each.
      const off = w + h - 1 + (w + h + 1);
      expect(outlineArea(before.outline) - outlineArea(after.outline)).toBeCloseTo(off, 6);
      expect(outlineSize(after.outline).widthMm).toBeCloseTo(widthMm, 6);
      expect(outlineSize(after.outline).heightMm).toBeCloseTo(heightMm, 6);
      expect(totalVolume(back.losses[0].volumes)).toBeCloseTo(off * before.lengthMm, 3);
      expect(totalVolume(after.volumes)).toBeCloseTo(volumeOf(after), 3);
      expect(
        piecesOf(after)
          ?.each.map((p) => p.name)
          .sort(),
      ).toEqual(['1', '2', '3', '4']);
      expect(piecesOf(after)!.each.reduce((sum, p) => sum + outlineArea(p.outline), 0)).toBeCloseTo(
        outlineArea(after.outline),
        6,
      );
      expect(sayStep(back, e.shop).join(' ')).toMatch(
        new RegExp(
          `Take out piece ${piece}, .* Grind 1 mm off its .* and .*, flat and square, and as much off what these faces lay against, into the corner`,
        ),
      );
    },
  );

  it('then it is welded, drawn square and worked on like any other', () => {
    const e = fourWay('2', 1, weldIt, ['draw', { shape: 'square', sideMm: 30, heats: 1 }], cutInto(2));
    for (const step of e.lanes[0].steps)
      expect(findingsOf(e, step).filter((f) => f.severity === 'error')).toEqual([]);
    const [end] = e.lanes[0].ends;
    expect(outlineSize(end.outline).widthMm).toBeCloseTo(30, 6);
    expect(volumeOf(end)).toBeCloseTo(totalVolume(end.volumes), 3);
  });

  it.each([
    ['another piece each time', ['2', '3']],
    ['the same piece', ['2', '2', '2']],
    ['all of them', ['1', '2', '3', '4']],
  ])('more than once: %s, and drawn square', (_what, [first, ...rest]) => {
    const e = fourWay(
      first,
      0.5,
      ...rest.map((piece): Move => ['putBack', { piece, groundMm: 0.5 }]),
      weldIt,
      ['draw', { shape: 'square', sideMm: 30, heats: 1 }],
    );
    expect(e.lanes[0].steps.flatMap((s) => findingsOf(e, s)).filter((f) => f.severity === 'error')).toEqual(
      [],
    );
    for (const { after } of e.lanes[0].steps)
      expect(volumeOf(after![0])).toBeCloseTo(totalVolume(after![0].volumes), 3);
  });

  it.each([
    ['no such piece', '9', 1],
    ['ground through', '1', 15],
  ])('says what is wrong: %s', (code, piece, groundMm) => {
    const e = fourWay(piece, groundMm);
    const back = e.lanes[0].steps.at(-1)!;
    const said = findingsOf(e, back).find((f) => f.code === code)!;
    const mended = evaluated(withRemedy(e, back, said.remedy!).plan);
    expect(findingsOf(mended, mended.lanes[0].steps.at(-1)!).filter((f) => f.severity === 'error')).toEqual(
      [],
    );
  });

  it('a piece held on both sides has not slid off; an outer one of the row has', () => {
    const row = (piece: string) => {
      const e = evaluated(
        planOf([
          ...SQUARE_BAR,
          cutInto(3),
          ['assemble', { columns: 3, rows: 1, layout: 'alike' }],
          ['putBack', { piece, groundMm: 1 }],
        ]),
      );
      return { e, back: e.lanes[0].steps.at(-1)! };
    };
    const { e, back } = row('2');
    const said = findingsOf(e, back).find((f) => f.code === 'held on both sides')!;
    expect(withRemedy(e, back, said.remedy!).plan.lanes[0].steps.at(-1)!.parameters).toMatchObject({
      piece: '1',
    });
    const outer = row('3');
    const [laid, after] = outer.e.lanes[0].steps.slice(-2).map((s) => s.after![0]);
    expect(outlineSize(laid.outline).widthMm - outlineSize(after.outline).widthMm).toBeCloseTo(2, 6);
    expect(after.outline).toHaveLength(4);
  });

  it('steel bought for the seams is laid anew: it is not among the pieces', () => {
    const strips = { material: 'nickel', thicknessMm: 4, where: 'cross' };
    const crossed = (piece: string) =>
      evaluated(
        planOf([
          ...SQUARE_BAR,
          cutInto(4),
          ['assemble', { columns: 2, rows: 2, layout: 'mirrored', strips }],
          ['putBack', { piece, groundMm: 0.5 }],
          weldIt,
        ]),
      );
    const e = crossed('strip 1');
    expect(findingsOf(e, e.lanes[0].steps.at(-2)!).map((f) => f.text)).toContain(
      'No piece here is called strip 1: there are 1, 2, 3, 4.',
    );
    const fine = crossed('1');
    expect(
      fine.lanes[0].steps.flatMap((s) => findingsOf(fine, s)).filter((f) => f.severity === 'error'),
    ).toEqual([]);
    const [end] = fine.lanes[0].ends;
    expect(volumeOf(end)).toBeCloseTo(totalVolume(end.volumes), 3);
  });

  it('of a stack of sheets as they were bought nothing is', () => {
    const e = evaluated(planOf([SQUARE_BAR[0], ['putBack', { piece: '1', groundMm: 1 }]]));
    const [finding] = findingsOf(e, e.lanes[0].steps.at(-1)!);
    expect(finding).toMatchObject({
      code: 'nothing loose',
      text: 'All that lies here is as it was bought: what slid off is laid anew, not put back.',
    });
  });

  it('a welded bar has none, and wedges fit nowhere else', () => {
    const solid = evaluated(planOf([...SQUARE_BAR, ['putBack', { piece: '1', groundMm: 1 }]]));
    expect(findingsOf(solid, solid.lanes[0].steps.at(-1)!).map((f) => f.code)).toContain('nothing loose');
    const wedges = evaluated(
      planOf([
        ...SQUARE_BAR,
        cutInto(4),
        ['wedge', { apexDeg: 90, heats: 1 }],
        ['assemble', { columns: 2, rows: 2, layout: 'alike' }],
        ['putBack', { piece: '1', groundMm: 1 }],
      ]),
    );
    const said = wedges.lanes[0].steps.at(-1)!.findings.map((f) => f.code);
    expect(said).toContain('no square pieces');
  });
});
