import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { flowStress } from '../forging/force.ts';
import { type FlowDone, outlineAfter, runFlow } from '../flow/run.ts';
import { type Outline, isRectangle, outlineArea, rectangle, regularPolygon } from '../geometry/outline.ts';
import { evaluate } from '../plan/index.ts';
import { materialById } from '../materials/material.ts';
import { hotOf, makeShop } from '../shop/shop.ts';
import { READY, planOf } from '../tests/plans.ts';
import { type Billet, sizeOf } from './billet.ts';
import { makePoints } from './fields/field.ts';
import {
  betweenDies,
  contactForceN,
  exponentOf,
  frictionFactor,
  inTurns,
  isTooFine,
  movesAlike,
  pressingSeconds,
  sectionDifference,
  shapedTo,
  specFor,
  squaredUp,
} from './sectionFlow.ts';

const shop = makeShop();
const [bar] = evaluate(planOf([...READY.press])).lanes[0].steps.at(-1)!.after!;
const flowed = (passes: Parameters<typeof specFor>[1], way: Parameters<typeof specFor>[3] = {}) => {
  const spec = specFor(bar, passes, shop, way);
  const stage = runFlow(
    spec,
    () => undefined,
    () => {},
  );
  if (!stage.ok) throw new Error(stage.why);
  return { spec, stage: stage as FlowDone };
};

/** The same bar all of one steel. */
const plain: Billet = { ...bar, volumes: { '1084': outlineArea(bar.outline) * bar.lengthMm } };

/** Material at points over the middle of a bar, so many each way, by shares of its size. */
function codesOf(of: Billet, share: number): number[] {
  const { widthMm, heightMm } = sizeOf(of);
  const n = 20;
  const points = makePoints(n * n);
  const codes = new Uint8Array(n * n);
  for (let i = 0; i < n * n; i++) {
    points.x[i] = ((i % n) / (n - 1) - 0.5) * share * widthMm;
    points.y[i] = (Math.floor(i / n) / (n - 1) - 0.5) * share * heightMm;
    points.z[i] = of.lengthMm / 2;
  }
  points.count = n * n;
  of.field.sample(points, codes);
  return [...codes];
}

