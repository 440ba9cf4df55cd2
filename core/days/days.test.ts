import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { airCoolingSeconds, coolingRate } from '../heat/cooling.ts';
import { withRecords } from '../plan/index.ts';
import { workSchema } from '../shop/shop.ts';
import {
  FLOWS,
  cutInto,
  drawSquare,
  evaluated,
  planOf,
  planOfLanes,
  stackOf,
  weldIt,
} from '../tests/plans.ts';
import { evaluate } from '../plan/index.ts';
import { cameOf } from '../tests/records.ts';
import { DAY_S, type WorkHours, hoursOf, openFrom } from './hours.ts';
import { type Slot, laidInDays } from './schedule.ts';
import { type Leg, type Task, tasksOf } from './tasks.ts';

const hours = (some: Partial<WorkHours> = {}): WorkHours => workSchema.parse(some);
/** Wall-clock seconds of an instant, as if its clock were UTC. */
const at = (text: string): number => Date.parse(`${text}Z`) / 1000;
const clock = (s: number): string => new Date(1000 * s).toISOString().slice(5, 16);
/** 2026-03-02 is a Monday. */
const MONDAY = '2026-03-02T08:00';
const min = (n: number): number => 60 * n;

describe('hours', () => {
  it('are the shop’s of its days, and the next ones after them', () => {
    const week = hours();
    expect(openFrom(week, at('2026-03-02T06:00'))).toEqual({
      fromS: at(MONDAY),
      toS: at('2026-03-02T17:00'),
    });
    expect(openFrom(week, at('2026-03-02T12:30'))!.fromS).toBe(at('2026-03-02T12:30'));
    // Friday's end leads to Monday; on the weekend's to Saturday.
    expect(openFrom(week, at('2026-03-06T17:00'))!.fromS).toBe(at('2026-03-09T08:00'));
    expect(openFrom(hours({ days: 'weekend' }), at(MONDAY))!.fromS).toBe(at('2026-03-07T08:00'));
    expect(openFrom(hours({ days: 'six' }), at('2026-03-07T09:00'))!.fromS).toBe(at('2026-03-07T09:00'));
    expect(openFrom(hours({ fromH: 9, toH: 9 }), at(MONDAY))).toBeNull();
  });
});

const task = (id: string, legs: Leg[], after: string[] = []): Task => ({ id, title: id, legs, after });
const heat = (soakMin: number, workMin: number): Leg => ({
  what: 'heat',
  soakS: min(soakMin),
  workS: min(workMin),
});
const bench = (minutes: number): Leg => ({ what: 'bench', seconds: min(minutes) });
const said = (slots: readonly Slot[]): string[] =>
  slots.map(
    (s) =>
      `${s.task} ${s.what} ${clock(s.fromS)} to ${clock(s.toS).slice(6)}${s.maker === null ? '' : ` by ${s.maker}`}`,
  );

