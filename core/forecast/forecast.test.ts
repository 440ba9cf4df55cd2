import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { type Belief, type NumberId, beliefFrom, ownNumber, subjectOf, tableFor } from '../learning/index.ts';
import {
  type Evaluation,
  type Plan,
  allSteps,
  elementOn,
  evaluate,
  readPlan,
  sideMark,
} from '../plan/index.ts';
import { sizeOf } from '../billet/billet.ts';
import { massKg } from '../materials/volumes.ts';
import { wallSheet } from '../print/wall.ts';
import { formatLength } from '../units/length.ts';
import { eachWork } from '../tests/work.ts';
import { drawSquare, evaluated, planOfLanes, stackOf, weldIt } from '../tests/plans.ts';
import { anyPiece, hiddenShop, yearOf } from '../tests/shops.ts';
import {
  Chance,
  forecastOf,
  foretelling,
  happeningBy,
  inHundredSaid,
  keptOf,
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

  it('says what comes of several numbers together where whole tiles drop out', () => {
    const planned = evaluate(demo('salt-marsh'));
    const { doubt, finished } = forecastOf(planned, tableFor, { seed: 2, count: 300 });
    expect(finished!.lengthMm.high - finished!.lengthMm.low).toBeGreaterThan(20);
    const sum = doubt.reduce((s, d) => s + d.share, 0);
    expect(sum).toBeGreaterThan(0.4);
    expect(sum).toBeLessThan(1.1);
  });

  it('says how large a repeat of the end grain on the face may come, and how heavy the bar', () => {
    const planned = evaluate(demo('salt-marsh'));
    const known = forecastOf(planned, sureBut(planned.plan), { seed: 1, count: 3 });
    const is = elementOn(planned, sideMark(planned)!)!;
    expect(known.face!.alongMm.low).toBeCloseTo(is.alongMm, 6);
    expect(known.face!.acrossMm.high).toBeCloseTo(is.acrossMm, 6);
    const massIs = massKg(planned.goal.bar!.volumes, planned.shop.materials);
    // Of one steel in place of several it weighs a little otherwise.
    expect(Math.abs(known.finished!.massKg.middle / massIs - 1)).toBeLessThan(0.02);
    const told = forecastOf(planned, tableFor, { seed: 1, count: 60 });
    expect(told.face!.alongMm.high).toBeGreaterThan(told.face!.alongMm.low);
    // A bar that lies along has no end grain on its face.
    expect(forecastOf(evaluated(anyPiece(2)), tableFor, { seed: 1, count: 5 }).face).toBeNull();
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
        of: subjectOf('kerf', plan.shop),
        value: 3,
        sure: 0.05,
        spread: 0.1,
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

describe('a promise', () => {
  const evidence = yearOf(4, 8);
  const piece = (writing: object) =>
    lived(anyPiece(50), hiddenShop(4), {
      ...{ seed: 50, from: '2027-03-02T08:00:00.000Z', slips: 0, often: 1 },
      ...writing,
    }).plan;

  it('is what was foretold before the first record, held against what came', () => {
    const plan = piece({});
    const { length, hours } = keptOf(plan, evidence)!;
    const came = evaluate(plan).goal.sizes!.lengthMm;
    expect(length!.came).toBeCloseTo(came, 6);
    expect(length!.isKept).toBe(came >= length!.promised.low && came <= length!.promised.high);
    expect(hours!.came).toBeGreaterThan(1);
    // What was learned afterwards was not known then.
    const later = evidence.map((e) => ({ ...e, at: '2028-01-01T00:00:00.000Z' }));
    expect(keptOf(plan, later)).toEqual(keptOf(plan, []));
    expect(keptOf(plan, evidence)!.length!.promised).not.toEqual(keptOf(plan, [])!.length!.promised);
  });

  it('is not judged of a piece that is not done, nor of a length that nobody measured', () => {
    const plan = piece({});
    expect(keptOf({ ...plan, records: plan.records!.slice(0, -1) }, evidence)).toBeNull();
    expect(keptOf({ ...plan, records: [] }, evidence)).toBeNull();
    const bare = plan.records!.map((r) => ({ ...r, pieces: [] }));
    expect(keptOf({ ...plan, records: bare }, evidence)!.length).toBeNull();
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
    const two = planOfLanes({
      a: [stackOf(5), weldIt, drawSquare(20)],
      b: [stackOf(7), weldIt, drawSquare(20)],
      goal: [
        ['assemble', { columns: 2, rows: 1, layout: 'alike', from: ['a', 'b'] }],
        weldIt,
        ['draw', { shape: 'flat', widthMm: 40, thicknessMm: 10, heats: 2 }],
      ],
    });
    const planned = evaluated(two);
    const lengthMm = planned.goal.sizes!.lengthMm;
    const short = evaluated({ ...two, goal: { ...two.goal, lengthMm, widthMm: 36, thicknessMm: 10 } });
    const told = forecastOf(short, tableFor, { seed: 1, count: 60 });
    const longer = [...surerWays(short, told, tableFor, 1)].find((w) => w.id === 'longer start')!;
    expect(longer.title).toMatch(/Start with P length [\d.]+ mm, Q length [\d.]+ mm$/);
  });

  it('is nothing where it is sure already', () => {
    const modest = evaluate({ ...planned.plan, goal: { ...planned.plan.goal, lengthMm: 100, widthMm: 30 } });
    const sure = forecastOf(modest, tableFor, { seed: 1, count: 60 });
    expect(sure.reached).toBe(60);
    expect([...surerWays(modest, sure, tableFor, 1)]).toEqual([]);
  });
});
