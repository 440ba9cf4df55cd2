import { expect, it } from 'vitest';
import { drawingFromSvg } from '../picture/svg.ts';
import { PROFILES, bladeFrom } from '../blade/index.ts';
import { forgedFor } from '../moves/forge/shape.ts';
import { moveOf } from '../moves/index.ts';
import { makeShop } from '../shop/shop.ts';
import { bar } from '../tests/mottled.ts';
import { blankSvg } from './blankSvg.ts';

it('is the outline in true size: width and height in mm, and as large as its blank', () => {
  const p = { ...forgedFor(bladeFrom(PROFILES[1], 260, 34, 5), 7.5), heats: 0 };
  const [made] = moveOf('shape').apply([bar(30, 8, 300)], p, makeShop()).after;
  const { forged, heelMm } = made.blank!;
  const svg = blankSvg(forged, heelMm, 'A <made-up> blade & its tang');
  const sizes = /width="([\d.]+)mm" height="([\d.]+)mm" viewBox="0 0 ([\d.]+) ([\d.]+)"/
    .exec(svg)!
    .slice(1)
    .map(Number);
  expect(sizes.slice(0, 2)).toEqual(sizes.slice(2));
  expect(sizes[0]).toBeCloseTo(forged.lengthMm + 10, 1);
  const xs = [...svg.matchAll(/([\d.]+),([\d.]+)/g)].map((m) => [Number(m[1]), Number(m[2])]);
  const width = Math.max(...xs.map(([, y]) => y)) - Math.min(...xs.map(([, y]) => y));
  expect(width).toBeCloseTo(Math.max(...forged.stations.hi) - Math.min(...forged.stations.lo), 1);
  expect(svg).toContain('A &lt;made-up&gt; blade &amp; its tang');
  // Our own reader of drawings takes it.
  expect(drawingFromSvg(svg.replace('fill="none"', 'fill="#000"')).ok).toBe(true);
});
