import { type Goal, type Step, makeStepOf } from '../../../../core/plan/index.ts';
import { MOVES } from '../../../../core/moves/index.ts';
import { handyNumbers } from '../../../../core/units/handy.ts';
import type { Shop } from '../../../../core/shop/shop.ts';

/** Layers of two steels in turn, as thick as the maker has them. mm. */
export interface TwoSteels {
  readonly dark: number;
  readonly bright: number;
}

/** mm. About as high as the worked example's stack should stand. */
const STACK_HIGH_MM = 34;

/** An odd number of layers, so that both faces of the stack are of one steel. */
const layersOf = ({ dark, bright }: TwoSteels): number =>
  Math.max(3, 2 * Math.round(STACK_HIGH_MM / (dark + bright) - 0.5) + 1);

/** The square bar before it is tiled, for the finished width: what spreads to it under bites of the usual length. */
const SIDE_TO_WIDTH = 0.74;
const LEAST_SIDE_MM = 18;
const MOST_SIDE_MM = 42;
const TILE_TO_SIDE = 0.54;

type Move = readonly [Step['kind'], unknown];

/** A short worked example of the steel at hand that ends at the maker's own finished width and thickness. */
export function exampleSteps(goal: Goal, steels: TwoSteels, shop: Shop): Step[] {
  const off = {
    topMm: shop.fayingMm,
    bottomMm: shop.fayingMm,
    leftMm: shop.fayingMm,
    rightMm: shop.fayingMm,
  };
  const sideMm = Math.round(Math.min(MOST_SIDE_MM, Math.max(LEAST_SIDE_MM, SIDE_TO_WIDTH * goal.widthMm)));
  const weld: Move = ['weld', { heats: 2, temperatureC: shop.forge.weldingC }];
  const moves: Move[] = [
    [
      'stack',
      {
        layers: layersOf(steels),
        pattern: [
          { material: '1084', thicknessMm: steels.dark },
          { material: '15n20', thicknessMm: steels.bright },
        ],
        widthMm: 36,
        lengthMm: 150,
      },
    ],
    weld,
    ['draw', { shape: 'square', sideMm: 28, heats: 2 }],
    ['resquare', { turn: 'left', sideMm: 25, errorDeg: 0, heats: 2 }],
    ['cut', { pieces: 4, cropAMm: shop.cropMm, cropBMm: shop.cropMm }],
    ['grind', off],
    ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }],
    weld,
    ['draw', { shape: 'square', sideMm, heats: 2 }],
    ['grind', off],
    ['tile', { angleDeg: 45, thicknessMm: Math.round(TILE_TO_SIDE * sideMm), lay: 'every other rolled' }],
    weld,
    ['draw', { shape: 'flat', widthMm: goal.widthMm, thicknessMm: goal.thicknessMm, heats: 2 }],
  ];
  return moves.map(([kind, parameters], i) => {
    // The last has the maker's own sizes.
    const own = i === moves.length - 1 ? parameters : handyNumbers(MOVES[kind].parameters, parameters, shop);
    return makeStepOf(`s${i + 1}`, kind, own);
  });
}
