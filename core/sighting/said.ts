import { type LengthDisplay, formatFine } from '../units/length.ts';
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

/** How the layers in the middle run against what was foreseen. */
export const turnedSaid = ({ turnedDeg, turnedWithinDeg }: Sighting): string =>
  Math.abs(turnedDeg) < turnedWithinDeg
    ? 'as they should'
    : `${Math.abs(turnedDeg).toFixed(1)}° ${turnedDeg > 0 ? 'counter-clockwise' : 'clockwise'} of where they should, seen on end B`;

/** What a sighting says, in words, seen on end B: first whether it is sure. */
export function sightingSaid(sighting: Sighting, lengths: LengthDisplay): string[] {
  const { turnedWithinDeg, leansDeg, leansWithinDeg, endTold, upTold, seen } = sighting;
  return [
    ...(isSure(sighting)
      ? []
      : [
          'Not sure: it goes with the foreseen picture only a little better one way than another. Look at it laid over before you take it.',
        ]),
    ...(endTold
      ? [upTold ? `End ${endOf(sighting)}, ${lies(sighting)}.` : `End ${endOf(sighting)}.`]
      : [
          'Which end it is cannot be told: this pattern is its own mirror image, and read as the other end it would run turned the other way. Say which it is.',
        ]),
    ...(upTold
      ? []
      : [
          `Which side is up the pattern does not tell: it is read as ${lies(sighting)} in the photograph. Hold it so that this is true.`,
        ]),
    `The layers in the middle run ${turnedSaid(sighting)} (${within(turnedWithinDeg)}).`,
    ...offSaid(sighting.offMm, lengths),
    ...stretchSaid(sighting.stretch),
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
