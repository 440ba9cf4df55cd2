import { describe, expect, it } from 'vitest';
import { sizeOf } from '../billet/billet.ts';
import { closeUpOf } from '../billet/face.ts';
import { evaluate } from '../plan/index.ts';
import { sampleCodes } from '../render/codes.ts';
import { paint } from '../render/paint.ts';
import { makePalette } from '../render/palette.ts';
import { materialCode } from '../shop/shop.ts';
import { drawSquare, planOf, resquareTo, stackOf, weldIt } from '../tests/plans.ts';
import {
  type Blade,
  PROFILES,
  bladeFit,
  bladeFrom,
  bladeSchema,
  bladeWished,
  crossingsAt,
  groundBlade,
  thicknessAt,
} from './index.ts';

const flat = ['draw', { shape: 'flat', widthMm: 44, thicknessMm: 5, heats: 0 }] as const;
const layered = evaluate(planOf([stackOf(12, 50, 2, 300), weldIt, flat]));
const bar = layered.goal.bar!;
const blade: Blade = {
  ...bladeFrom(PROFILES[0], bar.lengthMm, 44, 5),
  lengthMm: 180,
  heightMm: 36,
  tangLengthMm: 60,
  heelMm: 70,
  spineMm: 4,
  tipMm: 2,
  edgeMm: 0.4,
};
const square = (over: Partial<Blade>): Blade => ({
  ...blade,
  outline: [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ],
  ...over,
});
const outlineOf = (b: Blade) => b.outline.map(([u, v]) => [u * b.lengthMm, v * b.heightMm] as const);

describe('the ground surface', () => {
  it('is as thick as edge, bevel and taper say', () => {
    const b = square({ bevel: 'flat', bevelMm: 10, tipMm: 4 });
    const at = (u: number, v: number, some: Blade = b) =>
      thicknessAt(some, crossingsAt(outlineOf(some), u), u, v);
    expect(at(50, 1e-9)).toBeCloseTo(0.4, 6);
    expect(at(50, 5)).toBeCloseTo(2.2, 9);
    expect(at(50, 10)).toBeCloseTo(4, 9);
    expect(at(50, 30)).toBeCloseTo(4, 9);
    expect(at(200, 12)).toBe(0);
    const tapered = square({ bevel: 'full', tipMm: 2 });
    expect(at(90, 36, tapered)).toBeCloseTo(3, 9);
    expect(at(90, 18, square({ bevel: 'convex', tipMm: 4 }))).toBeGreaterThan(
      at(90, 18, square({ bevel: 'full', tipMm: 4 })),
    );
    const dagger = square({ edges: 2, bevel: 'full', tipMm: 4 });
    expect(at(90, 18, dagger)).toBeCloseTo(4, 9);
    expect(at(90, 2, dagger)).toBeCloseTo(at(90, 34, dagger), 9);
  });

  it('cuts through the layers of a flat-layered bar: contour lines where there were none on the flat', () => {
    const { plane } = groundBlade(bar, blade, 'right');
    const codes = sampleCodes(bar, plane, 300, 60);
    const column = Array.from({ length: 60 }, (_, r) => codes[r * 300 + 170]).filter((c) => c > 0);
    const changes = column.filter((c, i) => i > 0 && c !== column[i - 1]).length;
    // Layers of 0.417 mm; 76 mm from the heel the ground half goes from 1.58 mm at the spine to 0.2 mm: 0.42, 0.83 and 1.25 are crossed.
    expect(changes).toBe(3);
  });

  it('shows nothing beside the blade, and the tang behind the heel', () => {
    const { plane, widthMm, heightMm } = groundBlade(bar, blade, 'right');
    const picture = paint({
      billet: bar,
      plane,
      widthPx: 248,
      heightPx: 44,
      palette: makePalette(layered.shop, 'etched', []),
      rough: true,
    });
    const clear = (uMm: number, vMm: number) =>
      picture.rgba[
        4 * (Math.floor((1 - vMm / heightMm) * 44) * 248 + Math.floor((uMm / widthMm) * 248)) + 3
      ] === 0;
    expect(clear(2, 22)).toBe(true);
    expect(clear(20, 22)).toBe(false);
    expect(clear(20, 40)).toBe(true);
    expect(clear(120, 22)).toBe(false);
  });

  it('is shown in part as it is in the whole, up to both ends', () => {
    const { plane } = groundBlade(bar, blade, 'right');
    const [tall, wide] = [60, 60 * Math.round(plane.widthMm / plane.heightMm)];
    const even = { ...plane, widthMm: (plane.heightMm * wide) / tall };
    const whole = sampleCodes(bar, even, wide, tall);
    for (const at of [0, 0.5, 1]) {
      const part = sampleCodes(bar, closeUpOf(even, at, 1), tall, tall);
      const left = Math.round(at * (wide - tall));
      const alike = part.filter((c, i) => {
        const [row, column] = [Math.floor(i / tall), i % tall];
        return c === whole[row * wide + left + column];
      });
      expect(alike.length / part.length, `${at}`).toBeGreaterThan(0.98);
    }
  });

  it('slides slanted tiles by n·cot θ as the bevel goes in, and leaves straight-cut ones', () => {
    for (const [angleDeg, slides] of [
      [45, true],
      [90, false],
    ] as const) {
      const tiled = evaluate(
        planOf([
          stackOf(9, 40, 4, 500),
          weldIt,
          drawSquare(30),
          resquareTo(27),
          ['tile', { angleDeg, thicknessMm: 12, kerfMm: 1, lay: 'every other rolled' }],
          weldIt,
        ]),
      ).goal.bar!;
      const thin = square({
        lengthMm: 120,
        heightMm: 26,
        heelMm: 20,
        tangLengthMm: 10,
        bevel: 'full',
        spineMm: 11,
        tipMm: 11,
        edgeMm: 11,
      });
      const ground = { ...thin, spineMm: 7, tipMm: 7, edgeMm: 7 };
      const row = (b: Blade) => {
        const { plane } = groundBlade(tiled, b, 'right');
        return [...sampleCodes(tiled, { ...plane, surface: (s, t) => plane.surface!(s, t) }, 1380, 5)].slice(
          2 * 1380 + 200,
          2 * 1380 + 1200,
        );
      };
      const [a, c] = [row(thin), row(ground)];
      const differ = (shift: number) =>
        a.slice(100, 900).filter((code, i) => code !== c[i + 100 + shift]).length;
      // 2 mm deeper at ten samples a mm.
      const best = Array.from({ length: 81 }, (_, i) => i - 40).reduce(
        (least, s) => (differ(s) < differ(least) ? s : least),
        0,
      );
      expect(Math.abs(best), String(angleDeg)).toBe(slides ? 20 : 0);
    }
  });
});

