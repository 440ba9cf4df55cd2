import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { bladeFit, bladeFrom, PROFILES } from '../blade/index.ts';
import { codeAt } from '../billet/fields/field.ts';
import { findingsOf } from '../judgement/index.ts';
import { moveOf } from '../moves/index.ts';
import { forgedFor } from '../moves/forge/shape.ts';
import { makeShop, materialCode } from '../shop/shop.ts';
import { type Move, evaluated, planOf } from '../tests/plans.ts';
import { allSteps, kilnPrograms, readPlan, sayStep } from './index.ts';

describe('a three-layer blade with copper between, from an empty shelf to hardening', () => {
  const read = readPlan(
    JSON.parse(readFileSync(new URL('../../server/demo/lantern.json', import.meta.url), 'utf8')),
  );
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  const e = evaluated(read.plan);
  const steps = allSteps(e);
  const codesOf = (kind: string, k = 0) =>
    findingsOf(e, steps.filter((s) => s.step.kind === kind)[k]).map((f) => f.code);

  it('is planned without a refusal or a warning', () => {
    for (const s of steps) {
      expect(s.after, s.step.kind).not.toBeNull();
      const loud = findingsOf(e, s).filter((f) => f.severity === 'error' || f.severity === 'warning');
      expect(loud.map((f) => f.text)).toEqual([]);
    }
    expect(e.goal.reached).toBe(true);
  });

  it('says at every step what to be careful of: copper in the weld, under the hammer and in the kiln', () => {
    expect(codesOf('weld', 1)).toEqual(
      expect.arrayContaining(['joined by it', 'squirts', 'sealed in the fire']),
    );
    expect(codesOf('draw', 1)).toContain('forged cooler');
    expect(codesOf('shape')).toContain('forged cooler');
    expect(codesOf('clean')).toContain('cleaning');
    expect(codesOf('etch')).toContain('etchant');
    const hardens = steps.findIndex(
      (s) => s.step.kind === 'treat' && s.step.parameters.treatment === 'harden',
    );
    expect(findingsOf(e, steps[hardens]).map((f) => f.code)).toContain('quench');
    // Every program stays under what copper stands with steel round it (1040 °C, common practice, no source).
    for (const { segments } of kilnPrograms(e))
      for (const { targetC } of segments) expect(targetC).toBeLessThan(1040);
  });

  it('has its edge of the core all along, and copper shows between it and the cladding', () => {
    const { bar } = e.goal;
    const fit = bladeFit(bar!, read.plan.blade!, e.shop);
    expect(fit.edge['80crv2']).toBeGreaterThan(0.99);
    for (const mm of [fit.pastTipMm, fit.behindTangMm, fit.besideMm, fit.thickerMm])
      expect(mm).toBeGreaterThan(0);
    const copper = materialCode(e.shop, 'copper');
    const z = 200;
    const { lo, hi, spine } = bar!.blank!.forged.sectionAt(z);
    const column = Array.from({ length: 400 }, (_, i) =>
      codeAt(bar!.field, lo + 0.9 * (hi - lo), (spine * (i - 200)) / 450, z),
    );
    expect(column.filter((c) => c === copper).length).toBeGreaterThan(2);
  });

  it('is told move by move, the kiln leg by leg', () => {
    const said = steps.map((s) => sayStep(s, e.shop).join(' ')).join(' ');
    for (const words of [/Punch marks on the spine/, /quench in fast oil/, /Ferric chloride/, /light pass/])
      expect(said).toMatch(words);
  });
});

it('a can pressed solid takes an edge strip, and is forged with it along the edge to the tip', () => {
  const can: Move[] = [
    [
      'can',
      {
        ...(moveOf('can').begin([], makeShop()) as object),
        widthMm: 60,
        heightMm: 60,
        lengthMm: 220,
        inserts: [{ shape: 'rod', material: '15n20', sizeMm: 9, count: 9, lay: 'rows' }],
      },
    ],
    ['consolidate', { endMm: 8, sides: 'two ways', passMm: 2.5, heats: 2, temperatureC: 1200 }],
    ['crop', { endAMm: 14, endBMm: 14 }],
    ['peel', { how: 'grind' }],
    ['draw', { shape: 'flat', widthMm: 36, thicknessMm: 16, heats: 3 }],
    ['grind', { topMm: 0.4, bottomMm: 0.4, leftMm: 0.4, rightMm: 0.4 }],
    ['laminate', { where: 'along one edge', material: '80crv2', thicknessMm: 8 }],
    ['weld', { heats: 2, temperatureC: 1170 }],
    // The strip lies to one side: that is to be the edge.
    ['turn', { to: 'rolled left–right' }],
    ['draw', { shape: 'flat', widthMm: 40, thicknessMm: 8, heats: 3 }],
  ];
  const blade = {
    ...bladeFrom(PROFILES[0], 330, 46, 5),
    lengthMm: 210,
    heightMm: 46,
    tangLengthMm: 90,
    heelMm: 91,
  };
  const of = (side: Move[]) =>
    evaluated(
      planOf([
        ...can.filter((m) => m[0] !== 'turn'),
        ...side,
        ['shape', { ...forgedFor(blade, 7.6), heats: 2 }],
      ]),
    );
  const edges = [[], [['turn', { to: 'rolled left–right' }] as Move]].map((side) => {
    const e = of(side);
    for (const s of allSteps(e)) expect(s.after, s.findings.map((f) => f.text).join()).not.toBeNull();
    return bladeFit(e.goal.bar!, blade, e.shop).edge['80crv2'] ?? 0;
  });
  // As it lies the strip is on one side; end for end it is on the other.
  expect(Math.max(...edges)).toBeGreaterThan(0.97);
  expect(Math.min(...edges)).toBe(0);
});
