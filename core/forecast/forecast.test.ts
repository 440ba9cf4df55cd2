import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { type Belief, type NumberId, beliefFrom, ownNumber, tableFor } from '../learning/index.ts';
import { type Evaluation, type Plan, allSteps, evaluate, readPlan } from '../plan/index.ts';
import { sizeOf } from '../billet/billet.ts';
import { wallSheet } from '../print/wall.ts';
import { formatLength } from '../units/length.ts';
import { eachWork } from '../tests/work.ts';
import { evaluated } from '../tests/plans.ts';
import { anyPiece, hiddenShop } from '../tests/shops.ts';
import {
  Chance,
  forecastOf,
  foretelling,
  happeningBy,
  inHundredSaid,
  lived,
  surerWays,
  unforetold,
} from './index.ts';

const demo = (name: string): Plan => {
  const read = readPlan(JSON.parse(readFileSync(`server/demo/${name}.json`, 'utf8')));
  if (!read.ok) throw new Error(read.problems[0].message);
  return read.plan;
};

/** The numbers that a plan is reckoned with, of which only some are not known exactly; ends are sound. */
const sureBut =
  ({ shop }: Plan, ...doubtful: NumberId[]): Belief =>
  (number) => {
    const value = number === 'crop' ? 0 : (ownNumber(number, shop) ?? tableFor(number).value);
    return doubtful.includes(number) ? { ...tableFor(number), value } : { value, sure: 0, spread: 0 };
  };

const START = '2026-03-02T08:00:00.000Z';
const shape = (e: Evaluation) =>
  allSteps(e).map((s) => [s.step.id, s.after?.map((b) => ({ ...sizeOf(b), lengthMm: b.lengthMm }))]);

describe('a plan run forward', () => {
  it.each(['salt-marsh', 'hailstorm', 'rain-barrel', 'lantern', 'tide-ladder', 'night-heron'])(
    'is a point where everything is known exactly: %s',
    (name) => {
      const planned = evaluate(demo(name));
      const forecast = forecastOf(planned, sureBut(planned.plan), { seed: 1, count: 3 });
      const { lengthMm, widthMm, thicknessMm } = forecast.finished!;
      const sizes = planned.goal.sizes!;
      for (const [band, is] of [
        [lengthMm, sizes.lengthMm],
        [widthMm, sizes.widthMm],
        [thicknessMm, sizes.heightMm],
      ] as const)
        for (const mm of [band.low, band.middle, band.high]) expect(mm).toBeCloseTo(is, 6);
      expect(forecast.reached).toBe(planned.goal.reached ? 3 : 0);
      expect(forecast.doubt).toEqual([]);
    },
  );

  it.each(Object.entries(eachWork))(
    'comes to the same sizes with known numbers whatever moves it has: %s',
    (_, plan) => {
      const planned = evaluated(plan);
      const chance = new Chance(sureBut(plan), 1);
      const really = evaluate(plan, undefined, planned.flows, happeningBy(chance, planned));
      const [is, was] = [shape(really), shape(planned)];
      expect(is.map(([id]) => id)).toEqual(was.map(([id]) => id));
      const length = (e: Evaluation) => e.goal.sizes?.lengthMm ?? 0;
      expect(length(planned)).toBeGreaterThan(0);
      // What flowed by itself is pressed here as such bars usually are, to the same size.
      expect(length(really) / length(planned)).toBeGreaterThan(0.995);
      expect(length(really) / length(planned)).toBeLessThan(1.005);
    },
  );

  it('is the same for the same seed, and another for another', () => {
    const planned = evaluated(anyPiece(2));
    const told = (seed: number) => forecastOf(planned, tableFor, { seed, count: 20 });
    expect(told(1)).toEqual(told(1));
    expect(told(2).finished).not.toEqual(told(1).finished);
  });

  it('holds the true length in its band for 75 to 85 of 100 pieces of shops of hidden numbers', () => {
    let held = 0;
    for (let shop = 1; shop <= 200; shop++) {
      const plan = anyPiece(1_000_000 + shop);
      const { low, high } = forecastOf(evaluated(plan), tableFor, { seed: shop, count: 60 }).finished!
        .lengthMm;
      const { really } = lived(plan, hiddenShop(shop), { seed: shop, from: START, slips: 0, often: 0 });
      const { lengthMm } = really.goal.sizes!;
      if (lengthMm >= low && lengthMm <= high) held++;
    }
    expect(held).toBeGreaterThanOrEqual(150);
    expect(held).toBeLessThanOrEqual(170);
  });

  it('says from which number the doubt comes', () => {
    const planned = evaluated(anyPiece(2));
    const doubtOf = (...numbers: NumberId[]) =>
      forecastOf(planned, sureBut(planned.plan, ...numbers), { seed: 3, count: 300 }).doubt;
    const [only, ...more] = doubtOf('scale');
    expect(more).toEqual([]);
    expect(only.number).toBe('scale');
    expect(only.share).toBeGreaterThan(0.9);
    // Of two the shares come to about one, and the saw kerf is the smaller.
    const two = doubtOf('scale', 'kerf');
    expect(two[0].number).toBe('scale');
    expect(two.reduce((sum, d) => sum + d.share, 0)).toBeGreaterThan(0.85);
    expect(two.reduce((sum, d) => sum + d.share, 0)).toBeLessThan(1.1);
  });

  it('leaves what is done as it came', () => {
    const { plan } = lived(anyPiece(2), tableFor, { seed: 5, from: START, slips: 0, often: 1 });
    const first = plan.records!.slice(0, 6);
    const planned = evaluate({ ...plan, records: first });
    const forecast = forecastOf(planned, tableFor, { seed: 1, count: 40 });
    const done = new Set(first.map((r) => r.step));
    const ofDone = forecast.steps.filter((s) => done.has(s.step));
    expect(ofDone).toHaveLength(6);
    for (const { lengthMm } of ofDone) expect(lengthMm.high).toBeCloseTo(lengthMm.low, 9);
    const whole = forecastOf(evaluated(anyPiece(2)), tableFor, { seed: 1, count: 40 });
    const wide = ({ finished }: typeof forecast) => finished!.lengthMm.high - finished!.lengthMm.low;
    expect(wide(forecast)).toBeLessThan(wide(whole));
    expect(forecast.hours.middle).toBeLessThan(whole.hours.middle);
  });

  it('begins at the shop’s own numbers where nothing was measured, and at what was learned where it was', () => {
    const plan = anyPiece(2);
    const slow = { ...plan, shop: { ...plan.shop, kerfMm: 3 } };
    const told = (p: Plan, belief: Belief) =>
      forecastOf(evaluated(p), belief, { seed: 1, count: 40 }).finished!.lengthMm.middle;
    const unlearned = beliefFrom([]);
    const wide = told(plan, unlearned) - told(slow, unlearned);
    expect(wide).toBeGreaterThan(3);
    // A kerf that was measured is the kerf, whatever the plan was made with.
    const learned = beliefFrom([
      {
        number: 'kerf',
        of: plan.shop.name,
        value: 3,
        sure: 0.05,
        spread: 0.1,
        count: 30,
        wild: 0,
        evidence: [],
      },
    ]);
    expect(Math.abs(told(plan, learned) - told(slow, learned))).toBeLessThan(0.2 * wide);
  });

  it('can be heard of on the way, and left', () => {
    const told = foretelling(evaluated(anyPiece(2)), tableFor, { seed: 1, count: 40 });
    const heard = [told.next().value, told.next().value];
    expect(heard).toEqual([0.25, 0.5]);
  });

  it('says why nothing can be foretold', () => {
    const plan = anyPiece(2);
    expect(unforetold(evaluated({ ...plan, lanes: [{ ...plan.lanes[0], steps: [] }] }))).toMatch(
      /finished bar/,
    );
    expect(unforetold(evaluated(plan))).toBeNull();
  });
});

