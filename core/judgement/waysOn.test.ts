import { expect, it } from 'vitest';
import { facePlane } from '../billet/face.ts';
import { type Billet } from '../billet/billet.ts';
import { type Plan, evaluate, stepResult, withRecords, withRemedies } from '../plan/index.ts';
import { sampleCodes } from '../render/codes.ts';
import { type Sighting } from '../sighting/sighting.ts';
import { SIGHTING, cameOf } from '../tests/records.ts';
import {
  FLOWS,
  cutInto,
  drawSquare,
  evaluated,
  fourWay,
  planOf,
  resquareTo,
  stackOf,
  weldIt,
} from '../tests/plans.ts';
import { type WayOn, waysOn } from './index.ts';

const DEG = Math.PI / 180;
const BAR = [stackOf(13, 40, 3, 200), weldIt, drawSquare(28), resquareTo(24)];

/** Read as slid along its squares by so many degrees, as a bar pressed off its angle is. */
const slid = (deg: number): Sighting => ({ ...SIGHTING, slide: deg * DEG, turnedDeg: 0.6 * deg });

function waysFrom(plan: Plan, sighting: Sighting, more = {}) {
  const { id } = plan.lanes[0].steps[3];
  const record = { ...cameOf(id, [{ piece: '1', endB: { sighting } }]), ...more };
  const evaluation = evaluate(withRecords(plan, [record]), undefined, FLOWS);
  const result = stepResult(evaluation, id)!;
  return { evaluation, result, ways: waysOn(evaluation, result) };
}

const codesOf = (bar: Billet) => sampleCodes(bar, facePlane(bar, 'end B'), 80, 80);
const wayOf = (ways: readonly WayOn[], id: WayOn['id']) => ways.find((w) => w.id === id)!;

it('a bar read off its angle: what its planned four-way comes to, and what grinding by the picture brings', () => {
  const { ways } = waysFrom(planOf([...BAR, cutInto(4), fourWay('turned')]), slid(3));
  const asItIs = wayOf(ways, 'as it is');
  const ground = wayOf(ways, 'ground by the picture');
  expect(asItIs.mismatch).toBeGreaterThan(0.2);
  expect(asItIs.remedies).toEqual([]);
  expect(wayOf(ways, 'book-matched').mismatch).toBeLessThan(0.01);
  expect(ground.mismatch).toBeLessThan(0.5 * asItIs.mismatch);
  expect(ground.lostShare).toBeGreaterThan(0.03);
  // The best angle is seldom the measured one.
  expect(ground.mismatch).toBeLessThan(wayOf(ways, 'ground as measured').mismatch);
  const again = wayOf(ways, 'pressed again');
  expect(again.mismatch).toBeLessThan(asItIs.mismatch);
  expect(again.sideMm).toBeLessThan(asItIs.sideMm);
});

it('each way, carried out, gives what was shown of it, whether the plan has an assembly or not', () => {
  for (const more of [[cutInto(4), fourWay('turned')], [], [cutInto(4)]]) {
    const { evaluation, result, ways } = waysFrom(planOf([...BAR, ...more]), slid(3));
    expect(ways.length).toBeGreaterThan(2);
    for (const { id, remedies, bar } of ways) {
      const { plan } = withRemedies(evaluation, result, remedies);
      const laid = evaluated(plan).goalLane.steps.findLast(({ step }) => step.kind === 'assemble');
      if (remedies.length === 0)
        expect(laid!.step).toBe(more.at(-1) && evaluation.goalLane.steps.at(-1)!.step);
      expect(codesOf(laid!.after![0]), id).toEqual(codesOf(bar));
    }
  }
});

it('a bar that leans is squared up first, and one that came as foreseen, or is laid together already, has none', () => {
  const plan = planOf([...BAR, cutInto(4), fourWay('turned')]);
  const { id } = plan.lanes[0].steps[3];
  const leaning = evaluate(
    withRecords(plan, [cameOf(id, [{ piece: '1', leansDeg: 4, endB: { sighting: slid(3) } }])]),
    undefined,
    FLOWS,
  );
  const [first] = waysOn(leaning, stepResult(leaning, id)!);
  expect(first.id).toBe('squared up');
  expect(first.remedies).toMatchObject([
    { insertAfter: 'lean', parameters: { leanDeg: expect.closeTo(-4, 6) } },
  ]);
  expect(waysFrom(plan, slid(0)).ways).toEqual([]);
  const laid = plan.lanes[0].steps[5].id;
  const done = evaluate(
    withRecords(plan, [cameOf(id, [{ piece: '1', endB: { sighting: slid(3) } }]), cameOf(laid, [])]),
    undefined,
    FLOWS,
  );
  expect(waysOn(done, stepResult(done, id)!)).toEqual([]);
});
