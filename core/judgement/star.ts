import { type StarPoints, starPoints, turnedBefore } from '../assembly/star.ts';
import { isRectangle } from '../geometry/outline.ts';
import { grindTrue } from '../geometry/grindTrue.ts';
import { note, radians, warning } from '../moves/contract/common.ts';
import { type Remedy, moveOf } from '../moves/index.ts';
import { type AssembleParameters, gridPlacesOf } from '../moves/lay/assemble/laid.ts';
import { MOST_TRUE_DEG, bestTrueDeg } from '../moves/saw/trueUp.ts';
import { sizeOf } from '../billet/billet.ts';
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

/** What grinding all pieces true would do, where they are square and turned alike. */
function groundTrue({ result, shop }: Case): { text: string; remedy?: Remedy } {
  const [first] = result.before;
  const own = result.before.every((b) => b.piece?.lane === undefined && isRectangle(b.outline));
  const deg = own ? bestTrueDeg(first) : null;
  if (
    deg === null ||
    moveOf('trueUp')
      .check(result.before, { errorDeg: deg }, shop)
      .some((f) => f.severity === 'error')
  )
    return { text: '' };
  const { toSideMm, lostShare } = grindTrue(sizeOf(first).widthMm, radians(deg));
  return {
    text: ` Ground true by ${Math.abs(deg)}° they meet; each piece is ${formatFine(toSideMm, shop.lengths)} then and ${(100 * lostShare).toFixed(1)} % lighter.`,
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
          'The lines of the pieces run to their outer corners, and the layers bow round the middle. For a star they must run to the middle: turn all pieces a quarter.',
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
  if (deg === 0 || Math.abs(deg) > MOST_TRUE_DEG) return NOTHING_TO_SAY;
  const { toSideMm, lostShare } = grindTrue(sizeOf(after[0]).widthMm, radians(deg));
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
