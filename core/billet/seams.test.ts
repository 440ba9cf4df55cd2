import { describe, expect, it } from 'vitest';
import { evaluate } from '../plan/index.ts';
import { READY, fourWay, planOf } from '../tests/plans.ts';
import { seamWays } from './seams.ts';
import { seamPushes, specFor } from './sectionFlow.ts';
import { sizeOf } from './billet.ts';
import { type FlowDone, runFlow, startMesh } from '../flow/run.ts';
import { makeShop } from '../shop/shop.ts';

const shop = makeShop();
const stack = (material: string, layers: number) => {
  const [bar] = evaluate(
    planOf([
      [
        'stack',
        {
          layers,
          pattern: [
            { material: '1084', thicknessMm: 10 },
            { material, thicknessMm: 10 },
          ],
          widthMm: 40,
          lengthMm: 100,
        },
      ],
      ['weld', { heats: 1, temperatureC: 1200 }],
    ]),
  ).lanes[0].steps.at(-1)!.after!;
  return bar;
};

describe('seams of a section', () => {
  it('lie level between the layers of a stack, upright once it is turned, and nowhere within a layer', () => {
    const bar = stack('15n20', 4);
    const [level, inside] = seamWays(bar, [3, 3], [0, 5], 1.5);
    expect(Math.abs(Math.sin(level))).toBeCloseTo(1, 9);
    expect(inside).toBeNaN();
  });

  it('of one steel on both sides are seams too: where four pieces of a bar meet', () => {
    const four = (layout: string) =>
      evaluate(planOf([...READY.assemble, fourWay(layout)])).lanes[0].steps.at(-1)!.after![0];
    for (const layout of ['mirrored', 'turned']) {
      const bar = four(layout);
      const { widthMm, heightMm } = sizeOf(bar);
      // Along the seam nothing changes but the piece: the layers of a mirrored one go on.
      const up = Array.from({ length: 20 }, (_, i) => ((i + 1) / 22) * (heightMm / 2));
      const upright = seamWays(
        bar,
        up.map(() => 0),
        up,
        widthMm / 400,
      );
      for (const way of upright) expect(Math.abs(Math.cos(way))).toBeGreaterThan(0.7);
    }
  });
});

describe('the push across them', () => {
  it('without friction, ends held, is 2/√3 of the flow stress across level seams and nothing across upright ones', () => {
    const bar = stack('15n20', 4);
    for (const turnDeg of [0, 90]) {
      const spec = specFor(bar, [{ turnDeg, toMm: 0.85 * sizeOf(bar).heightMm }], shop, {
        friction: 0,
        biteMm: 'held',
      });
      const stage = runFlow(
        spec,
        () => undefined,
        () => {},
      ) as FlowDone;
      const pushes = seamPushes(bar, spec, stage);
      const known = pushes.filter((p) => !Number.isNaN(p));
      // Three seams, on a grid of some 26 rows: neither everywhere nor nowhere.
      expect(known.length).toBeGreaterThan(40);
      expect(known.length).toBeLessThan(0.6 * (startMesh(spec).quads.length / 4));
      const force = stage.report.forcePerMm / stage.report.widthMm;
      for (const push of known)
        if (turnDeg === 0) expect(push / force).toBeCloseTo(1, 1);
        else expect(Math.abs(push / force)).toBeLessThan(0.05);
    }
  });

  it('it is the pressure from all sides that would make a sound seam look doubtful: half of it (handbook, mechanics)', () => {
    const bar = stack('15n20', 4);
    const spec = specFor(bar, [{ turnDeg: 0, toMm: 0.85 * sizeOf(bar).heightMm }], shop, { friction: 0 });
    const stage = runFlow(
      spec,
      () => undefined,
      () => {},
    ) as FlowDone;
    const across = seamPushes(bar, spec, stage).filter((p) => !Number.isNaN(p));
    // In uniaxial pressing a third of it, in plane strain a half.
    const both = stage.pushes.filter((_, k) => k % 8 === 0);
    expect(Math.min(...across)).toBeGreaterThan(2 * Math.max(...both.map(Math.abs)));
  });
});
