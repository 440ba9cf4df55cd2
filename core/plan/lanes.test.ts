import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sizeOf, volumeOf } from '../billet/billet.ts';
import { codeAt } from '../billet/fields/field.ts';
import { addVolumes, massKg, totalVolume } from '../materials/volumes.ts';
import { materialCode } from '../shop/shop.ts';
import {
  FLOWS,
  cutInto,
  drawSquare,
  evaluated,
  planOf,
  planOfLanes,
  resquareTo,
  stackOf,
  weldIt,
} from '../tests/plans.ts';
import {
  type Evaluation,
  allSteps,
  evaluate,
  goalLaneOf,
  lanesInOrder,
  laneMark,
  lanesFeeding,
  piecesWanted,
  sayStep,
  startFor,
  startsOf,
  steelIn,
  steelLost,
  type Plan,
  type StepChange,
  tileAdvice,
  withSome,
  withStarts,
  withParameters,
} from './index.ts';

const MOSAIC = [stackOf(9, 40, 4, 500), weldIt, drawSquare(20), resquareTo(18), cutInto(5)] as const;
const PLAIN: readonly (readonly [string, object])[] = [
  ['stack', { layers: 1, pattern: [{ material: '1018', thicknessMm: 18 }], widthMm: 18, lengthMm: 900 }],
  ['cut', { pieces: 4, cropAMm: 0, cropBMm: 0 }],
];
const NINE = [
  [
    'assemble',
    {
      columns: 3,
      rows: 3,
      layout: 'alike',
      from: ['star', 'plain'],
      fill: 'chequer',
      strips: { material: 'nickel', thicknessMm: 1, where: 'cross and frame' },
    },
  ],
  weldIt,
  drawSquare(30),
] as const;
const nine = () => planOfLanes({ star: MOSAIC, plain: PLAIN, quilt: NINE });
const kg = (e: Evaluation, volumes: Record<string, number>) => massKg(volumes, e.shop.materials);

