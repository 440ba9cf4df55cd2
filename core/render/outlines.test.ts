import { describe, expect, it } from 'vitest';
import { facePlane } from '../billet/face.ts';
import { evaluate } from '../plan/index.ts';
import { materialCode } from '../shop/shop.ts';
import { SQUARE_BAR, planOf, stackOf, weldIt } from '../tests/plans.ts';
import { faceOutlines, outlinedArea } from './outlines.ts';

describe('outlines of a face', () => {
  const evaluation = evaluate(planOf([stackOf(5, 40, 4)]));
  const [bar] = evaluation.lanes[0].ends;

  it('of a stack are its layers, in true size', () => {
    const found = faceOutlines(bar, facePlane(bar, 'end B'), 0.1);
    const dark = found.find((o) => o.code === materialCode(evaluation.shop, '1084'))!;
    expect(dark.polygons).toHaveLength(3);
    for (const [outer] of dark.polygons) {
      const xs = outer.map(([x]) => x);
      const ys = outer.map(([, y]) => y);
      expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(40, 1);
      expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(4, 1);
    }
    expect(outlinedArea(dark) / (3 * 4 * 40)).toBeCloseTo(1, 2);
  });

  it('of a re-squared bar cover each material’s share of the section', () => {
    const worked = evaluate(planOf([...SQUARE_BAR]));
    const [square] = worked.lanes[0].ends;
    const plane = facePlane(square, 'end B');
    const found = faceOutlines(square, plane, 0.08);
    const whole = found.reduce((sum, o) => sum + outlinedArea(o), 0);
    expect(whole / (plane.widthMm * plane.heightMm)).toBeCloseTo(1, 2);
    for (const o of found) {
      const id = worked.shop.materials[o.code - 1].id;
      const share = square.volumes[id] / Object.values(square.volumes).reduce((a, b) => a + b, 0);
      expect(Math.abs(outlinedArea(o) / whole - share)).toBeLessThan(0.015);
    }
  });

  it('of one steel are the section itself', () => {
    const [one] = evaluate(planOf([stackOf(1, 30, 12), weldIt])).lanes[0].ends;
    const found = faceOutlines(one, facePlane(one, 'end B'), 0.2);
    expect(found).toHaveLength(1);
    expect(found[0].polygons).toHaveLength(1);
    expect(found[0].polygons[0]).toHaveLength(1);
  });
});
