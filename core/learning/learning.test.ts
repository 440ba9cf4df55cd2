import { describe, expect, it } from 'vitest';
import { readFileSync } from 'node:fs';
import { type Pace, heldAfter, quoteOf, tasksOf } from '../days/index.ts';
import { forecastOf, lived } from '../forecast/index.ts';
import { type Plan, evaluate, makeStepOf, readPlan } from '../plan/index.ts';
import type { BenchRecord, PieceCame } from '../records/record.ts';
import { type Filling, USUAL_TAP } from '../canister/can.ts';
import { makeShop, shopSchema } from '../shop/shop.ts';
import { cutInto, drawSquare, evaluated, planOf, stackOf, weldIt } from '../tests/plans.ts';
import { anyPiece, hiddenShop, yearOf } from '../tests/shops.ts';
import {
  type Belief,
  type Evidence,
  type Known,
  NUMBER_IDS,
  type NumberId,
  beliefFrom,
  calibrated,
  evidenceOf,
  experienceFor,
  experienceFrom,
  learnedFrom,
  numberOf,
  paceFrom,
  proposalsFor,
  sortOf,
  sortSaid,
  subjectOf,
  subjectSaid,
  sureSaid,
  tableFor,
  timesFrom,
  valueSaid,
} from './index.ts';

/** Numbers that are the same every time, some of them other than the table's. */
const always =
  (other: Partial<Record<NumberId, number>>): Belief =>
  (number) => ({ value: other[number] ?? tableFor(number).value, sure: 0, spread: 0 });

const asMade = (plan: Plan, truth: Belief): Evidence[] =>
  evidenceOf(evaluate(lived(plan, truth, { seed: 3, from: START, slips: 0, often: 1 }).plan));
const START = '2026-03-02T08:00:00.000Z';

const of = (evidence: readonly Evidence[], number: NumberId): Evidence[] =>
  evidence.filter((e) => e.number === number);

const demo = (name: string): Plan => {
  const read = readPlan(JSON.parse(readFileSync(`server/demo/${name}.json`, 'utf8')));
  if (!read.ok) throw new Error(read.problems[0].message);
  return read.plan;
};

