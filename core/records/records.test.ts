import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Billet, sizeOf, volumeOf } from '../billet/billet.ts';
import { codeAt } from '../billet/fields/field.ts';
import { addVolumes, massByMaterial, massKg, totalVolume } from '../materials/volumes.ts';
import {
  type Evaluation,
  type Plan,
  allSteps,
  asPlanned,
  evaluate,
  readPlan,
  stepResult,
  withRecords,
} from '../plan/index.ts';
import { anyRecords, asReckoned, cameOf } from '../tests/records.ts';
import {
  FLOWS,
  anyPlan,
  cutInto,
  drawSquare,
  evaluated,
  fourWay,
  planOf,
  planOfLanes,
  stackOf,
  weldIt,
} from '../tests/plans.ts';
import { type BenchRecord, type PieceCame, workedUntil } from './record.ts';
import { secondsOf } from './said.ts';

const stands = (plan: Plan, records: readonly BenchRecord[]): Evaluation =>
  evaluate(withRecords(plan, records), undefined, FLOWS);
const after = (e: Evaluation, step: string): readonly Billet[] => stepResult(e, step)!.after!;
const codes = (e: Evaluation, step: string): string[] => stepResult(e, step)!.findings.map((f) => f.code);

/** A plan with records that are likely and unlikely. */
const anyLog = anyPlan.chain((plan) => anyRecords(evaluated(plan)).map((records) => ({ plan, records })));

describe('over random plans with random records', () => {
  it('mass balances at every step, by material, with what is unaccounted for named; never more stands there than went in', () => {
    fc.assert(
      fc.property(anyLog, ({ plan, records }) => {
        const e = stands(plan, records);
        for (const s of allSteps(e).filter((r) => r.after)) {
          const kg = (...of: Parameters<typeof addVolumes>) =>
            massByMaterial(addVolumes(...of), e.shop.materials);
          const came = kg(...s.before.map((b) => b.volumes), s.added);
          const went = kg(...s.after!.map((b) => b.volumes), ...s.losses.map((l) => l.volumes));
          const whole = Object.values(came).reduce((a, b) => a + b, 0);
          for (const id of new Set([...Object.keys(came), ...Object.keys(went)]))
            expect(Math.abs((came[id] ?? 0) - (went[id] ?? 0)) / whole).toBeLessThan(1e-9);
          // Never more than went in, but for what caliper, rule and scale may be wrong by.
          const [left, gone] = [s.after!, s.losses].map((all) =>
            totalVolume(addVolumes(...all.map((l) => l.volumes))),
          );
          expect(left).toBeLessThan(1.02 * (left + gone) + 1);
          for (const b of s.after!)
            expect(
              Math.abs(volumeOf(b) / (totalVolume(b.volumes) + (b.can?.poresMm3 ?? 0)) - 1),
            ).toBeLessThan(1e-9);
        }
      }),
      { numRuns: 24 },
    );
  });

  it('the order in which they were entered does not matter, and they may come in one by one', () => {
    fc.assert(
      fc.property(anyLog, fc.nat(), ({ plan, records }, turn) => {
        const k = records.length > 0 ? turn % records.length : 0;
        const other = [...records.slice(k), ...records.slice(0, k)].reverse();
        const e = stands(plan, records);
        const sizes = (of: Evaluation) =>
          allSteps(of).map((s) => (s.after ?? []).map((b) => [sizeOf(b), b.lengthMm, b.volumes]));
        expect(sizes(stands(plan, other))).toEqual(sizes(e));
        const one = records.reduce(
          (last, _, i) => evaluate(withRecords(plan, records.slice(0, i + 1)), last, FLOWS),
          evaluated(plan),
        );
        expect(sizes(one)).toEqual(sizes(e));
      }),
      { numRuns: 10 },
    );
  });

  it('a record changes no step before it; taken back, all is as it was', () => {
    fc.assert(
      fc.property(anyLog, fc.nat(), ({ plan, records }, pick) => {
        fc.pre(records.length > 0);
        const e = stands(plan, records);
        const record = records[pick % records.length];
        const without = records.filter((r) => r !== record);
        const less = evaluate(withRecords(plan, without), e, FLOWS);
        const steps = allSteps(e);
        for (const [i, s] of allSteps(less).entries()) {
          if (s.step.id === record.step) break;
          expect(s.after).toBe(steps[i].after);
        }
        const again = evaluate(withRecords(plan, records), less, FLOWS);
        const sizes = (of: Evaluation) =>
          allSteps(of).map((s) => s.after?.map((b) => [sizeOf(b), b.lengthMm]));
        expect(sizes(again)).toEqual(sizes(e));
      }),
      { numRuns: 10 },
    );
  });

  it('recording exactly what was reckoned changes nothing: the same bars, no word', () => {
    fc.assert(
      fc.property(anyPlan, (plan) => {
        const planned = evaluated(plan);
        const records = allSteps(planned).map((s, k) => cameOf(s.step.id, asReckoned(planned, s), k));
        const e = evaluate(withRecords(plan, records), planned, FLOWS);
        for (const [i, s] of allSteps(e).entries()) {
          expect(s.after).toBe(allSteps(planned)[i].after);
          expect(s.findings).toEqual(allSteps(planned)[i].findings);
        }
        expect(e.goal).toEqual(planned.goal);
      }),
      { numRuns: 20 },
    );
  });
});

