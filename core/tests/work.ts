import { keptDots } from '../picture/runs.ts';
import fc from 'fast-check';
import { sizeOf } from '../billet/billet.ts';
import { outlineArea } from '../geometry/outline.ts';
import { type Plan, evaluate } from '../plan/index.ts';
import { PROFILES, bladeFrom } from '../blade/index.ts';
import { forgedFor } from '../moves/forge/shape.ts';
import { makeShop } from '../shop/shop.ts';
import { MOVES, MOVE_KINDS, type MoveKind } from '../moves/index.ts';
import { type Move, drawSquare, fourWay, planOf, stackOf, weldIt } from './plans.ts';

const share = fc.double({ min: 0, max: 1, noNaN: true });

/** The bar before a spell of work. mm */
interface Now {
  readonly sideMm: number;
  readonly lengthMm: number;
}

const cutEnds = (pieces: number): Move => ['cut', { pieces, cropAMm: 2, cropBMm: 3 }];

/** For every move a spell of work that it is done in, and that leaves a bar to be drawn square: a new move does not compile without one. */
const SPELLS: Record<MoveKind, (now: Now, a: number, b: number) => Move[]> = {
  stack: () => [],
  found: () => [],
  can: () => [],
  consolidate: () => [],
  weld: (_now, a) => [
    cutEnds(2),
    ['assemble', { columns: 1, rows: 2, layout: 'alike' }],
    a < 0.5 ? weldIt : ['weld', { ...weldIt[1], edges: 'welded shut', beadMm: 0.6 }],
  ],
  draw: (now, a) => [
    ['draw', { shape: 'flat', widthMm: now.sideMm, thicknessMm: (0.6 + 0.3 * a) * now.sideMm, heats: 1 }],
  ],
  resquare: (now, a) => [
    [
      'resquare',
      { turn: a < 0.5 ? 'left' : 'right', sideMm: 0.94 * now.sideMm, errorDeg: 8 * a - 4, heats: 1 },
    ],
  ],
  press: (now, a) => [
    [
      'press',
      {
        passes: [0, 90].map((turnDeg) => ({ turnDeg, toMm: (0.93 + 0.04 * a) * now.sideMm })),
        friction: 0.3,
        held: true,
        finish: 'squared',
        heats: 1,
      },
    ],
  ],
  corners: (_now, a) => [['corners', { shape: a < 0.5 ? 'octagon' : 'round', heats: 1 }]],
  lean: (_now, a) => [
    ['lean', { leanDeg: 40 * a - 20, heats: 1 }],
    ['lean', { leanDeg: 20 - 40 * a, heats: 0 }],
  ],
  twist: (_now, a) => [
    ['corners', { shape: 'round', heats: 1 }],
    ['twist', { turns: 4 * a - 2, heats: 1 }],
  ],
  feather: (now, a, b) => [
    ['feather', { dragMm: (0.1 + 0.25 * a) * now.sideMm, fadesMm: (0.1 + 0.2 * b) * now.sideMm, heats: 1 }],
    weldIt,
  ],
  wedge: (_now, a) => [
    ['cut', { pieces: 4, cropAMm: 2, cropBMm: 3 }],
    ['wedge', { apexDeg: 90, heats: 1 }],
    [
      'assemble',
      {
        columns: 2,
        rows: 2,
        layout: a < 0.5 ? 'alike' : 'free',
        ...(a < 0.5 ? {} : { places: wedgePlaces }),
        ...(a > 0.3 && a < 0.7 && { strips: { material: 'nickel', thicknessMm: 1 + a, where: 'cross' } }),
      },
    ],
    weldIt,
  ],
  upset: (now, a) => [
    // A piece that is no longer than it stands, and not lower than it is pressed.
    cutEnds(Math.min(60, Math.max(2, Math.round(now.lengthMm / 80)))),
    ['assemble', { columns: 1, rows: 1, layout: 'alike' }],
    weldIt,
    ['upset', { toHeightMm: 26 + 8 * a, heats: 2 }],
  ],
  cut: (_now, a) => [cutEnds(4), fourWay(a < 0.5 ? 'mirrored' : 'turned'), weldIt],
  crop: (_now, a, b) => [['crop', { endAMm: 4 * a, endBMm: 3 * b }]],
  rip: (now, a, b) => [
    ['rip', { way: a < 0.5 ? 'upright' : 'level', offCentreMm: 0.05 * now.sideMm * (b - 0.5) }],
    ['grind', { topMm: 0.2, bottomMm: 0.1, leftMm: 0, rightMm: 0.3 }],
    [
      'assemble',
      a < 0.5 ? { columns: 2, rows: 1, layout: 'mirrored' } : { columns: 1, rows: 2, layout: 'mirrored' },
    ],
    weldIt,
  ],
  choose: (_now, a) =>
    a < 0.5
      ? [
          cutEnds(4),
          ['choose', { pieces: [2, 4] }],
          ['assemble', { columns: 2, rows: 1, layout: 'mirrored' }],
          weldIt,
        ]
      : [
          cutEnds(4),
          ['choose', { pieces: [3] }],
          ['grind', { topMm: 0.2, bottomMm: 0.1, leftMm: 0, rightMm: 0.3 }],
          ['choose', { pieces: [1, 2, 3, 4] }],
          fourWay('mirrored'),
          weldIt,
        ],
  turn: (_now, a) => [['turn', { to: a < 0.5 ? 'turned 90°' : 'rolled, turned 270°' }]],
  grind: (_now, a, b) => [['grind', { topMm: a, bottomMm: b, leftMm: 0, rightMm: 0.3 }]],
  trueUp: (_now, a) => [['trueUp', { errorDeg: 10 * a - 5 }]],
  peel: (_now, a) => [
    ['jacket', { material: '1018', thicknessMm: 1, where: a < 0.5 ? 'all round' : 'top and bottom' }],
    weldIt,
    ['peel', { how: 'grind' }],
  ],
  assemble: (_now, a) => [
    ['cut', { pieces: 6, cropAMm: 0, cropBMm: 2 }],
    [
      'assemble',
      {
        columns: 3,
        rows: 2,
        layout: 'brick',
        ...(a < 0.5 ? { strips: { material: 'nickel', thicknessMm: 1, where: 'frame' } } : {}),
      },
    ],
    weldIt,
  ],
  laminate: (now, a, b) =>
    b < 0.5
      ? [
          [
            'laminate',
            {
              where: a < 0.5 ? 'rim all round' : 'along one edge',
              material: '1018',
              thicknessMm: now.sideMm / 8,
            },
          ],
          weldIt,
        ]
      : [
          cutEnds(2),
          [
            'laminate',
            {
              where: 'core between',
              material: '80crv2',
              thicknessMm: 3,
              sheet: { material: 'nickel', thicknessMm: 0.3 },
            },
          ],
          weldIt,
        ],
  jacket: (_now, a) => [
    ['jacket', { material: '1018', thicknessMm: 1, where: a < 0.5 ? 'all round' : 'top and bottom' }],
    weldIt,
    ['peel', { how: 'grind' }],
  ],
  scarf: (_now, a) => [cutEnds(2), ['scarf', { angleDeg: a < 0.3 ? 90 : 40 + 40 * a }], weldIt],
  putBack: (_now, a, b) => [
    cutEnds(4),
    ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }],
    ['putBack', { piece: String(1 + Math.floor(3.99 * a)), groundMm: 0.2 + b }],
    weldIt,
  ],
  stand: (_now, a) => [
    ['cut', { pieces: 60, cropAMm: 0, cropBMm: 2 }],
    ['stand', { lay: a < 0.5 ? 'all end B up' : 'every other turned over' }],
    weldIt,
  ],
  join: (_now, a) => [['join', { material: '1018', lengthMm: 30, end: a < 0.5 ? 'A' : 'B' }], weldIt],
  tile: (now, a) => [
    ['crop', { endAMm: 0, endBMm: 0 }],
    ['tile', { angleDeg: 35 + 55 * a, thicknessMm: now.sideMm / 2, lay: 'every other rolled' }],
    weldIt,
  ],
  accordion: (now) => [
    ['accordion', { openingDeg: 90, rootMm: now.sideMm / 5, legMm: now.sideMm / 2.5 }],
    weldIt,
  ],
  grooves: (now, a, b) => [
    [
      'grooves',
      {
        pattern: ['across', 'diagonal', 'dimples'][Math.floor(2.99 * a)],
        face: ['top', 'bottom', 'both in step', 'both offset'][Math.floor(3.99 * ((a + b) % 1))],
        how: b < 0.5 ? 'ground' : 'pressed',
        depthMm: now.sideMm / 6,
        widthMm: 6,
        pitchMm: 9,
        slantDeg: 20,
        heats: 1,
      },
    ],
  ],
  shape: (now, a, b) => [
    ['draw', { shape: 'flat', widthMm: now.sideMm, thicknessMm: 0.4 * now.sideMm, heats: 1 }],
    [
      'shape',
      {
        ...forgedFor(
          {
            ...bladeFrom(PROFILES[Math.floor(3.9 * a)], 160, 1.2 * now.sideMm, 0.3 * now.sideMm),
            lengthMm: 90,
          },
          0.38 * now.sideMm,
        ),
        tip: (['as it is', 'spine', 'edge', 'both'] as const)[Math.floor(3.9 * b)],
        heats: 2,
      },
    ],
  ],
  flatten: (now) => [
    ['flatten', { thicknessMm: 0.9 * now.sideMm, heats: 0 }],
    ['join', { material: '1018', lengthMm: 30, end: 'A' }],
    weldIt,
  ],
  treat: () => [
    [
      'treat',
      {
        treatment: 'normalise',
        material: '1084',
        segments: [{ rateKPerH: null, targetC: 850, holdMin: 10 }],
      },
    ],
  ],
  clean: (_now, a) => [['clean', { how: a < 0.5 ? 'vinegar' : 'pickled', hours: 12 }]],
  etch: (_now, a) => [
    ['etch', { purpose: 'check', partsWater: 1 + 2 * a, dips: 1, minutesEach: 5, coffeeH: 0 }],
  ],
  measure: (_now, a, b) => [
    ['measure', { turnDeg: 30 * a - 15, twistDegPerM: 300 * b - 150, zoneAMm: 0, zoneBMm: 0 }],
    ['crop', { endAMm: 4 * a, endBMm: 3 }],
  ],
};

