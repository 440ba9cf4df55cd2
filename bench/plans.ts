import { type Plan, readPlan, withParameters } from '../core/plan/index.ts';

export const SIZE = 1024;

type Move = [kind: string, parameters: unknown];

export function plan(moves: Move[], shop: object = {}): Plan {
  const steps = moves.map(([kind, parameters], i) => ({ id: `s${i + 1}`, kind, parameters }));
  const read = readPlan({
    format: 'retablo-plan',
    version: 1,
    name: 'Bench',
    goal: { lengthMm: 300, widthMm: 38, thicknessMm: 5 },
    shop,
    lanes: [{ id: 'bar', name: 'Bar', steps }],
  });
  if (!read.ok) throw new Error(read.problems[0].message);
  return read.plan;
}

export const four: Move[] = [
  ['cut', { pieces: 4, cropAMm: 0, cropBMm: 0, kerfMm: 0 }],
  ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }],
  ['weld', { heats: 1, temperatureC: 1200 }],
  ['draw', { shape: 'square', sideMm: 30, heats: 0 }],
];
export const bias: Move = ['resquare', { turn: 'left', sideMm: 30, errorDeg: 0, heats: 0 }];

function stack(lengthMm: number): Move[] {
  const pattern = [
    { material: '1084', thicknessMm: 2 },
    { material: '15n20', thicknessMm: 2 },
  ];
  return [
    ['stack', { layers: 27, pattern, widthMm: 54, lengthMm }],
    ['weld', { heats: 1, temperatureC: 1200 }],
    ['draw', { shape: 'square', sideMm: 30, heats: 0 }],
  ];
}

/** 27 layers, re-square, three mirrored four-ways, re-square, three more; no scale, so that it equals the flat loop. */
export const sampled = plan(
  [...stack(400), bias, ...four, ...four, ...four, bias, ...four, ...four, ...four],
  {
    scalePerHeat: 0,
  },
);

/** Forty steps with losses on: what a long real plan costs. */
export const forty = plan([
  ...stack(9000),
  ...Array.from({ length: 7 }, () => [
    ...four,
    ['grind', { topMm: 0.3, bottomMm: 0.3, leftMm: 0.3, rightMm: 0.3 }] as Move,
  ]).flat(),
  ['weld', { heats: 1, temperatureC: 1200 }],
  ['draw', { shape: 'square', sideMm: 28, heats: 1 }],
]);

/** Eight bars, sixty moves: seven layered bars of seven or eight moves each, laid together and tiled. */
export function eightLanes(): Plan {
  const bars = Array.from({ length: 7 }, (_, k) => `bar${k}`);
  const step = (lane: string, moves: Move[]) =>
    moves.map(([kind, parameters], i) => ({ id: `${lane}-${i}`, kind, parameters }));
  const one = (k: number): Move[] => [
    [
      'stack',
      {
        layers: 9 + k,
        pattern: [
          { material: '1084', thicknessMm: 3 },
          { material: '15n20', thicknessMm: 2 },
        ],
        widthMm: 40,
        lengthMm: 600,
      },
    ],
    ['weld', { heats: 2, temperatureC: 1200 }],
    ['draw', { shape: 'square', sideMm: 26, heats: 1 }],
    ['resquare', { turn: 'left', sideMm: 23, errorDeg: k, heats: 1 }],
    ['cut', { pieces: 4, cropAMm: 5, cropBMm: 5 }],
    ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }],
    ['draw', { shape: 'square', sideMm: 22, heats: 1 }],
  ];
  const welded = (moves: Move[]): Move[] => [
    ...moves.slice(0, 6),
    ['weld', { heats: 1, temperatureC: 1200 }],
    moves[6],
  ];
  const joined: Move[] = [
    ['assemble', { columns: 7, rows: 1, layout: 'alike', from: bars }],
    ['weld', { heats: 1, temperatureC: 1200 }],
    ['draw', { shape: 'flat', widthMm: 60, thicknessMm: 30, heats: 1 }],
    ['tile', { angleDeg: 45, thicknessMm: 14, lay: 'every other rolled' }],
  ];
  const lanes = [
    ...bars.map((id, k) => ({ id, name: id, steps: step(id, welded(one(k))) })),
    { id: 'all', name: 'all', steps: step('all', joined) },
  ];
  const read = readPlan({
    format: 'retablo-plan',
    version: 1,
    name: 'Eight',
    goal: { lengthMm: 300, widthMm: 38, thicknessMm: 5 },
    lanes,
  });
  if (!read.ok) throw new Error(read.problems[0].message);
  return read.plan;
}

/** The plan with one number of one lane changed, as by a drag. */
export function dragged(plan: Plan, i: number): Plan {
  return {
    ...plan,
    lanes: plan.lanes.map((lane, l) =>
      l !== 2
        ? lane
        : {
            ...lane,
            steps: lane.steps.map((s, k) =>
              k === 3 ? withParameters(s, { turn: 'left', sideMm: 23, errorDeg: (i % 9) - 4, heats: 1 }) : s,
            ),
          },
    ),
  };
}
