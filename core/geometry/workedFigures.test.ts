import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { heightForRatio, pictureRatio, drawnLonger, tileSizes } from './tiling.ts';
import { grindTrue, turnOfShim } from './grindTrue.ts';
import { cutCount, pieceLength, pieceStations, sawMarks } from './cutting.ts';
import {
  contains,
  isRectangle,
  leanOf,
  outlineArea,
  outlineSize,
  rectangle,
  regularPolygon,
  scaleOutline,
} from './outline.ts';
import type { LengthDisplay } from '../units/length.ts';

const degrees = (d: number) => (d * Math.PI) / 180;

describe('cut-and-flip tiles', () => {
  // Handbook, geometry: the table under "Cut-and-flip tiles", each row computed from its formulas.
  it.each([
    [25.4, 304.8, 14, 0.9, 45, 35.921, 21.072, 25.4, 13, 466.97, 452.97],
    [30, 250, 16, 1.1, 40, 46.672, 26.603, 35.753, 8, 373.37, 354.31],
    [30, 250, 16, 1.1, 90, 30, 17.1, 0, 14, 420, 420],
  ])('%d mm bar, %d long, t %d, k %d, θ %d°', (h, l, t, k, angle, s, pitch, setback, n, laid, sound) => {
    const sizes = tileSizes({
      heightMm: h,
      lengthMm: l,
      thicknessMm: t,
      kerfMm: k,
      angleRad: degrees(angle),
    });
    expect(sizes.faceMm).toBeCloseTo(s, 3);
    expect(sizes.pitchMm).toBeCloseTo(pitch, 3);
    expect(sizes.setbackMm).toBeCloseTo(setback, 3);
    expect(sizes.count).toBe(n);
    expect(sizes.laidMm).toBeCloseTo(laid, 2);
    expect(sizes.soundMm).toBeCloseTo(sound, 2);
  });

  it('keeps the tiles inside the bar and their volume equal on both sides', () => {
    const anyCut = fc.record({
      heightMm: fc.double({ min: 5, max: 80, noNaN: true }),
      lengthMm: fc.double({ min: 50, max: 1000, noNaN: true }),
      thicknessMm: fc.double({ min: 3, max: 40, noNaN: true }),
      kerfMm: fc.double({ min: 0, max: 3, noNaN: true }),
      angleRad: fc.double({ min: degrees(30), max: degrees(90), noNaN: true }),
    });
    fc.assert(
      fc.property(anyCut, (cut) => {
        const s = tileSizes(cut);
        const used = s.setbackMm + s.count * s.pitchMm - cut.kerfMm / Math.sin(cut.angleRad);
        if (s.count > 0) expect(used).toBeLessThanOrEqual(cut.lengthMm + 1e-6);
        expect(used + s.pitchMm).toBeGreaterThan(cut.lengthMm - 1e-6);
        const fromBar = (s.count * cut.thicknessMm * cut.heightMm) / Math.sin(cut.angleRad);
        expect(s.laidMm * cut.thicknessMm).toBeCloseTo(fromBar, 6);
      }),
    );
  });

  it('stretches the picture as in the handbook’s example: λ 2.353, ratio 3.230, 9.288 mm high for q = 1', () => {
    const bar = { widthMm: 30, thicknessMm: 16, angleRad: degrees(40), toThicknessMm: 6, toWidthMm: 34 };
    expect(drawnLonger(16, 30, 6, 34)).toBeCloseTo(2.353, 3);
    expect(pictureRatio({ ...bar, heightMm: 30 })).toBeCloseTo(3.23, 3);
    expect(heightForRatio(1, bar)).toBeCloseTo(9.288, 3);
  });
});