const wedgePlaces = [1, 2, 3, 4].map((piece) => ({
  piece,
  orientation: piece % 2 === 0 ? 'rolled left–right' : 'as it lies',
}));

/** A can pressed solid and taken out of its jacket. */
const CANNED: readonly Move[] = [
  [
    'can',
    {
      ...MOVES.can.begin([], makeShop()),
      widthMm: 70,
      heightMm: 70,
      lengthMm: 400,
      inserts: [{ shape: 'rod', material: '15n20', sizeMm: 9, count: 9, lay: 'rows' }],
    },
  ],
  ['consolidate', { endMm: 8, sides: 'two ways', passMm: 2.5, heats: 2, temperatureC: 1200 }],
  ['crop', { endAMm: 14, endBMm: 14 }],
  ['peel', { how: 'grind' }],
];

/** A bar that is there, in two steels, unlike itself however it is turned. */
const FOUND: readonly Move[] = [
  [
    'found',
    {
      widthMm: 40,
      heightMm: 38,
      lengthMm: 4000,
      steels: ['1084', '15n20'],
      dots: keptDots(
        48,
        Uint8Array.from({ length: 48 * 48 }, (_, k) =>
          ((k % 48) * (k % 48) + 9 * Math.floor(k / 48)) % 160 < 60 ? 1 : 0,
        ),
      ),
    },
  ],
];