describe('what records say', () => {
  const other = {
    scale: 0.018,
    kerf: 1.6,
    crop: 12,
    faying: 0.6,
    turn: 3,
    section: 0.004,
    minutes: 1.4,
  } as const;
  const evidence = asMade(anyPiece(2), always(other));

  it.each(Object.entries(other) as [NumberId, number][])(
    'is the true %s of a shop, within the errors of measuring',
    (number, is) => {
      const own = of(evidence, number).filter((e) => !e.isAtMost);
      expect(own.length).toBeGreaterThan(0);
      for (const { value, error } of own)
        expect(Math.abs(value - is), `${number} ${value}`).toBeLessThan(4 * error + 0.02 * is + 0.001);
    },
  );

  it('is how much wider a bar spread than the relation says, where its height alone was pressed', () => {
    const [seen, ...more] = of(asMade(anyPiece(3), always({ spread: 1.2 })), 'spread');
    expect(more).toEqual([]);
    expect(Math.abs(seen.value - 1.2)).toBeLessThan(3 * (seen.error + (seen.shared ?? 0)));
    expect(of(evidence, 'spread')).toEqual([]);
  });

  it('is what a powder was shaken down to, by what the filled can weighed', () => {
    const plan = demo('hailstorm');
    const can = plan.lanes[0].steps[0];
    const filled = evaluate(plan).lanes[0].steps[0].after!;
    const weigh = (kg: number): PieceCame[] => [{ piece: '1', massKg: kg }];
    const whole = Object.entries(filled[0].volumes).reduce((sum, [, mm3]) => sum + mm3 * 7850e-9, 0);
    const seen = (pieces: PieceCame[]) =>
      of(
        evidenceOf(
          evaluate({
            ...plan,
            records: [
              { id: 'r', step: can.id, kind: 'came', began: START, ended: START, written: START, pieces },
            ],
          }),
        ),
        'tap',
      );
    const [light] = seen(weigh(0.98 * whole));
    const [heavy] = seen(weigh(1.02 * whole));
    expect(light.value).toBeLessThan(heavy.value);
    expect(light.of).toBe(subjectOf('tap', plan.shop, can));
    expect(subjectSaid('tap', light.of, makeShop())).toBe('15N20, tapped down');
    // Without a weight nothing is known of it.
    expect(seen([{ piece: '1', lengthMm: filled[0].lengthMm }])).toEqual([]);
  });

  it('is the share that a powder really fills, of a can that was weighed when it was full', () => {
    const [seen] = of(asMade(demo('hailstorm'), always({ tap: 0.57 })), 'tap');
    expect(Math.abs(seen.value - 0.57)).toBeLessThan(3 * seen.error);
  });

  it('is nothing of test pieces, of what is still being done, and without records', () => {
    const { plan } = lived(anyPiece(2), always(other), { seed: 3, from: START, slips: 0, often: 1 });
    const changed = (change: object): Plan => ({
      ...plan,
      records: plan.records!.map((r) => ({ ...r, ...change })),
    });
    expect(evidenceOf(evaluate(changed({ kind: 'test' })))).toEqual([]);
    expect(evidenceOf(evaluate(changed({ ended: undefined })))).toEqual([]);
    expect(evidenceOf(evaluate(anyPiece(2)))).toEqual([]);
  });

  it('is no kerf where the bar was cropped since it was measured, nor where it was not', () => {
    const { plan } = lived(anyPiece(2), always(other), { seed: 3, from: START, slips: 0, often: 1 });
    const cut = plan.lanes[0].steps.findIndex((s) => s.kind === 'cut');
    const { steps } = plan.lanes[0];
    const crop = makeStepOf('cropped', 'crop', { endAMm: 4, endBMm: 4 });
    const cropped = { ...plan, lanes: [{ ...plan.lanes[0], steps: steps.toSpliced(cut, 0, crop) }] };
    expect(of(evidenceOf(evaluate(plan)), 'kerf')).toHaveLength(1);
    expect(of(evidenceOf(evaluate(cropped)), 'kerf')).toEqual([]);
    const before = steps[cut - 1].id;
    const unmeasured = { ...plan, records: plan.records!.filter((r) => r.step !== before) };
    expect(of(evidenceOf(evaluate(unmeasured)), 'kerf')).toEqual([]);
    // Of what was measured twice the later counts.
    const [kerf] = of(evidenceOf(evaluate(plan)), 'kerf');
    const again = plan.records!.map((r) =>
      r.step === before ? { ...r, pieces: [{ piece: '1', lengthMm: 999 }, ...r.pieces!] } : r,
    );
    expect(of(evidenceOf(evaluate({ ...plan, records: again })), 'kerf')[0].value).toBeCloseTo(kerf.value, 9);
  });

  it('counts a move once, however many pieces it was done to', () => {
    const grind = of(evidence, 'faying').filter((e) => e.step === of(evidence, 'faying')[0].step);
    // Four pieces, ground on two pairs of faces.
    expect(grind).toHaveLength(2);
  });
});

