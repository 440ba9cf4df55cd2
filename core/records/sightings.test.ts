import { expect, it } from 'vitest';
import { facePlane } from '../billet/face.ts';
import { type Evaluation, evaluate, materialOrder, stepResult, withRecords } from '../plan/index.ts';
import { leanNow } from '../moves/forge/lean.ts';
import { sampleCodes } from '../render/codes.ts';
import { foreseenOf, predictionOf } from '../render/foreseen.ts';
import { photographed } from '../sighting/camera.ts';
import { endOf, twistSeen } from '../sighting/said.ts';
import { type Sighting, sighted, sightedAtAnEnd } from '../sighting/sighting.ts';
import { STILL, type Warp } from '../sighting/warp.ts';
import { SIGHTING, cameOf } from '../tests/records.ts';
import {
  FLOWS,
  type Move,
  cutInto,
  drawSquare,
  fourWay,
  planOf,
  resquareTo,
  stackOf,
  weldIt,
} from '../tests/plans.ts';

const DEG = Math.PI / 180;

/** What the real bar shows, as if it had been read without any error. */
const truthOf = ({ turn, slide, modes }: Warp): Sighting => ({
  ...SIGHTING,
  turn,
  slide,
  modes: SIGHTING.modes.map((_, m) => modes[m] ?? 0),
});

/** Share of two faces that is not of one steel. */
function apart(a: Evaluation, b: Evaluation, step: string, face: 'end B' | 'top' = 'end B'): number {
  const codes = [a, b].map((e) => {
    const [bar] = stepResult(e, step)!.after!;
    return sampleCodes(bar, facePlane(bar, face), 160, 160);
  });
  return codes[0].filter((code, i) => code !== codes[1][i]).length / codes[0].length;
}

/** A four-way, and slanted tiles of it on the broad side of a flat bar. */
const laidAndTiled = (layout: string): Move[] => [
  cutInto(4),
  fourWay(layout),
  weldIt,
  drawSquare(26),
  ['tile', { angleDeg: 45, thicknessMm: 10, lay: 'every other rolled' }],
  weldIt,
  ['draw', { shape: 'flat', widthMm: 28, thicknessMm: 6, heats: 1 }],
];

const squared = [weldIt, drawSquare(28)] as const;
const uneven = [
  'stack',
  {
    layers: 10,
    pattern: [
      { material: '1084', thicknessMm: 6 },
      { material: '15n20', thicknessMm: 2 },
    ],
    widthMm: 40,
    lengthMm: 300,
  },
] as const;

/** How a bar is made that is photographed, how four of it are laid, and what came otherwise. */
const bars: readonly [string, readonly Move[], string, Warp][] = [
  [
    'a re-squared bar that was turned in the press',
    [stackOf(9, 40, 4, 300), ...squared, resquareTo(24)],
    'mirrored',
    { ...STILL, turn: 4 * DEG, modes: [0.02, -0.015, 0, 0, 0, 0, 0.03, 0] },
  ],
  [
    'a stack that was pressed off its angle',
    [stackOf(13, 40, 3, 300), ...squared],
    'mirrored',
    { ...STILL, slide: -4 * DEG, modes: [0, 0.03, 0, 0.01, 0, 0, 0, -0.03] },
  ],
  [
    'a re-squared bar whose middle sits off and is thicker there',
    [stackOf(7, 40, 5, 300), ...squared, resquareTo(24)],
    'turned',
    { ...STILL, turn: -2 * DEG, modes: [-0.05, 0.04, 0.03, -0.03, 0, 0, -0.06, 0.05] },
  ],
  [
    'a stack of unlike layers that were squeezed out unevenly',
    [uneven, ...squared],
    'turned',
    { ...STILL, turn: 3 * DEG, modes: [0.01, 0.05, 0, 0.02, 0, 0, 0.02, 0.07] },
  ],
  [
    'a re-squared bar slid along its sides',
    [stackOf(11, 40, 3.5, 300), ...squared, resquareTo(24)],
    'alike',
    { ...STILL, slide: 3.5 * DEG, modes: [0.015, 0.01, 0, 0, 0, 0, 0, 0] },
  ],
  [
    'a four-way that was turned while it was drawn',
    [
      stackOf(7, 40, 5, 900),
      ...squared,
      resquareTo(24),
      cutInto(4),
      fourWay('turned'),
      weldIt,
      drawSquare(28),
    ],
    'mirrored',
    { ...STILL, turn: -4 * DEG, modes: [0.02, 0.02, -0.02, 0, 0, 0, 0, 0] },
  ],
];

