import { type StarPoints, starPoints, turnedBefore } from '../assembly/star.ts';
import { grindTrue } from '../geometry/grindTrue.ts';
import { note, radians, warning } from '../moves/contract/common.ts';
import { type Remedy, moveOf } from '../moves/index.ts';
import { type AssembleParameters, gridPlacesOf } from '../moves/lay/assemble/laid.ts';
import { MOST_TRUE_DEG, bestTrueDeg } from '../moves/saw/trueUp.ts';
import { type Billet, sizeOf } from '../billet/billet.ts';
import type { Shop } from '../shop/shop.ts';
import { BY_GEOMETRY, type Figure } from '../units/figure.ts';
import { formatFine } from '../units/length.ts';
import { figured } from '../words/figures.ts';
import { type Case, type Judge, NOTHING_TO_SAY } from './judgement.ts';

/** Degrees. Lines that miss their corner by less meet to the eye (common practice, no source). */
const SEEN_DEG = 1;

function pointsFigure({ missMm, turnedDeg }: NonNullable<StarPoints['worst']>, { shop }: Case): Figure {
  return {
    ...figured('star points', Math.abs(missMm)),
    value: formatFine(Math.abs(missMm), shop.lengths),
    formula:
      'where the layer in the middle of a piece meets its outline, from the corner that it should meet',
    inputs: [['seen from the middle of the piece', `${Math.abs(turnedDeg).toFixed(1)}°`]],
    source: BY_GEOMETRY,
  };
}

/** What grinding bars true comes to; null where it cannot be done, or nothing would be ground. */
function trued(
  bars: readonly Billet[],
  deg: number,
  shop: Shop,
): { toSideMm: number; lostShare: number } | null {
  const wrong = moveOf('trueUp')
    .check(bars, { errorDeg: deg }, shop)
    .some((f) => f.severity === 'error');
  return deg === 0 || Math.abs(deg) > MOST_TRUE_DEG || wrong
    ? null
    : grindTrue(sizeOf(bars[0]).widthMm, radians(deg));
}

/** What grinding all pieces true would do, where they are of one bar. */
function groundTrue({ result: { before }, shop }: Case): { text: string; remedy?: Remedy } {
  const deg = before.every((b) => b.piece?.lane === undefined) ? bestTrueDeg(before[0]) : null;
  const cost = deg === null ? null : trued(before, deg, shop);
  if (deg === null || !cost) return { text: '' };
  return {
    text: ` Ground true by ${Math.abs(deg)}° they meet; each piece is ${formatFine(cost.toSideMm, shop.lengths)} then and ${(100 * cost.lostShare).toFixed(1)} % lighter.`,
    remedy: {
      label: `Grind true by ${Math.abs(deg)}° first`,
      insertBefore: 'trueUp',
      parameters: { errorDeg: deg },
    },
  };
}

/** Whether the lines of four pieces meet where their corners do: matching seams do not tell. */
export const judgeStar: Judge = (subject) => {
  const { step, before, after } = subject.result;
  if (step.kind !== 'assemble') return NOTHING_TO_SAY;
  const p = step.parameters as AssembleParameters;
  const points = starPoints(before, p, after[0]);
  if (!points) return NOTHING_TO_SAY;
  if (points.bowed)
    return {
      figures: [],
      findings: [
        note(
          'bowed middle',
          'The lines of the pieces run to the corners beside the middle, and the layers bow round it. For a star they must run to the middle: turn all pieces a quarter.',
          {
            parameter: 'layout',
            remedy: {
              label: 'Turn all a quarter',
              set: { layout: 'free', places: turnedBefore(gridPlacesOf(p)), clash: undefined },
            },
          },
        ),
      ],
    };
  if (!points.worst) return NOTHING_TO_SAY;
  if (points.without > 0)
    return {
      figures: [],
      findings: [
        warning(
          'points mixed',
          `Lines run to the middle from ${points.of - points.without} of ${points.of} corners there, both ends counted; at the others the layers bow. A piece lies another way round than its neighbours.`,
          { parameter: 'layout' },
        ),
      ],
    };
  const figure = pointsFigure(points.worst, subject);
  if (Math.abs(points.worst.turnedDeg) < SEEN_DEG) return { figures: [figure], findings: [] };
  const { text, remedy } = groundTrue(subject);
  return {
    figures: [figure],
    findings: [
      warning(
        'points miss',
        `The points miss the middle by ${figure.value}: the lines of the pieces end so far beside their corners, however well the seams match.${text}`,
        { parameter: 'layout', why: figure, ...(remedy ? { remedy } : {}) },
      ),
    ],
  };
};

/** A picture that stands turned against the faces: what can be done about it. */
export const judgeTurned: Judge = ({ result: { step, after }, shop }) => {
  if (step.kind !== 'measure' || step.parameters.turnDeg === 0) return NOTHING_TO_SAY;
  const { turnDeg } = step.parameters;
  const best = bestTrueDeg(after[0]);
  const deg = best ?? Math.round(10 * turnDeg) / 10;
  const cost = trued(after, deg, shop);
  if (!cost) return NOTHING_TO_SAY;
  const { toSideMm, lostShare } = cost;
  return {
    figures: [],
    findings: [
      note(
        'turned',
        `The picture stands turned by ${Math.abs(turnDeg)}°. Live with it, book-match it, or grind it true: ${Math.abs(deg)}° ${best === null ? 'as measured' : 'brings the lines to the corners'}, leaves ${formatFine(toSideMm, shop.lengths)} square and takes ${(100 * lostShare).toFixed(1)} % of the steel.`,
        {
          parameter: 'turnDeg',
          remedy: { label: `Grind true by ${deg}°`, insertAfter: 'trueUp', parameters: { errorDeg: deg } },
        },
      ),
    ],
  };
};
