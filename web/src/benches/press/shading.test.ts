import { describe, expect, it } from 'vitest';
import type { FlowDone } from '../../../../core/flow/run.ts';
import { SCALE, shadingOf } from './shading.ts';

/** A stage whose elements have these values; nothing else of it is shown. */
const stage = (strain: number[], density?: number[]): FlowDone =>
  ({
    strain: Float64Array.from(strain),
    density: density && Float64Array.from(density),
  }) as unknown as FlowDone;

const none = () => new Float64Array();

describe('what is shown as colour', () => {
  it('goes from nothing to nearly the most, so that one spent corner does not darken the rest', () => {
    const even = Array.from({ length: 500 }, (_, i) => i / 500);
    const { least, most } = shadingOf(stage([...even, 40]), 'strain', 1, none)!;
    expect(least).toBe(0);
    expect(most).toBeGreaterThan(0.95);
    expect(most).toBeLessThan(1);
  });

  it('is in MPa for the push across the seams; where there is no seam there is none, and it stretches no range', () => {
    const { values, most } = shadingOf(stage([0, 0, 0]), 'push', 60, () => Float64Array.of(1, NaN, 2))!;
    expect([...values]).toEqual([60, NaN, 120]);
    expect(most).toBe(120);
    expect(shadingOf(stage([0]), 'push', 60, () => Float64Array.of(NaN))!.most).toBeGreaterThan(0);
  });

  it('of powder goes from its least density to solid, never past it; without powder there is none', () => {
    const shading = shadingOf(stage([0, 0, 0], [0.62, 0.9, 1.004]), 'density', 1, none)!;
    expect(shading.least).toBe(0.62);
    expect(Math.max(...shading.values)).toBe(1);
    expect(shadingOf(stage([0]), 'density', 1, none)).toBeNull();
  });

  it('has a range even where nothing was strained', () => {
    const { least, most } = shadingOf(stage([0, 0, 0]), 'strain', 1, none)!;
    expect(most).toBeGreaterThan(least);
  });

  it('is a map that only gets lighter, so that it reads in grey too', () => {
    const lightness = [
      ...SCALE.matchAll(/#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})|rgb\((\d+), ?(\d+), ?(\d+)\)/gi),
    ].map(([, r16, g16, b16, r, g, b]) => {
      const [red, green, blue] = r16 ? [r16, g16, b16].map((v) => parseInt(v, 16)) : [r, g, b].map(Number);
      return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
    });
    expect(lightness.length).toBe(11);
    lightness.slice(1).forEach((l, i) => expect(l).toBeGreaterThan(lightness[i]));
  });
});
