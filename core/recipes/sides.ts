import { divisionMm } from '../units/length.ts';
import { planPasses } from '../forging/spread.ts';
import type { Shop } from '../shop/shop.ts';
import { type Making, NotMade } from './making.ts';
import type { Side } from '../plan/wish.ts';

/** The flat bar that is wanted, and one element on it along; how many elements lie on one another in the bar before. mm */
export interface FaceWished {
  readonly widthMm: number;
  readonly thicknessMm: number;
  readonly lengthMm: number;
  readonly alongMm: number;
  readonly rows: number;
}

/** The bar before its end grain is brought to the side, and how thick it is there: tiles, legs, or the block pressed down. mm */
export interface SideBar {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly thickMm: number;
  /** Of a bar stood on end. */
  readonly lengthMm?: number;
}

/** One way to the side: what bar it wants, and the moves from that bar to the flat one. */
interface Way {
  bar(face: FaceWished, shop: Shop): SideBar;
  bring(making: Making, bar: SideBar): void;
}

/** Heats from the tiles to the flat bar. */
const HEATS = 4;
/** A tile so many times as thick as the finished bar at least, and so thick at most, mm. */
const LEAST_THINNED = 1.35;
const MOST_TILE_MM = 30;
const STEP_MM = 0.5;
/** Tile over bar that is handy to saw and lay; sides of a bar that is handy to hold, mm (handbook, wish). */
const TILE_TO_BAR = 0.55;
const HANDY_MM = [10, 55] as const;

/** The least width that, as thick as it is first, spreads to the one wanted while it is forged thinner; a skin scales off before. mm */
export function leastWidthMm(fromMm: number, widthMm: number, thicknessMm: number, shop: Shop): number {
  const left = (1 - shop.scalePerHeat) ** HEATS;
  const to = { widthMm, heightMm: thicknessMm };
  const reaches = (wide: number): boolean => {
    // (w − 2d)(h − 2d) = w·h·left
    const sum = wide + fromMm;
    const skin = (sum - Math.sqrt(sum ** 2 - 4 * wide * fromMm * (1 - left))) / 2;
    const from = { widthMm: wide - skin, heightMm: fromMm - skin };
    const { lengths, biteMm, reductionPerPass, spread } = shop;
    return (
      planPasses(from, to, biteMm, reductionPerPass, divisionMm(lengths), spread).reachesWidthMm >= widthMm
    );
  };
  let [low, high] = [widthMm / 3, 1.1 * widthMm];
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (reaches(middle)) high = middle;
    else low = middle;
  }
  return high;
}

/** Fine numbers are set to a twentieth of a millimetre, or two thousandths of an inch. */
export const fineMm = (mm: number, { lengths }: Shop): number => {
  const step = lengths.unit === 'in' ? 0.002 * 25.4 : 0.05;
  return Math.round(mm / step) * step;
};

/** To a whole division of the shop's rule. */
export const toRule = (mm: number, { lengths }: Shop, round: (n: number) => number = Math.round): number =>
  round(mm / divisionMm(lengths) - 1e-9) * divisionMm(lengths);

/**
 * Of all thicknesses before the last drawing the handiest; `up` is how high the bar is for so much lengthening. Width and height come
 * to whole divisions, and the thickness, which is cut to a fine one, makes up for that.
 */
function handiest(
  { widthMm, thicknessMm }: FaceWished,
  shop: Shop,
  up: (lengthening: number) => number,
  thickToUp: number,
): SideBar {
  const wideFor = (thickMm: number): number =>
    toRule(leastWidthMm(thickMm, widthMm, thicknessMm, shop), shop, Math.ceil);
  const heightFor = (thickMm: number, wide: number): number =>
    up((thickMm * wide * (1 - shop.scalePerHeat) ** HEATS) / (thicknessMm * widthMm));
  let best: SideBar | null = null;
  let least = Infinity;
  for (let thickMm = LEAST_THINNED * thicknessMm; thickMm <= MOST_TILE_MM; thickMm += STEP_MM) {
    const wide = wideFor(thickMm);
    const heightMm = heightFor(thickMm, wide);
    const low = Math.max(0, Math.log(HANDY_MM[0] / heightMm)) + Math.max(0, Math.log(heightMm / HANDY_MM[1]));
    const over = Math.max(0, Math.log(thickMm / heightMm));
    const cost = Math.abs(Math.log(thickMm / (thickToUp * heightMm))) + 3 * low + 2 * over;
    if (cost < least) [least, best] = [cost, { widthMm: wide, heightMm, thickMm }];
  }
  if (!best)
    throw new NotMade(
      `The finished bar is too thick to be tiled: nothing thicker than ${MOST_TILE_MM} mm is sawn into tiles`,
    );
  const heightMm = Math.max(divisionMm(shop.lengths), toRule(best.heightMm, shop));
  return { ...best, heightMm, thickMm: best.thickMm * (best.heightMm / heightMm) };
}

