import { describe, expect, it } from 'vitest';
import { cameOf } from '../tests/records.ts';
import { FLOWS, cutInto, drawSquare, planOfLanes, stackOf, weldIt } from '../tests/plans.ts';
import {
  type Plan,
  evaluate,
  handedOver,
  matingOf,
  planInFile,
  readHandover,
  theirRecords,
  wantedSaid,
  withParameters,
  withRecords,
  withTheirBar,
} from './index.ts';

const AT = '2026-03-02T09:00:00Z';
const MAKERS = { by: 'Ana', to: 'Bo' };
const PLAN = planOfLanes({
  star: [stackOf(5), weldIt, drawSquare(20), cutInto(2)],
  ring: [stackOf(7), weldIt, drawSquare(20), cutInto(2)],
  whole: [['assemble', { columns: 2, rows: 2, layout: 'alike', from: ['star', 'ring'] }], weldIt],
});
const worked = (plan: Plan) => evaluate(plan, undefined, FLOWS);
const asFile = (plan: Plan, lane = 'ring', makers = MAKERS): unknown =>
  JSON.parse(JSON.stringify(handedOver(worked(plan), lane, makers, AT)));
const read = (content: unknown) => {
  const found = readHandover(content);
  if (!found.ok) throw new Error(found.problems[0].message);
  return found.handover;
};
/** The plan with the bar ‘ring’ drawn to another side. */
const drawnTo = (plan: Plan, side: number): Plan => ({
  ...plan,
  lanes: plan.lanes.map((l) =>
    l.id === 'ring'
      ? {
          ...l,
          steps: l.steps.map((s) =>
            s.kind === 'draw' ? withParameters(s, { ...s.parameters, sideMm: side }) : s,
          ),
        }
      : l,
  ),
});

describe('a piece that is handed over', () => {
  it('says which bar is the other’s and what it comes to, and opens as a piece of its own', () => {
    const file = asFile(PLAN);
    const { wanted } = read(file);
    expect(wanted).toHaveLength(2);
    expect(wanted[0]).toMatchObject({ widthMm: expect.closeTo(20, 1), heightMm: expect.closeTo(20, 1) });
    expect(wantedSaid(wanted, PLAN)).toMatch(/^2 × \d/);
    const opened = planInFile(file);
    expect(opened).toMatchObject({ ok: true, plan: { lanes: PLAN.lanes, name: PLAN.name } });
    expect(opened.ok && opened.plan.notes).toMatch(
      /^Handed over by Ana to Bo: “ring” is yours; it comes to 2 × /,
    );
    // Handed on or back, the notes are what the maker wrote.
    expect(opened.ok && read(asFile(opened.plan)).plan.notes).toBe(PLAN.notes);
    // A plan file is one as before.
    expect(planInFile(JSON.parse(JSON.stringify(PLAN)))).toMatchObject({
      ok: true,
      plan: { notes: PLAN.notes },
    });
  });

  it('comes back and mates, or not: size by size, as it came', () => {
    const mates = (plan: Plan) => matingOf(worked(PLAN), worked(plan), 'ring');
    expect(mates(PLAN).map((m) => m.mates)).toEqual(Array(6).fill(true));
    const off = mates(drawnTo(PLAN, 19));
    expect(off.filter((m) => !m.mates).map((m) => `${m.piece} ${m.what}`)).toEqual(
      ['1', '2'].flatMap((p) => [`${p} width`, `${p} height`, `${p} length`]),
    );
    expect(off[0].wanted - off[0].comes!).toBeCloseTo(1, 2);
    // What was measured counts, and a piece that was lost is none.
    const short = withRecords(PLAN, [cameOf('ring4', [{ piece: '2', scrapped: 'cracked' }])]);
    expect(
      mates(short)
        .filter((m) => m.comes === null)
        .map((m) => m.piece),
    ).toEqual(['2', '2', '2']);
  });

  it('brings its bar, what came of it by whom, and its materials; nothing else of it', () => {
    const theirs = withRecords(
      { ...drawnTo(PLAN, 19), name: 'Renamed', goal: { ...PLAN.goal, lengthMm: 1 } },
      [cameOf('ring2', [], 1), cameOf('star2', [], 2), cameOf('ring3', [], 3, { by: 'Cy' })],
    );
    const handover = read(asFile(theirs, 'ring', { by: 'Bo', to: 'Ana' }));
    const joined = withTheirBar(PLAN, handover);
    expect(joined.lanes[1]).toEqual(theirs.lanes[1]);
    expect([joined.lanes[0], joined.lanes[2], joined.name, joined.goal]).toEqual([
      PLAN.lanes[0],
      PLAN.lanes[2],
      PLAN.name,
      PLAN.goal,
    ]);
    expect(theirRecords(handover).map((r) => [r.step, r.by])).toEqual([
      ['ring2', 'Bo'],
      ['ring3', 'Cy'],
    ]);
  });

  it.each([
    [{ version: 2 }, 'version', /newer/],
    [{ by: '  ' }, 'by', /needs a name/],
    [{ lane: 'moon' }, 'lane', /no bar “moon”/],
    [{ plan: { ...PLAN, goal: null } }, 'plan.goal', /./],
    [{ extra: 1 }, '', /extra/],
  ])('that is none is refused with what is wrong: %o', (some, path, message) => {
    const found = readHandover({ ...(asFile(PLAN) as object), ...some });
    expect(found.ok).toBe(false);
    if (!found.ok)
      expect(found.problems[0]).toMatchObject({
        path: expect.stringMatching(`^${path}`),
        message: expect.stringMatching(message),
      });
  });
});
