import { z } from 'zod';
import { type Action, care } from '../../instruct/action.ts';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { waisting, wedging } from '../../geometry/maps/plain.ts';
import type { Outline } from '../../geometry/outline.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatSizes } from '../../units/length.ts';
import { CAUTIONS, error, heated, needsSoundBars, note, reshaped, warning } from '../contract/common.ts';
import { MOST_SECTION_MM, angleDeg, choice, heats, lengthMm } from '../../units/quantities.ts';
import { eachPiece } from '../contract/each.ts';
import { type Finding, defineMove } from '../contract/move.ts';

/**
 * Press a bar to a wedge, apex down, with this angle at the apex, or in its middle from above and below to a bow-tie: two wedges,
 * left and right, on one another in a waist of so many mm. Four of 90° make a square.
 */
const parameters = z.strictObject({
  into: choice('Press it to', {
    'one wedge': 'One wedge, point down',
    'bow-tie': 'A bow-tie: two wedges, left and right',
  }).optional(),
  apexDeg: angleDeg('Angle at the point', 20, 120),
  waistMm: lengthMm('Waist', MOST_SECTION_MM, {
    fine: true,
    hint: 'what the dies leave in the middle',
  }).optional(),
  heats,
});

type P = z.infer<typeof parameters>;

/** mm. What the dies leave in the middle, where nothing is said. */
const WAIST_MM = 3;

const isBowTie = (p: P): boolean => p.into === 'bow-tie';
const waistOf = (p: P): number => p.waistMm ?? WAIST_MM;
/** Of each face to the middle line. */
const slopeOf = (p: P): number => Math.tan((p.apexDeg * Math.PI) / 360);

interface Sizes {
  readonly acrossMm: number;
  readonly deepMm: number;
}

/** Base and height of the triangle that holds the same area: b·h/2 = A, b = 2h·tan(apex/2). */
function triangle(areaMm2: number, p: P): Sizes {
  const t = slopeOf(p);
  const deepMm = Math.sqrt(areaMm2 / t);
  return { acrossMm: 2 * deepMm * t, deepMm };
}

/** Width over all and height of the outer sides of the bow-tie that holds the same area: each half w₀·l + t·l² = A/2. */
function bowTie(areaMm2: number, p: P): Sizes {
  const [t, waist] = [slopeOf(p), waistOf(p)];
  const halfMm = (Math.sqrt(waist ** 2 + 2 * t * areaMm2) - waist) / (2 * t);
  return { acrossMm: 2 * halfMm, deepMm: waist + 2 * t * halfMm };
}

const areaOf = (bar: Billet): number => {
  const { widthMm, heightMm } = sizeOf(bar);
  return widthMm * heightMm;
};

const comesTo = (bar: Billet, p: P): Sizes =>
  isBowTie(p) ? bowTie(areaOf(bar), p) : triangle(areaOf(bar), p);

function wedged(bar: Billet, p: P): Billet {
  const { widthMm, heightMm } = sizeOf(bar);
  const { acrossMm, deepMm } = comesTo(bar, p);
  const [x, y, w] = [acrossMm / 2, deepMm / 2, waistOf(p) / 2];
  const one: Outline = [
    [0, -y],
    [x, y],
    [-x, y],
  ];
  const two: Outline = [
    [-x, -y],
    [0, -w],
    [x, -y],
    [x, y],
    [0, w],
    [-x, y],
  ];
  const map = isBowTie(p)
    ? waisting(heightMm, waistOf(p), slopeOf(p))
    : wedging(widthMm, heightMm, acrossMm, deepMm);
  return {
    ...bar,
    outline: isBowTie(p) ? two : one,
    field: new MappedField(bar.field, map),
    jacket: null,
  };
}

/** Share by which the outer sides may grow as steel is pressed out of the middle, or stay behind. */
const GROWS = 0.1;

