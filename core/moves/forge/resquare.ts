import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { type Billet, sizeOf, stretched } from '../../billet/billet.ts';
import { ResquaredField } from '../../billet/fields/resquared.ts';
import { missForTurn, resquareMap, turnForMiss } from '../../geometry/maps/usual.ts';
import { turnedBack } from '../../billet/sectionFlow.ts';
import { rectangle } from '../../geometry/outline.ts';
import { SQUARE_TOLERANCE } from '../../geometry/tolerances.ts';
import { grindTrue } from '../../geometry/grindTrue.ts';
import { formatFine, formatLength, formatSizes } from '../../units/length.ts';
import {
  tilesOnBias,
  CAUTIONS,
  caution,
  heated,
  needsSteelFor,
  needsWelded,
  radians,
  scaleShare,
} from '../contract/common.ts';
import { MOST_SECTION_MM, angleDeg, choice, heats, lengthMm } from '../../units/quantities.ts';
import { cornersBack, cornersNote, knockedShape, needsRectangleOrKnocked } from './knocked.ts';
import { reckoned, reckoning } from './usualOrFlow.ts';
import { eachPiece } from '../contract/each.ts';
import { type Finding, defineMove } from '../contract/move.ts';
import type { Shop } from '../../shop/shop.ts';

/** Degrees. */
export const MOST_MISS_DEG = 20;

/**
 * Turn 45° to the left or right (seen on end B), corners to octagon to a new square of `sideMm`. Angle error: how far the line that
 * should meet the corner misses it, seen from the middle, degrees; more than 0 further the way the bar was turned.
 */
const parameters = z.strictObject({
  turn: choice('Turn 45° to the', { left: 'Left, seen on end B', right: 'Right, seen on end B' }),
  sideMm: lengthMm('Down to a side of', MOST_SECTION_MM),
  errorDeg: angleDeg(
    'Line misses its corner by',
    -MOST_MISS_DEG,
    MOST_MISS_DEG,
    'Seen from the middle. More than 0: the bar was turned too far, less: not far enough',
  ),
  heats,
  reckoned,
});

type P = z.infer<typeof parameters>;

/** How far the bar is turned for it, degrees. */
const turnedDeg = (p: P): number => 45 + turnForMiss(p.errorDeg);

/** Stop heights of the last passes, of the side that is wanted: the octagon, the new square, and both ways once more. */
const STOPS = [1.143, 1.143, 1.029, 1.029, 1, 1, 1, 1];
/** Before them the corners come down by no more than so much at a time, both ways; by more the ones that are pressed first come out unlike the others. */
const KNOCKED = 0.8;

/** Stop heights from what stands so high, a square on its corner, to a square of a side: each twice, both ways. mm */
function stopsFrom(acrossMm: number, sideMm: number): number[] {
  const octagonMm = STOPS[0] * sideMm;
  const times = Math.max(1, Math.ceil(Math.log(octagonMm / acrossMm) / Math.log(KNOCKED)));
  const corners = Array.from(
    { length: times - 1 },
    (_, k) => acrossMm * (octagonMm / acrossMm) ** ((k + 1) / times),
  );
  // An octagon or round may be lower already than the first of them.
  return [...corners.flatMap((mm) => [mm, mm]), ...STOPS.map((share) => share * sideMm)].filter(
    (mm) => mm < acrossMm,
  );
}

/** How high it stands once it is turned: a square on its corner, an octagon or round as it was. mm */
function standsMm(bar: Billet): number {
  const { widthMm, heightMm } = sizeOf(bar);
  return knockedShape(bar) ? heightMm : Math.hypot(widthMm, heightMm);
}

const byBoth = reckoning<P>({
  usual: resquared,
  passes: (bar, p) => {
    const first = (p.turn === 'left' ? 1 : -1) * turnedDeg(p);
    return [
      ...stopsFrom(standsMm(bar), p.sideMm).map((toMm, i) => ({
        turnDeg: i === 0 ? first : i % 2 === 1 ? 90 : -90,
        toMm,
      })),
      turnedBack(-90),
    ];
  },
});

function resquared(bar: Billet, p: P, shop: Shop): Billet {
  if (knockedShape(bar)) {
    const square = cornersBack(bar, radians((p.turn === 'left' ? 1 : -1) * turnedDeg(p)));
    const share = p.sideMm / sizeOf(square).widthMm;
    return { ...stretched(square, share, share), jacket: null };
  }
  const { widthMm, heightMm } = sizeOf(bar);
  const lengthening = (widthMm * heightMm) / p.sideMm ** 2;
  const side = Math.sqrt(widthMm * heightMm);
  return {
    ...bar,
    outline: rectangle(p.sideMm, p.sideMm),
    lengthMm: bar.lengthMm * lengthening,
    bandMm: bar.bandMm / Math.sqrt(lengthening),
    jacket: null,
    field: new ResquaredField(bar.field, {
      turn: p.turn,
      map: resquareMap({
        sideShare: p.sideMm / side,
        biteShare: shop.biteMm / side,
        missDeg: p.errorDeg,
      }),
      halfSideMm: p.sideMm / 2,
      fromHalfWidthMm: widthMm / 2,
      fromHalfHeightMm: heightMm / 2,
      lengthening,
    }),
  };
}

