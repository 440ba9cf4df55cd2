import fc from 'fast-check';
import { WorkedOutFlows } from '../flow/flows.ts';
import { type Evaluation, PLAN_VERSION, type Plan, evaluate, readPlan } from '../plan/index.ts';
import { makeShop } from '../shop/shop.ts';
import { type MoveKind, moveOf } from '../moves/index.ts';

/** What was worked out in one test file is not worked out again. */
export const FLOWS = new WorkedOutFlows();

/** A plan worked through with all its flows. */
export const evaluated = (plan: Plan): Evaluation => evaluate(plan, undefined, FLOWS);

/** Plans for tests: made from moves and read like any plan file. */
export function planOf(
  moves: readonly (readonly [kind: string, parameters: unknown])[],
  more: Record<string, unknown> = {},
): Plan {
  const read = readPlan({
    format: 'retablo-plan',
    version: PLAN_VERSION,
    name: 'Trial',
    goal: { lengthMm: 300, widthMm: 38, thicknessMm: 5 },
    lanes: [
      {
        id: 'bar',
        name: 'Bar',
        steps: moves.map(([kind, parameters], i) => ({ id: `s${i + 1}`, kind, parameters })),
      },
    ],
    ...more,
  });
  if (!read.ok) throw new Error(read.problems.map((p) => `${p.path}: ${p.message}`).join('\n'));
  return read.plan;
}

/** A plan of several lanes, each a name and its moves; step ids are the lane's name and a number. */
export function planOfLanes(
  lanes: Readonly<Record<string, readonly Move[]>>,
  more: Record<string, unknown> = {},
): Plan {
  const read = readPlan({
    format: 'retablo-plan',
    version: PLAN_VERSION,
    name: 'Trial',
    goal: { lengthMm: 300, widthMm: 38, thicknessMm: 5 },
    lanes: Object.entries(lanes).map(([name, moves]) => ({
      id: name,
      name,
      steps: moves.map(([kind, parameters], i) => ({ id: `${name}${i + 1}`, kind, parameters })),
    })),
    ...more,
  });
  if (!read.ok) throw new Error(read.problems.map((p) => `${p.path}: ${p.message}`).join('\n'));
  return read.plan;
}

/** Two steels in turn. */
export const stackOf = (layers: number, widthMm = 40, thicknessMm = 3, lengthMm = 200) =>
  [
    'stack',
    {
      layers,
      pattern: [
        { material: '1084', thicknessMm },
        { material: '15n20', thicknessMm },
      ],
      widthMm,
      lengthMm,
    },
  ] as const;

export const weldIt = ['weld', { heats: 2, temperatureC: 1200 }] as const;
export const drawSquare = (sideMm: number, heats = 1) =>
  ['draw', { shape: 'square', sideMm, heats }] as const;
export const cutInto = (pieces: number) => ['cut', { pieces, cropAMm: 5, cropBMm: 5 }] as const;
export const resquareTo = (sideMm: number, errorDeg = 0) =>
  ['resquare', { turn: 'left', sideMm, errorDeg, heats: 1 }] as const;
export const fourWay = (layout: string, strips?: object) =>
  ['assemble', { columns: 2, rows: 2, layout, ...(strips ? { strips } : {}) }] as const;

export type Move = readonly [string, unknown];

/** One round: re-square or not, cut in four, grind or not, lay, weld, draw. */
const anyRound = fc
  .record({
    bias: fc.boolean(),
    error: fc.constantFrom(0, 0, 4),
    layout: fc.constantFrom('alike', 'turned', 'mirrored'),
    strip: fc.option(
      fc.record({
        material: fc.constantFrom('15n20', 'nickel', '1018'),
        thicknessMm: fc.double({ min: 0.5, max: 3, noNaN: true }),
        where: fc.constantFrom('cross', 'upright', 'level'),
      }),
      { nil: undefined },
    ),
    grindMm: fc.constantFrom(0, 0.4),
    side: fc.double({ min: 18, max: 24, noNaN: true }),
  })
  .map((r): Move[] => [
    ...(r.bias ? [resquareTo(r.side, r.error)] : []),
    cutInto(4),
    ['grind', { topMm: r.grindMm, bottomMm: r.grindMm, leftMm: r.grindMm, rightMm: r.grindMm }],
    fourWay(r.layout, r.strip),
    weldIt,
    drawSquare(26, 2),
  ]);