describe('days', () => {
  it('one bar: the forge is hot first, every heat is a soak and the dies, and it cools before the saw', () => {
    const tasks = [
      task('weld', [heat(10, 3), heat(10, 3)]),
      task('cut', [{ what: 'cool', seconds: min(60) }, bench(30)], ['weld']),
    ];
    const { slots, ends, left } = laidInDays(tasks, hours(), at(MONDAY));
    expect(left).toEqual([]);
    expect(said(slots)).toEqual([
      'weld soak 03-02T08:20 to 08:30',
      'weld dies 03-02T08:30 to 08:33 by 0',
      'weld soak 03-02T08:33 to 08:43',
      'weld dies 03-02T08:43 to 08:46 by 0',
      'cut cool 03-02T08:46 to 09:46',
      'cut bench 03-02T09:46 to 10:16 by 0',
    ]);
    expect(clock(ends.get('cut')!)).toBe('03-02T10:16');
  });

  it('while one bar soaks another is at the dies, as many as the fire holds', () => {
    const two = [task('a', [heat(10, 3)]), task('b', [heat(10, 3)])];
    expect(said(laidInDays(two, hours(), at(MONDAY)).slots).at(-1)).toBe('b dies 03-02T08:33 to 08:36 by 0');
    expect(said(laidInDays(two, hours({ barsInFire: 1 }), at(MONDAY)).slots).at(-1)).toBe(
      'b dies 03-02T08:40 to 08:43 by 0',
    );
    expect(said(laidInDays(two, hours({ makers: 2 }), at(MONDAY)).slots).at(-1)).toBe(
      'b dies 03-02T08:30 to 08:33 by 1',
    );
  });

  it('no heat is begun that cannot be ended before the shop shuts; cold work is left and gone on with', () => {
    const late = at('2026-03-06T16:50');
    expect(said(laidInDays([task('a', [heat(10, 3)])], hours(), late).slots)[0]).toBe(
      'a soak 03-09T08:20 to 08:30',
    );
    expect(said(laidInDays([task('a', [bench(40)])], hours(), at('2026-03-06T16:40')).slots)).toEqual([
      'a bench 03-06T16:40 to 17:00 by 0',
      'a bench 03-09T08:00 to 08:20 by 0',
    ]);
    // A stretch too short to begin is left alone.
    expect(said(laidInDays([task('a', [bench(40)])], hours(), late).slots)[0]).toContain('03-09T08:00');
  });

  it('the kiln and what cools go on at night, one program after the other', () => {
    const kiln = (h: number): Leg => ({ what: 'kiln', seconds: 3600 * h });
    const { slots } = laidInDays(
      [task('a', [kiln(14)]), task('b', [kiln(2)])],
      hours(),
      at('2026-03-02T16:00'),
    );
    expect(said(slots)).toEqual(['a kiln 03-02T16:00 to 06:00', 'b kiln 03-03T08:00 to 10:00']);
  });

  it('says what cannot be laid: a heat longer than a day, a shop that never opens, a circle, and what comes after', () => {
    const why = (tasks: Task[], some: Partial<WorkHours> = {}) =>
      laidInDays(tasks, hours(some), at(MONDAY)).left.map((l) => l.why);
    expect(why([task('a', [heat(90, 5)]), task('b', [bench(1)], ['a'])], { toH: 10 })).toEqual([]);
    expect(why([task('a', [heat(98, 5)]), task('b', [bench(1)], ['a'])], { toH: 10 })).toEqual([
      'One heat of it takes longer than the shop is open with a hot forge.',
      'What comes before it cannot be laid.',
    ]);
    expect(why([task('a', [bench(1)])], { toH: 8 })).toEqual(['The shop is never open.']);
    expect(why([task('a', [bench(1)], ['b']), task('b', [], ['a'])])).toHaveLength(2);
  });

  it('of any tasks: nobody is in two places, the fire holds what it holds, hands and fire within the hours, one after the other', () => {
    const anyLeg = fc.oneof(
      fc.record({
        what: fc.constant('heat' as const),
        soakS: fc.double({ min: 60, max: 5000, noNaN: true }),
        workS: fc.integer({ min: 60, max: 600 }),
      }),
      fc.record({
        what: fc.constantFrom('bench' as const, 'cool' as const, 'kiln' as const),
        seconds: fc.double({ min: 1, max: 50_000, noNaN: true }),
      }),
    );
    const anyTasks = fc
      .array(
        fc.record({
          legs: fc.array(anyLeg, { maxLength: 4 }),
          back: fc.array(fc.integer({ min: 1, max: 4 }), { maxLength: 2 }),
        }),
        { maxLength: 14 },
      )
      .map((all) =>
        all.map(({ legs, back }, i) =>
          task(
            `t${i}`,
            legs as Leg[],
            back.filter((b) => b <= i).map((b) => `t${i - b}`),
          ),
        ),
      );
    const anyHours = fc.record({
      days: fc.constantFrom('week', 'six', 'weekend', 'all'),
      fromH: fc.double({ min: 0, max: 12, noNaN: true }),
      toH: fc.integer({ min: 16, max: 24 }),
      makers: fc.integer({ min: 1, max: 2 }),
      barsInFire: fc.integer({ min: 1, max: 3 }),
    });
    fc.assert(
      fc.property(anyTasks, anyHours, fc.integer({ min: 0, max: 14 * DAY_S }), (tasks, some, later) => {
        const shop = hours(some as Partial<WorkHours>);
        const nowS = at(MONDAY) + later;
        const { slots, ends, left } = laidInDays(tasks, shop, nowS);
        expect(left).toEqual([]);
        const most = (of: readonly Slot[]) =>
          Math.max(0, ...of.map((s) => of.filter((o) => o.fromS <= s.fromS && s.fromS < o.toS).length));
        for (let m = 0; m < shop.makers; m++)
          expect(most(slots.filter((s) => s.maker === m))).toBeLessThanOrEqual(1);
        expect(most(slots.filter((s) => s.what === 'soak'))).toBeLessThanOrEqual(shop.barsInFire);
        expect(most(slots.filter((s) => s.what === 'kiln'))).toBeLessThanOrEqual(1);
        for (const s of slots) {
          expect(s.fromS).toBeGreaterThanOrEqual(nowS);
          if (s.what === 'cool' || s.what === 'kiln') continue;
          const open = hoursOf(shop, Math.floor(s.fromS / DAY_S))!;
          expect(s.fromS).toBeGreaterThanOrEqual(open.fromS + (s.what === 'bench' ? 0 : min(shop.lightMin)));
          expect(s.toS).toBeLessThanOrEqual(open.toS);
        }
        for (const t of tasks) {
          const own = slots.filter((s) => s.task === t.id);
          const wanted = t.legs.reduce(
            (sum, l) => sum + (l.what === 'heat' ? Math.ceil(l.soakS) + l.workS : Math.ceil(l.seconds)),
            0,
          );
          expect(own.reduce((sum, s) => sum + s.toS - s.fromS, 0)).toBeCloseTo(wanted, 3);
          const begins = Math.min(Infinity, ...own.map((s) => s.fromS));
          for (const id of t.after) expect(begins).toBeGreaterThanOrEqual(ends.get(id)!);
        }
      }),
      { numRuns: 150 },
    );
  });
});