describe('lanes', () => {
  it('join: nine pieces of two bars, in a chequer, with strips between and round them', () => {
    const e = evaluated(nine());
    expect(e.lanes.flatMap((l) => l.steps).every((s) => s.after !== null)).toBe(true);
    expect(e.goalLane.lane.id).toBe('quilt');
    const block = e.goalLane.steps[0].after![0];
    expect(sizeOf(block).widthMm).toBeCloseTo(3 * 18 + 4, 9);
    const plain = materialCode(e.shop, '1018');
    // The middle of each place: a plain piece at every other one.
    [-1, 0, 1].forEach((column) =>
      [-1, 0, 1].forEach((row) =>
        expect(codeAt(block.field, 19 * column + 3, 19 * row - 4) === plain).toBe((column + row) % 2 !== 0),
      ),
    );
    expect(codeAt(block.field, -28.7, 5)).toBe(materialCode(e.shop, 'nickel'));
  });

  it('keep mass over all lanes: in = out + lost + what stays on the rack', () => {
    const e = evaluated(nine());
    for (const s of allSteps(e)) {
      const massIn = kg(e, addVolumes(...s.before.map((b) => b.volumes), s.added));
      const massOut = kg(e, addVolumes(...s.after!.map((b) => b.volumes), ...s.losses.map((l) => l.volumes)));
      expect(Math.abs(massIn / massOut - 1)).toBeLessThan(1e-9);
    }
    expect(kg(e, steelIn(e))).toBeCloseTo(kg(e, steelLost(e)) + kg(e, e.goal.bar!.volumes), 9);
  });

  it('are worked out in the order they need one another, whatever order they stand in', () => {
    const plan = nine();
    const turned = { ...plan, lanes: [...plan.lanes].reverse() };
    expect(lanesInOrder(turned).order.at(-1)!.id).toBe('quilt');
    expect(lanesInOrder(turned).order).toHaveLength(3);
    expect(goalLaneOf(turned).id).toBe('quilt');
    const begun = { ...plan, lanes: [...plan.lanes, { id: 'new', name: 'new', steps: [] }] };
    expect(goalLaneOf(begun).id).toBe('quilt');
    expect(evaluated(turned).goal.bar!.lengthMm).toBeCloseTo(evaluated(plan).goal.bar!.lengthMm, 9);
    expect(lanesFeeding(plan, 'quilt').map((l) => l.id)).toEqual(['star', 'plain', 'quilt']);
    expect(laneMark(plan, 'plain')).toBe('Q');
  });

  it('name each piece after its lane in the instruction', () => {
    const e = evaluated(nine());
    const said = sayStep(e.goalLane.steps[0], e.shop).join(' ');
    expect(said).toContain('Lay piece P1 in row 1 from the top, place 1');
    expect(said).toContain('Lay piece Q4');
  });

  it('that take in a circle are refused, and the others still worked out', () => {
    const assembleOf = (lane: string) =>
      ['assemble', { columns: 1, rows: 1, layout: 'alike', from: [lane] }] as const;
    const e = evaluated(planOfLanes({ a: [assembleOf('b')], b: [assembleOf('a')], star: MOSAIC }));
    expect(e.lanes[0].steps[0].findings[0]).toMatchObject({ code: 'circle', severity: 'error' });
    expect(e.lanes[2].steps.at(-1)!.after).toHaveLength(5);
  });

  it('that give too few pieces say so on both sides, with a remedy at the cut', () => {
    const e = evaluated(
      planOfLanes({ star: [...MOSAIC.slice(0, 4), cutInto(3)], plain: PLAIN, quilt: NINE }),
    );
    expect(e.goalLane.steps[0].findings[0].text).toContain('“star” gives no piece 4');
    const wanted = e.lanes[0].steps.at(-1)!.findings.find((f) => f.code === 'wanted')!;
    expect(wanted.remedy).toEqual({ label: 'Cut 5', set: { pieces: 5 } });
    expect(piecesWanted(e.plan, 'star')).toEqual([1, 2, 3, 4, 5]);
    // Two halves, each cut alike: three of each are enough.
    const halves = [...MOSAIC.slice(0, 4), ['rip', { way: 'upright', offCentreMm: 0 }], cutInto(1)] as const;
    const ripped = evaluated(planOfLanes({ star: halves, plain: PLAIN, quilt: NINE }));
    expect(ripped.lanes[0].steps.at(-1)!.findings.find((f) => f.code === 'wanted')!.remedy).toEqual({
      label: 'Cut 3 of each',
      set: { pieces: 3 },
    });
  });

  it('cannot lay one piece in two assemblies', () => {
    const row = ['assemble', { columns: 2, rows: 1, layout: 'mirrored', from: ['star'] }] as const;
    const e = evaluated(planOfLanes({ star: MOSAIC, one: [row], two: [row] }));
    expect(e.lanes[1].steps[0].after).not.toBeNull();
    expect(e.lanes[2].steps[0].findings[0]).toMatchObject({ code: 'used twice', severity: 'error' });
  });

  it('of unlike size are ground to mate where that is little, and refused where it is much', () => {
    const small = PLAIN.with(0, [
      'stack',
      { layers: 1, pattern: [{ material: '1018', thicknessMm: 16 }], widthMm: 18, lengthMm: 900 },
    ]);
    const e = evaluated(
      planOfLanes({
        star: MOSAIC,
        plain: small,
        quilt: [['assemble', { columns: 2, rows: 1, layout: 'alike', from: ['star', 'plain'] }]],
      }),
    );
    const [laid] = e.goalLane.steps;
    expect(laid.findings[0]).toMatchObject({ code: 'fit', severity: 'warning' });
    expect(laid.findings[0].text).toContain('2 mm larger');
    expect(sizeOf(laid.after![0]).heightMm).toBeCloseTo(16, 6);
    expect(totalVolume(laid.after![0].volumes)).toBeCloseTo(volumeOf(laid.after![0]), 3);
    expect(laid.losses.map((l) => l.cause)).toContain('grinding');
    expect(sayStep(laid, e.shop).filter((line) => line.startsWith('Grind'))).toEqual([
      expect.stringContaining('off the top and the bottom of piece') as string,
    ]);
  });
});

describe('evaluating again', () => {
  it('takes over what has not changed, and gives the same as from nothing', () => {
    const plan = nine();
    const first = evaluated(plan);
    const changed = {
      ...plan,
      lanes: plan.lanes.map((lane) =>
        lane.id === 'plain'
          ? {
              ...lane,
              steps: [lane.steps[0], withParameters(lane.steps[1], { pieces: 5, cropAMm: 3, cropBMm: 0 })],
            }
          : lane,
      ),
    };
    const again = evaluate(changed, first);
    const fresh = evaluated(changed);
    expect(again.lanes[0].steps[3].after).toBe(first.lanes[0].steps[3].after);
    expect(again.lanes[1].steps[1].after).not.toBe(first.lanes[1].steps[1].after);
    expect(again.goal.bar!.lengthMm).toBe(fresh.goal.bar!.lengthMm);
    expect(again.lanes.map((l) => l.steps.map((s) => s.findings))).toEqual(
      fresh.lanes.map((l) => l.steps.map((s) => s.findings)),
    );
  });
});