export const resquare = defineMove({
  kind: 'resquare',
  title: 'Re-square on the bias',
  short: 'Re-square',
  hint: 'turn 45° and press square: layers run to the corners',
  group: 'Heat and press',
  begins: false,
  parameters,
  begin(before, shop) {
    const size = before[0] ? sizeOf(before[0]) : { widthMm: 40, heightMm: 40 };
    const side = Math.sqrt(size.widthMm * size.heightMm * (1 - scaleShare(2, shop)));
    return {
      turn: 'left' as const,
      sideMm: Math.floor(0.9 * side),
      errorDeg: 0,
      heats: 2,
      reckoned: 'where it shows' as const,
    };
  },
  check(before, p, shop, stage) {
    const missing = [...needsWelded(before), ...needsRectangleOrKnocked(before)];
    if (missing.length > 0) return missing.slice(0, 1);
    const small = needsSteelFor(before, p.sideMm, p.sideMm, shop, p.heats, 'sideMm');
    if (small.length > 0) return small;
    const findings: Finding[] = [...byBoth.findings(before, p, shop, stage), ...tilesOnBias(before)];
    if (findings.some((f) => f.severity === 'error')) return findings;
    const { widthMm, heightMm } = sizeOf(before[0]);
    if (Math.abs(widthMm / heightMm - 1) > SQUARE_TOLERANCE)
      findings.push({
        code: 'not square',
        severity: 'warning',
        text: `The bar is ${formatSizes([widthMm, heightMm], shop.lengths)}: draw it square first, or the layers will not run to the corners.`,
        remedy: { label: 'Draw square first', insertBefore: 'draw' },
      });
    if (p.errorDeg !== 0) {
      const trued = grindTrue(p.sideMm, radians(p.errorDeg));
      findings.push({
        code: 'off angle',
        severity: 'warning',
        parameter: 'errorDeg',
        text: `The corner line misses its corner by ${Math.abs(p.errorDeg)}°. Ground true with a ${formatFine(trued.shimMm, shop.lengths)} shim the bar would be ${formatLength(trued.toSideMm, shop.lengths)} square and lose ${(100 * trued.lostShare).toFixed(1)} % of its steel.`,
        remedy: { label: 'Turn it true', set: { errorDeg: 0 } },
      });
    }
    if ((p.reckoned ?? 'usual') === 'usual') findings.push(...cornersNote(before));
    if (!before.every(knockedShape))
      findings.push(
        caution(
          'corner',
          'The bar stands on its corner until it has flats and wants to roll: hold it firmly by the handle.',
        ),
      );
    findings.push(CAUTIONS.press(), CAUTIONS.fire());
    return findings;
  },
  apply(before, p, shop, stage) {
    const { losses } = heated(before, p.heats, shop);
    return { after: byBoth.made(before, p, shop, stage), losses, added: {} };
  },
  flows: byBoth.flows,
  beside: byBoth.beside,
  turnedOff: (p, deg) => ({
    ...p,
    errorDeg: Math.min(MOST_MISS_DEG, Math.max(-MOST_MISS_DEG, missForTurn(turnForMiss(p.errorDeg) + deg))),
  }),
  presses([bar], p, shop) {
    // At the last pass the flats have grown to the new side.
    return {
      widthMm: p.sideMm,
      heightMm: (standsMm(bar) + p.sideMm) / 2,
      toHeightMm: p.sideMm,
      biteMm: shop.biteMm,
    };
  },
  does: (before, p) =>
    eachPiece(before, (bar) => {
      const fromMm = standsMm(bar);
      return [
        {
          do: 'turn',
          about: 'length',
          deg: Math.round(10 * turnedDeg(p)) / 10,
          way: p.turn === 'left' ? 'counter-clockwise' : 'clockwise',
        },
        ...care('held by the handle'),
        {
          do: 'press both ways',
          fromMm,
          // Each is pressed twice, both ways; the last ones are the side itself.
          stopsMm: stopsFrom(fromMm, p.sideMm).filter((mm, i) => i % 2 === 0 && mm > p.sideMm),
          toSideMm: p.sideMm,
          heats: p.heats,
        },
        { do: 'new arrow', oldTo: `upper ${p.turn}` },
      ];
    }),
});
