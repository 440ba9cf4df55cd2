import { CROP_REASONS } from '../instruct/action.ts';
import { list, plural } from '../instruct/said.ts';
import { turnedSaid } from '../sighting/said.ts';
import { formatFine, formatLength } from '../units/length.ts';
import { formatMass } from '../units/mass.ts';
import type { Units } from '../units/quantityText.ts';
import { formatTemperature } from '../units/temperature.ts';
import { type BenchRecord, type EndCame, type PieceCame, SCRAP_REASONS } from './record.ts';

function endSaid(end: 'A' | 'B', came: EndCame | undefined, { lengths }: Units): string[] {
  if (!came) return [];
  const { widthMm, heightMm, turnedDeg, spoiltMm, sighting } = came;
  return [
    ...(widthMm === undefined ? [] : [`${formatFine(widthMm, lengths)} wide at end ${end}`]),
    ...(heightMm === undefined ? [] : [`${formatFine(heightMm, lengths)} high at end ${end}`]),
    ...(turnedDeg === undefined ? [] : [`pattern turned ${turnedDeg}° at end ${end}`]),
    ...(sighting ? [`end ${end} photographed: its layers run ${turnedSaid(sighting)}`] : []),
    ...(spoiltMm === undefined ? [] : [`${formatLength(spoiltMm, lengths)} distorted at end ${end}`]),
  ];
}

/** What came of one piece, in the shop's own units. */
function pieceSaid(came: PieceCame, units: Units): string {
  const { lengths, masses } = units;
  const { cropped } = came;
  const off = (end: 'A' | 'B', mm: number): string[] =>
    mm > 0 ? [`cut back ${formatLength(mm, lengths)} at end ${end}`] : [];
  const cut = cropped ? [...off('A', cropped.endAMm), ...off('B', cropped.endBMm)] : [];
  const why = cropped?.why && cropped.why !== 'usual' ? ` (${CROP_REASONS[cropped.why]})` : '';
  return list([
    ...(came.widthMm === undefined ? [] : [`${formatFine(came.widthMm, lengths)} wide`]),
    ...(came.heightMm === undefined ? [] : [`${formatFine(came.heightMm, lengths)} high`]),
    ...(came.lengthMm === undefined ? [] : [`${formatLength(came.lengthMm, lengths)} long`]),
    ...(came.massKg === undefined ? [] : [formatMass(came.massKg, masses)]),
    ...endSaid('A', came.endA, units),
    ...(came.middle?.sighting
      ? [`cut in the middle, photographed: its layers run ${turnedSaid(came.middle.sighting)}`]
      : []),
    ...endSaid('B', came.endB, units),
    ...(came.face ? [`face photographed in ${plural(came.face.length, 'stretch', 'stretches')}`] : []),
    ...(came.leansDeg === undefined ? [] : [`leans ${came.leansDeg}° to the right`]),
    ...(cut.length > 0 ? [`${list(cut)}${why}`] : []),
    ...(came.scrapped ? [`scrapped: ${SCRAP_REASONS[came.scrapped]}`] : []),
  ]);
}

const minutesSaid = (min: number): string => `${Number(min.toFixed(min < 10 ? 1 : 0))} min`;

/** What a record says, a line for each thing; its remark comes by itself. */
export function recordSaid(record: BenchRecord, units: Units): string[] {
  const { pieces = [], heats, passes, biteMm, minutesAtHeat, hottestC, coolMin, bathMin } = record;
  const how = [
    ...(heats === undefined ? [] : [plural(heats, 'heat')]),
    ...(passes === undefined ? [] : [plural(passes, 'pass', 'passes')]),
    ...(biteMm === undefined ? [] : [`bites of ${formatLength(biteMm, units.lengths)}`]),
    ...(minutesAtHeat === undefined ? [] : [`${minutesAtHeat} min at heat`]),
    ...(coolMin === undefined ? [] : [`could be held after ${minutesSaid(coolMin)}`]),
    ...(bathMin === undefined ? [] : [`${minutesSaid(bathMin)} in the bath`]),
    ...(hottestC === undefined ? [] : [`at most ${formatTemperature(hottestC, units.temperatures)}`]),
  ];
  const alone = pieces.length === 1 && pieces[0].piece === '1';
  return [
    ...(how.length > 0 ? [list(how)] : []),
    ...pieces.map((came) =>
      alone ? pieceSaid(came, units) : `Piece ${came.piece}: ${pieceSaid(came, units)}`,
    ),
  ];
}

/** How long it took, s; nothing while it is being done. Of records that do not say it, all from their beginning to their end. */
export const secondsOf = ({ began, ended, workedS }: BenchRecord): number | null =>
  ended === undefined ? null : (workedS ?? (Date.parse(ended) - Date.parse(began)) / 1000);
