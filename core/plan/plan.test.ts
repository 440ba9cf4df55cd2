import { summarize } from '../print/summary.ts';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { volumeOf } from '../billet/billet.ts';
import { sectionPlane } from '../billet/face.ts';
import { addVolumes, massKg, totalVolume, type Volumes } from '../materials/volumes.ts';
import { codeShares } from '../render/codes.ts';
import { MOVES } from '../moves/index.ts';
import { codedMaterial, makeShop } from '../shop/shop.ts';
import {
  FLOWS,
  anyPlan,
  cutInto,
  drawSquare,
  evaluated,
  fourWay,
  planOf,
  resquareTo,
  stackOf,
  weldIt,
} from '../tests/plans.ts';
import {
  type Evaluation,
  readPlan,
  readPlanText,
  startFor,
  steelIn,
  steelLost,
  withStarts,
} from './index.ts';

const demo = (name: string) =>
  readFileSync(new URL(`../../server/demo/${name}.json`, import.meta.url), 'utf8');
const open = (name: string) => {
  const read = readPlanText(demo(name));
  if (!read.ok) throw new Error(read.problems[0].message);
  return read.plan;
};
const DEMOS = ['salt-marsh', 'quarry-quilt', 'rain-barrel', 'tide-ladder'];

const steps = (e: Evaluation) => e.lanes[0].steps;
const kg = (volumes: Volumes, e: Evaluation) => massKg(volumes, e.shop.materials);

describe('mass', () => {
  it('in equals out plus stated losses at every step, by material, over random plans', () => {
    fc.assert(
      fc.property(anyPlan, (plan) => {
        const e = evaluated(plan);
        for (const s of steps(e)) {
          expect(s.after, JSON.stringify(s.findings)).not.toBeNull();
          const before = addVolumes(...s.before.map((b) => b.volumes));
          const after = addVolumes(...s.after!.map((b) => b.volumes));
          const lost = addVolumes(...s.losses.map((l) => l.volumes));
          const kgIn = kg(before, e) + kg(s.added, e);
          expect(Math.abs(kgIn - kg(after, e) - kg(lost, e)) / kgIn).toBeLessThan(1e-9);
          for (const volume of [...Object.values(after), ...Object.values(lost)])
            expect(volume).toBeGreaterThan(-1e-6);
          for (const b of s.after!)
            expect(Math.abs(volumeOf(b) / totalVolume(b.volumes) - 1)).toBeLessThan(1e-9);
        }
        expect(kg(steelIn(e), e)).toBeCloseTo(
          kg(steelLost(e), e) + kg(e.goal.bar!.volumes, e) * e.lanes[0].ends.length,
          9,
        );
      }),
      { numRuns: 60 },
    );
  });

  it('agrees by material with the area sampled in the end grain, within 0.5 %', () => {
    fc.assert(
      fc.property(anyPlan, (plan) => {
        const e = evaluated(plan);
        for (const s of steps(e)) {
          const [bar] = s.after!;
          if (bar.field.variesAlongZ) continue;
          const shares = codeShares(bar, sectionPlane(bar, bar.lengthMm / 2));
          for (const [code, share] of shares) {
            const id = codedMaterial(e.shop, code).id;
            expect(
              Math.abs(share - (bar.volumes[id] ?? 0) / totalVolume(bar.volumes)),
              `${s.step.kind} ${id}`,
            ).toBeLessThan(0.005);
          }
        }
      }),
      { numRuns: 25 },
    );
  });
});