describe('numbers by the clock', () => {
  const finish = [
    'etch',
    { purpose: 'finish', partsWater: 3, dips: 4, minutesEach: 15, coffeeH: 0 },
  ] as const;
  const plan = planOf([stackOf(5), weldIt, drawSquare(20), finish]);
  const [, , draw, etch] = plan.lanes[0].steps;
  const written = (step: string, more: Partial<BenchRecord>): BenchRecord => ({
    ...{ id: step, step, kind: 'came', began: START, ended: START, written: START },
    ...more,
  });
  const seen = (...records: BenchRecord[]) => evidenceOf(evaluate({ ...plan, records }));

  it('are how long it cooled, against the law for still air', () => {
    const should = heldAfter(evaluated(plan).lanes[0].steps[2].after!, makeShop()) / 60;
    // A 20 mm square from the dies to the hand: about an hour on the floor (common practice, no source).
    expect(should).toBeGreaterThan(40);
    expect(should).toBeLessThan(90);
    const [cooled, ...more] = of(seen(written(draw.id, { coolMin: 40 })), 'cooling');
    expect(more).toEqual([]);
    expect(cooled.value).toBeCloseTo(40 / should, 9);
    expect(of(seen(written(draw.id, {})), 'cooling')).toEqual([]);
  });

  it('are how long it lay in the bath, against four dips of a quarter of an hour', () => {
    const [lay] = of(seen(written(etch.id, { bathMin: 90 })), 'etch');
    expect(lay.value).toBeCloseTo(1.5, 9);
    expect(of(seen(written(etch.id, {})), 'etch')).toEqual([]);
  });

  it('are the bite as it was, against the plan', () => {
    const [bite] = of(seen(written(draw.id, { biteMm: 24 })), 'bite');
    expect(bite.value).toBeCloseTo(24 / makeShop().biteMm, 9);
    expect(of(seen(written(etch.id, { biteMm: 24 })), 'bite')).toEqual([]);
  });

  it('make the days longer where they were measured, and nowhere else', () => {
    const measured = (number: NumberId, subject: string, value: number): Known => ({
      ...{ number, of: subject, value, sure: 0.05, spread: 0.1 },
    });
    const pace = paceFrom(
      beliefFrom([
        measured('heats', 'draw', 2),
        measured('minutes', 'weld', 1.5),
        measured('cooling', 'Our shop', 1.25),
        measured('etch', 'Our shop', 3),
      ]),
    );
    const legs = (p?: Pace) => {
      const sawn = planOf([stackOf(5), weldIt, drawSquare(20), cutInto(2), finish]);
      return tasksOf('p', evaluated(sawn), p).map((t) => t.legs);
    };
    const [plain, paced] = [legs(), legs(pace)];
    const heats = (all: typeof plain, i: number) => all[i].filter((l) => l.what === 'heat');
    expect(paced[0]).toEqual(plain[0]);
    expect(heats(paced, 2)).toHaveLength(2 * heats(plain, 2).length);
    expect(heats(paced, 1)).toHaveLength(heats(plain, 1).length);
    expect(heats(paced, 1)[0].soakS).toBeCloseTo(1.5 * heats(plain, 1)[0].soakS, 6);
    const lasts = (all: typeof plain, what: 'cool' | 'lies') =>
      all.flat().reduce((s, l) => s + (l.what === what ? l.seconds : 0), 0);
    expect(lasts(paced, 'cool')).toBeCloseTo(1.25 * lasts(plain, 'cool'), 6);
    expect(lasts(paced, 'lies')).toBeCloseTo(3 * lasts(plain, 'lies'), 6);
    expect(lasts(plain, 'lies')).toBe(3600);
    // What a maker quotes from is longer by as much.
    const hours = (p?: Pace) => quoteOf(evaluated(plan), p).rows.find((r) => r.what === 'Work')!.amount;
    expect(hours(pace)).toBeGreaterThan(1.3 * hours());
    expect(hours(paceFrom(beliefFrom([])))).toBe(hours());
  });
});

