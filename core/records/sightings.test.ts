import { expect, it } from 'vitest';
import { facePlane } from '../billet/face.ts';
import {
  type Evaluation,
  type Plan,
  evaluate,
  materialOrder,
  stepResult,
  withRecords,
} from '../plan/index.ts';
import { leanNow } from '../moves/forge/lean.ts';
import { sampleCodes } from '../render/codes.ts';
import { predictionOf } from '../render/foreseen.ts';
import { photographed } from '../sighting/camera.ts';
import { type Sighting, sighted } from '../sighting/sighting.ts';
import { STILL, type Warp } from '../sighting/warp.ts';
import { SIGHTING, cameOf } from '../tests/records.ts';
import { FLOWS, cutInto, drawSquare, fourWay, planOf, resquareTo, stackOf, weldIt } from '../tests/plans.ts';

const DEG = Math.PI / 180;

/** What the real bar shows, as if it had been read without any error. */
const truthOf = ({ turn, slide, modes }: Warp): Sighting => ({
  ...SIGHTING,
  turn,
  slide,
  modes: SIGHTING.modes.map((_, m) => modes[m] ?? 0),
});

/** Share of two faces that is not of one steel. */
function apart(a: Evaluation, b: Evaluation, step: string): number {
  const codes = [a, b].map((e) => {
    const [bar] = stepResult(e, step)!.after!;
    return sampleCodes(bar, facePlane(bar, 'end B'), 160, 160);
  });
  return codes[0].filter((code, i) => code !== codes[1][i]).length / codes[0].length;
}

const bars: readonly [string, Plan, Warp][] = [
  [
    'a re-squared bar that was turned in the press',
    planOf([stackOf(9, 40, 4, 200), weldIt, drawSquare(28), resquareTo(24), cutInto(4), fourWay('mirrored')]),
    { ...STILL, turn: 4 * DEG, modes: [0.02, -0.015, 0, 0, 0, 0, 0.03, 0] },
  ],
  [
    'a stack that was pressed off its angle',
    planOf([stackOf(13, 40, 3, 200), weldIt, drawSquare(28), cutInto(4), fourWay('mirrored')]),
    { ...STILL, slide: -4 * DEG, modes: [0, 0.03, 0, 0.01, 0, 0, 0, -0.03] },
  ],
];

for (const [name, plan, fault] of bars)
  it(`after ${name} is read, the four-way is as it comes, four times nearer than planned`, () => {
    const steps = plan.lanes[0].steps;
    const [bar, assembled] = [steps.at(-3)!.id, steps.at(-1)!.id];
    const planned = evaluate(plan, undefined, FLOWS);
    const [foreseen] = stepResult(planned, bar)!.after!;
    const prediction = predictionOf(foreseen, planned.shop, materialOrder(planned));
    const taken = photographed({ ...prediction, end: 'B', fault, shine: 0.15 });
    const sizes = { acrossMm: prediction.widthMm, heightMm: prediction.heightMm };
    const sight = sighted({ photo: taken.photo, taps: taken.corners, sizes, end: 'B' }, prediction);
    if (!sight.ok) throw new Error(sight.why);
    const withSighting = (sighting: Sighting) =>
      evaluate(withRecords(plan, [cameOf(bar, [{ piece: '1', endB: { sighting } }])]), undefined, FLOWS);
    const [truth, read] = [withSighting(truthOf(fault)), withSighting(sight.sighting)];
    expect(apart(planned, truth, assembled)).toBeGreaterThan(0.1);
    expect(apart(read, truth, assembled)).toBeLessThan(0.25 * apart(planned, truth, assembled));
    // How much steel there is does not change by how it is seen to lie.
    expect(stepResult(read, bar)!.after![0].volumes).toEqual(foreseen.volumes);
  });

const [, BENT, FAULT] = bars[0];
const BAR = BENT.lanes[0].steps.at(-3)!.id;
const after = (...records: ReturnType<typeof cameOf>[]) =>
  evaluate(withRecords(BENT, records), undefined, FLOWS);
const endB = (fault: Warp) => ({ endB: { sighting: truthOf(fault) } });

it('of two readings of one end the later counts alone, and both ends count whichever record has them', () => {
  const other: Warp = { ...FAULT, turn: -FAULT.turn };
  const twice = after(
    cameOf(BAR, [{ piece: '1', ...endB(other) }], 0),
    cameOf(BAR, [{ piece: '1', ...endB(FAULT) }], 2),
  );
  expect(apart(twice, after(cameOf(BAR, [{ piece: '1', ...endB(FAULT) }])), BAR)).toBe(0);
  const ends = { endA: { sighting: truthOf(other) }, ...endB(FAULT) };
  const one = after(cameOf(BAR, [{ piece: '1', ...ends }]));
  const two = after(
    cameOf(BAR, [{ piece: '1', endA: ends.endA }], 0),
    cameOf(BAR, [{ piece: '1', ...endB(FAULT) }], 2),
  );
  for (const end of ['end A', 'end B'] as const) {
    const codes = [one, two].map((e) => {
      const [bar] = stepResult(e, BAR)!.after!;
      return sampleCodes(bar, facePlane(bar, end), 80, 80);
    });
    expect(codes[0]).toEqual(codes[1]);
  }
});

it('of a bar that leans the pattern lies in its own outline: laid out square it is as read', () => {
  const leansDeg = 6;
  const leaning = after(cameOf(BAR, [{ piece: '1', leansDeg, ...endB(FAULT) }]));
  const straight = after(cameOf(BAR, [{ piece: '1', ...endB(FAULT) }]));
  const [bar, plain] = [leaning, straight].map((e) => stepResult(e, BAR)!.after![0]);
  expect(leanNow(bar)).toBeCloseTo(leansDeg, 6);
  const tones = [bar, plain].map((b) => predictionOf(b, straight.shop, materialOrder(straight)).tones.data);
  const differ = tones[0].filter((tone, i) => Math.abs(tone - tones[1][i]) > 0.2).length / tones[0].length;
  expect(differ).toBeLessThan(0.01);
});
