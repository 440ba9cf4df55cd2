import { expect, it } from 'vitest';
import { ALL_ORIENTATIONS, AS_IT_LIES, inverse } from '../geometry/orientation.ts';
import { outlineArea } from '../geometry/outline.ts';
import { bar } from '../tests/mottled.ts';
import { codeAt } from './fields/field.ts';
import { GridField } from './fields/grid.ts';
import { SolidField } from './fields/layers.ts';
import { turnedBar } from './turned.ts';

it.each(ALL_ORIENTATIONS)('a bar turned and turned back is what it was: %o', (o) => {
  const leaning = bar(30, 20, 90, {
    outline: [
      [-15, -10],
      [9, -10],
      [15, 10],
      [-9, 10],
    ],
    jacket: { material: '1018', sideMm: 1, topMm: 2 },
    distorted: { endA: 0.1, endB: 0.2 },
  });
  const turned = turnedBar(leaning, o);
  expect(outlineArea(turned.outline)).toBeCloseTo(outlineArea(leaning.outline), 9);
  expect(turned.distorted!.endA).toBe(o.rolled ? 0.2 : 0.1);
  expect(turned.jacket!.sideMm).toBe(o.turns % 2 === 1 ? 2 : 1);
  const back = turnedBar(turned, inverse(o));
  const ring = ({ outline }: typeof back) => outline.map((p) => p.join()).sort();
  expect(ring(back)).toEqual(ring(leaning));
  for (let k = 0; k < 300; k++) {
    const [x, y, z] = [((k * 7.31) % 28) - 14, ((k * 3.77) % 18) - 9, (k * 11.9) % 90];
    expect(codeAt(back.field, x, y, z)).toBe(codeAt(leaning.field, x, y, z));
  }
});

it.each(ALL_ORIENTATIONS)(
  'a bar laid of unlike pieces is the same turned however often it was asked: %o',
  (o) => {
    const solid = (code: number) => ({ field: new SolidField(code), orientation: AS_IT_LIES, lengthMm: 90 });
    const laid = bar(40, 20, 90, {
      field: GridField.of([-20, -8, 20], [-10, 4, 10], [solid(1), solid(2), solid(3), solid(4)]),
    });
    const turned = turnedBar(laid, o);
    const all = () =>
      Array.from({ length: 3000 }, (_, k) => {
        const [x, y] = [((k * 7.3137) % 18.007) - 9, ((k * 3.7719) % 18.003) - 9];
        return codeAt(turned.field, x, y, 45);
      });
    // Laid flat once enough was asked of it.
    const first = all();
    expect(new Set(first).size).toBe(4);
    expect(all()).toEqual(first);
    const [x, y] = o.turns % 2 === 1 ? [0, 19] : [19, 0];
    expect(new Set([codeAt(turned.field, x, y, 45), codeAt(turned.field, -x, -y, 45)]).size).toBe(2);
  },
);
