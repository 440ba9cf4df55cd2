import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Billet } from '../billet/billet.ts';
import type { TiledField } from '../billet/fields/tiled.ts';
import { ORIENTATION_NAMES } from '../geometry/orientation.ts';
import { turnedBar } from '../billet/turned.ts';
import { type Outline, rectangle, regularPolygon } from '../geometry/outline.ts';
import type { Action } from '../instruct/action.ts';
import { type Change, SAME, everyMoveFollowed, followed, pieces, wrong } from '../tests/following.ts';
import { STEELS, bar, shop } from '../tests/mottled.ts';
import { type MoveKind, moveOf } from './index.ts';

describe('a hand that does what the instruction’s data says, and nothing else, makes the picture', () => {
  it.each([
    [{ pieces: 4, cropAMm: 7, cropBMm: 3 }],
    [{ pieces: 3, cropAMm: 0, cropBMm: 9 }],
    [{ pieces: 5, cropAMm: 0, cropBMm: 0, kerfMm: 3 }],
  ])('of a cut, %o', (p) => expect(followed('cut', [bar(33, 21, 210)], p)).toBeGreaterThan(SAME));

  it.each([[{ way: 'upright', offCentreMm: 4 }], [{ way: 'level', offCentreMm: -3, kerfMm: 2 }]])(
    'of a rip, %o',
    (p) => {
      expect(followed('rip', [bar(33, 21, 120)], p)).toBeGreaterThan(SAME);
      expect(followed('rip', pieces(3, 33, 21), p)).toBeGreaterThan(SAME);
    },
  );

  it.each([
    [
      'a leaning bar',
      [
        [-15, -10],
        [9, -10],
        [15, 10],
        [-9, 10],
      ],
    ],
    [
      'a wedge',
      [
        [0, -12],
        [16, 12],
        [-16, 12],
      ],
    ],
    ['an octagon', regularPolygon(8, 700)],
  ] as const)('of ripping %s, either way', (_what, outline) => {
    for (const way of ['upright', 'level'])
      for (const offCentreMm of [-2, 0, 3])
        expect(followed('rip', [bar(32, 24, 120, { outline })], { way, offCentreMm })).toBeGreaterThan(SAME);
  });

  it('of pieces of several sizes sawn on: cut after rip, rip after cut, cut after cut', () => {
    const unlike = pieces(4, 33, 21);
    unlike[2] = { ...unlike[2], outline: rectangle(24, 30), lengthMm: 51 };
    expect(followed('rip', unlike, { way: 'upright', offCentreMm: -2 })).toBeGreaterThan(SAME);
    for (const p of [
      { pieces: 3, cropAMm: 2, cropBMm: 1 },
      { pieces: 2, cropAMm: 0, cropBMm: 0 },
      { pieces: 1, cropAMm: 3, cropBMm: 0 },
    ])
      expect(followed('cut', unlike, p)).toBeGreaterThan(SAME);
    // A piece that was drawn out since lies where it lay in its bar, in its share of that.
    const longer = { ...pieces(2, 33, 21)[1], lengthMm: 100 };
    const parts = moveOf('cut').apply([longer], { pieces: 2, cropAMm: 0, cropBMm: 0, kerfMm: 0 }, shop).after;
    const { fromMm, toMm } = longer.piece!;
    expect(parts.map(({ piece }) => [piece!.fromMm, piece!.toMm])).toEqual([
      [fromMm, expect.closeTo((fromMm + toMm) / 2, 9)],
      [expect.closeTo((fromMm + toMm) / 2, 9), expect.closeTo(toMm, 9)],
    ]);
    const halves = moveOf('rip').apply([bar(33, 21, 120)], { way: 'level', offCentreMm: 0 }, shop).after;
    expect(followed('cut', [...halves], { pieces: 3, cropAMm: 0, cropBMm: 4 })).toBeGreaterThan(SAME);
  });

  it.each([
    [['1084', '15n20'], 7],
    [['15n20', '1084', 'nickel'], 8],
    [['1084'], 1],
  ])('of a stack of %j, %d strips', (materials, layers) => {
    const pattern = materials.map((material, i) => ({ material, thicknessMm: 2 + 1.3 * i }));
    expect(followed('stack', [], { layers, pattern, widthMm: 33, lengthMm: 90 })).toBeGreaterThan(SAME);
  });

  it('is found out where it begins with another steel than it should', () => {
    const pattern = ['1084', '15n20'].map((material) => ({ material, thicknessMm: 3 }));
    const otherWay: Change = (actions) =>
      actions.map((a) => (a.do === 'stack' ? { ...a, inTurn: [...a.inTurn].reverse() } : a));
    const p = { layers: 6, pattern, widthMm: 33, lengthMm: 90 };
    expect(followed('stack', [], p, { change: otherWay })).toBeLessThan(0.1);
  });

  it.each(['all round', 'top and bottom'])('of a jacket, %s', (where) =>
    expect(
      followed('jacket', [bar(33, 21, 120)], { material: '1018', thicknessMm: 1.5, where }),
    ).toBeGreaterThan(SAME),
  );

  it('of edges welded shut, the bead ground off', () => {
    const p = { temperatureC: 1200, heats: 1, edges: 'welded shut', beadMm: 3 };
    expect(followed('weld', [bar(33, 21, 120)], p)).toBeGreaterThan(SAME);
  });

  it.each([[90], [60], [35]])('of bars laid end to end at %d°', (angleDeg) => {
    expect(followed('scarf', pieces(3, 33, 21), { angleDeg })).toBeGreaterThan(SAME);
  });

  it.each(['1', '2', '3', '4'])('of piece %s of a four-way that slid off', (piece) => {
    const block = moveOf('assemble').apply(
      pieces(4, 33, 21),
      { columns: 2, rows: 2, layout: 'mirrored' },
      shop,
    );
    expect(followed('putBack', [...block.after], { piece, groundMm: 1.3 })).toBeGreaterThan(SAME);
    const away = wrong((a) => (a.do === 'put back' ? { ...a, fromMm: [0, 0] } : a));
    if (piece !== '3')
      expect(followed('putBack', [...block.after], { piece, groundMm: 1.3 }, { change: away })).toBeLessThan(
        SAME,
      );
  });

  it('of a crop and of grinding', () => {
    expect(followed('crop', [bar(33, 21, 120)], { endAMm: 11, endBMm: 4 })).toBeGreaterThan(SAME);
    const cracked = { endAMm: 11, endBMm: 4, whyA: 'cracked' };
    expect(followed('crop', pieces(3, 33, 21), cracked)).toBeGreaterThan(SAME);
    const p = { topMm: 3, bottomMm: 0, leftMm: 1, rightMm: 2 };
    expect(followed('grind', [bar(33, 21, 120)], p)).toBeGreaterThan(SAME);
  });

  it.each([[2], [-2], [7.5], [-7.5], [20], [0]])('of grinding true a pattern turned by %f°', (errorDeg) =>
    expect(followed('trueUp', [bar(30, 30, 90)], { errorDeg })).toBeGreaterThan(SAME),
  );

  it('of every layout of tiles, straight and slanted, count given or not', () => {
    const slanted = ['as it lies', 'rolled over'] as const;
    const any = [...slanted, 'turned in the plane', 'turned about its length'] as const;
    fc.assert(
      fc.property(
        fc.boolean().chain((straight) =>
          fc.record({
            angleDeg: straight ? fc.constant(90) : fc.integer({ min: 30, max: 80 }),
            thicknessMm: fc.integer({ min: 6, max: 14 }),
            lay: fc.oneof(
              fc.constantFrom('every other rolled' as const, 'as they lie' as const),
              fc.array(fc.constantFrom(...(straight ? any : slanted)), { maxLength: 20 }),
            ),
          }),
        ),
        (p) => {
          expect(followed('tile', [bar(22, 26, 220)], p)).toBeGreaterThan(SAME);
        },
      ),
      { numRuns: 25 },
    );
  });

  it.each(ORIENTATION_NAMES.slice(1))('of a bar, or pieces, %s', (to) => {
    expect(followed('turn', [bar(33, 21, 120)], { to })).toBeGreaterThan(SAME);
    expect(followed('turn', pieces(3, 33, 21), { to })).toBeGreaterThan(SAME);
  });

  it.each([[[2, 5]], [[3]], [[1, 2, 3, 4, 5]]])('of choosing pieces %j of five', (chosen) =>
    expect(followed('choose', pieces(5, 33, 21), { pieces: chosen })).toBeGreaterThan(SAME),
  );

  it('of pieces stood on end', () => {
    for (const lay of ['every other turned over', 'all end B up'])
      expect(followed('stand', pieces(5, 24, 18, 40), { lay })).toBeGreaterThan(SAME);
  });

  it('of every layout of pieces, written out or free, with strips or without', () => {
    const layouts = fc.constantFrom('alike', 'turned', 'mirrored', 'brick', 'free');
    const where = fc.constantFrom('cross', 'upright', 'level', 'frame', 'cross and frame');
    fc.assert(
      fc.property(
        fc.record({
          columns: fc.integer({ min: 1, max: 3 }),
          rows: fc.integer({ min: 1, max: 3 }),
          layout: layouts,
          strip: fc.option(where, { nil: undefined }),
          order: fc.shuffledSubarray([1, 2, 3, 4, 5, 6, 7, 8, 9], { minLength: 9 }),
          ways: fc.array(fc.constantFrom(...ORIENTATION_NAMES), { minLength: 9, maxLength: 9 }),
          longer: fc.integer({ min: 0, max: 8 }),
          thicker: fc.constantFrom(0, 0.4, 2),
        }),
        ({ columns, rows, layout, strip, order, ways, longer, thicker }) => {
          const there = pieces(9, 20, 20);
          // One that is larger than the others is ground to fit.
          if (layout !== 'brick')
            there[4] = { ...there[4], outline: rectangle(20 + thicker, 20 + thicker / 2) };
          there[0] = { ...there[0], lengthMm: 60 + longer };
          const strips =
            strip && (layout !== 'brick' || strip === 'level' || strip === 'frame')
              ? { material: STEELS[2].id, thicknessMm: 2.5, where: strip }
              : undefined;
          const places = order.slice(0, columns * rows).map((piece, i) => ({ piece, orientation: ways[i] }));
          const p = { columns, rows, layout, strips, ...(layout === 'free' ? { places } : {}) };
          expect(followed('assemble', there, p)).toBeGreaterThan(SAME);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('of a sunburst of wedges, alike and mirrored, and the first layout offered is one', () => {
    const wedge = {
      outline: [
        [0, -10],
        [20, 10],
        [-20, 10],
      ] as const,
    };
    const wedges = pieces(4, 40, 20).map((b) => ({ ...b, ...wedge }));
    expect(moveOf('assemble').begin(wedges, shop)).toEqual({ columns: 2, rows: 2, layout: 'alike' });
    for (const layout of ['alike', 'mirrored', 'turned'])
      expect(followed('assemble', wedges, { columns: 2, rows: 2, layout })).toBeGreaterThan(SAME);
  });

  it.each([
    ['pointed', 0, [0, 0, 0, 0]],
    ['blunt', 4, [0, 0, 0, 0]],
    ['blunt, each standing another way', 4, [0, 1, 2, 3]],
    ['pointed, each standing another way', 0, [3, 3, 1, 2]],
  ] as const)(
    'of a sunburst of wedges that are %s, with a cross between them or without',
    (_how, blunt, turns) => {
      const outline: Outline = [
        ...(blunt > 0
          ? ([
              [-blunt / 2, -10],
              [blunt / 2, -10],
            ] as const)
          : ([[0, -10]] as const)),
        [20 + blunt / 2, 10],
        [-20 - blunt / 2, 10],
      ];
      const wedges = pieces(4, 40, 20).map((b, i) =>
        turnedBar({ ...b, outline }, { turns: turns[i], rolled: false }),
      );
      const strips = { material: STEELS[2].id, thicknessMm: 3, where: 'cross' };
      for (const layout of ['alike', 'mirrored'])
        for (const more of [{}, { strips }])
          expect(
            followed('assemble', wedges, { columns: 2, rows: 2, layout, ...more }),
            `${layout} ${more.strips ? 'strips' : ''}`,
          ).toBeGreaterThan(SAME);
    },
  );

  it.each(['upper one rolled', 'as they lie', 'both rolled', 'lower one rolled', undefined])(
    'of a core between two pieces, %s',
    (lie) => {
      const sheet = { material: STEELS[1].id, thicknessMm: 0.5 };
      const p = { where: 'core between', material: STEELS[3].id, thicknessMm: 4, sheet, ...(lie && { lie }) };
      expect(followed('laminate', pieces(2, 30, 14), p)).toBeGreaterThan(SAME);
    },
  );

  it.each(['cladding both sides', 'along one edge', 'rim all round'])('of %s', (where) => {
    const p = { where, material: STEELS[3].id, thicknessMm: 4 };
    expect(followed('laminate', [bar(30, 14, 80)], p)).toBeGreaterThan(SAME);
  });

  it('of a jacket taken off', () => {
    const wrapped = (sideMm: number) =>
      bar(33, 21, 120, { jacket: { material: STEELS[3].id, sideMm, topMm: 1.5 } });
    for (const how of ['peel', 'grind'])
      for (const sideMm of [0, 2]) expect(followed('peel', [wrapped(sideMm)], { how })).toBeGreaterThan(SAME);
  });

  it('of a flat bar ground on both faces', () =>
    expect(followed('flatten', [bar(33, 12, 120)], { thicknessMm: 9.3, heats: 2 })).toBeGreaterThan(SAME));

  it.each([
    [{ openingDeg: 90, rootMm: 3, legMm: 8 }],
    [{ openingDeg: 60, rootMm: 2, legMm: 5 }],
    [{ openingDeg: 110, rootMm: 4, legMm: 6 }],
  ])('of an accordion, but for where it bends, %o', (p) => {
    const before = [bar(22, 26, 240)];
    const [after] = moveOf('accordion').apply(before, p, shop).after;
    const legs = (after.field as TiledField).row.stationsMm.length;
    const each = after.lengthMm / legs;
    const along = (z: number) => Math.abs(z / each - Math.floor(z / each) - 0.5) < 0.25;
    expect(followed('accordion', before, p, { along })).toBeGreaterThan(SAME);
  });

  it('of pieces of two sizes, each told by its name', () => {
    const two = pieces(3, 33, 21);
    two[1] = { ...two[1], lengthMm: 41 };
    expect(followed('crop', two, { endAMm: 11, endBMm: 4 })).toBeGreaterThan(SAME);
  });

  it('of a block at either end', () => {
    for (const end of ['A', 'B'])
      expect(
        followed('join', [bar(30, 14, 80)], { material: STEELS[3].id, lengthMm: 25, end }),
      ).toBeGreaterThan(SAME);
  });
});

describe('a word of it that is wrong is found', () => {
  it.each<[string, MoveKind, Billet[], unknown, (a: Action) => Action]>([
    [
      'the shim under the other edge',
      'trueUp',
      [bar(30, 30, 90)],
      { errorDeg: 6 },
      (a) => (a.do === 'raise' ? { ...a, edge: 'right' } : a),
    ],
    [
      'turned the other way',
      'trueUp',
      [bar(30, 30, 90)],
      { errorDeg: 6 },
      (a) => (a.do === 'turn' ? { ...a, way: 'counter-clockwise' } : a),
    ],
    [
      'the saw leans the other way',
      'tile',
      [bar(22, 26, 220)],
      { angleDeg: 50, thicknessMm: 9, lay: 'as they lie' },
      (a) => (a.do === 'saw slanting' ? { ...a, topTowards: 'A' } : a),
    ],
    [
      'the other face up',
      'tile',
      [bar(22, 26, 220)],
      { angleDeg: 50, thicknessMm: 9, lay: 'as they lie' },
      (a) => (a.do === 'lay down' ? { ...a, up: 'A' } : a),
    ],
    [
      'a quarter the other way',
      'assemble',
      pieces(4, 20, 20),
      { columns: 2, rows: 2, layout: 'turned' },
      (a) =>
        a.do === 'turn' && a.deg === 90
          ? { ...a, way: a.way === 'clockwise' ? 'counter-clockwise' : 'clockwise' }
          : a,
    ],
    [
      'rolled about the other line',
      'laminate',
      pieces(2, 30, 14),
      { where: 'core between', material: '1018', thicknessMm: 4 },
      (a) => (a.do === 'turn' ? { ...a, about: 'upright' } : a),
    ],
    [
      'the kerf on the other side',
      'rip',
      [bar(33, 21, 120)],
      { way: 'level', offCentreMm: 2 },
      (a) => (a.do === 'saw along' ? { ...a, nearMm: a.nearMm + a.kerfMm } : a),
    ],
    [
      'the old numbers left where they were',
      'rip',
      pieces(3, 33, 21),
      { way: 'level', offCentreMm: 2 },
      (a) =>
        a.do === 'mark anew'
          ? { ...a, parts: a.parts.map((p, i) => ({ ...p, was: a.parts[(i + 1) % 3].was })) }
          : a,
    ],
    [
      'parts numbered from the other end',
      'cut',
      [bar(33, 21, 210)],
      { pieces: 4, cropAMm: 7, cropBMm: 3 },
      (a) => (a.do === 'saw across' ? { ...a, parts: [...a.parts].reverse() } : a),
    ],
    [
      'an arrow that points elsewhere',
      'assemble',
      pieces(4, 20, 20),
      { columns: 2, rows: 2, layout: 'turned' },
      (a) => (a.do === 'lay' ? { ...a, arrow: 'up' } : a),
    ],
    [
      'a size that does not come',
      'rip',
      [bar(33, 21, 120)],
      { way: 'level', offCentreMm: 2 },
      (a) => (a.do === 'saw along' ? { ...a, sizesMm: [a.sizesMm[1], a.sizesMm[0]] } : a),
    ],
  ])('%s', (_what, kind, before, p, change) => {
    let same: number;
    try {
      same = followed(kind, before, p, { change: wrong(change) });
    } catch (error) {
      // The hand itself finds that what is said cannot be so.
      expect((error as Error).message).toMatch(/is said|is not|do not agree/);
      return;
    }
    expect(same).toBeLessThan(0.9);
  });
});

it('every move of the saw, of the bench and of the grinder was followed', () => everyMoveFollowed('bench'));

it('a section that is hollow on a side is ripped where that leaves two parts; elsewhere it is said why not', () => {
  const hollow = bar(30, 20, 90, {
    outline: [
      [-15, -10],
      [0, -6],
      [15, -10],
      [15, 10],
      [-15, 10],
    ],
  });
  const ripped = (way: string, offCentreMm: number) =>
    moveOf('rip').check([hollow], { way, offCentreMm }, shop);
  const [finding] = ripped('level', -8);
  expect(finding).toMatchObject({
    code: 'hollow',
    severity: 'error',
    remedy: { label: 'Draw it square first', insertBefore: 'draw' },
  });
  for (const [way, off] of [
    ['level', 0],
    ['upright', 3],
  ] as const)
    expect(ripped(way, off).filter((f) => f.severity === 'error')).toEqual([]);
});