describe('sorts of moves', () => {
  const base: Evidence = {
    ...{ number: 'scale', of: 'Our shop', value: 0.01, error: 0.0005, step: 's', kind: 'draw' },
    ...{ at: START, setUp: 'Our shop', hasNickel: false },
  };
  const scale = (value: number, sort: string, count: number): Evidence[] =>
    Array.from({ length: count }, (_, i) => ({ ...base, sort, value: value * (1 + 0.05 * Math.sin(3 * i)) }));

  it('are told apart where two were measured often enough, and believed of their own', () => {
    const learned = learnedFrom([...scale(0.02, 's0', 8), ...scale(0.008, 's2', 8)]);
    expect(learned.map((l) => l.sort)).toEqual([undefined, 's0', 's2']);
    const belief = beliefFrom(learned);
    expect(belief('scale', 'Our shop', 's0').value).toBeCloseTo(0.02, 3);
    expect(belief('scale', 'Our shop', 's2').value).toBeCloseTo(0.008, 3);
    // Of a sort that was not measured the whole is believed.
    expect(belief('scale', 'Our shop', 's1').value).toBe(learned[0].value);
    expect(learnedFrom([...scale(0.02, 's0', 8), ...scale(0.008, 's2', 2)])).toHaveLength(1);
    // What a set-up is proposed is of all its moves.
    const field = proposalsFor(makeShop(), learned).map((p) => p.learned.sort);
    expect(field.every((sort) => sort === undefined)).toBe(true);
  });

  it('count in a plan run forward: thin bars that lose more come shorter', () => {
    const planned = evaluated(planOf([stackOf(5), weldIt, drawSquare(11), drawSquare(9)]));
    const told = (thin: number) => {
      const numbers = learnedFrom([
        ...scale(thin, 's0', 9),
        ...scale(0.01, 's1', 9),
        ...scale(0.01, 's2', 9),
      ]);
      return forecastOf(planned, beliefFrom(numbers), { seed: 1, count: 30 }).finished!.lengthMm.middle;
    };
    expect(told(0.05)).toBeLessThan(told(0.01));
  });

  it('are the least side, and the mass', () => {
    const shop = makeShop();
    const [stack, weld, drawn] = evaluated(planOf([stackOf(5), weldIt, drawSquare(10)])).lanes[0].steps;
    const to = (result: typeof stack) => ({ step: result.step, before: result.before, shop });
    expect(sortOf('scale', to(stack))).toBeNull();
    expect(sortOf('scale', { ...to(drawn), before: drawn.after! })).toBe('s0');
    expect(sortOf('minutes', to(weld))).toMatch(/^m[012]$/);
    expect(sortOf('kerf', to(weld))).toBeNull();
    const inches = makeShop({ lengths: { unit: 'in', division: 32 }, masses: 'lb' });
    expect(['s0', 's1', 's2', 'm0', 'm1'].map((s) => sortSaid(s, shop))).toEqual([
      'under 12 mm thick',
      '12 mm to 30 mm thick',
      'from 30 mm thick',
      'under 1 kg',
      '1 kg to 3 kg',
    ]);
    expect(sortSaid('s0', inches)).toBe('under 15/32" thick');
  });

  it('are not of another tool: each saw, grinder and way of filling has its own number, and begins where the table has it', () => {
    const band = makeShop();
    const abrasive = makeShop({ saw: 'abrasive saw' });
    const kerf = (shop: typeof band) => subjectOf('kerf', shop);
    expect(kerf(band)).not.toBe(kerf(abrasive));
    expect(subjectOf('scale', band)).toBe(subjectOf('scale', abrasive));
    expect(tableFor('kerf', kerf(abrasive)).value).toBe(2.5);
    expect(tableFor('faying', subjectOf('faying', makeShop({ grinder: 'belt' }))).value).toBe(0.8);
    expect(tableFor('kerf', 'a saw that is gone')).toEqual(tableFor('kerf'));
    const cut = (of: string, value: number): Evidence[] =>
      Array.from({ length: 8 }, () => ({ ...base, number: 'kerf', of, value, error: 0.05 }));
    const learned = learnedFrom([...cut(kerf(band), 1.3), ...cut(kerf(abrasive), 2.9)]);
    expect(learned.map((l) => [l.of, l.table.value])).toEqual([
      [kerf(band), 1],
      [kerf(abrasive), 2.5],
    ]);
    expect(proposalsFor(band, learned).map((p) => p.to)).toEqual([1.3]);
    expect(proposalsFor({ ...abrasive, kerfMm: 2.5 }, learned).map((p) => p.to)).toEqual([2.9]);
    // A plan is run forward with the number of its own saw.
    const told = ({ name, saw }: typeof band) => {
      const planned = evaluate({ ...anyPiece(2), shop: shopSchema.parse({ name, saw }) });
      return forecastOf(planned, beliefFrom(learned), { seed: 1, count: 20 }).finished!.lengthMm.middle;
    };
    expect(told(abrasive)).toBeLessThan(told(band));
    const plan = { ...anyPiece(2), shop: shopSchema.parse({ name: 'Hidden shop', saw: 'abrasive saw' }) };
    expect(of(asMade(plan, always({})), 'kerf').map((e) => subjectSaid('kerf', e.of, band))).toEqual([
      'Hidden shop, abrasive saw',
    ]);
  });
});