describe('on the wall sheet', () => {
  const planned = evaluated(anyPiece(2));
  const forecast = forecastOf(planned, tableFor, { seed: 1, count: 60 });

  it('stands how often the goal is reached, and between which sizes each move may come', () => {
    const sheet = wallSheet(planned, forecast);
    expect(sheet.sure).toContain(inHundredSaid(forecast));
    const cut = sheet.lanes[0].steps.find((s) => s.title === 'Cut')!;
    const { low, high } = forecast.steps.find((s) => s.step === cut.stepId)!.lengthMm;
    const { lengths } = planned.shop;
    expect(cut.may).toContain(`${formatLength(low, lengths)} to ${formatLength(high, lengths)} long`);
    // A stack is as it is laid.
    expect(sheet.lanes[0].steps[0].may).toBe('');
  });

  it('stands nothing of it where it is not known, or was done', () => {
    const plain = wallSheet(planned);
    expect([plain.sure, ...plain.lanes[0].steps.map((s) => s.may)].join('')).toBe('');
    const { plan } = lived(anyPiece(2), tableFor, { seed: 5, from: START, slips: 0, often: 1 });
    const done = evaluate(plan);
    const told = forecastOf(done, tableFor, { seed: 1, count: 20 });
    expect(
      wallSheet(done, told)
        .lanes[0].steps.map((s) => s.may)
        .join(''),
    ).toBe('');
  });
});

describe('what would make it surer', () => {
  const planned = evaluate(demo('tide-ladder'));
  const forecast = forecastOf(planned, tableFor, { seed: 1, count: 120 });
  const ways = [...surerWays(planned, forecast, tableFor, 1)];

  it('is a longer start, a shorter goal and others, each as sure as it says', () => {
    expect(ways.map((w) => w.id)).toEqual(expect.arrayContaining(['longer start', 'shorter goal']));
    for (const way of ways) {
      expect(way.title).toMatch(/^(Draw it|Start with|Ask for)/);
      expect(way.reaches).toBeGreaterThan(forecast.reached / forecast.runs);
      const again = forecastOf(evaluate(way.plan), tableFor, { seed: 1, count: 120 });
      expect(again.reached / again.runs).toBeCloseTo(way.reaches, 9);
      expect(way.plan.records).toBeUndefined();
      expect(way.plan.name).toBe(planned.plan.name);
    }
    const best = Math.max(...ways.map((w) => w.reaches));
    expect(best).toBeGreaterThanOrEqual(0.95);
    expect(best).toBeGreaterThan(forecast.reached / forecast.runs);
  });

  it('names the bar of every start where there are several', () => {
    const quilt = evaluate(demo('quarry-quilt'));
    const told = forecastOf(quilt, tableFor, { seed: 1, count: 60 });
    const longer = [...surerWays(quilt, told, tableFor, 1)].find((w) => w.id === 'longer start')!;
    expect(longer.title).toMatch(/Start with P length [\d /]+", Q length [\d /]+"$/);
  });

  it('is nothing where it is sure already', () => {
    const modest = evaluate({ ...planned.plan, goal: { ...planned.plan.goal, lengthMm: 100, widthMm: 30 } });
    const sure = forecastOf(modest, tableFor, { seed: 1, count: 60 });
    expect(sure.reached).toBe(60);
    expect([...surerWays(modest, sure, tableFor, 1)]).toEqual([]);
  });
});
