import { shopSchema } from '../shop/shop.ts';
import { PLAN_FORMAT, PLAN_VERSION, type Plan, type Step, makeStepOf } from './plan.ts';

export const FITNESS = { good: 'Good', usable: 'Usable', not: 'Will not do' } as const;
export type Fitness = keyof typeof FITNESS;

/** How a picture that a maker wants may have come out, and why it will do or not. */
export interface Example {
  readonly verdict: Fitness;
  readonly why: string;
  readonly plan: Plan;
  /** The step after which it is looked at. */
  readonly stepId: string;
}

/** A picture that is looked for in the middle of a bar, and what to look at. */
export interface Motif {
  readonly id: 'star' | 'C' | 'S';
  readonly title: string;
  readonly look: string;
  readonly examples: readonly Example[];
}

type Moves = readonly (readonly [kind: Step['kind'], parameters: unknown])[];

function example(verdict: Fitness, why: string, moves: Moves): Example {
  const steps = moves.map(([kind, parameters], i) => makeStepOf(`e${i + 1}`, kind, parameters));
  const plan: Plan = {
    format: PLAN_FORMAT,
    version: PLAN_VERSION,
    name: why,
    notes: '',
    shop: shopSchema.parse({ scalePerHeat: 0 }),
    materials: [],
    goal: { lengthMm: 100, widthMm: 30, thicknessMm: 30 },
    lanes: [{ id: 'bar', name: 'Bar', steps }],
  };
  return { verdict, why, plan, stepId: steps.at(-1)!.id };
}

const WELD = ['weld', { heats: 1, temperatureC: 1200 }] as const;
const seen = (more: object) =>
  ['measure', { turnDeg: 0, twistDegPerM: 0, zoneAMm: 0, zoneBMm: 0, ...more }] as const;
const bowed = (mm: number, turnDeg = 0) => seen({ turnDeg, bowAMm: mm, bowMiddleMm: mm, bowBMm: mm });

const striped = (layers: number): Moves => [
  [
    'stack',
    {
      layers,
      pattern: [
        { material: '1084', thicknessMm: 36 / layers },
        { material: '15n20', thicknessMm: 36 / layers },
      ],
      widthMm: 36,
      lengthMm: 200,
    },
  ],
  WELD,
];

/** One bright stripe, upright, so far off the middle. */
const stripe = (offMm: number): Moves => [
  [
    'stack',
    {
      layers: 3,
      pattern: [
        { material: '1084', thicknessMm: 15 + offMm },
        { material: '15n20', thicknessMm: 6 },
        { material: '1084', thicknessMm: 15 - offMm },
      ],
      widthMm: 36,
      lengthMm: 200,
    },
  ],
  WELD,
  ['turn', { to: 'turned 90°' }],
];

const star = (errorDeg: number): Moves => [
  ...striped(9),
  ['resquare', { turn: 'left', sideMm: 34, errorDeg, heats: 0 }],
  ['cut', { pieces: 4, cropAMm: 5, cropBMm: 5 }],
  ['assemble', { columns: 2, rows: 2, layout: 'turned' }],
  WELD,
];

/** What to look for, with made-up bars that show it; how much is still good is common practice, without a source. */
export const MOTIFS: readonly Motif[] = [
  {
    id: 'star',
    title: 'A star of four',
    look: 'The layers run into the corners, and the points of all four meet in the middle. A miss of a layer is seen for ever.',
    examples: [
      example('good', 'The points meet within half a layer.', star(0)),
      example('usable', 'Turned by some 3°: grind inside it to a true square, or book-match it.', star(3)),
      example('not', 'Turned by 9°: the points pass one another. Press it back first.', star(9)),
    ],
  },
  {
    id: 'C',
    title: 'A bow (C)',
    look: 'The layers bow alike on both sides of the middle, and as far in the middle of the bar as at its ends.',
    examples: [
      example('good', 'Even on both sides, the bow as deep as a fifth of the bar.', [
        ...striped(9),
        bowed(9),
      ]),
      example('usable', 'A little to one side: turn every other piece, and they lean against one another.', [
        ...striped(9),
        bowed(8, 5),
      ]),
      example('not', 'Hardly bowed: laid together it reads as stripes. Press it once more.', [
        ...striped(9),
        bowed(1.5, 2),
      ]),
    ],
  },
  {
    id: 'S',
    title: 'A hook (S)',
    look: 'The stripe goes through the middle and turns back at both sides, so that both halves, ripped apart, are alike.',
    examples: [
      example('good', 'Through the middle, turned back alike at both sides.', [
        ...stripe(0),
        seen({ turnDeg: 15 }),
      ]),
      example('usable', 'Past the middle by a little: one hook comes out thicker than the other.', [
        ...stripe(4),
        seen({ turnDeg: 15 }),
      ]),
      example('not', 'Rolled too far: straight from corner to corner, and neither half hooks.', [
        ...stripe(0),
        seen({ turnDeg: 42 }),
      ]),
    ],
  },
];
