import { expect, it } from 'vitest';
import { MOVE_KINDS, oftenAfter } from '../moves/index.ts';
import { previewOf, sideBySide } from '../render/preview.ts';
import { materialOrder } from './evaluate.ts';
import { triedOnStripes } from './trial.ts';

const MOST = { widthPx: 40, heightPx: 40 };

function pictures(kind: (typeof MOVE_KINDS)[number]) {
  const tried = triedOnStripes(kind)!;
  return tried.lanes[0].steps.at(-1)!.after!.map((b) => previewOf(b, tried.shop, materialOrder(tried), MOST));
}

it.each(MOVE_KINDS)('“%s” is shown on a striped bar: light and dark, or the powder of a can', (kind) => {
  const all = pictures(kind);
  expect(all.length).toBeGreaterThan(0);
  for (const { rgba } of all) {
    const greys = rgba.filter((_, i) => i % 4 === 0 && rgba[i + 3] > 0);
    expect(greys.length).toBeGreaterThan(200);
    expect(Math.max(...greys) - Math.min(...greys)).toBeGreaterThan(40);
  }
});

it('shows what a move does: a re-square lays the stripes across, a cut gives more pieces than it takes', () => {
  const [striped] = pictures('draw');
  const [across] = pictures('resquare');
  const apart = striped.rgba.reduce((sum, v, i) => sum + Math.abs(v - across.rgba[i]), 0);
  expect(apart / striped.rgba.length).toBeGreaterThan(20);
  expect(pictures('rip')).toHaveLength(2);
  expect(pictures('cut').length).toBeGreaterThan(1);
});

it('stands pieces side by side, clear between them', () => {
  const dot = (grey: number, heightPx: number) => ({
    widthPx: 1,
    heightPx,
    rgba: new Uint8ClampedArray(Array.from({ length: heightPx }, () => [grey, grey, grey, 255]).flat()),
  });
  const both = sideBySide([dot(10, 1), dot(200, 3)], 2);
  expect([both.widthPx, both.heightPx]).toEqual([4, 3]);
  const grey = (x: number, y: number) => both.rgba[4 * (4 * y + x)];
  const clear = (x: number, y: number) => both.rgba[4 * (4 * y + x) + 3] === 0;
  expect([grey(0, 1), grey(3, 0), grey(3, 2)]).toEqual([10, 200, 200]);
  expect([clear(0, 0), clear(1, 1), clear(2, 1)]).toEqual([true, true, true]);
});

it.each(MOVE_KINDS)('names what often comes after “%s”, each once', (kind) => {
  const next = oftenAfter(kind);
  expect(next.length).toBeGreaterThan(0);
  expect(new Set(next).size).toBe(next.length);
});
