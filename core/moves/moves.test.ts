import { describe, expect, it } from 'vitest';
import { type Billet, sizeOf, volumeOf } from '../billet/billet.ts';
import { codeAt } from '../billet/fields/field.ts';
import { outlineArea } from '../geometry/outline.ts';
import { shapeOf } from '../geometry/shapes.ts';
import { totalVolume } from '../materials/volumes.ts';
import { type StepResult, evaluate } from '../plan/index.ts';
import { makeShop, materialCode } from '../shop/shop.ts';
import { SQUARE_BAR, cutInto, drawSquare, planOf, resquareTo, stackOf, weldIt } from '../tests/plans.ts';
import { moveOf } from './index.ts';

type Moves = Parameters<typeof planOf>[0];
const shop = makeShop();
const last = (moves: Moves): StepResult => evaluate(planOf(moves)).lanes[0].steps.at(-1)!;
const ends = (moves: Moves): readonly Billet[] => {
  const { after, findings } = last(moves);
  if (!after) throw new Error(findings.map((f) => f.text).join());
  return after;
};
const bar = (moves: Moves): Billet => ends(moves)[0];
const code = (id: string) => materialCode(shop, id);
const finding = (moves: Moves, wanted: string) => last(moves).findings.find((f) => f.code === wanted);
const LAYERS = [stackOf(9, 24, 2.7, 300), weldIt, drawSquare(22)] as const;

describe('rip', () => {
  it('gives two parts that make the bar again but for the kerf, at the place asked for', () => {
    const parts = ends([...LAYERS, ['rip', { way: 'upright', offCentreMm: 2, kerfMm: 1 }]]);
    expect(parts.map((p) => sizeOf(p).widthMm)).toEqual([12.5, 8.5]);
    const level = ends([...LAYERS, ['rip', { way: 'level', offCentreMm: 0, kerfMm: 1 }]]);
    expect(level.map((p) => sizeOf(p).heightMm)).toEqual([10.5, 10.5]);
    // The lower half's top is what lay just under the kerf.
    const whole = bar(LAYERS);
    expect(codeAt(level[0].field, 0, 5.25 - 0.01)).toBe(codeAt(whole.field, 0, -0.51));
    expect(
      finding([...LAYERS, ['rip', { way: 'upright', offCentreMm: 11 }]], 'misses')?.remedy,
    ).toMatchObject({ set: { offCentreMm: 0 } });
  });

  it('and the halves stacked mirrored have an old outer face and a saw face at the seam', () => {
    const b = bar([
      ...SQUARE_BAR,
      ['rip', { way: 'level', offCentreMm: 0 }],
      ['assemble', { columns: 1, rows: 2, layout: 'mirrored' }],
    ]);
    const whole = bar(SQUARE_BAR);
    for (let x = -10; x < 10; x += 0.7) {
      expect(codeAt(b.field, x, 0.01)).toBe(codeAt(whole.field, x, -10.99));
      expect(codeAt(b.field, x, -0.01)).toBe(codeAt(whole.field, x, 0.51));
    }
  });
});

describe('lean', () => {
  it('leans the section and its picture, and is taken out again exactly', () => {
    const leaned = bar([...LAYERS, ['lean', { leanDeg: 20, heats: 0 }]]);
    expect(shapeOf(leaned.outline)).toBe('leaning');
    expect(outlineArea(leaned.outline)).toBeCloseTo(outlineArea(bar(LAYERS).outline), 9);
    const { remedy } = finding([...LAYERS, ['lean', { leanDeg: 20, heats: 0 }], resquareTo(18)], 'shape')!;
    expect(remedy).toMatchObject({ insertBefore: 'lean' });
    const back = moveOf('lean').begin([leaned], shop) as { leanDeg: number };
    expect(back.leanDeg).toBeCloseTo(-20, 9);
    expect(
      shapeOf(
        bar([...LAYERS, ['lean', { leanDeg: 20, heats: 0 }], ['lean', { leanDeg: -20, heats: 0 }]]).outline,
      ),
    ).toBe('rectangle');
  });
});

describe('twist', () => {
  it('turns the picture by whole turns over the length, round bars only', () => {
    const round = [...SQUARE_BAR, ['corners', { shape: 'round', heats: 0 }]] as Moves;
    const before = bar(round);
    const after = bar([...round, ['twist', { turns: 1.25, heats: 0 }]]);
    const l = after.lengthMm;
    for (const [x, y] of [
      [3, 1],
      [-5, 4],
      [7, -2],
    ]) {
      expect(codeAt(after.field, x, y, 0)).toBe(codeAt(before.field, x, y, 0));
      // A quarter turn on, counter-clockwise, at end B.
      expect(codeAt(after.field, -y, x, l)).toBe(codeAt(before.field, x, y, l));
    }
    expect(finding([...SQUARE_BAR, ['twist', { turns: 1, heats: 1 }]], 'not round')?.remedy).toMatchObject({
      insertBefore: 'corners',
    });
    const tight = finding([...round, ['twist', { turns: 60, heats: 1 }]], 'shear')!;
    const { turns } = (tight.remedy as unknown as { set: { turns: number } }).set as { turns: number };
    expect(finding([...round, ['twist', { turns, heats: 1 }]], 'shear')).toBeUndefined();
  });
});