describe('working backward', () => {
  it.each(DEMOS)('then forward meets the goal for %s, and a division less does not', (name) => {
    const plan = open(name);
    const answer = startFor(plan, FLOWS);
    expect(answer.ok).toBe(true);
    if (!answer.ok) return;
    const reach = (starts: typeof answer.starts) =>
      evaluated(withStarts(plan, starts)).goal.bar?.lengthMm ?? 0;
    expect(reach(answer.starts)).toBeGreaterThanOrEqual(plan.goal.lengthMm);
    const division =
      plan.shop.lengths.unit === 'in' ? 25.4 / plan.shop.lengths.division : plan.shop.lengths.division;
    answer.starts.forEach((_, i) => {
      const less = answer.starts.map((s, k) => (k === i ? { ...s, value: s.value - division } : s));
      expect(reach(less)).toBeLessThan(plan.goal.lengthMm);
    });
  });

  it('meets the goal over random plans, or names the step in the way', () => {
    fc.assert(
      fc.property(anyPlan, fc.double({ min: 100, max: 2000, noNaN: true }), (plan, lengthMm) => {
        const wanted = { ...plan, goal: { ...plan.goal, lengthMm } };
        const answer = startFor(wanted, FLOWS);
        if (answer.ok)
          expect(evaluated(withStarts(wanted, answer.starts)).goal.bar!.lengthMm).toBeGreaterThanOrEqual(
            lengthMm,
          );
        else expect(answer.reason.length).toBeGreaterThan(20);
      }),
      { numRuns: 25 },
    );
  });

  it('says which number stands in the way when no length helps', () => {
    const fixed = planOf(
      [
        stackOf(5),
        weldIt,
        drawSquare(20),
        ['tile', { angleDeg: 90, thicknessMm: 10, lay: 'as they lie', count: 3 }],
      ],
      { goal: { lengthMm: 900, widthMm: 20, thicknessMm: 10 } },
    );
    expect(startFor(fixed, FLOWS)).toMatchObject({
      ok: false,
      stepId: 's4',
      reason: expect.stringContaining('fixed amount'),
    });
    const impossible = planOf([stackOf(5), weldIt, drawSquare(80)]);
    expect(startFor(impossible, FLOWS)).toMatchObject({
      ok: false,
      stepId: 's3',
      reason: expect.stringContaining('cannot be drawn up'),
    });
    const far = planOf([stackOf(5), weldIt], {
      goal: { lengthMm: 10_000, widthMm: 20, thicknessMm: 10 },
      shop: { scalePerHeat: 0.2 },
    });
    expect(startFor(far, FLOWS).ok).toBe(true);
    expect(startFor(planOf([]), FLOWS)).toMatchObject({ ok: false, stepId: null });
  });
});

describe('a change anywhere', () => {
  it('is followed by everything after it and nothing before', () => {
    const moves = [
      stackOf(9),
      weldIt,
      drawSquare(30),
      resquareTo(26),
      cutInto(4),
      fourWay('mirrored'),
      weldIt,
      drawSquare(25),
    ] as const;
    const one = steps(evaluated(planOf(moves)));
    const other = steps(evaluated(planOf(moves.with(3, resquareTo(24)))));
    expect(one[2].after![0].lengthMm).toBe(other[2].after![0].lengthMm);
    for (const i of [3, 4, 5, 6, 7])
      expect(one[i].after![0].lengthMm).not.toBeCloseTo(other[i].after![0].lengthMm, 3);
  });

  it('that cannot be done stops there, says so, and the rest waits', () => {
    const e = evaluated(planOf([stackOf(9), drawSquare(30), weldIt]));
    expect(steps(e)[1].findings[0]).toMatchObject({
      code: 'loose',
      severity: 'error',
      remedy: { insertBefore: 'weld' },
    });
    expect(steps(e)[1].after).toBeNull();
    expect(steps(e)[2]).toMatchObject({ after: null, findings: [] });
    expect(e.goal.bar).toBeNull();
  });
});

