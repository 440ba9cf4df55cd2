import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { sizeOf } from '../billet/billet.ts';
import { benchLines } from '../instruct/benchLines.ts';
import { stopsSaid } from '../instruct/said.ts';
import { recordSaid, secondsOf } from '../records/said.ts';
import type { BenchRecord, PieceCame } from '../records/record.ts';
import { type Shop, makeShop } from '../shop/shop.ts';
import { cameOf } from '../tests/records.ts';
import { FLOWS, cutInto, drawSquare, evaluated, fourWay, planOf, stackOf, weldIt } from '../tests/plans.ts';
import {
  type Evaluation,
  type Plan,
  actionsOf,
  allSteps,
  benchOrder,
  changedBetween,
  evaluate,
  heldProblems,
  logOf,
  offByMove,
  nextAtBench,
  readPlan,
  rescuesOf,
  sharing,
  startFor,
  stepResult,
  withParameters,
  withRecords,
} from './index.ts';

const demo = (name: string): Plan => {
  const read = readPlan(
    JSON.parse(readFileSync(new URL(`../../server/demo/${name}.json`, import.meta.url), 'utf8')),
  );
  if (!read.ok) throw new Error(read.problems[0].message);
  return read.plan;
};
const MARSH = demo('salt-marsh');
const stands = (plan: Plan, ...records: BenchRecord[]): Evaluation =>
  evaluate(withRecords(plan, records), undefined, FLOWS);
const short = (step: string, share: number, plan = MARSH): BenchRecord => {
  const [bar] = stepResult(evaluated(plan), step)!.after!;
  return cameOf(step, [{ piece: '1', lengthMm: share * bar.lengthMm }]);
};
const withStep = (plan: Plan, id: string, some: object): Plan => ({
  ...plan,
  lanes: plan.lanes.map((l) => ({
    ...l,
    steps: l.steps.map((s) => (s.id === id ? withParameters(s, { ...s.parameters, ...some }) : s)),
  })),
});

describe('what is next', () => {
  it('goes from bar to bar so that each can be done; what is done is behind', () => {
    const e = stands(demo('rain-barrel'));
    const order = benchOrder(e).map((r) => r.step.id);
    expect(order).toHaveLength(allSteps(e).length);
    expect(order.indexOf('s15')).toBeGreaterThan(order.indexOf('gl'));
    expect(nextAtBench(e)!.step.id).toBe(order[0]);
    const done = stands(MARSH, cameOf('s1', []), cameOf('s2', [], 1, { ended: undefined }));
    expect(nextAtBench(done)!.step.id).toBe('s2');
  });

  it('says what of the later moves is other than before, and which cannot be done any more', () => {
    const planned = evaluated(MARSH);
    const { targets, after } = changedBetween(planned, stands(MARSH, short('s9', 0.96)));
    expect(after.reached).toBe(false);
    const [cut] = targets;
    expect(cut.result.step.id).toBe('s10');
    expect(cut.now.join()).toMatch(/^Saw square across/);
    // What is done is not said again.
    const later = stands(MARSH, short('s9', 0.96), cameOf('s10', [], 2));
    expect(changedBetween(planned, later).targets.map((t) => t.result.step.id)).not.toContain('s10');
    const gone = stands(MARSH, cameOf('s5', [{ piece: '3', scrapped: 'cracked' }]));
    expect(changedBetween(planned, gone).targets.map((t) => [t.result.step.id, t.stopped])).toEqual([
      ['s6', false],
      ['s7', true],
    ]);
  });
});