describe('wedge', () => {
  it('gathers upright layers into a fan, and four make a square', () => {
    const upright = [
      stackOf(8, 40, 4, 300),
      weldIt,
      ['draw', { shape: 'square', sideMm: 24, heats: 0 }],
      ['cut', { pieces: 4, cropAMm: 0, cropBMm: 0 }],
    ] as Moves;
    const wedges = ends([...upright, ['wedge', { apexDeg: 90, heats: 0 }]]);
    const { widthMm, heightMm } = sizeOf(wedges[0]);
    expect(widthMm).toBeCloseTo(2 * heightMm, 9);
    expect(outlineArea(wedges[0].outline)).toBeCloseTo(576, 6);
    const sun = bar([
      ...upright,
      ['wedge', { apexDeg: 90, heats: 0 }],
      ['assemble', { columns: 2, rows: 2, layout: 'alike' }],
    ]);
    expect(sizeOf(sun)).toEqual({
      widthMm: expect.closeTo(widthMm, 9),
      heightMm: expect.closeTo(widthMm, 9),
    });
    // The same at equal distance in all four quarters.
    for (const r of [2, 5, 9]) {
      const seen = [
        codeAt(sun.field, r, 0.2),
        codeAt(sun.field, -0.2, r),
        codeAt(sun.field, -r, -0.2),
        codeAt(sun.field, 0.2, -r),
      ];
      expect(new Set(seen).size).toBe(1);
    }
    expect(
      finding(
        [
          ...upright,
          ['wedge', { apexDeg: 60, heats: 0 }],
          ['assemble', { columns: 2, rows: 2, layout: 'alike' }],
        ],
        'apex',
      )?.severity,
    ).toBe('error');
  });
});

describe('grooves', () => {
  const flat = [
    stackOf(11, 40, 2, 200),
    weldIt,
    ['draw', { shape: 'flat', widthMm: 36, thicknessMm: 10, heats: 0 }],
  ] as Moves;
  const across = {
    pattern: 'across',
    how: 'ground',
    depthMm: 3,
    widthMm: 8,
    pitchMm: 16,
    slantDeg: 0,
    heats: 0,
  };

  it('bring lower layers up where layers lie flat', () => {
    const before = bar(flat);
    const after = bar([...flat, ['grooves', across]]);
    const top = sizeOf(after).heightMm / 2 - 1e-6;
    const seen = new Set(Array.from({ length: 64 }, (_, i) => codeAt(after.field, 0, top, 40 + i * 0.5)));
    const plain = new Set(
      Array.from({ length: 64 }, (_, i) => codeAt(before.field, 0, 5 - 1e-6, 40 + i * 0.5)),
    );
    expect(plain.size).toBe(1);
    expect(seen.size).toBe(2);
    expect(finding([...flat, ['grooves', across]], 'layers')?.text).toMatch(/lie [0-9]° to the face/);
  });

  it('on layers that stand on edge only shift, and the finding says so beforehand', () => {
    const onEdge = [
      ...flat.slice(0, 2),
      ['draw', { shape: 'square', sideMm: 20, heats: 0 }],
      ['cut', { pieces: 1, cropAMm: 0, cropBMm: 0 }],
      [
        'assemble',
        { columns: 1, rows: 1, layout: 'free', places: [{ piece: 1, orientation: 'turned 90°' }] },
      ],
    ] as Moves;
    const { text, severity } = finding([...onEdge, ['grooves', across]], 'on edge')!;
    expect(severity).toBe('warning');
    expect(text).toContain('90°');
    const after = bar([...onEdge, ['grooves', across]]);
    const top = sizeOf(after).heightMm / 2 - 1e-6;
    for (const x of [-6, -1, 4]) {
      const line = Array.from({ length: 80 }, (_, i) => codeAt(after.field, x, top, 30 + i * 0.5));
      expect(new Set(line).size).toBe(1);
    }
  });

  it('are refused too deep or overlapping, with a way out', () => {
    const deep = finding([...flat, ['grooves', { ...across, depthMm: 8 }]], 'too deep')!;
    expect(
      last([...flat, ['grooves', { ...across, ...(deep.remedy as unknown as { set: object }).set }]]).after,
    ).not.toBeNull();
    expect(finding([...flat, ['grooves', { ...across, pitchMm: 4 }]], 'overlap')?.remedy).toBeDefined();
  });
});

