import { expect, it } from 'vitest';
import { ALL_ORIENTATIONS, inverse } from '../geometry/orientation.ts';
import { outlineArea } from '../geometry/outline.ts';
import { bar } from '../tests/mottled.ts';
import { codeAt } from './fields/field.ts';
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
