import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { type Billet, sizeOf, stretched } from '../../billet/billet.ts';
import { inTurns } from '../../billet/sectionFlow.ts';
import { planPasses } from '../../forging/spread.ts';
import type { Shop } from '../../shop/shop.ts';
import { divisionMm, formatLength } from '../../units/length.ts';
import { CAUTIONS, heated, needsSteelFor, needsWelded, scaleShare } from '../contract/common.ts';
import { MOST_SECTION_MM, heats, lengthMm } from '../../units/quantities.ts';
import { cornersBack, cornersNote, needsSquarable } from './knocked.ts';
import { reckoned, reckoning } from './usualOrFlow.ts';
import { eachPiece } from '../contract/each.ts';
import { type Finding, type Pressing, defineMove } from '../contract/move.ts';

/** Down to a square side or a flat width × thickness, mm. */
const parameters = z.discriminatedUnion('shape', [
  z.strictObject({ shape: z.literal('square'), sideMm: lengthMm('Side', MOST_SECTION_MM), heats, reckoned }),
  z.strictObject({
    shape: z.literal('flat'),
    widthMm: lengthMm('Width', MOST_SECTION_MM),
    thicknessMm: lengthMm('Thickness', MOST_SECTION_MM),
    heats,
    reckoned,
  }),
]);

export type DrawParameters = z.infer<typeof parameters>;

const target = (p: DrawParameters): { widthMm: number; heightMm: number } =>
  p.shape === 'square'
    ? { widthMm: p.sideMm, heightMm: p.sideMm }
    : { widthMm: p.widthMm, heightMm: p.thicknessMm };

/** The passes for one bar, as it is after its scale has fallen. */
function drawPasses(bar: Billet, p: DrawParameters, shop: Shop) {
  const { widthMm, heightMm } = sizeOf(cornersBack(bar));
  return planPasses(
    { widthMm, heightMm },
    target(p),
    shop.biteMm,
    shop.reductionPerPass,
    divisionMm(shop.lengths),
    shop.spread,
  );
}

/** Share. A width that spread misses by more than this is not what it comes to. */
const SHORT_OF_WIDTH = 0.01;

/** What it comes to: what was asked for, or as wide (or high) as it spreads under such bites. */
function comesTo(bar: Billet, p: DrawParameters, shop: Shop): { widthMm: number; heightMm: number } {
  const to = target(p);
  const { reachesWidthMm, reachesHeightMm } = drawPasses(bar, p, shop);
  const reached = (mm: number, wanted: number) => (mm < wanted * (1 - SHORT_OF_WIDTH) ? mm : wanted);
  // A square is had by pressing now one way, now the other, from any bar that has the steel for it.
  if (p.shape === 'square') return to;
  return { widthMm: reached(reachesWidthMm, to.widthMm), heightMm: reached(reachesHeightMm, to.heightMm) };
}

function drawn(bar: Billet, p: DrawParameters, shop: Shop): Billet {
  const [square, to] = [cornersBack(bar), comesTo(bar, p, shop)];
  const { widthMm, heightMm } = sizeOf(square);
  return stretched(square, to.widthMm / widthMm, to.heightMm / heightMm);
}

/** Times round at the last stops, for a side that is not pressed bulges. */
const FINISHING = 2;

const byBoth = reckoning<DrawParameters>({
  usual: drawn,
  passes(bar, p, shop) {
    const to = target(p);
    const { passes } = drawPasses(bar, p, shop);
    const last = [
      { side: 'height', stopMm: to.heightMm },
      { side: 'width', stopMm: to.widthMm },
    ] as const;
    return inTurns([
      ...passes.map(({ pressed, stopMm }) => ({ side: pressed, stopMm })),
      ...Array.from({ length: FINISHING }, () => last).flat(),
    ]);
  },
});

