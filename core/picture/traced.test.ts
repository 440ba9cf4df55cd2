import { describe, expect, it } from 'vitest';
import { type Region, common, regionArea } from '../geometry/regions.ts';
import { type Dots, traced } from './traced.ts';

const dots = (widthPx: number, heightPx: number, light: (x: number, y: number) => number): Dots => {
  const rgba = new Uint8ClampedArray(4 * widthPx * heightPx);
  for (let y = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++) {
      const at = 4 * (y * widthPx + x);
      rgba.fill(255 * light(x + 0.5, y + 0.5), at, at + 3);
      rgba[at + 3] = 255;
    }
  return { widthPx, heightPx, rgba };
};

const PLAIN = { thresholds: [0.5], smoothPx: 0, speckPx: 0, simplifyPx: 0.2 };

const tracedOf = (d: Dots, how = PLAIN) => {
  const answer = traced(d, how);
  if (!answer.ok) throw new Error(answer.message);
  return answer.drawing;
};

describe('a picture of dots as outlines', () => {
  it('finds a disc: its area to 1 %, its middle, and a hole in it', () => {
    const { tones, aspect } = tracedOf(
      dots(200, 150, (x, y) => {
        const r = Math.hypot(x - 100, y - 75);
        return r < 60 && r > 20 ? 0 : 1;
      }),
    );
    expect(aspect).toBeCloseTo(1, 2);
    // One unit wide: the disc's radius is a half.
    expect(Math.abs(regionArea(tones[0].region) / (Math.PI * 0.25 * (1 - 1 / 9)) - 1)).toBeLessThan(0.01);
    expect(tones[0].region).toHaveLength(2);
  });

  it('drops specks, and smooths a noisy rim', () => {
    const noisy = dots(120, 120, (x, y) => (Math.hypot(x - 60, y - 60) < 40 || (x < 3 && y < 3) ? 0 : 1));
    expect(tracedOf(noisy).tones[0].region.length).toBe(2);
    expect(tracedOf(noisy, { ...PLAIN, speckPx: 20 }).tones[0].region.length).toBe(1);
    const rough = dots(120, 120, (x, y) =>
      Math.hypot(x - 60, y - 60) < 40 + 2 * (((x * 7 + y * 13) % 5) - 2) * 0.5 ? 0 : 1,
    );
    const around = (r: Region) => r.reduce((s, ring) => s + ring.length, 0);
    expect(around(tracedOf(rough, { ...PLAIN, smoothPx: 2, simplifyPx: 0.5 }).tones[0].region)).toBeLessThan(
      around(tracedOf(rough, { ...PLAIN, simplifyPx: 0.5 }).tones[0].region),
    );
  });

  it('parts two thresholds into two tones that do not overlap', () => {
    const { tones } = tracedOf(
      dots(90, 30, (x) => (x < 30 ? 0.1 : x < 60 ? 0.5 : 1)),
      { ...PLAIN, thresholds: [0.3, 0.7] },
    );
    expect(tones).toHaveLength(2);
    expect(regionArea(common(tones[0].region, tones[1].region))).toBeLessThan(1e-6);
    expect(regionArea(tones[0].region) / regionArea(tones[1].region)).toBeCloseTo(1, 1);
  });

  it('says when nothing is dark enough', () => {
    expect(
      traced(
        dots(20, 20, () => 1),
        PLAIN,
      ),
    ).toMatchObject({ ok: false });
  });
});
