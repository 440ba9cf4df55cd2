import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { materialById } from '../materials/material.ts';
import { MATERIALS } from '../materials/table.ts';
import {
  type KilnProgram,
  climbAt,
  clockTime,
  fallAt,
  freeSeconds,
  kilnProblems,
  legsOf,
  programSchema,
  setpointAt,
} from './program.ts';
import { recipesFor } from './recipes.ts';
import { SimulatedKiln } from './simulated.ts';

const KILN = { maxC: 1150, fullRateKPerH: 900, lagS: 40 };
const steel = (id: string) => materialById(MATERIALS, id)!;
const recipe = (id: string, name: RegExp) => recipesFor(steel(id)).find((r) => name.test(r.name))!;
const programOf = (segments: KilnProgram['segments'], startMin = 480): KilnProgram => ({
  id: 'k1',
  name: 'Trial',
  material: '1084',
  segments,
  startMin,
});

describe('programs', () => {
  // Values from memory of Verhoeven and Gibson (1998) and Verhoeven (2007), as the handbook gives them.
  it('the divorced-eutectoid anneal holds 30 min about 740 °C and falls 370 K/h to 650', () => {
    expect(recipe('1084', /^Divorced/).segments).toMatchObject([
      { targetC: 740, holdMin: 30 },
      { targetC: 650, rateKPerH: 370 },
    ]);
    const legs = legsOf(programOf([...recipe('1084', /^Divorced/).segments]), KILN);
    expect((legs[1].endS - legs[1].beginS) / 60).toBeCloseTo((90 / 370) * 60, 9);
  });

  it('is offered to steels near 0.8 % C only', () => {
    expect(recipesFor(steel('1018')).map((r) => r.name)).not.toContain('Divorced-eutectoid anneal');
  });

  it('hardens and tempers by the steel’s own row (producers’ data sheets, from memory)', () => {
    expect(recipe('80crv2', /^Harden/).segments[1].targetC).toBe(835);
    expect(recipe('w2', /^Harden/).segments[1]).toMatchObject({
      targetC: 785,
      then: 'quench in brine or fast oil',
    });
    expect(recipe('o1', /^Temper/).segments).toHaveLength(2);
  });

  it('every recipe is a program the schema takes', () => {
    for (const material of MATERIALS)
      for (const r of recipesFor(material))
        expect(programSchema.safeParse(programOf([...r.segments])).success, r.name).toBe(true);
  });

  it('says the time by the clock', () => {
    expect(clockTime(480, 3600)).toBe('09:00');
    expect(clockTime(1430, 1200)).toBe('00:10 (next day)');
  });

  it('at full power the first hour of a cold kiln is as fast as it is said to be', () => {
    const seconds = 30;
    const legs = legsOf(programOf([{ rateKPerH: null, targetC: 700, holdMin: 0 }]), KILN);
    expect((setpointAt(legs, KILN, seconds) - 20) / (seconds / 3600)).toBeCloseTo(900, -1);
    expect(setpointAt(legs, KILN, freeSeconds(KILN, 20, 700))).toBeCloseTo(700, 6);
  });
});

describe('against the shop’s kiln', () => {
  it.each([
    ['too hot', [{ rateKPerH: null, targetC: 1200, holdMin: 5 }], 1148],
    ['too fast', [{ rateKPerH: 600, targetC: 900, holdMin: 5 }], Math.floor(climbAt(KILN, 900) / 5) * 5],
    [
      'falls slower',
      [
        { rateKPerH: null, targetC: 500, holdMin: 5 },
        { rateKPerH: 400, targetC: 200, holdMin: 0 },
      ],
      Math.floor(fallAt(KILN, 200) / 5) * 5,
    ],
  ] as const)('%s', (code, segments, possible) => {
    const program = programOf(segments.map((s) => ({ ...s })));
    const [problem] = kilnProblems(program, KILN);
    expect(problem).toMatchObject({ code, possible });
    const mended = program.segments.map((s, i) => (i === problem.segment ? { ...s, ...problem.set } : s));
    expect(kilnProblems(programOf(mended), KILN)).toEqual([]);
  });
});

describe('the simulated kiln', () => {
  it('alone, at full power, follows the closed form of a first-order heater', () => {
    const kiln = new SimulatedKiln(
      { ...KILN, lagS: 0 },
      programOf([{ rateKPerH: null, targetC: 1100, holdMin: 0 }]),
    );
    const s = freeSeconds(KILN, 20, 800);
    expect(kiln.pass(s).chamberC).toBeCloseTo(800, -1);
  });

  it('keeps within some degrees of a program it can follow, and holds as long as was asked', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 200, max: 850 }),
        fc.integer({ min: 60, max: 200 }),
        fc.integer({ min: 5, max: 60 }),
        (targetC, rateKPerH, holdMin) => {
          const program = programOf([{ rateKPerH, targetC, holdMin }]);
          expect(kilnProblems(program, KILN)).toEqual([]);
          const kiln = new SimulatedKiln(KILN, program);
          let held = 0;
          let worst = 0;
          while (!kiln.reading.done) {
            const r = kiln.pass(20);
            worst = Math.max(worst, Math.abs(r.coupleC - r.setC));
            if (Math.abs(r.coupleC - targetC) < 8) held += 20;
          }
          expect(worst).toBeLessThan(12);
          expect(held / 60).toBeGreaterThanOrEqual(holdMin - 1);
        },
      ),
      { numRuns: 30 },
    ));

  it('the thermocouple lags behind by its time constant on a steady ramp', () => {
    const kiln = new SimulatedKiln(KILN, programOf([{ rateKPerH: 200, targetC: 800, holdMin: 0 }]));
    const r = kiln.pass(3 * 3600);
    expect(Math.abs(((r.chamberC - r.coupleC) / 200) * 3600 - 40)).toBeLessThan(1);
  });
});
