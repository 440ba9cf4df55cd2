import { list, plural } from '../instruct/said.ts';
import { type Along, offAt } from '../sighting/along.ts';
import { type LengthDisplay, formatFine, formatLength } from '../units/length.ts';
import type { FaceRead } from './faceRead.ts';

export const FACE_REFUSED = {
  'no section': 'The four corners do not make a stretch of the face: drag the lines onto its edges.',
  'too small': 'The face is too small in the photograph: go nearer, and take it in several stretches.',
  'other stretch':
    'The four lines are not as many times as long as wide as the stretch that was entered: check where it begins and ends.',
  'another face':
    'This does not look like what the plan foresees of this face: is it another bar, or its lower side? Or the stretch is another, or the lines do not lie on its edges.',
} as const;

/** Smaller things are not spoken of. */
const LEAST_OFF_MM = 0.3;
const LEAST_STRETCH = 0.01;

/** By how much longer the stretch came than foreseen, as a share. */
function longerBy(along: Along): number {
  const { fromMm, toMm } = along;
  const foreseen = toMm + offAt(along, toMm) - (fromMm + offAt(along, fromMm));
  return (toMm - fromMm) / foreseen - 1;
}

/** How everything lies along a face, in a line. */
export function alongSaid(along: Along, lengths: LengthDisplay): string {
  const { fromMm, toMm } = along;
  const at = (mm: number) => {
    const off = -offAt(along, mm);
    return Math.abs(off) < LEAST_OFF_MM
      ? 'where it should'
      : `${formatFine(Math.abs(off), lengths)} farther towards end ${off > 0 ? 'B' : 'A'}`;
  };
  const more = longerBy(along);
  const longer =
    Math.abs(more) < LEAST_STRETCH
      ? ''
      : `; on the whole it is ${Math.abs(100 * more).toFixed(1)} % ${more > 0 ? 'longer' : 'shorter'} than foreseen`;
  return `${formatLength(fromMm, lengths)} from end A the picture lies ${at(fromMm)}; ${formatLength(toMm, lengths)} from it ${at(toMm)}${longer}.`;
}

/** Below this a reading is not sure: of what it shows little goes with what was foreseen. */
const SURE_AT = 0.65;
/** A tile that goes with what was foreseen no better does not look like it. */
const UNLIKE = 0.4;
/** More ends of tiles are not said one by one. */
const MOST_ENDS = 24;

/** What a photographed face showed, in words: first whether it is sure; nothing of what lies where before it is known which way round it is. */
export function faceSaid({ sight, tiles }: FaceRead, lengths: LengthDisplay): string[] {
  if (!sight.ok) return [FACE_REFUSED[sight.why]];
  const { along } = sight;
  const sure =
    along.correlation < SURE_AT
      ? ['Not sure: little of it goes with what was foreseen. Look at it laid over before you take it.']
      : [];
  if (!along.turnedTold)
    return [
      ...sure,
      'Which end lies to the left cannot be told: this face looks alike both ways round. Say which it is.',
    ];
  const moved = tiles.filter((t) => t.lies !== null);
  const unlike = tiles.filter((t) => t.lies === null && t.alike < UNLIKE);
  const ends = tiles.slice(0, -1).map((t) => formatLength(t.toMm, lengths));
  return [
    ...sure,
    `End ${along.turned ? 'B' : 'A'} lies to the left in the photograph.`,
    alongSaid(along, lengths),
    ...(ends.length > 0 && ends.length <= MOST_ENDS ? [`Its tiles end at ${list(ends)} from end A.`] : []),
    ...moved.map((t) => `Tile ${t.number} was laid ${t.lies}.`),
    ...(unlike.length > 0
      ? [
          `${plural(unlike.length, 'tile')} (${list(unlike.map((t) => String(t.number)))}) do not look as foreseen, nor laid another way.`,
        ]
      : []),
  ];
}