describe('ways on', () => {
  it('a bar 4 % short: each was worked through, reaches the goal, and leaves what is done alone', () => {
    const e = stands(MARSH, short('s9', 0.96));
    const ways = rescuesOf(e);
    expect(ways.map((w) => w.id)).toEqual(
      expect.arrayContaining(['shorter goal', 'narrower bar', 'thinner tiles', 'block for the tang']),
    );
    for (const { plan, comes } of ways) {
      expect(plan.records).toBeUndefined();
      expect(heldProblems(MARSH, plan, e.plan.records)).toEqual([]);
      const then = evaluate(withRecords(plan, e.plan.records!), e, FLOWS);
      expect(then.goal.reached).toBe(true);
      expect(then.goal.bar!.lengthMm).toBeCloseTo(comes.lengthMm, 9);
    }
    expect(rescuesOf(evaluated(MARSH))).toEqual([]);
  });

  it('thicker tiles where kerfs took too much, and hollows made the other way, where that reaches the goal', () => {
    const ids = (plan: Plan, lengthMm: number) =>
      rescuesOf(evaluated({ ...plan, goal: { ...plan.goal, lengthMm } })).map((w) => w.id);
    const kerfs = planOf([
      stackOf(5, 30, 6, 300),
      weldIt,
      ['tile', { angleDeg: 45, thicknessMm: 8, kerfMm: 4, lay: 'as they lie' }],
      weldIt,
      ['draw', { shape: 'flat', widthMm: 30, thicknessMm: 6, heats: 1 }],
    ]);
    const laid = { ...kerfs, goal: { lengthMm: 1, widthMm: 29, thicknessMm: 5 } };
    const comes = Math.ceil(evaluated(laid).goal.bar!.lengthMm) + 4;
    expect(ids(laid, comes)).toContain('fewer tiles');
    expect(ids(laid, 3 * comes)).not.toContain('fewer tiles');

    const hollows = (how: string) =>
      planOf([
        stackOf(5, 30, 4, 200),
        weldIt,
        ['grooves', { how, pattern: 'across', depthMm: 3, widthMm: 8, pitchMm: 14, slantDeg: 0, heats: 1 }],
      ]);
    const [grooved, pressed] = [hollows('ground'), hollows('pressed')];
    const [a, b] = [grooved, pressed].map((p) => evaluated(p).goal.bar!);
    const [shorter, longer] = a.lengthMm < b.lengthMm ? [grooved, b] : [pressed, a];
    const { widthMm, heightMm } = sizeOf(longer);
    const near = { ...shorter, goal: { lengthMm: 1, widthMm: widthMm - 1, thicknessMm: heightMm - 0.5 } };
    expect(ids(near, longer.lengthMm - 0.5)).toContain('ground or pressed');
  });

  it('a piece is gone: plain steel of its size in its place, and the marks of the other bars stay', () => {
    const e = stands(MARSH, cameOf('s5', [{ piece: '3', scrapped: 'cracked' }]));
    const way = rescuesOf(e).find((w) => w.id === 'another piece')!;
    expect(way.plan.lanes.map((l) => l.id).slice(0, -1)).toEqual(MARSH.lanes.map((l) => l.id));
    const then = evaluate(withRecords(way.plan, e.plan.records!), e, FLOWS);
    const laid = stepResult(then, 's7')!;
    expect(laid.before.filter((b) => b.piece?.lane).map((b) => sizeOf(b).widthMm)).toEqual([
      sizeOf(stepResult(then, 's6')!.after![0]).widthMm,
    ]);
  });

  it('a round that is still to come may be left out, and a flat bar drawn thinner', () => {
    const late = rescuesOf(stands(MARSH, short('s4', 0.9)));
    expect(late.map((w) => w.id)).toContain('one round less');
    // Not once it was begun.
    const begun = [cameOf('s5', [], 3), cameOf('s10', [], 4, { ended: undefined })];
    expect(rescuesOf(stands(MARSH, short('s4', 0.9), ...begun)).map((w) => w.id)).not.toContain(
      'one round less',
    );
    const slack = demo('slack-tide');
    const until = (slack.records ?? []).filter((r) => !['s10', 's11', 's12'].includes(r.step));
    const before = withStep({ ...slack, goal: { ...slack.goal, thicknessMm: 5 } }, 's17', {
      thicknessMm: 5.8,
    });
    const thinner = rescuesOf(stands(before, ...until)).find((w) => w.id === 'thinner bar')!;
    expect(thinner.title).toBe('Draw it 5.3 mm thick instead of 5.8 mm, to be 4.5 mm thick in the end');
    expect(stands(slack, ...(slack.records ?? [])).goal.reached).toBe(true);
  });
});

describe('what is done', () => {
  const records = [cameOf('s1', []), cameOf('s3', [], 1), cameOf('s5', [], 2, { ended: undefined })];

  it('keeps its numbers and its place; all else may be changed', () => {
    const said = (after: Plan) => heldProblems(MARSH, after, records).map((p) => p.message);
    expect(said(withStep(MARSH, 's3', { sideMm: 29 }))).toEqual([
      '“Draw out” is done at the bench: open it again there before it is changed.',
    ]);
    expect(said(withStep(MARSH, 's2', { heats: 3 }))).toEqual([]);
    expect(said(withStep(MARSH, 's5', { pieces: 3 }))).toEqual([]);
    const [lane] = MARSH.lanes;
    const inLane = (steps: typeof lane.steps): Plan => ({ ...MARSH, lanes: [{ ...lane, steps }] });
    expect(said(inLane(lane.steps.filter((s) => s.id !== 's3')))).toHaveLength(1);
    expect(said(inLane([lane.steps[2], lane.steps[1], lane.steps[0], ...lane.steps.slice(3)]))).toHaveLength(
      2,
    );
    expect(said(inLane(lane.steps.filter((s) => s.id !== 's2')))).toEqual([]);
    // The same plan read anew is no other.
    const again = JSON.parse(JSON.stringify(MARSH)) as Plan;
    expect(said(again)).toEqual([]);
    expect(sharing(again, MARSH).lanes[0].steps[0]).toBe(lane.steps[0]);
  });

  it('is not worked backward any more', () => {
    const begun = withRecords(MARSH, records);
    expect(startFor(begun, FLOWS)).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/begun already/),
    });
    expect(startFor(withRecords(MARSH, records.slice(1)), FLOWS).ok).toBe(true);
  });
});