describe('a shop of hidden numbers', () => {
  const years = Array.from({ length: 25 }, (_, i) => ({ shop: i + 1, evidence: yearOf(i + 1, 20) }));

  it('is known after twenty pieces, with errors of measuring and one entry in twenty a slip', () => {
    const sum = new Map<NumberId, { within: number; count: number; learned: number; table: number }>();
    for (const { shop, evidence } of years) {
      const truth = hiddenShop(shop);
      for (const l of learnedFrom(evidence)) {
        if (l.count < 8 || l.sort !== undefined) continue;
        const is = truth(l.number, l.of).value;
        const row = sum.get(l.number) ?? { within: 0, count: 0, learned: 0, table: 0 };
        row.count++;
        if (Math.abs(l.value - is) <= 2 * l.sure) row.within++;
        row.learned += Math.abs(l.value - is) / tableFor(l.number).sure;
        row.table += Math.abs(tableFor(l.number).value - is) / tableFor(l.number).sure;
        sum.set(l.number, row);
      }
    }
    const all = [...sum.values()].reduce((a, b) => ({
      within: a.within + b.within,
      count: a.count + b.count,
      learned: a.learned + b.learned,
      table: a.table + b.table,
    }));
    expect(all.count).toBeGreaterThan(500);
    expect(all.within / all.count).toBeGreaterThan(0.9);
    expect(all.learned / all.table).toBeLessThan(1 / 3);
    expect([...sum.keys()].sort()).toEqual([...NUMBER_IDS].sort());
  });

  it('has the true length of 75 to 85 of 100 more pieces in the band that is foretold, before anything is learned and after: then far narrower', () => {
    const before = { held: 0, wide: 0 };
    const after = { held: 0, wide: 0 };
    for (const { shop, evidence } of years) {
      const belief = beliefFrom(learnedFrom(evidence));
      for (let i = 0; i < 8; i++) {
        const seed = 500_000 + 10 * shop + i;
        const planned = evaluate(anyPiece(seed));
        const { really } = lived(planned.plan, hiddenShop(shop), { seed, from: START, slips: 0, often: 0 });
        const { lengthMm } = really.goal.sizes!;
        for (const [by, sum] of [
          [tableFor as Belief, before],
          [belief, after],
        ] as const) {
          const { low, high } = forecastOf(planned, by, { seed, count: 60 }).finished!.lengthMm;
          if (lengthMm >= low && lengthMm <= high) sum.held++;
          sum.wide += high - low;
        }
      }
    }
    for (const { held } of [before, after]) {
      expect(held).toBeGreaterThanOrEqual(150);
      expect(held).toBeLessThanOrEqual(170);
    }
    expect(after.wide).toBeLessThan(0.6 * before.wide);
  });

  const { evidence } = years[3];
  const learned = learnedFrom(evidence);
  const shop = makeShop({ name: 'Hidden shop' });

  it('is proposed its own numbers, only those that plainly differ, each one that a set-up may have', () => {
    const truth = hiddenShop(4);
    const proposals = proposalsFor(shop, learned);
    expect(proposals.map((p) => p.field)).toContain('kerfMm');
    for (const { learned: l, has, to, text } of proposals) {
      const is = truth(l.number, l.of).value;
      expect(Math.abs(to - is)).toBeLessThan(Math.abs(has - is));
      expect(text).toContain(numberOf(l.number).title);
      expect(text).toContain(`${l.count} times measured`);
    }
    // Once taken nothing is proposed; nor to a set-up that was not worked with.
    const taken = { ...shop, ...Object.fromEntries(proposals.map((p) => [p.field, p.to])) };
    expect(proposalsFor(taken, learned)).toEqual([]);
    expect(proposalsFor({ ...shop, name: 'Another' }, learned)).toEqual([]);
    // Nothing is proposed of what was seen a few times only.
    expect(proposalsFor(shop, learnedFrom(evidence.slice(0, 12)))).toEqual([]);
  });

  it('is proposed to take less in a pass where more passes were counted than planned, in its own set-up only', () => {
    const counted = (value: number, setUp = 'Hidden shop'): Evidence[] =>
      Array.from({ length: 8 }, (_, i) => ({
        ...of(evidence, 'passes')[0],
        of: 'draw',
        value: value * (1 + 0.02 * Math.sin(3 * i)),
        setUp,
      }));
    const taken = (all: Evidence[]) =>
      proposalsFor(shop, learnedFrom(all)).map(({ field, to }) => [field, to]);
    // 1 − 0.85^(1 ÷ 1.5) = 0.103.
    expect(taken(counted(1.5))).toEqual([['reductionPerPass', 0.1]]);
    expect(taken(counted(1.5, 'Another'))).toEqual([]);
    expect(taken(counted(1))).toEqual([]);
  });

  it('is believed as it was learned, and as the table has it where nothing was measured', () => {
    const belief = beliefFrom(learned, { kerf: 2 });
    const kerf = learned.find((l) => l.number === 'kerf')!;
    expect(belief('kerf', subjectOf('kerf', shop))).toEqual({
      value: kerf.value,
      sure: 2 * kerf.sure,
      spread: 2 * kerf.spread,
    });
    expect(belief('kerf', 'Another')).toEqual({ ...tableFor('kerf'), sure: 0.8, spread: 0.2, isTable: true });
    expect(belief('tap', 'steel')).toEqual({ ...tableFor('tap'), isTable: true });
  });

  it('keeps what was promised of it, seven to nine times in ten', () => {
    const calibrations = calibrated(evidence);
    const [held, count] = calibrations.reduce(([h, n], c) => [h + c.held, n + c.count], [0, 0]);
    expect(count).toBeGreaterThan(300);
    expect(held / count).toBeGreaterThan(0.7);
    expect(held / count).toBeLessThan(0.9);
    expect(Object.keys(timesFrom(calibrations))).toEqual(calibrations.map((c) => c.number));
  });

  it('has its bands widened where more lay outside them than was promised, and narrowed where less did', () => {
    const around = (far: number): Evidence[] =>
      Array.from({ length: 60 }, (_, i) => ({
        ...of(evidence, 'minutes')[0],
        of: 'weld',
        value: 1 + far * Math.sin(7 * i * i),
        error: 0,
        at: new Date(Date.UTC(2026, 0, i + 1)).toISOString(),
      }));
    // From here on it differs far more than it did before.
    const calm = around(0.02).map((e) => ({ ...e, at: e.at.replace('2026', '2025') }));
    const [{ times: narrow, held }] = calibrated(calm);
    expect(held).toBe(60);
    expect(narrow).toBeLessThan(1);
    const sudden = [...calm.slice(0, 30), ...around(4)];
    expect(calibrated(sudden)[0].times).toBeGreaterThan(1);
  });
});

