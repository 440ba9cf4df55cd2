import { describe, expect, it } from 'vitest';
import { anyPass, numbersFrom } from '../tests/passes.ts';
import { leastElement } from '../tests/pressing.ts';
import { meshArea } from './mesh.ts';
import { runFlow, startMesh } from './run.ts';

/** So many in every run of the tests; with `PASSES=200` the whole of docs/flow.md. */
const PASSES = Number(process.env.PASSES ?? 12);
/** More were never needed; what goes on longer will not end. */
const MOST_FACTORINGS = 4000;

describe('passes as anyone might ask for', () => {
  const random = numbersFrom(1);
  const specs = Array.from({ length: PASSES }, () => anyPass(random));
  let done = 0;

  it.each(specs.map((spec, i) => [i, spec] as const))(
    'no. %d is a balance, unfolded, of the area it must have; or says what to change',
    (_i, spec) => {
      const out = runFlow(
        spec,
        () => undefined,
        () => {},
      );
      if (!out.ok) {
        expect(out.why).toMatch(/stop higher|set them farther apart/);
        expect(out.heightMm).toBeGreaterThan(0);
        return;
      }
      done++;
      const { report, lengthening } = out;
      const first = startMesh(spec);
      expect(report.worstResidual).toBeLessThan(1e-3);
      expect(report.iterations).toBeLessThan(MOST_FACTORINGS);
      expect(leastElement({ ...first, x: out.x, y: out.y })).toBeGreaterThan(0);
      // By true bookkeeping: from before all of it, over every fresh grid.
      expect(Math.abs((report.areaMm2 * lengthening) / meshArea(first) - 1)).toBeLessThan(1e-3);
      expect(report.areaTheoryMm2).toBeCloseTo(meshArea(first) / lengthening, 6);
    },
    60_000,
  );

  it('most of them can be done', () => {
    expect(done / PASSES).toBeGreaterThan(0.7);
  });
});