describe('plan files', () => {
  it.each(DEMOS)('%s reads, and comes back the same from JSON', (name) => {
    const plan = open(name);
    expect(readPlan(JSON.parse(JSON.stringify(plan)))).toEqual({ ok: true, plan });
    expect(evaluated(plan).goal.reached).toBe(true);
    expect(summarize(evaluated(plan)).lanes[0].steps).toHaveLength(plan.lanes[0].steps.length);
  });

  const broken = (
    change: (
      plan: Record<string, unknown> & {
        lanes: { steps: { parameters: Record<string, unknown>; kind: string; id: string }[] }[];
      },
    ) => void,
  ) => {
    const plan = JSON.parse(demo('salt-marsh'));
    change(plan);
    return readPlan(plan);
  };

  it.each([
    [
      'a missing field',
      (p) => delete p.lanes[0].steps[0].parameters.widthMm,
      'lanes[0].steps[0].parameters.widthMm',
    ],
    [
      'an unknown field',
      (p) => (p.lanes[0].steps[1].parameters.temp = 3),
      'lanes[0].steps[1].parameters.temp',
    ],
    [
      'a negative length',
      (p) => (p.lanes[0].steps[0].parameters.lengthMm = -4),
      'lanes[0].steps[0].parameters.lengthMm',
    ],
    [
      'an absurd number',
      (p) => (p.lanes[0].steps[0].parameters.layers = 1e9),
      'lanes[0].steps[0].parameters.layers',
    ],
    [
      'text for a number',
      (p) => (p.lanes[0].steps[0].parameters.lengthMm = 'long'),
      'lanes[0].steps[0].parameters.lengthMm',
    ],
    ['an unknown move', (p) => (p.lanes[0].steps[2].kind = 'melt'), 'lanes[0].steps[2].kind'],
    ['another version', (p) => (p.version = 7), 'version'],
    ['an id used twice', (p) => (p.lanes[0].steps[1].id = 's1'), 'lanes[0].steps[1].id'],
    ['no goal', (p) => delete p.goal, 'goal'],
    [
      'a wrong lay',
      (p) => (p.lanes[0].steps[14].parameters.lay = 'sideways'),
      'lanes[0].steps[14].parameters.lay',
    ],
  ] as [string, Parameters<typeof broken>[0], string][])(
    'with %s are refused, naming it',
    (_what, change, path) => {
      const read = broken(change);
      expect(read.ok).toBe(false);
      if (!read.ok) {
        expect(read.problems.map((p) => p.path)).toContain(path);
        for (const p of read.problems) expect(p.message.length).toBeGreaterThan(8);
      }
    },
  );

  it('say which step a problem is in, and survive anything else', () => {
    const read = broken((p) => (p.lanes[0].steps[2].parameters.sideMm = 0));
    expect(read).toMatchObject({
      ok: false,
      problems: [{ message: 'step 3 (Draw out): Side must be more than 0 mm' }],
    });
    expect(readPlanText('{').ok).toBe(false);
    fc.assert(fc.property(fc.jsonValue(), (value) => readPlan(value).ok === false));
  });
});

describe('the goal', () => {
  const barOf = (thicknessMm: number, more: Parameters<typeof planOf>[0] = []) =>
    evaluated({
      ...planOf([
        stackOf(8, 40, 4, 300),
        weldIt,
        ['draw', { shape: 'flat', widthMm: 38, thicknessMm, heats: 1 }],
        ...more,
      ]),
      goal: { lengthMm: 300, widthMm: 38, thicknessMm: 5 },
    }).goal;

  it('is reached where the size shown is the size typed, and not where the shop’s rule shows it short', () => {
    expect(barOf(4.8)).toMatchObject({ reached: true, unfinished: null });
    expect(barOf(4.6).reached).toBe(false);
  });

  it('is no finished bar while its powder is loose or its seams are open', () => {
    const open = [cutInto(2), ['assemble', { columns: 1, rows: 2, layout: 'alike' }]] as const;
    expect(barOf(5, [...open])).toMatchObject({ reached: false, unfinished: 'open seams' });
    const can = evaluated(planOf([['can', MOVES.can.begin([], makeShop())]]));
    expect(can.goal).toMatchObject({ reached: false, unfinished: 'loose powder' });
  });
});
