import { type LengthDisplay, formatFine } from '../units/length.ts';
import { TOWARDS } from './layers.ts';
import { type Sighting, onPhoto } from './sighting.ts';

/** Below these a sighting is not sure: how well it goes with what was foreseen, and how far any other orientation is behind. */
const SURE_AT = 0.76;
const SURE_LEAD = 0.08;
/** Smaller things are not spoken of. */
const LEAST_OFF_MM = 0.1;
const LEAST_STRETCH = 0.01;

const isSure = ({ correlation, lead }: Sighting): boolean => correlation >= SURE_AT && lead >= SURE_LEAD;

export const endOf = ({ orientation }: Sighting): 'A' | 'B' => (orientation >= 4 ? 'A' : 'B');

const UP = {
  up: 'the right way up',
  right: 'lying on its right side',
  down: 'upside down',
  left: 'lying on its left side',
};

/** How the bar lies in the photograph, by where its top is seen. */
function lies({ orientation }: Sighting): string {
  const [x, y] = onPhoto(orientation, 0, 1);
  return UP[Math.abs(y) > Math.abs(x) ? (y > 0 ? 'up' : 'down') : x > 0 ? 'right' : 'left'];
}

const within = (value: number, digits = 1): string => `± ${value.toFixed(digits)}°`;

function offSaid([x, y]: Sighting['offMm'], lengths: LengthDisplay): string[] {
  const parts = [
    ...(Math.abs(y) < LEAST_OFF_MM ? [] : [`${formatFine(Math.abs(y), lengths)} ${y > 0 ? 'high' : 'low'}`]),
    ...(Math.abs(x) < LEAST_OFF_MM
      ? []
      : [`${formatFine(Math.abs(x), lengths)} to the ${x > 0 ? 'right' : 'left'}`]),
  ];
  return parts.length > 0
    ? [`The middle of the pattern sits ${parts.join(' and ')}.`]
    : ['The pattern sits in the middle.'];
}

function stretchSaid([wide, high]: Sighting['stretch']): string[] {
  const one = (by: number, more: string, less: string) =>
    Math.abs(by - 1) < LEAST_STRETCH
      ? []
      : [`${Math.abs(100 * (by - 1)).toFixed(0)} % ${by > 1 ? more : less}`];
  const parts = [...one(wide, 'wider', 'narrower'), ...one(high, 'higher', 'lower')];
  return parts.length > 0 ? [`In the middle it is ${parts.join(' and ')} than foreseen.`] : [];
}

/** Bands that are thicker or thinner by less are not spoken of. */
const LEAST_THICK = 0.05;

function thickSaid({ thick }: Sighting): string[] {
  if (!thick) return [];
  const parts = TOWARDS.flatMap((side) => {
    const more = thick[side] - 1;
    return Math.abs(more) < LEAST_THICK
      ? []
      : [`${Math.abs(100 * more).toFixed(0)} % ${more > 0 ? 'thicker' : 'thinner'} towards the ${side}`];
  });
  return parts.length > 0 ? [`The layers are ${parts.join(', ')}, seen on end B.`] : [];
}

/** How the layers in the middle run against what was foreseen. */
export const turnedSaid = ({ turnedDeg, turnedWithinDeg }: Sighting): string =>
  Math.abs(turnedDeg) < turnedWithinDeg
    ? 'as they should'
    : `${Math.abs(turnedDeg).toFixed(1)}° ${turnedDeg > 0 ? 'counter-clockwise' : 'clockwise'} of where they should, seen on end B`;

/** What a sighting says, in words, seen on end B: first whether it is sure. */
export function sightingSaid(
  sighting: Sighting,
  lengths: LengthDisplay,
  where: 'ends' | 'middle' = 'ends',
): string[] {
  const end =
    where === 'ends' ? `End ${endOf(sighting)}` : `A cut in the middle, seen as end ${endOf(sighting)} is`;
  const { turnedWithinDeg, leansDeg, leansWithinDeg, endTold, upTold, seen } = sighting;
  return [
    ...(isSure(sighting)
      ? []
      : [
          'Not sure: it goes with the foreseen picture only a little better one way than another. Look at it laid over before you take it.',
        ]),
    ...(endTold
      ? [upTold ? `${end}, ${lies(sighting)}.` : `${end}.`]
      : [
          `${where === 'ends' ? 'Which end it is' : 'From which end it is seen'} cannot be told: this pattern is its own mirror image, and read as the other end it would run turned the other way. Say which it is.`,
        ]),
    ...(upTold
      ? []
      : [
          `Which side is up the pattern does not tell: it is read as ${lies(sighting)} in the photograph. Hold it so that this is true.`,
        ]),
    `The layers in the middle run ${turnedSaid(sighting)} (${within(turnedWithinDeg)}).`,
    ...offSaid(sighting.offMm, lengths),
    ...stretchSaid(sighting.stretch),
    ...thickSaid(sighting),
    ...(leansDeg === null
      ? ['Whether it leans only both diagonals say.']
      : Math.abs(leansDeg) < leansWithinDeg!
        ? [`The section stands straight (${within(leansWithinDeg!)}).`]
        : [
            `The section leans ${Math.abs(leansDeg).toFixed(1)}° to the ${leansDeg > 0 ? 'right' : 'left'} (${within(leansWithinDeg!)}).`,
          ]),
    ...(seen < 0.9 ? [`${Math.round(100 * (1 - seen))} % of it could not be seen.`] : []),
  ];
}

/** How the layers of a bar turn from the first place it was looked into to the last; null of one place alone. Degrees, mm. */
export function twistSeen(
  seen: readonly { readonly sighting: Pick<Sighting, 'turnedDeg'>; readonly atMm: number }[],
): { readonly deg: number; readonly degPerM: number } | null {
  const [first, last] = [seen[0], seen.at(-1)];
  if (!first || !last || last.atMm <= first.atMm) return null;
  const deg = last.sighting.turnedDeg - first.sighting.turnedDeg;
  return { deg, degPerM: (1000 * deg) / (last.atMm - first.atMm) };
}
