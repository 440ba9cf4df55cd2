import { z } from 'zod';
import { SIDES, care } from '../../instruct/action.ts';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { meanLine } from '../../billet/cornerLine.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { splitSection } from '../../billet/split.ts';
import { grindTrue } from '../../geometry/grindTrue.ts';
import { turning } from '../../geometry/maps/plain.ts';
import { type Outline, rectangle } from '../../geometry/outline.ts';
import { SQUARE_TOLERANCE } from '../../geometry/tolerances.ts';
import { addVolumes } from '../../materials/volumes.ts';
import { formatLength, formatSizes } from '../../units/length.ts';
import { CAUTIONS, error, needsSoundBars, note, radians } from '../contract/common.ts';
import { angleDeg } from '../../units/quantities.ts';
import { eachPiece } from '../contract/each.ts';
import { defineMove } from '../contract/move.ts';

/** Beyond this a turned square leaves too little. Degrees. */
export const MOST_TRUE_DEG = 20;

/** The pattern stands turned by so many degrees against the faces (counter-clockwise on end B): grind a true square inside. */
const parameters = z.strictObject({
  errorDeg: angleDeg(
    'Pattern turned by',
    -MOST_TRUE_DEG,
    MOST_TRUE_DEG,
    'More than 0: counter-clockwise, seen on end B',
  ),
});

type P = z.infer<typeof parameters>;

const sideOf = (bar: Billet): number => Math.min(sizeOf(bar).widthMm, sizeOf(bar).heightMm);

/** The square inside that stands as the pattern does. */
function inside(bar: Billet, p: P): { outline: Outline; sideMm: number } {
  const { toSideMm } = grindTrue(sideOf(bar), radians(p.errorDeg));
  const [c, s] = [Math.cos(radians(p.errorDeg)), Math.sin(radians(p.errorDeg))];
  const outline = rectangle(toSideMm, toSideMm).map(([x, y]) => [c * x - s * y, s * x + c * y] as const);
  return { outline, sideMm: toSideMm };
}

/** To a tenth of a degree an angle can be set on a shim; and rounds of looking for it. */
const PER_DEG = 10;
const ROUNDS = 6;

/**
 * How far a square bar is to be turned on the shim so that the lines that should meet its corners do, as its picture shows them
 * in the middle of the length: seldom the angle that was measured. Degrees, more than 0 counter-clockwise; null where no lines
 * run to corners.
 */
export function bestTrueDeg(bar: Billet): number | null {
  const missed = (deg: number): number | null => {
    const sideMm = inside(bar, { errorDeg: deg }).sideMm;
    const field = new MappedField(bar.field, turning(-radians(deg)));
    const part = { x: 0, y: 0, widthMm: sideMm, heightMm: sideMm };
    return meanLine({ ...bar, field }, part)?.turnedDeg ?? null;
  };
  let deg = 0;
  for (let i = 0; i < ROUNDS; i++) {
    const more = missed(deg);
    if (more === null) return null;
    deg = Math.min(MOST_TRUE_DEG, Math.max(-MOST_TRUE_DEG, deg + more));
    if (Math.abs(more) < 1 / (4 * PER_DEG)) break;
  }
  return Math.round(deg * PER_DEG) / PER_DEG;
}

export const trueUp = defineMove({
  kind: 'trueUp',
  title: 'Grind true with a shim',
  short: 'Grind true',
  hint: 'grind a turned pattern square to the faces again',
  group: 'Saw and grind',
  begins: false,
  bares: () => SIDES,
  parameters,
  begin: () => ({ errorDeg: 2 }),
  check(before, p, shop) {
    const missing = needsSoundBars(before);
    if (missing.length > 0) return missing;
    const { widthMm, heightMm } = sizeOf(before[0]);
    if (Math.abs(widthMm / heightMm - 1) > SQUARE_TOLERANCE)
      return [
        error(
          'not square',
          `The bar is ${formatSizes([widthMm, heightMm], shop.lengths)}: only a square bar can be trued so.`,
          {
            remedy: { label: 'Draw square first', insertBefore: 'draw' },
          },
        ),
      ];
    const trued = grindTrue(sideOf(before[0]), radians(p.errorDeg));
    return [
      note(
        'cost',
        `Ground true it is ${formatLength(trued.toSideMm, shop.lengths)} square and ${(100 * trued.lostShare).toFixed(1)} % of the steel is gone.`,
      ),
      CAUTIONS.grinder(),
    ];
  },
  apply(before, p, shop) {
    const done = before.map((bar) => {
      const { outline, sideMm } = inside(bar, p);
      const { parts, lost } = splitSection(bar, [outline], shop);
      const field = new MappedField(parts[0].field, turning(-radians(p.errorDeg)));
      return { bar: { ...parts[0], outline: rectangle(sideMm, sideMm), field }, lost };
    });
    const lost = addVolumes(...done.map((d) => d.lost));
    return {
      after: done.map((d) => d.bar),
      losses: [{ cause: 'grinding' as const, volumes: lost }],
      added: {},
    };
  },
  does(before, p) {
    if (p.errorDeg === 0) return care('stands square');
    // The edge on the shim is the one whose corner is still whole, so the bar is turned away from it.
    const [edge, way] =
      p.errorDeg > 0 ? (['left', 'clockwise'] as const) : (['right', 'counter-clockwise'] as const);
    const quarter = { do: 'turn', about: 'length', deg: 90, way } as const;
    return eachPiece(before, (bar) => {
      const { shimMm, overChuckMm, toSideMm } = grindTrue(sideOf(bar), radians(p.errorDeg));
      const tilted = [
        { do: 'raise', edge, shimMm },
        { do: 'grind down', toMm: overChuckMm },
        { do: 'rest flat', on: 'the same face' },
        quarter,
      ] as const;
      const flat = [
        { do: 'rest flat', on: 'the ground face' },
        { do: 'grind down', toMm: toSideMm },
        quarter,
      ] as const;
      return [...tilted, ...tilted, ...flat, ...flat];
    });
  },
});
