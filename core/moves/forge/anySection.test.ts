import { describe, expect, it } from 'vitest';
import { type Billet, sizeOf, volumeOf } from '../../billet/billet.ts';
import { contentsOf } from '../../billet/split.ts';
import { type Outline, isRectangle, outlineArea } from '../../geometry/outline.ts';
import { totalVolume } from '../../materials/volumes.ts';
import { STEELS, bar, shop } from '../../tests/mottled.ts';
import { moveOf } from '../index.ts';

const of = (outline: Outline): Billet => {
  const mm3 = (outlineArea(outline) * 90) / STEELS.length;
  return bar(40, 30, 90, { outline, volumes: Object.fromEntries(STEELS.map((m) => [m.id, mm3])) });
};

const SECTIONS: Readonly<Record<string, Outline>> = {
  wedge: [
    [0, -15],
    [15, 15],
    [-15, 15],
  ],
  'bow-tie': [
    [-20, -15],
    [0, -5],
    [20, -15],
    [20, 15],
    [0, 5],
    [-20, 15],
  ],
  'six-sided': [
    [18, 0],
    [9, 15],
    [-9, 15],
    [-18, 0],
    [-9, -15],
    [9, -15],
  ],
};

const square = { shape: 'square', sideMm: 18, heats: 0 };
const errors = (section: Outline, p: unknown = square) =>
  moveOf('draw')
    .check([of(section)], p, shop)
    .filter((f) => f.severity === 'error');

describe('a bar of any section', () => {
  it.each(Object.keys(SECTIONS))(
    'that is a %s is pressed square, its steel and the shares of it kept',
    (name) => {
      const before = of(SECTIONS[name]);
      expect(errors(SECTIONS[name])).toEqual([]);
      const [after] = moveOf('draw').apply([before], square, shop).after;
      expect(isRectangle(after.outline)).toBe(true);
      expect(sizeOf(after)).toMatchObject({
        widthMm: expect.closeTo(18, 9),
        heightMm: expect.closeTo(18, 9),
      });
      expect(volumeOf(after)).toBeCloseTo(volumeOf(before), 6);
      const [was, is] = [contentsOf(before, shop), contentsOf(after, shop)];
      for (const { id } of STEELS)
        expect(Math.abs(was[id] - is[id]) / totalVolume(is), `${name}: ${id}`).toBeLessThan(0.015);
    },
  );

  it('that leans is first corrected, with one press', () => {
    const leaning: Outline = [
      [-18, -10],
      [10, -10],
      [18, 10],
      [-10, 10],
    ];
    expect(errors(leaning)).toMatchObject([{ code: 'shape', remedy: { insertBefore: 'lean' } }]);
  });

  it('that is hollow may fold: said', () => {
    const codes = (section: Outline) =>
      moveOf('draw')
        .check([of(section)], square, shop)
        .map((f) => f.code);
    expect(codes(SECTIONS['bow-tie'])).toContain('lap');
    expect(codes(SECTIONS.wedge)).not.toContain('lap');
  });
});
