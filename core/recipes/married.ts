import type { Shop } from '../shop/shop.ts';
import { faced } from './families/parts.ts';
import type { Making } from './making.ts';
import { fineMm, toRule } from './sides.ts';
import type { Around } from './spec.ts';

/** A flat bar that is drawn on after it is married to something: how wide and thick it is then, and how much longer it grows. mm */
interface Leaf {
  readonly widthMm: number;
  readonly thickMm: number;
  readonly longer: number;
  /** What the whole is drawn to at last, where more is ground off it than scale. */
  readonly drawnMm?: number;
  /** Of the finished bar's width, what is its own; all of it where nothing is said. */
  readonly widthShare?: number;
}

interface Finished {
  readonly leaf: Leaf;
  /** The bar as it is drawn at last, mm. */
  readonly widthMm: number;
  readonly thickMm: number;
}

/** What else is married to a bar: the flat one that it begins with, and what is laid to that. */
interface Married {
  leaf(widthMm: number, thickMm: number, shop: Shop): Leaf;
  lay?(making: Making, finished: Finished): void;
}

/** Steel for a cutting edge: in the middle, or along one edge. Steel that shows beside the pattern. */
const EDGE_STEEL = '80crv2';
const PLAIN_STEEL = '1018';
/** A bar that something is laid over is so many times as thick as it is in the end; one that something is laid beside. */
const THICKER = 1.9;
const THICKER_BESIDE = 1.5;
/** Of the bar as it is laid together, how thick the core, how thick each plate and how wide the edge. */
const CORE_SHARE = 1 / 3;
const PLATE_SHARE = 0.25;
const EDGE_SHARE = 0.22;
/** mm of a jacket's sheet; with it a bar is so much of its width in the end, that it has room to spread. */
const JACKET_MM = 1.6;
const IN_JACKET = 0.94;

export const MARRIED: Record<Around, Married> = {
  plain: { leaf: (widthMm, thickMm) => ({ widthMm, thickMm, longer: 1 }) },
  core: {
    leaf: (widthMm, thickMm, shop) => ({
      widthMm,
      thickMm: toRule((THICKER * thickMm * (1 - CORE_SHARE)) / 2 + 2 * shop.fayingMm, shop),
      longer: THICKER,
    }),
    lay(making, { thickMm }) {
      making.do('cut', { pieces: 2 });
      faced(making, 'level')
        .do(
          'laminate',
          { where: 'core between', material: EDGE_STEEL, lie: 'upper one rolled' },
          { thicknessMm: fineMm(CORE_SHARE * THICKER * thickMm, making.shop) },
        )
        .do('weld');
    },
  },
  edge: {
    leaf(widthMm, thickMm, shop) {
      const own = toRule((1 - EDGE_SHARE) * widthMm, shop);
      return {
        widthMm: own,
        thickMm: toRule(THICKER_BESIDE * thickMm, shop),
        longer: THICKER_BESIDE,
        widthShare: own / widthMm,
      };
    },
    lay(making, { widthMm, leaf }) {
      const { fayingMm } = making.shop;
      making
        .do('grind', {}, { topMm: 0, bottomMm: 0, leftMm: fayingMm, rightMm: fayingMm })
        .do(
          'laminate',
          { where: 'along one edge', material: EDGE_STEEL },
          { thicknessMm: fineMm(widthMm - leaf.widthMm + 4 * fayingMm, making.shop) },
        )
        .do('weld');
    },
  },
  jacket: {
    leaf(widthMm, thickMm, shop) {
      const [own, thick] = [IN_JACKET * widthMm - 2 * JACKET_MM, THICKER * thickMm].map((mm) =>
        toRule(mm, shop),
      );
      const [wide, high] = [own, thick].map((mm) => mm - 2 * shop.fayingMm + 2 * JACKET_MM);
      // Drawn as much thinner as the rest: what is left of it on the broad sides is ground off.
      const drawnMm = toRule(thickMm / (1 - (2 * JACKET_MM) / high), shop, Math.ceil);
      return {
        widthMm: own,
        thickMm: thick,
        longer: (wide * high) / (widthMm * drawnMm),
        drawnMm,
        widthShare: 1 - (2 * JACKET_MM) / wide,
      };
    },
    lay(making) {
      faced(making)
        .do(
          'jacket',
          { material: PLAIN_STEEL, where: 'all round' },
          { thicknessMm: fineMm(JACKET_MM, making.shop) },
        )
        .do('weld');
    },
  },
  cladding: {
    leaf: (widthMm, thickMm, shop) => ({
      widthMm,
      thickMm: toRule(THICKER * thickMm * (1 - 2 * PLATE_SHARE) + 2 * shop.fayingMm, shop),
      longer: THICKER,
    }),
    lay(making, { thickMm }) {
      faced(making, 'level')
        .do(
          'laminate',
          { where: 'cladding both sides', material: PLAIN_STEEL },
          { thicknessMm: fineMm(PLATE_SHARE * THICKER * thickMm, making.shop) },
        )
        .do('weld');
    },
  },
};