/** A bow-tie's outer sides stand as high as the bar did only where it was high enough for its width. */
function heightFinding(bar: Billet, p: P, shop: Shop): Finding[] {
  const { heightMm } = sizeOf(bar);
  const area = areaOf(bar);
  const { deepMm } = bowTie(area, p);
  if (Math.abs(deepMm / heightMm - 1) <= GROWS) return [];
  const from = (mm: number) => Math.round(mm * 10) / 10;
  const thicknessMm = from(deepMm);
  const widthMm = from((0.98 * area) / thicknessMm);
  return [
    warning(
      'bow-tie height',
      `Its outer sides come to ${formatSizes([deepMm], shop.lengths)} high, the bar stands ${formatSizes([heightMm], shop.lengths)}: pressed in the middle alone it does not get there. Begin from about ${formatSizes([widthMm, thicknessMm], shop.lengths)}, or with another angle.`,
      {
        parameter: 'apexDeg',
        remedy: {
          label: `Draw to ${formatSizes([widthMm, thicknessMm], shop.lengths)} first`,
          insertBefore: 'draw',
          parameters: { shape: 'flat', widthMm, thicknessMm, heats: 1 },
        },
      },
    ),
  ];
}

export const wedge = defineMove({
  kind: 'wedge',
  title: 'Press a wedge',
  short: 'Wedge',
  hint: 'gather layers into a fan, or a bow-tie of two; four wedges make a sunburst',
  group: 'Heat and press',
  begins: false,
  parameters,
  begin: (): P => ({ apexDeg: 90, waistMm: WAIST_MM, heats: 2 }),
  check(before, p, shop) {
    const missing = needsSoundBars(before);
    if (missing.length > 0) return missing;
    const lowest = Math.min(...before.map((bar) => sizeOf(bar).heightMm));
    if (isBowTie(p) && waistOf(p) >= lowest) {
      const thinner = Math.round(2 * lowest) / 10;
      return [
        error(
          'no waist',
          `The bar stands ${formatSizes([lowest], shop.lengths)}: a waist must be thinner than that.`,
          {
            parameter: 'waistMm',
            remedy: {
              label: `A waist of ${formatSizes([thinner], shop.lengths)}`,
              set: { waistMm: thinner },
            },
          },
        ),
      ];
    }
    return [
      ...(Math.abs(p.apexDeg - 90) > 1e-9
        ? [note('apex', 'Four wedges close to a square only with an apex of 90°.')]
        : []),
      ...(isBowTie(p) ? heightFinding(before[0], p, shop) : []),
      note(
        'first order',
        'A first-order picture: the layers gather evenly into the apex. Friction in real V dies holds the outer ones back.',
      ),
      CAUTIONS.press(),
    ];
  },
  apply(before, p, shop) {
    const { after, losses } = heated(before, p.heats, shop);
    return { after: reshaped(after, (bar) => wedged(bar, p)), losses, added: {} };
  },
  presses([bar], p, shop) {
    const { widthMm, heightMm } = sizeOf(bar);
    // At the end the dies bear on the whole of it.
    const { acrossMm, deepMm } = comesTo(bar, p);
    return isBowTie(p)
      ? {
          widthMm: Math.max(acrossMm, widthMm),
          heightMm,
          toHeightMm: Math.min(heightMm, (deepMm + waistOf(p)) / 2),
          biteMm: shop.biteMm,
        }
      : { widthMm: acrossMm, heightMm: Math.max(heightMm, deepMm), toHeightMm: deepMm, biteMm: shop.biteMm };
  },
  does(before, p, shop) {
    return [
      ...care('top marked'),
      ...eachPiece(heated(before, p.heats, shop).after, (bar): Action[] => {
        const sizes = { apexDeg: p.apexDeg, ...comesTo(bar, p), heats: p.heats };
        return isBowTie(p)
          ? [{ do: 'press bow-tie', waistMm: waistOf(p), ...sizes }]
          : [{ do: 'press wedge', ...sizes }];
      }),
    ];
  },
});