describe('what is left of a piece', () => {
  const PLAN = planOf([stackOf(5), weldIt, drawSquare(20), cutInto(2)]);
  const tasks = (...records: ReturnType<typeof cameOf>[]) =>
    tasksOf('p', evaluate(withRecords(PLAN, records), undefined, FLOWS));
  const kinds = (t: Task) => t.legs.map((l) => l.what).join(' ');

  it('follows the plan: two heats to weld, one to draw, cooling before the saw', () => {
    const all = tasks();
    expect(all.map((t) => t.id)).toEqual(['p s1', 'p s2', 'p s3', 'p s4']);
    expect(all.map((t) => t.after)).toEqual([[], ['p s1'], ['p s2'], ['p s3']]);
    expect(all.map(kinds)).toEqual(['bench', 'bench heat heat', 'bench heat', 'cool bench']);
    const [, , draw] = evaluated(PLAN).lanes[0].steps;
    const soak = all[2].legs.find((l) => l.what === 'heat')!;
    expect(soak.soakS).toBeGreaterThan(60);
    expect(draw.after).not.toBeNull();
  });

  it('leaves out what is done, and heats that were counted; what was drawn and is done is cold', () => {
    const begun = cameOf('s2', [], 1, { heats: 1 });
    delete begun.ended;
    expect(tasks(cameOf('s1', []), begun).map(kinds)).toEqual(['', 'heat', 'bench heat', 'cool bench']);
    // Cold work that was begun is not done; a test piece is another.
    const cut = cameOf('s4', [], 3);
    delete cut.ended;
    expect(tasks(cut, cameOf('s2', [], 4, { kind: 'test' })).map(kinds)).toEqual(tasks().map(kinds));
    const done = ['s1', 's2', 's3'].map((s, k) => cameOf(s, [], k));
    expect(tasks(...done).map(kinds)).toEqual(['', '', '', 'bench']);
  });

  it('what cannot be done as the piece stands is not laid, nor what comes after it', () => {
    const broken = planOf([stackOf(5), weldIt, ['cut', { pieces: 40, cropAMm: 90, cropBMm: 90 }], weldIt]);
    const { left, ends } = laidInDays(tasksOf('p', evaluated(broken)), hours(), at(MONDAY));
    expect(left.map((l) => l.task)).toEqual(['p s3', 'p s4']);
    expect(left[0].why).toContain('cannot be done as the piece stands');
    expect([...ends.keys()]).toEqual(['p s1', 'p s2']);
  });

  it('sawing takes as long as its area, by the shop’s own saw', () => {
    const [fast, slow] = [1, 11].map((sawMin) =>
      tasksOf(
        'p',
        evaluate(
          { ...PLAN, shop: { ...PLAN.shop, work: hours({ sawMin, lineMin: 0, grindMin: 0.1 }) } },
          undefined,
          FLOWS,
        ),
      ),
    );
    const seconds = (all: Task[]) =>
      all[3].legs.reduce((sum, l) => sum + (l.what === 'bench' ? l.seconds : 0), 0);
    // Its one cut between the pieces, and one for each end: 20 × 20 mm of 50 × 50, ten minutes apart.
    const cuts = (seconds(slow) - seconds(fast)) / (600 * (400 / 2500));
    expect(cuts).toBeCloseTo(3, 1);
  });

  it('waits for the bars that it is laid of', () => {
    const two = planOfLanes({
      a: [stackOf(5), weldIt, drawSquare(20), cutInto(2)],
      b: [
        [
          'assemble',
          {
            columns: 2,
            rows: 1,
            layout: 'alike',
            from: ['a'],
          },
        ],
        weldIt,
      ],
    });
    const all = tasksOf('p', evaluated(two));
    expect(all.find((t) => t.id === 'p b1')!.after).toEqual(['p a4']);
  });

  it('kiln programs come last, as long as the kiln takes', () => {
    const kiln = [
      {
        id: 'k',
        name: 'Temper',
        material: '1084',
        startMin: 0,
        segments: [{ rateKPerH: 200, targetC: 220, holdMin: 60 }],
      },
    ];
    const last = tasksOf('p', evaluated(planOf([stackOf(5), weldIt], { kiln }))).at(-1)!;
    expect(last).toMatchObject({ title: 'Temper', after: ['p s2'], legs: [{ what: 'kiln', seconds: 7200 }] });
  });
});

describe('cooling in still air', () => {
  const bar = { thicknessMm: 12.5, heatJm3K: 4.94e6 };
  it('begins as the handbook has it: a 50 mm square at 1180 °C falls about 3 K/s by radiation', () => {
    expect(coolingRate(bar, 1180)).toBeCloseTo(3, 0);
    expect(5 / airCoolingSeconds(bar, 1180, 1175)).toBeCloseTo(coolingRate(bar, 1180), 0);
  });
  it('adds up, takes twice as long for what is twice as thick, and never comes to the room’s own', () => {
    const seconds = (from: number, to: number) => airCoolingSeconds(bar, from, to);
    expect(seconds(850, 300) + seconds(300, 50)).toBeCloseTo(seconds(850, 50), 0);
    expect(airCoolingSeconds({ ...bar, thicknessMm: 25 }, 850, 50)).toBeCloseTo(2 * seconds(850, 50), 6);
    expect(seconds(50, 60)).toBe(0);
    expect(seconds(50, 20)).toBe(Infinity);
  });
});
