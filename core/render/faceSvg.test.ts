import { describe, expect, it } from 'vitest';
import { facePlane } from '../billet/face.ts';
import { evaluate } from '../plan/index.ts';
import { SQUARE_BAR, planOf, stackOf } from '../tests/plans.ts';
import { faceSvg } from './faceSvg.ts';
import { faceOutlines } from './outlines.ts';
import { makePalette } from './palette.ts';

function drawing(moves: Parameters<typeof planOf>[0], title: string) {
  const evaluation = evaluate(planOf(moves));
  const [bar] = evaluation.lanes[0].ends;
  const plane = facePlane(bar, 'end B');
  const palette = makePalette(evaluation.shop, 'etched', Object.keys(bar.volumes));
  return { plane, bar, svg: faceSvg(faceOutlines(bar, plane, 0.1), plane, palette, evaluation.shop, title) };
}

/** All coordinates of the paths that belong to a material, mm. */
const points = (svg: string, id: string): [number, number][] =>
  [
    ...new RegExp(`<path id="${id}"[^>]* d="([^"]+)"`).exec(svg)![1].matchAll(/[ML](-?[\d.]+) (-?[\d.]+)/g),
  ].map(([, x, y]) => [Number(x), Number(y)]);

describe('a face as a drawing', () => {
  it('is as large in millimetres as the face, one unit to the millimetre', () => {
    const { svg, plane } = drawing([...SQUARE_BAR], 'Trial');
    const [, w, h, box] = /width="([\d.]+)mm" height="([\d.]+)mm" viewBox="([^"]+)"/.exec(svg)!;
    expect(Math.abs(Number(w) - plane.widthMm)).toBeLessThan(0.01);
    expect(Math.abs(Number(h) - plane.heightMm)).toBeLessThan(0.01);
    expect(box).toBe(`0 0 ${w} ${h}`);
    for (const id of ['1084', '15n20'])
      for (const [x, y] of points(svg, id)) {
        expect(Math.min(x, y)).toBeGreaterThanOrEqual(0);
        expect(x).toBeLessThanOrEqual(plane.widthMm + 1e-3);
        expect(y).toBeLessThanOrEqual(plane.heightMm + 1e-3);
      }
  });

  it('stands upright: the bottom layer of a stack is at the bottom', () => {
    const { svg } = drawing([stackOf(2, 40, 4)], 'Two layers');
    // SVG counts downwards: layer 1, of 1084, lies from 4 to 8 mm below the top.
    const ys = points(svg, '1084').map(([, y]) => y);
    expect(Math.min(...ys)).toBeCloseTo(4, 1);
    expect(Math.max(...ys)).toBeCloseTo(8, 3);
  });

  it('keeps a title with signs of its own harmless', () => {
    const { svg } = drawing([stackOf(1, 30, 5)], 'Salt & <script>alert(1)</script>');
    expect(svg).toContain('Salt &amp; &lt;script&gt;');
    expect(svg).not.toContain('<script>');
  });
});