describe('what experience says', () => {
  const made = (number: NumberId, value: number, count: number, more: Partial<Evidence> = {}): Evidence[] =>
    Array.from({ length: count }, (_, i) => ({
      number,
      of: 'No. 6 reinforcing bar',
      value: value * (1 + 0.04 * Math.sin(5 * i)),
      error: 0.01 * Math.abs(value),
      step: 's',
      kind: 'resquare',
      at: new Date(Date.UTC(2026, 0, i + 1)).toISOString(),
      setUp: 'Our shop',
      hasNickel: false,
      ...more,
    }));
  const shop = makeShop();

  it('is that re-squares with a handle come out turned, before the next one and only there', () => {
    const evidence = made('turn', 3.5, 4);
    const learned = learnedFrom(evidence);
    const [said, ...more] = experienceFrom(evidence, learned, shop);
    expect(more).toEqual([]);
    expect(said.text).toMatch(
      /^Re-squares with “No\. 6 reinforcing bar” came out [23]\.\d° too far \(4 times\)\.$/,
    );
    const steps = evaluate(anyPiece(2)).lanes[0].steps;
    const before = (kind: string) =>
      experienceFor(
        steps.find((s) => s.step.kind === kind)!,
        shop,
        evidence,
        learned,
      ).length;
    expect(before('resquare')).toBe(1);
    expect(before('draw')).toBe(0);
    // Twice is no experience, nor is what the table has.
    expect(experienceFrom(evidence.slice(0, 2), learnedFrom(evidence.slice(0, 2)), shop)).toEqual([]);
    expect(experienceFrom([], learnedFrom(made('turn', 0.1, 9)), shop)).toEqual([]);
  });

  it('is that bars bearing nickel lose more scale in the same fire, where both were weighed often enough', () => {
    const fire = { of: 'Our shop', kind: 'draw' } as const;
    const plain = made('scale', 0.01, 8, fire);
    const nickel = made('scale', 0.02, 8, { ...fire, hasNickel: true });
    const both = [...plain, ...nickel];
    const [said] = experienceFrom(both, learnedFrom(both), shop);
    expect(said.text).toMatch(
      /^In the fire of “Our shop” bars that bear nickel lose (1\.[89]|2\.\d) times the scale/,
    );
    const few = [...plain, ...nickel.slice(0, 2)];
    expect(experienceFrom(few, learnedFrom(few), shop)).toEqual([]);
  });

  it('is that a powder fills differently by the way it is filled, before a can that is filled so', () => {
    const can = evaluate(demo('hailstorm')).lanes[0].steps[0];
    const filled = (filling: Filling) => {
      const step = { ...can.step, parameters: { ...can.step.parameters, powder: '1084', filling } };
      return { ...can, step } as typeof can;
    };
    const of = (filling: Filling) => subjectOf('tap', shop, filled(filling).step);
    const tapped = made('tap', 0.56, 6, { of: of('tapped'), kind: 'can' });
    const shaken = made('tap', USUAL_TAP.shaken, 6, { of: of('shaken'), kind: 'can' });
    const evidence = [...tapped, ...shaken];
    const texts = experienceFrom(evidence, learnedFrom(evidence), shop).map((e) => e.text);
    expect(texts).toHaveLength(1);
    expect(texts[0]).toMatch(/^This powder, tapped down, filled to 5\d\.\d %, not 62\.0 % \(6 times\)/);
    const at = (filling: Filling) =>
      experienceFor(filled(filling), shop, evidence, learnedFrom(evidence)).length;
    expect([at('tapped'), at('shaken')]).toEqual([1, 0]);
  });

  it('is that a move takes more heats than planned', () => {
    const evidence = made('heats', 1.6, 6, { of: 'draw', kind: 'draw' });
    const [said] = experienceFrom(evidence, learnedFrom(evidence), shop);
    expect(said.text).toMatch(/^“Draw out” took 1\.[56]\d times the heats that were planned \(6 times\)\.$/);
  });

  it('is that a powder filled to another share', () => {
    const evidence = made('tap', 0.55, 6, { of: '1084-powder\ntapped', kind: 'can' });
    const [said] = experienceFrom(evidence, learnedFrom(evidence), shop);
    expect(said.text).toMatch(/^This powder, tapped down, filled to 5[5-7]\.\d %, not 62\.0 %/);
  });
});