const comesLast = (kind: MoveKind): boolean => kind === 'upset' || kind === 'shape';
const beginsWithCan = (kind: MoveKind): boolean => kind === 'can' || kind === 'consolidate';

/** Random whole plans over all moves: each spell is drawn square again before the next; what leaves but a stub comes last. */
export const anyWork: fc.Arbitrary<Plan> = fc
  .array(fc.record({ kind: fc.constantFrom(...MOVE_KINDS), a: share, b: share }), {
    minLength: 1,
    maxLength: 3,
  })
  .map((choices) => {
    const begin = choices.some(({ kind }) => beginsWithCan(kind))
      ? CANNED
      : choices.some(({ kind }) => kind === 'found')
        ? FOUND
        : [stackOf(9, 40, 4, 5000), weldIt];
    const moves: Move[] = [...begin, drawSquare(24)];
    const [stub] = choices.filter(({ kind }) => comesLast(kind));
    const others = choices.filter(({ kind }) => !comesLast(kind));
    for (const { kind, a, b } of stub ? [...others, stub] : others) {
      moves.push(...SPELLS[kind](barNow(moves), a, b));
      // A blade is drawn no more.
      if (kind !== 'shape')
        moves.push(['draw', { shape: 'square', sideMm: 0.93 * barNow(moves).sideMm, heats: 1 }]);
    }
    return planOf(moves);
  });

/** A plan of one spell of every kind. */
export const eachWork: Readonly<Record<MoveKind, Plan>> = Object.fromEntries(
  MOVE_KINDS.map((kind) => {
    const begin = kind === 'found' ? FOUND : beginsWithCan(kind) ? CANNED : [stackOf(9, 40, 4, 1200), weldIt];
    const moves: Move[] = [...begin, drawSquare(24)];
    return [kind, planOf([...moves, ...SPELLS[kind](barNow(moves), 0.4, 0.6)])];
  }),
) as Record<MoveKind, Plan>;

/** Side of the square that the bar's steel would make now, and its length. */
function barNow(moves: readonly Move[]): Now {
  const evaluation = evaluate(planOf(moves));
  const { bar } = evaluation.goal;
  if (!bar) {
    const stopped = evaluation.lanes[0].steps.find((s) => s.after === null)!;
    throw new Error(
      `the work stopped at ${stopped.step.kind}: ${stopped.findings.map((f) => f.text).join()}`,
    );
  }
  const { heightMm } = sizeOf(bar);
  return { sideMm: Math.min(Math.sqrt(outlineArea(bar.outline)), 2 * heightMm), lengthMm: bar.lengthMm };
}