it('sizes of many pieces are put together by move: how far off, from least to most', () => {
  const of = (kind: string, what: 'length' | 'width', came: number) => ({
    kind,
    piece: '1',
    what,
    reckoned: 200,
    came,
  });
  const sizes = [of('draw', 'length', 190), of('weld', 'width', 201), of('draw', 'length', 204)];
  expect(offByMove([...sizes, of('draw', 'length', 198), of('gone', 'length', 1)], ['weld', 'draw'])).toEqual(
    [
      { kind: 'weld', what: 'width', count: 1, least: 0.5, middle: 0.5, most: 0.5 },
      { kind: 'draw', what: 'length', count: 3, least: -5, middle: -1, most: 2 },
    ].map((row) => ({
      ...row,
      ...Object.fromEntries(
        (['least', 'middle', 'most'] as const).map((k) => [k, expect.closeTo(row[k], 9)]),
      ),
    })),
  );
});

describe('at the bench', () => {
  const shop = makeShop();

  it('every stop block is a line of its own, as the instruction has them', () => {
    const result = stepResult(evaluated(MARSH), 's9')!;
    const actions = actionsOf(result, shop);
    const lines = benchLines(actions, shop);
    expect(lines[0].heads).toBe(true);
    const draw = actions.find((a) => a.do === 'draw')!;
    const stops = lines.filter((l) => l.big).map((l) => `${l.big} ${l.text}`);
    expect(stops.join(', ')).toBe(stopsSaid(draw.passes, shop.lengths));
    expect(lines.some((l) => l.text.startsWith('Stop blocks in turn'))).toBe(false);
    // A tick is its line's: the same in inches and in millimetres, and of no line of another stop.
    const marks = (one: Shop, of = actions) => benchLines(of, one).map((l) => l.mark);
    const lengths = { unit: 'mm', division: 0.1 } as const;
    expect(marks({ ...shop, lengths })).toEqual(
      marks({ ...shop, lengths, temperatures: shop.temperatures === 'C' ? 'F' : 'C' }),
    );
    expect(marks({ ...shop, lengths })).toEqual(expect.arrayContaining(marks(shop)));
    expect(new Set(marks(shop)).size).toBe(lines.length);
    const other = { ...draw, passes: draw.passes.map((p) => ({ ...p, stopMm: p.stopMm + 0.73 })) };
    const changed = marks(
      shop,
      actions.map((a) => (a === draw ? other : a)),
    );
    const stopMarks = lines.filter((l) => l.big).map((l) => l.mark);
    expect(changed.filter((m) => stopMarks.includes(m))).toEqual([]);
    const said = benchLines(actionsOf(stepResult(evaluated(MARSH), 's5')!, shop), shop);
    expect(said.every((l) => !l.big && !l.heads)).toBe(true);
  });

  it('the log has every record in time, beside what was reckoned from what came before it', () => {
    const plan = planOf([stackOf(9, 40, 4, 200), weldIt, drawSquare(25), cutInto(4), fourWay('mirrored')]);
    const first = stands(plan, short('s3', 0.96, plan));
    const cut = stepResult(first, 's4')!.after!;
    const e = stands(
      plan,
      cameOf(
        's4',
        [{ piece: '2', lengthMm: cut[1].lengthMm - 3, cropped: { endAMm: 3, endBMm: 0, why: 'cracked' } }],
        4,
      ),
      short('s3', 0.96, plan),
      cameOf('gone', [], 5),
    );
    const log = logOf(e);
    expect(log.map((l) => l.title)).toEqual(['Draw out', 'Cut', 'A move that the plan has no more']);
    const [size] = log[1].measured;
    expect(size.what).toBe('length');
    expect(size.reckoned).toBeCloseTo(size.came, 9);
  });

  it('a record in words, in the shop’s own units', () => {
    const pieces: PieceCame[] = [
      { piece: '1', widthMm: 25.4, lengthMm: 203.2, endA: { turnedDeg: 3 } },
      { piece: '3', scrapped: 'cracked' },
      { piece: '4', cropped: { endAMm: 15.875, endBMm: 0, why: 'open' } },
    ];
    const record = cameOf('s1', pieces, 0, { heats: 2, hottestC: 1200 });
    const inches = { lengths: { unit: 'in', division: 32 }, masses: 'lb', temperatures: 'F' } as const;
    const said = recordSaid(record, inches);
    expect(said[0]).toMatch(/^2 heats, at most 21\d\d °F$/);
    expect(said[1]).toBe('Piece 1: 1" wide, 8" long, pattern turned 3° at end A');
    expect(said[2]).toBe('Piece 3: scrapped: cracked');
    expect(said[3]).toMatch(/^Piece 4: cut back 5\/8" at end A \(/);
    expect(secondsOf(record)).toBe(3600);
    expect(secondsOf({ ...record, ended: undefined })).toBeNull();
  });
});
