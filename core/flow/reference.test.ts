import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { rectangle } from '../geometry/outline.ts';
import { PLAIN, placesAfter, sectionOf, turned, press } from '../tests/pressing.ts';

interface ReferencePass {
  toMm: number;
  rotationDeg: number;
  areaMm2: number;
  widthMm: number;
  tracers: [number, number][];
}

/** Results of a general-purpose finite element program (FreeFEM 4.11) of its own meshes and elements, made beside this project. */
const REFERENCE = JSON.parse(readFileSync(join(import.meta.dirname, 'reference.json'), 'utf8')) as Record<
  string,
  ReferencePass[]
>;

/**
 * Forces on the upper die there at the end of A and E, per mm. Its unit of time is that in which the height goes by its own e-th
 * part, ours that of 1 mm: a force here is h^m times as large there.
 */
const FORCES: Record<string, number | undefined> = { A: 151.95, E: 94.05 };

describe('reference results of another program', () => {
  it.each([
    [
      'A: a square pressed flat, sticking',
      'A',
      24,
      8,
      0.01,
      { friction: 'sticking', axial: { by: 'height', spread: 1 } },
    ],
    [
      'C: a whole bias re-square, on the grid of the interface',
      'C',
      16,
      5,
      0.025,
      { axial: { by: 'height', spread: 0.4 } },
    ],
    ['E: a diamond flattened', 'E', 24, 8, 0.01, { axial: { by: 'height', spread: 0.6 } }],
  ] as const)(
    '%s: widths within 0.15 mm, 441 points within 0.06 mm rms and 0.26 mm at worst, areas within 0.25 %%, force within 4 %%',
    (_name, which, n, rings, stepShare, some) => {
      let section = sectionOf(rectangle(40, 40), n, rings);
      let rotation = 0;
      let force = 0;
      for (const pass of REFERENCE[which]) {
        section = turned(section, pass.rotationDeg - rotation);
        rotation = pass.rotationDeg;
        const outcome = press(section, pass.toMm, { ...some, stepShare });
        section = outcome.section;
        expect(Math.abs(outcome.report.widthMm - pass.widthMm)).toBeLessThan(0.15);
        expect(Math.abs(outcome.report.areaMm2 / pass.areaMm2 - 1)).toBeLessThan(0.0025);
        const points = placesAfter(section);
        const off = pass.tracers.map(([x, y], k) => Math.hypot(points.x[k] - x, points.y[k] - y));
        expect(Math.sqrt(off.reduce((s, d) => s + d * d, 0) / 441)).toBeLessThan(0.06);
        expect(Math.max(...off)).toBeLessThan(0.26);
        force = outcome.report.forcePerMm * pass.toMm ** PLAIN.exponent;
      }
      // A few per cent is what the elements there and here differ by.
      if (FORCES[which]) expect(Math.abs(force / FORCES[which] - 1)).toBeLessThan(0.04);
    },
    120_000,
  );
});
