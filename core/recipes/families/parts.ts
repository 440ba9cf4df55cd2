import { SEQUENCES } from '../../moves/forge/press/sequences.ts';
import type { Making } from '../making.ts';
import { fineMm, toRule } from '../sides.ts';
import { type Asked, type RecipeNumber, settledNumber } from '../recipe.ts';

/** Layers of the start, and the bright steel's part of a pair. */
export const LAYER_NUMBERS = {
  layers: { label: 'Layers', least: 3, most: 41, usual: 13, odd: true },
  share: { label: 'Bright part', least: 0.25, most: 0.65, usual: 0.38 },
} as const satisfies Record<string, RecipeNumber>;

/** How thick both steels are for so many layers: as they are at hand, or by the section and the share. mm */
function thicknesses({ making, startMm, numbers, wish }: Asked): {
  dark: number;
  bright: number;
  layers: number;
} {
  const layers = settledNumber({ ...LAYER_NUMBERS.layers, most: Infinity }, numbers.layers);
  const [darks, brights] = [(layers + 1) / 2, (layers - 1) / 2];
  const pair = startMm / (darks * (1 - numbers.share) + brights * numbers.share);
  return {
    layers,
    dark: wish.darkMm ?? Math.max(0.3, fineMm(pair * (1 - numbers.share), making.shop)),
    bright: wish.brightMm ?? Math.max(0.3, fineMm(pair * numbers.share, making.shop)),
  };
}

/** A welded stack of the two steels, dark outside. */
export function stacked(asked: Asked, widthMm = asked.startMm): Making {
  const { making, wish } = asked;
  const { layers, dark, bright } = thicknesses(asked);
  return making
    .do(
      'stack',
      { layers, widthMm, lengthMm: making.startMm },
      {
        pattern: [
          { material: wish.dark, thicknessMm: dark },
          { material: wish.bright, thicknessMm: bright },
        ],
      },
    )
    .do('weld');
}

export const square = (making: Making, sideMm: number, heats = 2): Making =>
  making.do('draw', { shape: 'square', sideMm, heats, widthMm: undefined, thicknessMm: undefined });

export const flat = (making: Making, widthMm: number, thicknessMm: number, heats = 2): Making =>
  making.do(
    'draw',
    { shape: 'flat', heats, sideMm: undefined },
    { widthMm: toRule(widthMm, making.shop), thicknessMm: toRule(thicknessMm, making.shop) },
  );

/** Faying faces on all four sides, both, or one pair. */
export function faced(making: Making, which: 'all' | 'level' = 'all'): Making {
  const off = making.shop.fayingMm;
  const sides = which === 'all' ? off : 0;
  return making.do('grind', {}, { topMm: off, bottomMm: off, leftMm: sides, rightMm: sides });
}

/** Sawn, ground, laid and welded: columns × rows of the bar's own pieces. */
export function laid(
  making: Making,
  columns: number,
  rows: number,
  layout: string,
  more: object = {},
): Making {
  making.do('cut', { pieces: columns * rows });
  return faced(making)
    .do('assemble', { columns, rows, layout, ...more })
    .do('weld');
}

/** mm. Sides of the bar that four of make an element, and of the one it is re-squared from. */
export function quarterMm({ sideMm, steelMm3, making }: Asked): number {
  const handy = Math.min(30, Math.max(18, 0.8 * sideMm + 4));
  // Four of them are no longer than the dies that set their seams.
  const { kind, dieLengthMm } = making.shop.press;
  const least = kind === 'press' ? Math.sqrt(steelMm3 / (4 * UNDER_DIES * dieLengthMm)) : 0;
  return Math.min(MOST_QUARTER_MM, Math.max(handy, least));
}

/** Of the dies, so much is used; mm, the largest bar that four are made of. */
const UNDER_DIES = 0.75;
const MOST_QUARTER_MM = 40;

export const STARTED_FROM = 1.2;

/** A stack is so many times as wide at least as the bar that is drawn from it. */
const DRAWN_FROM = 1.06;

/** A stack drawn square. */
export const layeredBar = (asked: Asked, sideMm: number): Making =>
  square(stacked({ ...asked, startMm: Math.max(asked.startMm, DRAWN_FROM * sideMm) }), sideMm);

/** A bar of layers that sweep from corner to corner: re-squared on the bias. */
export function quarterStar(asked: Asked, sideMm: number): Making {
  const making = layeredBar(asked, STARTED_FROM * sideMm);
  return making.do('resquare', { turn: 'left', sideMm, errorDeg: 0, heats: 2, reckoned: 'usual' });
}

/** Four pieces of a bar laid together round a centre, drawn square: the bar is brought to the side that four of make an element. */
export function fourOf(
  asked: Asked,
  bar: (sideMm: number) => Making,
  layout: string,
  more: object = {},
): Making {
  bar(quarterMm(asked));
  return square(laid(asked.making, 2, 2, layout, more), asked.sideMm);
}

/** mm. Bites of a bar that is pressed pass by pass come in such steps, so that plans whose bites are nearly alike share a flow. */
const BITES_MM = 10;
const MOST_BITE_MM = 30;

/** mm. Every bar that is pressed pass by pass is pressed at this size, where no other is said: the flow of one is that of all. */
const PRESSED_MM = 34;

/** A layered bar pressed by one of the ready sequences and squared up, at one size whatever is wished for. */
export function pressed(asked: Asked, sequence: string, sizeMm = PRESSED_MM): Making {
  const startMm = Math.max(asked.startMm, STARTED_FROM * sizeMm);
  const { biteMm: shops, press } = asked.making.shop;
  const biteMm = shops < BITES_MM ? shops : Math.min(MOST_BITE_MM, BITES_MM * Math.floor(shops / BITES_MM));
  const { friction } = press;
  const passes = SEQUENCES[sequence].passes(sizeMm, sizeMm);
  return layeredBar({ ...asked, startMm }, sizeMm).do(
    'press',
    { friction, held: false, finish: 'squared', heats: 2 },
    { passes: passes.map((pass) => ({ ...pass, biteMm, friction })) },
  );
}