describe('core, jacket, block', () => {
  it('puts the core in the middle, the sheet in every seam, the pieces’ saw faces apart', () => {
    const b = bar([
      ...LAYERS,
      cutInto(2),
      [
        'laminate',
        {
          where: 'core between',
          material: '80crv2',
          thicknessMm: 4,
          sheet: { material: 'nickel', thicknessMm: 0.5 },
        },
      ],
    ]);
    expect(sizeOf(b).heightMm).toBeCloseTo(2 * 22 + 4 + 1, 9);
    expect(codeAt(b.field, 3, 0)).toBe(code('80crv2'));
    expect(codeAt(b.field, 3, 2.2)).toBe(code('nickel'));
    expect(codeAt(b.field, 3, -2.2)).toBe(code('nickel'));
    for (const y of [3, 9, 20]) expect(codeAt(b.field, 1, y)).toBe(codeAt(b.field, 1, -y));
  });

  it('warns of open edges with copper until they are sealed', () => {
    const copper = {
      where: 'along one edge',
      material: '80crv2',
      thicknessMm: 5,
      sheet: { material: 'copper', thicknessMm: 0.5 },
    };
    const open = finding([...LAYERS, ['laminate', copper]], 'open edges')!;
    expect(
      finding(
        [...LAYERS, ['laminate', { ...copper, ...(open.remedy as unknown as { set: object }).set }]],
        'open edges',
      ),
    ).toBeUndefined();
  });

  it('wraps and unwraps: the jacket comes off at the thickness it was drawn to', () => {
    const wrapped = [
      ...LAYERS,
      ['jacket', { material: '316l', thicknessMm: 2, where: 'all round' }],
      ['weld', { heats: 1, temperatureC: 1180 }],
      ['draw', { shape: 'square', sideMm: 13, heats: 0 }],
    ] as Moves;
    const before = bar(wrapped);
    expect(before.jacket!.sideMm).toBeLessThan(1);
    const after = bar([...wrapped, ['peel', { how: 'peel' }]]);
    expect(after.jacket).toBeNull();
    // None of it stays in the list, and what is left fills the bar.
    expect(Object.keys(after.volumes)).not.toContain('316l');
    expect(totalVolume(after.volumes)).toBeCloseTo(volumeOf(after), 3);
    expect(finding([...wrapped, ['peel', { how: 'grind' }]], 'peels')?.remedy).toBeDefined();
    // Nor of a sheet that is ground off face by face.
    const off = before.jacket!.sideMm + 0.2;
    const ground = bar([...wrapped, ['grind', { topMm: off, bottomMm: off, leftMm: off, rightMm: off }]]);
    expect(Object.keys(ground.volumes)).not.toContain('316l');
    expect(totalVolume(ground.volumes)).toBeCloseTo(volumeOf(ground), 3);
    expect(sizeOf(after).widthMm).toBeCloseTo(13 - 2 * before.jacket!.sideMm, 9);
    expect(finding([...LAYERS, ['peel', { how: 'peel' }]], 'no jacket')?.severity).toBe('error');
  });

  it('adds a block at an end', () => {
    const b = bar([...LAYERS, ['join', { material: '1018', lengthMm: 40, end: 'A' }]]);
    expect(b.lengthMm).toBeCloseTo(bar(LAYERS).lengthMm + 40, 9);
    expect(codeAt(b.field, 0, 3, 39.9)).toBe(code('1018'));
    expect(codeAt(b.field, 0, 3, 40.1)).not.toBe(code('1018'));
  });
});