for (const [name, made, layout, fault] of bars)
  it(`after ${name} is read, four-way and tiled face are as they come, four times nearer than planned`, () => {
    const plan = planOf([...made, ...laidAndTiled(layout)]);
    const steps = plan.lanes[0].steps;
    const [bar, assembled, flat] = [steps[made.length - 1].id, steps[made.length + 1].id, steps.at(-1)!.id];
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
    for (const [step, face] of [
      [assembled, 'end B'],
      [flat, 'top'],
    ] as const) {
      expect(apart(planned, truth, step, face)).toBeGreaterThan(0.08);
      expect(apart(read, truth, step, face)).toBeLessThan(0.25 * apart(planned, truth, step, face));
    }
    // How much steel there is does not change by how it is seen to lie.
    expect(stepResult(read, bar)!.after![0].volumes).toEqual(foreseen.volumes);
  });

const [, made, , FAULT] = bars[0];
const BENT = planOf([...made]);
const BAR = BENT.lanes[0].steps.at(-1)!.id;
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

it('with a cut in the middle photographed too the bar goes over from place to place: the middle is as read there', () => {
  const other: Warp = { ...FAULT, turn: -FAULT.turn };
  const seen = (fault: Warp) => ({ sighting: truthOf(fault) });
  const three = after(
    cameOf(BAR, [{ piece: '1', endA: seen(STILL), middle: seen(FAULT), endB: seen(other) }]),
  );
  const codesAt = (e: Evaluation, share: number) => {
    const [bar] = stepResult(e, BAR)!.after!;
    return sampleCodes(bar, facePlane(bar, 'middle', share), 80, 80);
  };
  const alone = (fault: Warp) => after(cameOf(BAR, [{ piece: '1', endB: seen(fault) }]));
  expect(codesAt(three, 0.5)).toEqual(codesAt(alone(FAULT), 0.5));
  expect(codesAt(three, 0)).toEqual(codesAt(alone(STILL), 0));
  // Half way between two they are halfway.
  const half: Warp = { ...FAULT, turn: FAULT.turn / 2, modes: FAULT.modes.map((m) => m / 2) };
  const [between, halfway] = [codesAt(three, 0.25), codesAt(alone(half), 0.25)];
  expect(between.filter((code, i) => code !== halfway[i]).length / between.length).toBeLessThan(0.02);
  expect(
    twistSeen([
      { sighting: { turnedDeg: -1 }, atMm: 0 },
      { sighting: { turnedDeg: 3 }, atMm: 200 },
    ]),
  ).toEqual({ deg: 4, degPerM: 20 });
  expect(twistSeen([{ sighting: { turnedDeg: 3 }, atMm: 0 }])).toBeNull();
});

it('ends that are not foreseen alike: each photograph is read against its own, and that tells which end it is', () => {
  const twisted = planOf([
    ...made,
    ['corners', { shape: 'round', heats: 1 }],
    ['twist', { turns: 0.12, heats: 1 }],
    drawSquare(19),
  ]);
  const e = evaluate(twisted, undefined, FLOWS);
  const [bar] = e.goalLane.ends;
  const foreseen = foreseenOf(bar, e.shop, materialOrder(e));
  expect(foreseen.A).not.toBe(foreseen.B);
  const straight = stepResult(e, BAR)!.after![0];
  const same = foreseenOf(straight, e.shop, materialOrder(e));
  expect(same.A).toBe(same.B);
  expect(foreseenOf(bar, e.shop, materialOrder(e), 'middle').A.tones).not.toEqual(foreseen.B.tones);
  for (const end of ['A', 'B'] as const) {
    const { photo, corners } = photographed({ ...foreseen[end], end });
    const sizes = { acrossMm: foreseen[end].widthMm, heightMm: foreseen[end].heightMm };
    const sight = sightedAtAnEnd({ photo, taps: corners, sizes }, foreseen);
    if (!sight.ok) throw new Error(sight.why);
    expect(sight.sighting.endTold).toBe(true);
    expect(endOf(sight.sighting)).toBe(end);
    expect(Math.abs(sight.sighting.turnedDeg)).toBeLessThan(0.5);
  }
});