describe('numbers in words', () => {
  const inches = makeShop({ lengths: { unit: 'in', division: 32 } });
  const mm = makeShop();

  it('are written as the shop writes lengths, with a sign', () => {
    expect(valueSaid('kerf', 1.2, mm)).toBe('1.2 mm');
    expect(valueSaid('kerf', 1.27, inches)).toBe('0.05"');
    expect(valueSaid('scale', 0.0135, mm)).toBe('1.35 %');
    expect(valueSaid('tap', 0.585, mm)).toBe('58.5 %');
    expect(valueSaid('turn', -2.04, mm)).toBe('−2.0°');
    expect(valueSaid('twist', 10, inches)).toBe('3.0°/ft');
    expect(valueSaid('twist', 10, mm)).toBe('10.0°/m');
    expect(valueSaid('crop', 12.3, mm)).toBe('12.5 mm');
    expect(valueSaid('heats', 1.3, mm)).toBe('1.30 ×');
    expect(sureSaid('kerf', { value: 1.2, sure: 0.05, spread: 0.1 }, mm)).toBe(
      '1.2 mm, give or take 0.05 mm',
    );
  });

  it('say of what they are', () => {
    expect(subjectSaid('heats', 'draw', mm)).toBe('Draw out');
    expect(subjectSaid('tap', '1084', mm)).toBe('1084');
    expect(subjectSaid('kerf', 'Our shop', mm)).toBe('Our shop');
    expect(subjectSaid('minutes', 'a move that is gone', mm)).toBe('a move that is gone');
  });
});