const BAR = planOf([stackOf(9, 40, 4, 200), weldIt, drawSquare(25), cutInto(4), fourWay('mirrored'), weldIt]);
const kg = (e: Evaluation, bars: readonly Billet[]) =>
  massKg(addVolumes(...bars.map((b) => b.volumes)), e.shop.materials);
const measured = (e: Evaluation, step: string, some: (bar: Billet) => Partial<PieceCame>): PieceCame[] =>
  asReckoned(e, stepResult(e, step)!).map(({ piece }, i) => ({ piece, ...some(after(e, step)[i]) }));

describe('what was measured', () => {
  const planned = evaluated(BAR);

  it('a section alone: the length follows from the steel that is there, and the picture goes along', () => {
    const e = stands(BAR, [cameOf('s3', [{ piece: '1', widthMm: 26, heightMm: 24 }])]);
    const [was, is] = [after(planned, 's3')[0], after(e, 's3')[0]];
    expect(sizeOf(is)).toEqual({ widthMm: 26, heightMm: 24 });
    expect(is.lengthMm * 26 * 24).toBeCloseTo(was.lengthMm * 25 * 25, 6);
    for (const [x, y] of [
      [0.3, 0.4],
      [-0.2, 0.1],
      [0.45, -0.45],
    ])
      expect(codeAt(is.field, 26 * x, 24 * y, is.lengthMm / 2)).toBe(
        codeAt(was.field, 25 * x, 25 * y, was.lengthMm / 2),
      );
    expect(stepResult(e, 's3')!.losses).toBe(stepResult(e, 's3')!.reckoned!.losses);
  });

  it('a length 4 % short: the steel is booked as unaccounted for, and said', () => {
    const e = stands(BAR, [
      cameOf(
        's3',
        measured(planned, 's3', (b) => ({ lengthMm: 0.96 * b.lengthMm })),
      ),
    ]);
    const lost = stepResult(e, 's3')!.losses.find((l) => l.cause === 'unaccounted')!;
    expect(totalVolume(lost.volumes) / totalVolume(after(planned, 's3')[0].volumes)).toBeCloseTo(0.04, 9);
    expect(codes(e, 's3')).toContain('unaccounted');
    expect(kg(e, after(e, 's3'))).toBeCloseTo(0.96 * kg(e, after(planned, 's3')), 9);
  });

  it('a weight alone gives the length; with sizes that do not agree with it one was misread', () => {
    const [bar] = after(planned, 's3');
    const whole = kg(planned, [bar]);
    const e = stands(BAR, [cameOf('s3', [{ piece: '1', massKg: 0.9 * whole }])]);
    expect(after(e, 's3')[0].lengthMm).toBeCloseTo(0.9 * bar.lengthMm, 9);
    const both = stands(BAR, [cameOf('s3', [{ piece: '1', massKg: 0.9 * whole, lengthMm: bar.lengthMm }])]);
    expect(codes(both, 's3')).toContain('mass and sizes');
    expect(after(both, 's3')[0].lengthMm).toBe(bar.lengthMm);
  });

  it('within what caliper and rule can tell, and read the same on the shop’s rule, it is what was reckoned', () => {
    const [bar] = after(planned, 's3');
    const near = [{ piece: '1', widthMm: 25.04, heightMm: 24.96, lengthMm: bar.lengthMm + 0.4 }];
    expect(after(stands(BAR, [cameOf('s3', near)]), 's3')[0].lengthMm).toBe(bar.lengthMm);
    const coarse = planOf([stackOf(9, 40, 4, 200), weldIt, drawSquare(25)], {
      shop: { lengths: { unit: 'in', division: 16 } },
    });
    const read = { piece: '1', widthMm: (25.4 * 16) / 16, heightMm: 25.4 };
    expect(after(stands(coarse, [cameOf('s3', [read])]), 's3')[0]).toEqual(after(evaluated(coarse), 's3')[0]);
  });

  it('more steel than went in is not believed: measure again', () => {
    const [bar] = after(planned, 's3');
    const e = stands(BAR, [cameOf('s3', [{ piece: '1', lengthMm: 1.2 * bar.lengthMm }])]);
    expect(codes(e, 's3')).toContain('more than went in');
    expect(after(e, 's3')[0].lengthMm).toBeCloseTo(bar.lengthMm, 9);
    // Less scale than reckoned is: it is booked as found.
    const scale = totalVolume(stepResult(planned, 's3')!.losses[0].volumes) / volumeOf(bar);
    const found = stands(BAR, [cameOf('s3', [{ piece: '1', lengthMm: (1 + 0.8 * scale) * bar.lengthMm }])]);
    expect(codes(found, 's3')).not.toContain('more than went in');
    expect(after(found, 's3')[0].lengthMm).toBeGreaterThan(bar.lengthMm);
  });

  it('a bar that tapers has the section of Simpson’s rule; without the middle that of the mean of its ends', () => {
    const ends = { endA: { heightMm: 24 }, endB: { heightMm: 28 } };
    const two = stands(BAR, [cameOf('s3', [{ piece: '1', ...ends }])]);
    expect(sizeOf(after(two, 's3')[0]).heightMm).toBeCloseTo(26, 9);
    const three = stands(BAR, [cameOf('s3', [{ piece: '1', heightMm: 25, ...ends }])]);
    expect(sizeOf(after(three, 's3')[0]).heightMm).toBeCloseTo((24 + 4 * 25 + 28) / 6, 9);
  });

  it('what is written on two days took neither the night between nor what came after its end', () => {
    const at = (day: number, hour: number) => new Date(Date.UTC(2026, 2, day, hour)).toISOString();
    let record: BenchRecord = { ...cameOf('s3', []), began: at(2, 18), written: at(2, 18), ended: undefined };
    const writeAt = (instant: string, some: Partial<BenchRecord> = {}) => {
      record = { ...record, workedS: workedUntil(record, instant), ...some, written: instant };
    };
    writeAt(at(2, 20));
    writeAt(at(3, 9));
    writeAt(at(3, 10), { ended: at(3, 10) });
    expect(secondsOf(record)).toBe(3 * 3600);
    writeAt(at(3, 11), { remark: 'a scratch' });
    expect(secondsOf(record)).toBe(3 * 3600);
    const { workedS, ...older } = record;
    expect(workedS).toBe(3 * 3600);
    expect(secondsOf(older)).toBe(16 * 3600);
  });

  it('more heats than planned cost scale; a test piece counts for nothing', () => {
    const more = stands(BAR, [cameOf('s3', [], 0, { heats: 5 })]);
    expect(kg(more, after(more, 's3'))).toBeLessThan(kg(planned, after(planned, 's3')));
    expect(stepResult(more, 's3')!.losses.map((l) => l.cause)).toEqual(['scale']);
    const test = stands(BAR, [cameOf('s3', [{ piece: '1', lengthMm: 10 }], 0, { kind: 'test' })]);
    expect(after(test, 's3')[0].lengthMm).toBe(after(planned, 's3')[0].lengthMm);
  });

  it('the picture turned at the ends, ends spoilt, a section that leans', () => {
    const e = stands(BAR, [
      cameOf('s3', [{ piece: '1', endA: { turnedDeg: 3, spoiltMm: 8 }, endB: { turnedDeg: 6 } }]),
    ]);
    const [was, is] = [after(planned, 's3')[0], after(e, 's3')[0]];
    expect(is.distorted!.endA * is.lengthMm).toBeCloseTo(8, 9);
    expect(is.field.variesAlongZ).toBe(true);
    expect(is.volumes).toEqual(was.volumes);
    const leans = stands(BAR, [cameOf('s3', [{ piece: '1', leansDeg: 5 }])]);
    expect(volumeOf(after(leans, 's3')[0])).toBeCloseTo(volumeOf(was), 6);
    expect(stepResult(leans, 's4')!.before[0].outline).not.toEqual(was.outline);
    const stack = stands(BAR, [cameOf('s1', [{ piece: '1', endA: { turnedDeg: 3 } }])]);
    expect(codes(stack, 's1')).toContain('ends not taken');
  });
});