const anyTiles = fc
  .record({
    angleDeg: fc.double({ min: 35, max: 90, noNaN: true }),
    thicknessMm: fc.double({ min: 8, max: 16, noNaN: true }),
    lay: fc.constantFrom('every other rolled', 'as they lie'),
  })
  .map((t): Move[] => [
    ['tile', t],
    weldIt,
    ['draw', { shape: 'flat', widthMm: 28, thicknessMm: 5, heats: 2 }],
  ]);

/** Random whole plans: a stack, up to two rounds of four-way, perhaps tiles and a flat bar. Long enough for all of it. */
export const anyPlan: fc.Arbitrary<Plan> = fc
  .record({
    layers: fc.integer({ min: 1, max: 40 }),
    widthMm: fc.double({ min: 36, max: 60, noNaN: true }),
    rounds: fc.array(anyRound, { maxLength: 2 }),
    tiles: fc.option(anyTiles, { nil: undefined }),
  })
  .map(({ layers, widthMm, rounds, tiles }) =>
    planOf([
      stackOf(layers, widthMm, 48 / layers, 900),
      weldIt,
      drawSquare(26, 2),
      ...rounds.flat(),
      ...(tiles ?? []),
    ]),
  );

/** A square bar with a picture that is its own neither in a mirror nor turned. */
export const SQUARE_BAR: readonly Move[] = [
  stackOf(8, 30, 3.6, 400),
  weldIt,
  drawSquare(24),
  resquareTo(22, 5),
];

/** What must stand before each move for it to begin. */
export const READY: Record<MoveKind, readonly Move[]> = {
  stack: [],
  found: [],
  can: [],
  consolidate: [['can', moveOf('can').begin([], makeShop())]],
  weld: [stackOf(9)],
  draw: [stackOf(9), weldIt],
  resquare: SQUARE_BAR,
  press: SQUARE_BAR,
  corners: SQUARE_BAR,
  lean: SQUARE_BAR,
  twist: [...SQUARE_BAR, ['corners', { shape: 'round', heats: 1 }]],
  wedge: SQUARE_BAR,
  feather: SQUARE_BAR,
  upset: SQUARE_BAR,
  shape: [...SQUARE_BAR, ['draw', { shape: 'flat', widthMm: 30, thicknessMm: 8, heats: 1 }]],
  cut: SQUARE_BAR,
  crop: SQUARE_BAR,
  rip: SQUARE_BAR,
  grind: SQUARE_BAR,
  trueUp: SQUARE_BAR,
  peel: [...SQUARE_BAR, ['jacket', { material: '316l', thicknessMm: 1, where: 'all round' }]],
  assemble: [...SQUARE_BAR, cutInto(4)],
  laminate: [...SQUARE_BAR, cutInto(2)],
  jacket: SQUARE_BAR,
  stand: [...SQUARE_BAR, cutInto(6)],
  scarf: [...SQUARE_BAR, cutInto(2)],
  putBack: [...SQUARE_BAR, cutInto(4), ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }]],
  turn: SQUARE_BAR,
  choose: [...SQUARE_BAR, cutInto(4)],
  join: SQUARE_BAR,
  tile: SQUARE_BAR,
  accordion: SQUARE_BAR,
  grooves: SQUARE_BAR,
  flatten: SQUARE_BAR,
  measure: SQUARE_BAR,
  treat: SQUARE_BAR,
  clean: SQUARE_BAR,
  etch: SQUARE_BAR,
};