describe('fitting the blade in the bar', () => {
  it('says what is over or short, and what the edge is made of', () => {
    const fit = bladeFit(bar, blade, layered.shop);
    expect(fit.pastTipMm).toBeCloseTo(bar.lengthMm - 250, 9);
    expect(fit.behindTangMm).toBe(10);
    expect(fit.besideMm).toBeCloseTo(4, 9);
    expect(Object.values(fit.edge).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 6);
    const cored = evaluate(
      planOf([
        stackOf(9, 30, 3, 300),
        weldIt,
        ['draw', { shape: 'flat', widthMm: 30, thicknessMm: 10, heats: 0 }],
        ['cut', { pieces: 2, cropAMm: 0, cropBMm: 0 }],
        ['laminate', { where: 'core between', material: '80crv2', thicknessMm: 6 }],
        weldIt,
        ['draw', { shape: 'flat', widthMm: 44, thicknessMm: 5, heats: 0 }],
      ]),
    );
    expect(bladeFit(cored.goal.bar!, blade, cored.shop).edge).toEqual({ '80crv2': expect.closeTo(1, 6) });
    expect(materialCode(cored.shop, '80crv2')).toBeGreaterThan(0);
  });

  it('every profile makes a valid blade that fits a common bar', () => {
    for (const profile of PROFILES) {
      const b = bladeFrom(profile, 420, 48, 5.5);
      expect(bladeSchema.safeParse(b).success, profile.name).toBe(true);
      const there = { ...bar, lengthMm: 420 };
      const fit = bladeFit(there, b, layered.shop);
      expect(fit.pastTipMm, profile.name).toBeGreaterThanOrEqual(0);
      expect(fit.besideMm, profile.name).toBeGreaterThanOrEqual(-3);
      expect(b.lengthMm).toBeGreaterThan(60);
      expect(sizeOf(bar).widthMm).toBe(44);
    }
  });
});

describe('a blade wished for before there is a bar', () => {
  it.each(PROFILES)(
    '$name: fits the bar that is proposed for it, with something left to grind',
    (profile) => {
      const wish = { lengthMm: 250, widestMm: 40, spineMm: 4, tangLengthMm: 110 };
      const { blade: wished, bar: proposed } = bladeWished(profile, wish);
      expect(bladeSchema.safeParse(wished).success).toBe(true);
      expect(wished).toMatchObject({ lengthMm: 250, heightMm: 40, spineMm: 4, tangLengthMm: 110 });
      expect(proposed).toEqual({ lengthMm: 366, widthMm: 42, thicknessMm: 5 });
      const shape = [
        'draw',
        { shape: 'flat', widthMm: proposed.widthMm, thicknessMm: proposed.thicknessMm, heats: 0 },
      ] as const;
      const long = evaluate(planOf([stackOf(12, 50, 2, 300), weldIt, shape])).goal.bar!;
      const fit = bladeFit({ ...long, lengthMm: proposed.lengthMm }, wished, layered.shop);
      expect(fit.behindTangMm).toBeGreaterThan(0);
      expect(fit.pastTipMm).toBeGreaterThan(0);
    },
  );
});