const tiles = (angleDeg: number): Way => {
  const sine = Math.sin((angleDeg * Math.PI) / 180);
  return {
    bar: (face, shop) =>
      handiest(face, shop, (longer) => (face.alongMm * face.rows * sine) / longer, TILE_TO_BAR),
    bring(making, { thickMm }) {
      making.do(
        'tile',
        { angleDeg, lay: 'every other rolled' },
        { thicknessMm: fineMm(thickMm, making.shop) },
      );
      if (angleDeg === 90) making.do('jacket', { material: '1018', thicknessMm: 1.5, where: 'all round' });
      making.do('weld');
      if (angleDeg === 90) making.do('peel');
    },
  };
};

/** Full angle of the Vs; the root as a share of the bar's height and of a leg; a leg's face over the bar's height. */
const OPENING_DEG = 90;
const ROOT_TO_LEG = 0.5;
const LEG_TO_BAR = 0.4;
const LEG_FACE = (1 - ROOT_TO_LEG * LEG_TO_BAR) / Math.cos(Math.PI / 4) + ROOT_TO_LEG * LEG_TO_BAR;

const ACCORDION: Way = {
  bar: (face, shop) =>
    handiest(face, shop, (longer) => (face.alongMm * face.rows) / LEG_FACE / longer, LEG_TO_BAR),
  bring(making, { thickMm }) {
    making
      .do(
        'accordion',
        { openingDeg: OPENING_DEG },
        { legMm: fineMm(thickMm, making.shop), rootMm: fineMm(ROOT_TO_LEG * thickMm, making.shop) },
      )
      .do('weld');
  },
};

/** As long as it is thick, at most, that still upsets straight; and a little less. */
const SLENDER = 2.8;

const UPSET: Way = {
  bar(face, shop) {
    const { widthMm, thicknessMm, lengthMm } = face;
    const thickMm = Math.max(12, 2.6 * thicknessMm);
    const wide = leastWidthMm(thickMm, widthMm, thicknessMm, shop);
    const lengthening = (thickMm * wide * (1 - shop.scalePerHeat) ** HEATS) / (thicknessMm * widthMm);
    // Cropped and ground a little, all round.
    const long = (1.06 * lengthMm) / lengthening;
    let standsMm = 3 * thickMm;
    for (let i = 0; i < 40; i++) {
      const grows = Math.sqrt(standsMm / thickMm);
      standsMm = SLENDER * Math.min(wide / grows, long / grows);
    }
    const grows = Math.sqrt(standsMm / thickMm);
    if (grows < 1.15) throw new NotMade('The finished bar is too large to be pressed down on its end');
    return { widthMm: wide / grows, heightMm: long / grows, thickMm, lengthMm: standsMm };
  },
  bring(making, { thickMm, lengthMm }) {
    const { lengthMm: long } = making.size;
    const off = Math.max(0, long - lengthMm!) / 2;
    making.do('crop', {}, { endAMm: off, endBMm: off }).do('upset', { toHeightMm: thickMm });
  },
};

/** Left along the bar: whatever is thicker, and wide enough to spread. */
const ALONG: Way = {
  bar(face, shop) {
    const thickMm = Math.min(28, Math.max(12, 2.4 * face.thicknessMm));
    return {
      widthMm: 1.1 * leastWidthMm(thickMm, face.widthMm, face.thicknessMm, shop),
      heightMm: thickMm,
      thickMm,
    };
  },
  bring: () => undefined,
};

export const WAYS: Record<Side, Way> = {
  slanted: tiles(45),
  straight: tiles(90),
  accordion: ACCORDION,
  upset: UPSET,
  along: ALONG,
};