describe('end grain to the side', () => {
  it('upset: the end grain becomes the broad face, scaled by √(h₀/h₁)', () => {
    const short = [...SQUARE_BAR, ['crop', { endAMm: 0, endBMm: bar(SQUARE_BAR).lengthMm - 50 }]] as Moves;
    const before = bar(short);
    const after = bar([...short, ['upset', { toHeightMm: 20, heats: 0 }]]);
    const scale = Math.sqrt(50 / 20);
    expect(sizeOf(after).heightMm).toBeCloseTo(20, 9);
    expect(sizeOf(after).widthMm).toBeCloseTo(22 * scale, 9);
    for (const [x, y] of [
      [4, 3],
      [-7, 5],
      [2, -9],
    ])
      expect(codeAt(after.field, x * scale, 9.99, (11 - y) * scale)).toBe(codeAt(before.field, x, y, 49));
    // Rule of three diameters (Metals Handbook vol. 14; value from memory).
    expect(finding([...SQUARE_BAR, ['upset', { toHeightMm: 20, heats: 1 }]], 'slender')?.severity).toBe(
      'warning',
    );
    expect(finding([...short, ['upset', { toHeightMm: 20, heats: 1 }]], 'slender')).toBeUndefined();
  });

  it('stood on end, every other turned over, pieces meet in mirror seams', () => {
    const row = bar([...SQUARE_BAR, cutInto(8), ['stand', { lay: 'every other turned over' }]]);
    const top = sizeOf(row).heightMm / 2 - 0.01;
    for (let joint = 1; joint < 8; joint++)
      for (let x = -10; x < 10; x += 1.3)
        expect(codeAt(row.field, x, top, joint * 22 - 0.01)).toBe(
          codeAt(row.field, x, top, joint * 22 + 0.01),
        );
    expect(
      finding(
        [...SQUARE_BAR, ['rip', { way: 'upright', offCentreMm: 2 }], ['stand', { lay: 'all end B up' }]],
        'unequal',
      )?.severity,
    ).toBe('error');
  });

  it('accordion: legs meet in mirror seams on the face', () => {
    const moves = [...SQUARE_BAR, ['accordion', { openingDeg: 80, rootMm: 4, legMm: 9 }]] as Moves;
    const b = bar(moves);
    const face = b.lengthMm / Math.round(b.lengthMm / ((22 - 4) / Math.cos((40 * Math.PI) / 180) + 4));
    for (const side of [1, -1])
      for (let x = -10; x < 10; x += 1.3)
        expect(codeAt(b.field, x, side * 4.49, face - 1e-6)).toBe(
          codeAt(b.field, x, side * 4.49, face + 1e-6),
        );
    expect(
      finding([...SQUARE_BAR, ['accordion', { openingDeg: 80, rootMm: 1, legMm: 9 }]], 'root')?.remedy,
    ).toBeDefined();
  });
});

describe('what the ends show', () => {
  it('turns the picture by the measured angle at each end', () => {
    const b = bar([
      stackOf(2, 40, 20, 400),
      weldIt,
      drawSquare(30),
      ['measure', { turnDeg: 5, twistDegPerM: 20, zoneAMm: 0, zoneBMm: 0 }],
    ]);
    for (const [z, deg] of [
      [0, 5],
      [b.lengthMm, 5 + (20 * b.lengthMm) / 1000],
    ]) {
      // The seam ran level through the axis; near it, it now runs turned by the angle.
      const up = 3 * Math.tan((deg * Math.PI) / 180);
      expect(codeAt(b.field, 3, up + 0.05, z)).not.toBe(codeAt(b.field, 3, up - 0.05, z));
    }
    expect(
      finding(
        [...SQUARE_BAR, ['measure', { turnDeg: 0, twistDegPerM: 90, zoneAMm: 0, zoneBMm: 0 }]],
        'twisted',
      )?.text,
    ).toContain('turns');
  });
});

describe('bricks', () => {
  it('shift every other row by half a piece, at the price of a kerf', () => {
    const solid = [
      stackOf(2, 40, 20, 400),
      weldIt,
      ['draw', { shape: 'square', sideMm: 20, heats: 0 }],
      ['cut', { pieces: 6, cropAMm: 0, cropBMm: 0 }],
    ] as Moves;
    const b = bar([
      ...solid,
      [
        'assemble',
        {
          columns: 3,
          rows: 2,
          layout: 'brick',
          strips: { material: 'nickel', thicknessMm: 1, where: 'level' },
        },
      ],
    ]);
    expect(sizeOf(b)).toEqual({ widthMm: expect.closeTo(59, 9), heightMm: expect.closeTo(41, 9) });
    expect(codeAt(b.field, 3, 0)).toBe(code('nickel'));
    expect(
      finding(
        [
          ...solid,
          [
            'assemble',
            {
              columns: 3,
              rows: 2,
              layout: 'brick',
              strips: { material: 'nickel', thicknessMm: 1, where: 'cross' },
            },
          ],
        ],
        'brick strips',
      )?.remedy,
    ).toBeDefined();
  });
});

describe('slanted tiles', () => {
  // Handbook, geometry, "Depth": the two broad faces of a bar made of slanted tiles show different phases, straight-cut ones not.
  it.each([40, 60, 90])('at %d° show the same or another phase on the two broad faces', (angleDeg) => {
    const b = bar([...SQUARE_BAR, ['tile', { angleDeg, thicknessMm: 12, lay: 'as they lie' }]]);
    const line = (y: number, shift: number) =>
      Array.from({ length: 300 }, (_, i) => codeAt(b.field, 4, y, 70 + i * 0.2 + shift));
    const off = (shift: number) => line(6 - 1e-6, 0).filter((c, i) => c !== line(-6 + 1e-6, shift)[i]).length;
    const slide = 12 / Math.tan((angleDeg * Math.PI) / 180);
    expect(off(slide)).toBeLessThan(6);
    if (angleDeg === 90) expect(off(0)).toBe(0);
    else expect(off(0)).toBeGreaterThan(30);
  });
});