describe('pieces', () => {
  it('one is scrapped: what lays it says which, and how many are left', () => {
    const e = stands(BAR, [cameOf('s4', [{ piece: '3', scrapped: 'cracked' }])]);
    expect(after(e, 's4').map((b) => b.piece!.number)).toEqual([1, 2, 4]);
    expect(codes(e, 's4')).toContain('scrapped');
    expect(stepResult(e, 's4')!.losses.map((l) => l.cause)).toContain('scrapped');
    expect(codes(e, 's5')).toEqual(['piece gone']);
    expect(e.goal.bar).toBeNull();
  });

  it('the others keep their numbers: nothing else slips into its place', () => {
    const [p, q] = ['p', 'q'];
    const plan = planOfLanes({
      [p]: [stackOf(9, 40, 4, 200), weldIt, drawSquare(25), cutInto(4)],
      [q]: [
        [
          'assemble',
          {
            columns: 2,
            rows: 1,
            layout: 'free',
            from: [p],
            places: [
              { lane: p, piece: 1, orientation: 'as it lies' },
              { lane: p, piece: 4, orientation: 'as it lies' },
            ],
          },
        ],
      ],
    });
    const planned = evaluated(plan);
    const [one, , , four] = after(planned, 'p4');
    const records = [
      cameOf('p4', [
        { piece: '3', scrapped: 'lost' },
        { piece: '4', lengthMm: four.lengthMm - 5 },
      ]),
    ];
    const e = stands(plan, records);
    const laid = stepResult(e, 'q1')!;
    expect(laid.before.map((b) => [b.piece!.mark, b.piece!.number])).toEqual([
      ['P', 1],
      ['P', 4],
    ]);
    expect(laid.after![0].lengthMm).toBeCloseTo(one.lengthMm - 5, 9);
    const gone = stands(plan, [
      cameOf('p4', [
        { piece: '4', scrapped: 'cracked' },
        { piece: '2', scrapped: 'lost' },
      ]),
    ]);
    expect(codes(gone, 'q1')).toEqual(['too few']);
    const middle = stands(plan, [cameOf('p4', [{ piece: '1', scrapped: 'cracked' }])]);
    expect(stepResult(middle, 'q1')!.findings[0].text).toMatch(/^Piece 1 of “p” is scrapped/);
  });

  it('chosen by their places as planned, though one before them is gone', () => {
    const plan = planOf([
      stackOf(9, 40, 4, 200),
      weldIt,
      drawSquare(25),
      cutInto(4),
      ['choose', { pieces: [2, 4] }],
    ]);
    const e = stands(plan, [cameOf('s4', [{ piece: '1', scrapped: 'cracked' }])]);
    expect(after(e, 's5').map((b) => b.piece!.number)).toEqual([2, 4]);
    const wanted = stands(plan, [cameOf('s4', [{ piece: '2', scrapped: 'cracked' }])]);
    expect(codes(wanted, 's5')).toEqual(['not there']);
  });

  it('all are scrapped: nothing is left to go on with', () => {
    const e = stands(BAR, [cameOf('s3', [{ piece: '1', scrapped: 'burnt' }])]);
    expect(stepResult(e, 's3')!.after).toBeNull();
    expect(codes(e, 's3')).toContain('all scrapped');
  });

  it('cut back, with the reason; more than there is cannot have been', () => {
    const planned = evaluated(BAR);
    const cut = (endAMm: number) =>
      stands(BAR, [cameOf('s4', [{ piece: '3', cropped: { endAMm, endBMm: 0, why: 'cracked' } }])]);
    const e = cut(16);
    expect(after(e, 's4')[2].lengthMm).toBeCloseTo(after(planned, 's4')[2].lengthMm - 16, 9);
    expect(stepResult(e, 's5')!.before).toHaveLength(4);
    expect(codes(cut(1000), 's4')).toContain('cut away');
  });

  it('a record of a piece that is not there is said, not lost in silence', () => {
    const e = stands(BAR, [cameOf('s4', [{ piece: '9', lengthMm: 50 }])]);
    expect(codes(e, 's4')).toContain('no such piece');
    const after3 = [
      cameOf('s4', [{ piece: '3', scrapped: 'cracked' }], 0),
      cameOf('s4', [{ piece: '3', lengthMm: 30 }], 1),
    ];
    expect(
      stepResult(stands(BAR, after3), 's4')!.findings.find((f) => f.code === 'no such piece')!.text,
    ).toMatch(/after it was scrapped/);
  });
});

describe('the plan file', () => {
  it('holds records, and gives them back; a plan of version 3 has none', () => {
    const plan = withRecords(BAR, [cameOf('s3', [{ piece: '1', lengthMm: 300 }])]);
    const read = readPlan(JSON.parse(JSON.stringify(plan)));
    expect(read).toEqual({ ok: true, plan });
    expect(asPlanned(plan)).toEqual(BAR);
    expect(readPlan({ ...BAR, version: 3 })).toEqual({ ok: true, plan: BAR });
  });

  it('names what is wrong with a record', () => {
    const record = cameOf('s3', [{ piece: '1', lengthMm: -3 }]);
    const read = readPlan({ ...BAR, records: [record, { ...record, began: 'yesterday' }] });
    expect(read.ok).toBe(false);
    if (!read.ok)
      expect(read.problems.map((p) => p.path)).toEqual([
        'records[0].pieces[0].lengthMm',
        'records[1].began',
        'records[1].pieces[0].lengthMm',
        'records[1].id',
      ]);
    const twice = readPlan({ ...BAR, records: [cameOf('s3', []), cameOf('s3', [])] });
    expect(!twice.ok && twice.problems[0].message).toMatch(/used twice/);
  });
});