describe('what a bar’s flow depends on', () => {
  it('unlike steels are told from the mean, alike ones are not', () => {
    const { strength } = specFor(bar, [], shop);
    // 1084 and 15N20 stand in one row of the table of hot working.
    expect(strength).toBeNull();
    const stacked = (material: string, layers: number, thicknessMm: number) =>
      evaluate(
        planOf([
          [
            'stack',
            {
              layers,
              pattern: [
                { material: '1084', thicknessMm },
                { material, thicknessMm },
              ],
              widthMm: 32,
              lengthMm: 100,
            },
          ],
          ['weld', { heats: 1, temperatureC: 1200 }],
        ]),
      ).lanes[0].steps.at(-1)!.after![0];
    // Misaka and Yoshimoto: mild steel is within a tenth of 0.8 % C at welding heat, and not at 900 °C.
    expect(specFor(stacked('1018', 4, 8), [], shop).strength).toBeNull();
    expect(movesAlike(stacked('1018', 4, 8), shop)).toBe(true);
    expect(movesAlike(plain, shop)).toBe(false);
    const cold = makeShop({ forge: { ...shop.forge, weldingC: 900 } });
    expect(specFor(stacked('1018', 4, 8), [], cold).strength).not.toBeNull();
    const mixed = stacked('316l', 4, 8);
    expect(movesAlike(mixed, shop)).toBe(false);
    const grid = specFor(mixed, [], shop).strength!;
    const [stainless, plainSteel] = ['316l', '1084'].map(
      (id) => hotOf(shop, materialById(shop.materials, id)!, shop.forge.weldingC).cMPa,
    );
    expect(Math.max(...grid.values) / Math.min(...grid.values)).toBeCloseTo(stainless / plainSteel, 2);
    const mean = grid.values.reduce((a, b) => a + b, 0) / grid.values.length;
    expect(mean).toBeCloseTo(1, 2);
    // Layers lie level: each row of cells is of one strength, save where a seam runs through it.
    for (let row = 0; row < grid.size; row += 3)
      expect(new Set(grid.values.slice(row * grid.size, (row + 1) * grid.size)).size).toBe(1);
    expect(isTooFine(mixed, specFor(mixed, [], shop), 30)).toBe(false);
    expect(isTooFine({ ...mixed, bandMm: 1 }, specFor(mixed, [], shop), 30)).toBe(true);
  });

  it('27 layers are averaged over the cells that they do not fit: each within a fiftieth of what a row holds', () => {
    const [fine] = evaluate(
      planOf([
        [
          'stack',
          {
            layers: 27,
            pattern: [
              { material: '1084', thicknessMm: 2 },
              { material: '316l', thicknessMm: 2 },
            ],
            widthMm: 54,
            lengthMm: 100,
          },
        ],
      ]),
    ).lanes[0].steps.at(-1)!.after!;
    const { values, size } = specFor(fine, [], shop).strength!;
    const [soft, hard] = ['1084', '316l'].map(
      (id) => hotOf(shop, materialById(shop.materials, id)!, shop.forge.weldingC).cMPa,
    );
    const low = Math.min(...values);
    const high = (low * hard) / soft;
    const layer = size / 27;
    for (let row = 0; row < size; row++) {
      // Exactly: how much of a row lies in layers of odd number.
      let odd = 0;
      for (let k = 0; k < 27; k++)
        if (k % 2 === 1) odd += Math.max(0, Math.min(row + 1, (k + 1) * layer) - Math.max(row, k * layer));
      const cells = values.slice(row * size, (row + 1) * size);
      for (const value of cells) expect(Math.abs((value - low) / (high - low) - odd)).toBeLessThan(0.02);
    }
  });

  it('the exponent is the steels’ own by volume, friction Coulomb’s at the yield in shear', () => {
    expect(exponentOf(plain, shop)).toBeCloseTo(0.24, 4);
    const half = plain.volumes['1084'] / 2;
    expect(exponentOf({ ...plain, volumes: { '1084': half, '1018': half } }, shop)).toBeCloseTo(0.24, 4);
    expect(exponentOf({ ...plain, volumes: { '1084': half, '316l': half } }, shop)).toBeCloseTo(0.22, 4);
    expect(frictionFactor(shop)).toBeCloseTo(0.3 * Math.sqrt(3), 2);
    expect(frictionFactor(makeShop({ press: { ...shop.press, friction: 0.577 } }))).toBe(1);
  });
});

describe('force and time at the press', () => {
  it('without friction and with the ends held it is plane strain’s: 2/√3 of the flow stress over the contact', () => {
    const toMm = 0.9 * sizeOf(bar).heightMm;
    const { stage } = flowed([{ turnDeg: 0, toMm }], { friction: 0, biteMm: 'held' });
    const rate = ((2 / Math.sqrt(3)) * shop.press.ramMmPerS) / toMm;
    const stress = flowStress('ordinary steel', shop.forge.weldingC, rate);
    const wanted = (2 / Math.sqrt(3)) * stress * stage.report.widthMm * shop.biteMm;
    // It is the force in the middle of the last step, when the bar is some 1 % narrower.
    expect(Math.abs(contactForceN(plain, stage.report, shop) / wanted - 1)).toBeLessThan(0.025);
  });

  it('grows with the speed of the ram as the steel’s exponent says', () => {
    const { stage } = flowed([{ turnDeg: 0, toMm: 0.95 * sizeOf(bar).heightMm }]);
    const fast = makeShop({ press: { ...shop.press, ramMmPerS: 16 * shop.press.ramMmPerS } });
    const ratio = contactForceN(plain, stage.report, fast) / contactForceN(plain, stage.report, shop);
    expect(ratio).toBeCloseTo(16 ** 0.24, 3);
  });

  it('takes a stroke and a pause for every bite along the bar; a turn back takes nothing', () => {
    const toMm = 0.9 * sizeOf(bar).heightMm;
    const { stage } = flowed([{ turnDeg: 0, toMm }]);
    const bites = Math.ceil((bar.lengthMm * stage.lengthening) / shop.biteMm);
    const stroke = (sizeOf(bar).heightMm - toMm) / shop.press.ramMmPerS;
    expect(pressingSeconds(bar, [stage], shop)).toBeCloseTo(bites * (1.5 + stroke), 2);
    expect(pressingSeconds(bar, [], shop)).toBe(0);
    const idle = { ...stage, report: { ...stage.report, steps: 0 } };
    expect(pressingSeconds(bar, [idle], shop)).toBe(0);
  });
});