describe('grinding a turned pattern true', () => {
  // Handbook, geometry: the table under "Grinding a turned pattern true".
  it.each([
    [50, 1, 1.146, 49.029, 3.85],
    [50, 2, 2.292, 48.114, 7.4],
    [50, 3, 3.44, 47.25, 10.7],
  ])('%d mm bar, %d mm shim', (a, shim, angle, side, loss) => {
    const turn = turnOfShim(a, shim);
    expect((turn * 180) / Math.PI).toBeCloseTo(angle, 3);
    const trued = grindTrue(a, turn);
    expect(trued.shimMm).toBeCloseTo(shim, 9);
    expect(trued.toSideMm).toBeCloseTo(side, 3);
    expect(trued.lostShare * 100).toBeCloseTo(loss, 2);
    expect(1 - (trued.toSideMm / a) ** 2).toBeCloseTo(trued.lostShare, 9);
  });
});

describe('cutting into pieces', () => {
  it('gives the handbook’s length and marks with both crops sawn off', () => {
    const cut = { lengthMm: 349, pieces: 4, kerfMm: 1, cropAMm: 12, cropBMm: 12 };
    expect(pieceLength(cut)).toBeCloseTo((349 - 24 - 5) / 4, 12);
    expect(pieceStations(cut)[2].fromMm).toBeCloseTo(12 + 1 + 2 * (80 + 1), 12);
  });

  it('uses up the bar exactly, and rounded marks leave at most one division and a rounding between pieces', () => {
    const anyCut = fc.record({
      lengthMm: fc.double({ min: 200, max: 1000, noNaN: true }),
      pieces: fc.integer({ min: 1, max: 12 }),
      kerfMm: fc.double({ min: 0, max: 3, noNaN: true }),
      cropAMm: fc.constantFrom(0, 6, 12),
      cropBMm: fc.constantFrom(0, 6, 12),
    });
    const anyDisplay = fc.constantFrom<LengthDisplay>(
      { unit: 'in', division: 64 },
      { unit: 'in', division: 16 },
      { unit: 'mm', division: 0.5 },
    );
    fc.assert(
      fc.property(anyCut, anyDisplay, (cut, display) => {
        const used = cut.cropAMm + cut.cropBMm + cutCount(cut) * cut.kerfMm + cut.pieces * pieceLength(cut);
        expect(used).toBeCloseTo(cut.lengthMm, 9);
        const { marksMm, largestDifferenceMm } = sawMarks(cut, display);
        expect(marksMm).toHaveLength(cutCount(cut));
        const step = display.unit === 'in' ? 25.4 / display.division : display.division;
        expect(largestDifferenceMm).toBeLessThanOrEqual(2 * step + 1e-9);
      }),
    );
  });
});

describe('outlines', () => {
  it('lean as they were slid, wherever they lie and whatever they were; turned upside down too', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(rectangle(30, 12), regularPolygon(8, 400), regularPolygon(48, 900)),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.tuple(fc.integer({ min: -90, max: 90 }), fc.integer({ min: -90, max: 90 })),
        (upright, slide, [dx, dy]) => {
          const slid = upright.map(([x, y]) => [x + slide * y + dx, y + dy] as const);
          expect(leanOf(slid)).toBeCloseTo(Math.atan(slide), 8);
          expect(leanOf(scaleOutline(slid, -1, -1))).toBeCloseTo(Math.atan(slide), 8);
          expect(leanOf(scaleOutline(slid, -1, 1).toReversed())).toBeCloseTo(-Math.atan(slide), 8);
        },
      ),
    );
  });

  it('know area, size and inside', () => {
    const r = rectangle(30, 16);
    expect(outlineArea(r)).toBe(480);
    expect(outlineSize(scaleOutline(r, 2, 0.5))).toEqual({ widthMm: 60, heightMm: 8 });
    expect(isRectangle(r)).toBe(true);
    expect(
      isRectangle([
        [0, 0],
        [3, 0],
        [3, 3],
        [1, 3],
      ]),
    ).toBe(false);
    expect(contains(r, 14.9, 7.9)).toBe(true);
    expect(contains(r, 15.1, 0)).toBe(false);
  });
});