function spreadFinding(bar: Billet, p: DrawParameters, shop: Shop): Finding[] {
  const to = target(p);
  const plan = drawPasses(bar, p, shop);
  const byHeight = plan.reachesHeightMm < to.heightMm * (1 - SHORT_OF_WIDTH);
  const reached = byHeight ? plan.reachesHeightMm : plan.reachesWidthMm;
  const wanted = byHeight ? to.heightMm : to.widthMm;
  if (reached >= wanted * (1 - SHORT_OF_WIDTH)) return [];
  const [parameter, word] =
    p.shape === 'square'
      ? ['sideMm', 'side']
      : byHeight
        ? ['thicknessMm', 'thickness']
        : ['widthMm', 'width'];
  const possible = Math.floor(reached * 10) / 10;
  return [
    {
      code: 'spread',
      severity: 'warning',
      parameter,
      text: `Under ${formatLength(shop.biteMm, shop.lengths)} bites the bar spreads only to a ${word} of ${formatLength(reached, shop.lengths)}, not ${formatLength(wanted, shop.lengths)}${p.shape === 'flat' ? ', and so it is shown' : ''}. Longer bites spread more, or start wider.`,
      remedy: {
        label: `Make the ${word} ${formatLength(possible, shop.lengths)}`,
        set: { [parameter]: possible },
      },
    },
  ];
}

export const draw = defineMove({
  kind: 'draw',
  title: 'Draw out',
  hint: 'longer and thinner, square or flat',
  group: 'Heat and press',
  begins: false,
  parameters,
  begin(before, shop) {
    const size = before[0] ? sizeOf(before[0]) : { widthMm: 40, heightMm: 40 };
    const side = Math.sqrt(size.widthMm * size.heightMm * (1 - scaleShare(2, shop)));
    return { shape: 'square' as const, sideMm: Math.floor(0.8 * side), heats: 2 };
  },
  check(before, p, shop, stage) {
    const missing = needsWelded(before);
    if (missing.length > 0) return missing;
    const shape = needsSquarable(before);
    if (shape.length > 0) return shape;
    const to = target(p);
    const small = needsSteelFor(
      before,
      to.widthMm,
      to.heightMm,
      shop,
      p.heats,
      p.shape === 'square' ? 'sideMm' : 'widthMm',
    );
    if (small.length > 0) return small;
    const flow = byBoth.findings(before, p, shop, stage);
    if (flow.some((f) => f.severity === 'error')) return flow;
    return [
      ...flow,
      ...spreadFinding(before[0], p, shop),
      ...((p.reckoned ?? 'usual') === 'usual' ? cornersNote(before) : []),
      CAUTIONS.press(),
      CAUTIONS.fire(),
    ];
  },
  apply(before, p, shop, stage) {
    const { losses } = heated(before, p.heats, shop);
    return { after: byBoth.made(before, p, shop, stage), losses, added: {} };
  },
  flows: byBoth.flows,
  beside: byBoth.beside,
  presses([bar], p, shop) {
    const { widthMm, heightMm } = sizeOf(cornersBack(bar));
    let [width, height] = [widthMm, heightMm];
    const bites = drawPasses(bar, p, shop).passes.map((pass): Pressing => {
      const upright = pass.pressed === 'height';
      const bite = {
        widthMm: upright ? pass.widthMm : pass.heightMm,
        heightMm: upright ? height : width,
        toHeightMm: pass.stopMm,
        biteMm: shop.biteMm,
      };
      [width, height] = [pass.widthMm, pass.heightMm];
      return bite;
    });
    return bites.reduce<Pressing | null>(
      (worst, b) => (worst && worst.widthMm >= b.widthMm ? worst : b),
      null,
    );
  },
  does(before, p, shop) {
    return [
      ...eachPiece(heated(before, p.heats, shop).after, (bar) => {
        const to = comesTo(bar, p, shop);
        return [
          {
            do: 'draw',
            toMm: [to.widthMm, to.heightMm],
            passes: drawPasses(bar, p, shop).passes.map(({ pressed, stopMm }) => ({ pressed, stopMm })),
            heats: p.heats,
          },
        ];
      }),
      ...care('kept square'),
    ];
  },
});