describe('working backward over lanes', () => {
  it('finds the shortest stack of each lane, checked by running forward', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 50, max: 900, noNaN: true }),
        fc.integer({ min: 1, max: 3 }),
        (lengthMm, factor) => {
          const plan = planOfLanes(
            { star: MOSAIC, plain: PLAIN, quilt: NINE },
            { goal: { lengthMm, widthMm: 30, thicknessMm: 30 } },
          );
          const far = withStarts(
            plan,
            startsOf(plan).map((s, i) => ({ ...s, value: s.value * (i === 0 ? factor : 1) })),
          );
          const answer = startFor(far, FLOWS);
          expect(answer.ok).toBe(true);
          if (!answer.ok) return;
          const at = (starts: typeof answer.starts) =>
            evaluated(withStarts(far, starts)).goal.bar?.lengthMm ?? 0;
          expect(at(answer.starts)).toBeGreaterThanOrEqual(lengthMm);
          // A division less of either falls short.
          answer.starts.forEach((_, i) =>
            expect(
              at(answer.starts.map((s, k) => (k === i ? { ...s, value: s.value - 0.5 } : s))),
            ).toBeLessThan(lengthMm),
          );
        },
      ),
      { numRuns: 6 },
    );
  });
});

const withChanges = (plan: Plan, changes: readonly StepChange[]): Plan => ({
  ...plan,
  lanes: plan.lanes.map((lane) => ({
    ...lane,
    steps: lane.steps.map((s) => {
      const change = changes.find((c) => c.stepId === s.id);
      return change ? withParameters(s, withSome(s.parameters, change.set)) : s;
    }),
  })),
});

describe('advice on the tiles’ stretch', () => {
  // Handbook, geometry, "Stretch": W = H = 30, t = 16, θ = 40°, drawn to 6 × 34: ratio 3.230, for 1 the bar must be 9.288 mm high.
  const tiled = planOf([
    ['stack', { layers: 1, pattern: [{ material: '1084', thicknessMm: 30 }], widthMm: 30, lengthMm: 900 }],
    ['draw', { shape: 'square', sideMm: 30, heats: 0 }],
    ['tile', { angleDeg: 40, thicknessMm: 16, kerfMm: 1.1, lay: 'every other rolled' }],
    ['weld', { heats: 1, temperatureC: 1200 }],
    ['draw', { shape: 'flat', widthMm: 34, thicknessMm: 6, heats: 0 }],
  ]);

  it('is the handbook’s worked figure, and each way out brings the ratio wanted', () => {
    const e = evaluated(tiled);
    const now = tileAdvice(e, e.goalLane.steps[2], 1)!;
    expect(now.ratio).toBeCloseTo(3.23, 2);
    expect(now.advice.find((a) => a.what === 'height')!.value).toBeCloseTo(9.288, 3);
    for (const wanted of [1, 2.6, 3.6]) {
      for (const advice of tileAdvice(e, e.goalLane.steps[2], wanted)!.advice) {
        if (advice.changes.length === 0) continue;
        const after = evaluated(withChanges(tiled, advice.changes));
        const then = tileAdvice(after, after.goalLane.steps[2], wanted)!;
        if (advice.what !== 'height') expect(then.ratio, advice.what).toBeCloseTo(wanted, 6);
        expect(after.goal.bar, `${advice.what} for ${wanted}`).not.toBeNull();
      }
    }
  });

  it('offers only what leaves a plan that can be done, and as thick as it is wanted', () => {
    const e = evaluated({ ...tiled, goal: { ...tiled.goal, thicknessMm: 6 } });
    const why = (wanted: number) =>
      Object.fromEntries(tileAdvice(e, e.goalLane.steps[2], wanted)!.advice.map((a) => [a.what, a.why]));
    expect(why(2.6)).toMatchObject({ 'final thickness': 'not the finished thickness', height: null });
    // So thin a tile cannot be drawn to 34 × 6; so high a bar is not in the steel that is there.
    expect(why(1)['tile thickness']).toBe('cannot be done');
    expect(why(5).height).toBe('cannot be done');
  });
});

it('a finished bar’s volumes are its size', () => {
  const { bar } = evaluated(nine()).goal;
  expect(totalVolume(bar!.volumes)).toBeCloseTo(30 * 30 * bar!.lengthMm, 3);
});