describe('passes by turns', () => {
  it('end as the bar lay, and press each side at its stops', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            side: fc.constantFrom('height' as const, 'width' as const),
            stopMm: fc.integer({ min: 5, max: 50 }),
          }),
          { minLength: 1, maxLength: 8 },
        ),
        (stops) => {
          const passes = inTurns(stops);
          expect(passes.reduce((sum, p) => sum + p.turnDeg, 0)).toBe(0);
          let turned = 0;
          stops.forEach(({ side, stopMm }, i) => {
            turned += passes[i].turnDeg;
            expect(passes[i].toMm).toBe(stopMm);
            expect(Math.abs(turned)).toBe(side === 'width' ? 90 : 0);
          });
        },
      ),
    );
  });
});

describe('a section between the dies, and brought to its shape', () => {
  const { spec, stage } = flowed([
    { turnDeg: 45, toMm: 1.2 * sizeOf(bar).heightMm },
    { turnDeg: 90, toMm: 1.2 * sizeOf(bar).heightMm },
  ]);
  const left = betweenDies(bar, spec, stage);

  it('keeps its volume: as much longer as its section is smaller', () => {
    expect(outlineArea(left.outline) * left.lengthMm).toBeCloseTo(outlineArea(bar.outline) * bar.lengthMm, 6);
    expect(outlineArea(left.outline)).toBeCloseTo(outlineArea(outlineAfter(spec, stage)), 9);
    expect(left.lengthMm / bar.lengthMm).toBeCloseTo(stage.lengthening, 2);
  });

  it.each([
    ['squared up', (b: Billet) => squaredUp(b)],
    ['brought to a round', (b: Billet) => shapedTo(b, regularPolygon(48, 100))],
  ])('%s it has its area, and its middle is what it was', (_name, bring) => {
    const brought = bring(left);
    expect(outlineArea(brought.outline)).toBeCloseTo(outlineArea(left.outline), 6);
    // The rim moves most; within a quarter of the size the picture hardly does.
    const { widthMm, heightMm } = sizeOf(brought);
    const was = sizeOf(left);
    const scaled = (b: Billet, w: number, h: number) => codesOf({ ...b, outline: rectangle(w, h) }, 0.25);
    const [a, b] = [scaled(brought, widthMm, heightMm), scaled(left, widthMm, heightMm)];
    const differ = a.filter((code, i) => code !== b[i]).length / a.length;
    expect(differ).toBeLessThan(0.08);
    expect(was.widthMm).toBeGreaterThan(0);
  });

  it('squared up it is a rectangle of the dies’ proportions', () => {
    const square = squaredUp(left);
    expect(isRectangle(square.outline)).toBe(true);
    const [is, was] = [sizeOf(square), sizeOf(left)];
    expect(is.widthMm / is.heightMm).toBeCloseTo(was.widthMm / was.heightMm, 6);
  });

  it('differs from itself by nothing, from another by as much as that from it, at most by all', () => {
    const square = squaredUp(left);
    expect(sectionDifference(square, square)).toBe(0);
    const other: Outline = rectangle(sizeOf(square).widthMm, sizeOf(square).heightMm);
    const unpressed = { ...bar, outline: other };
    expect(sectionDifference(square, unpressed)).toBeCloseTo(sectionDifference(unpressed, square), 12);
    expect(sectionDifference(square, unpressed)).toBeLessThanOrEqual(1);
  });
});
