import { exactLength, exactSizes, formatFine, formatLength, formatSizes } from '../units/length.ts';
import { formatTemperature } from '../units/temperature.ts';
import type { Along, ForgeAction, ShapedDies } from './forgeAction.ts';
import { type Sentences, type Units, inHeats, list, plural, stopsSaid } from './said.ts';

const DIES = { V: 'V dies', round: 'round fullers', wedge: 'wedges' } as const;

function diesSaid(d: ShapedDies, { lengths }: Units): string {
  const size =
    d.shape === 'V'
      ? `of ${d.angleDeg}°`
      : d.shape === 'round'
        ? `of ${exactLength(d.radiusMm, lengths)} radius`
        : `of ${d.angleDeg}° with a tip of ${exactLength(d.tipMm, lengths)} radius`;
  const where = d.on === 'both' ? 'above and below' : `${d.on}, the other die flat`;
  return `between ${DIES[d.shape]} ${size} ${where}`;
}

const ALONG: Record<Along, string> = {
  'by the bite': '',
  held: ' Stops at both ends keep it from growing longer.',
  free: ' The whole length goes between the dies at once.',
};

type Groove = Extract<ForgeAction, { do: 'groove' }>;

/** What kind of hollows, and where the first and the others lie. */
function hollowsSaid(
  { pattern, how, depthMm, widthMm, markMm, pitchMm, slantDeg }: Groove,
  { lengths }: Units,
): string {
  const size = `${formatFine(depthMm, lengths)} deep and ${formatLength(widthMm, lengths)} wide`;
  const apart = formatFine(pitchMm, lengths);
  const then = how === 'pressed' ? ` (marked on the bar before; pressed, they lie ${apart} apart)` : '';
  const every = `every ${formatFine(markMm, lengths)}${then}`;
  if (pattern === 'dimples')
    return `dimples ${size} in rows along the bar, ${every} in a row and from row to row: one row along the middle, beginning on end A, the rows beside it half a step further on, and so by turns`;
  if (pattern === 'across' || slantDeg === 0)
    return `grooves straight across ${size}, the middle of the first on end A, then one ${every}`;
  return `grooves at ${Math.abs(slantDeg)}° off straight across, the right end of each (seen on end B) nearer end ${slantDeg > 0 ? 'A' : 'B'}, ${size}, the first through the middle of end A, then one ${every} along the bar`;
}

/** Which faces have them, and where those of the bottom lie against those of the top. */
function facesSaid({ top, bottomShiftMm }: Groove, { lengths }: Units, face: string): string {
  const of = (side: string) => `the ${face.replace('face', `${side} face`)}`;
  if (bottomShiftMm === null) return of('top');
  if (!top) return of('bottom');
  const where =
    bottomShiftMm === 0
      ? 'each opposite one of the top'
      : `each ${formatFine(bottomShiftMm, lengths)} further from end A than one of the top`;
  return `${of('top')} and alike in the bottom one, ${where}`;
}

/** One sentence an action; a second language is a second table. */
export const FORGE_SENTENCES: Sentences<ForgeAction> = {
  soak: ({ temperatureC, heats }, { temperatures }) =>
    `Soak evenly at ${formatTemperature(temperatureC, temperatures)} until it is hot right through: ${plural(heats, 'heat')}.`,
  draw({ toMm, passes, heats }, { lengths }, whole) {
    const turns = passes.filter((pass, i) => i > 0 && pass.pressed !== passes[i - 1].pressed).length;
    return [
      `Draw ${whole} to ${exactSizes([...toMm], lengths)}${inHeats(heats)}: about ${plural(passes.length, 'pass', 'passes')}, ${plural(turns, 'quarter turn')}.`,
      ...(passes.length > 0 ? [`Stop blocks in turn: ${stopsSaid(passes, lengths)}.`] : []),
    ];
  },
  'press both ways': ({ fromMm, stopsMm, toSideMm, heats }, { lengths }) => [
    `Press the corners down from ${formatLength(fromMm, lengths)}, at every stop both ways, the corners that stand up first, then a quarter turn: to ${list(stopsMm.map((mm) => formatLength(mm, lengths)))}.`,
    `Go on to ${exactLength(toSideMm, lengths)} both ways, and both ways once more until it measures the same${inHeats(heats)}. The old faces’ middles are the new corners.`,
  ],
  'new arrow': ({ oldTo }) =>
    `Lay it with the old arrow pointing to the ${oldTo} corner, seen on end B, and draw a new one, straight up, on both ends.`,
  'arrow up': () => 'Lay it with the arrow up again.',
  'knock corners': ({ octagonMm, roundMm, heats }, { lengths }) => [
    `Take the corners down evenly, those that stand up first, then a quarter turn, and both once more, to an octagon ${formatLength(octagonMm, lengths)} across flats${inHeats(heats)}.`,
    ...(roundMm === undefined
      ? []
      : [`Then corner after corner with light blows to ${formatLength(roundMm, lengths)} round.`]),
  ],
  lean: ({ corners, firstToMm, leansDeg, towards, heats }, { lengths }) => [
    `Press on the ${corners} edges, seen on end B, until the section ${leansDeg < 0.05 ? 'stands upright' : `leans ${leansDeg.toFixed(1)}° to the ${towards}`}${inHeats(heats)}.`,
    `To begin with press across these corners to ${formatLength(firstToMm, lengths)}, then the flats lightly over again.`,
  ],
  hold: ({ held, along, heats }) =>
    `${plural(heats, 'heat')}. ${held ? 'Hold the bar so that it does not roll.' : 'Let the bar find its own way.'}${ALONG[along]}`,
  press(p, units) {
    const { lengths } = units;
    const after = p.afterS ? `${p.afterS} s after it left the fire ` : '';
    const how = [
      ...(p.dies ? [diesSaid(p.dies, units)] : []),
      ...(p.stopsMm === undefined ? [] : [`side stops ${exactLength(p.stopsMm, lengths)} apart`]),
      ...(p.biteMm === undefined ? [] : [`in bites of ${exactLength(p.biteMm, lengths)}`]),
      ...(p.friction === undefined ? [] : [`the dies so slick that their friction factor is ${p.friction}`]),
    ];
    const far =
      p.takePercent === undefined
        ? `to ${exactLength(p.toMm, lengths)}`
        : `by ${p.takePercent} % of the height it then has`;
    return `Pass ${p.pass}: ${after}press ${list([far, ...how])}.`;
  },
  twist: ({ turns, way, everyMm, heats }, { lengths }) =>
    `Even heat over the whole length; hold end A still and twist end B ${plural(turns, 'turn')} ${way}, seen on end B,${inHeats(heats)}: a full turn every ${formatLength(everyMm, lengths)}.`,
  'press wedge': ({ apexDeg, acrossMm, deepMm, heats }, { lengths }) =>
    `In V dies of ${apexDeg}°, press the lower edge to a point${inHeats(heats)}: ${formatLength(acrossMm, lengths)} across the top, ${formatLength(deepMm, lengths)} deep.`,
  'press bow-tie': ({ apexDeg, waistMm, acrossMm, deepMm, heats }, { lengths }) =>
    `With wedge dies of ${180 - apexDeg}° above and below, on the middle line of the top and the bottom, press a waist${inHeats(heats)}, by turns from both sides: ${formatFine(waistMm, lengths)} thick there, then ${formatLength(acrossMm, lengths)} across and ${formatLength(deepMm, lengths)} high at the left and right.`,
  split: ({ dragMm, fadesMm, toMm, heats }, { lengths }) => [
    `Drive a wedge-shaped cutter down into the middle line of the top, along the whole length${inHeats(heats)}, until the bar is in two halves, left and right: the layers at the cut are to be dragged down about ${formatFine(dragMm, lengths)}, a third of that ${formatFine(fadesMm, lengths)} beside it.`,
    `Grind both cut faces bright, lay the halves back as they were and press them square: ${formatSizes([...toMm], lengths)}.`,
  ],
  'press on end': ({ toMm, heats }, { lengths }) =>
    `Stand the bar on end A, square to the dies, and press it down to ${exactLength(toMm, lengths)}${inHeats(heats)}; straighten at once if it leans.`,
  'press solid'({ endMm, flatMm, ways, passes, toMm, longMm, capMm }, { lengths }) {
    if (flatMm)
      return [
        `Press it flat, its caps to the dies, a stop block for each pass: ${list(flatMm.map((mm) => exactLength(mm, lengths)))}. Turn it over after every pass; nothing on its narrow sides.`,
        `Solid at ${formatLength(longMm, lengths)} from cap to cap, ${formatSizes([...toMm], lengths)} outside. The picture lies under the caps: ${formatFine(capMm, lengths)} on each side.`,
      ];
    const stops = stopsSaid(passes, lengths);
    return [
      ...(endMm > 0 ? [`First press end to end, ${formatFine(endMm, lengths)}, to seat the caps.`] : []),
      ...(passes.length === 0
        ? []
        : [
            `Press the ${ways === 'two ways' ? 'sides in turn, a quarter turn after every pass' : 'top only'}${stops === '' ? '' : `, stop blocks in turn: ${stops}`}.`,
          ]),
      `Solid at ${formatSizes([...toMm], lengths)} outside, ${formatLength(longMm, lengths)} long. Then crop the caps: ${formatFine(capMm, lengths)} and a little more hold no picture.`,
    ];
  },
  straighten: ({ heats }) => `Straighten and flatten with light blows${inHeats(heats)}.`,
  groove: (action, units) =>
    action.how === 'ground'
      ? `Grind ${hollowsSaid(action, units)}, in ${facesSaid(action, units, 'face')}.`
      : `Press ${hollowsSaid(action, units)}, into ${facesSaid(action, units, 'hot face')}${inHeats(action.heats)}.`,
  'cut tip'({ alongMm, offEdgeMm, offSpineMm }, { lengths }) {
    const cut = (side: string, offMm: number) =>
      `Mark ${formatLength(alongMm, lengths)} from end B on the ${side}, and on end B ${formatFine(offMm, lengths)} in from there; saw from mark to mark, and round the corner at the first a little.`;
    return [
      ...(offSpineMm > 0 ? [cut('spine’s side (right, seen on end B)', offSpineMm)] : []),
      ...(offEdgeMm > 0 ? [cut('edge’s side (left, seen on end B)', offEdgeMm)] : []),
    ];
  },
  'forge to shape'({ sections, bevel, edges, heats }, { lengths }) {
    const mm = (length: number) => formatLength(length, lengths);
    const marks = sections.filter((s) => s.barMm > 0 && s.name !== undefined);
    return [
      `Punch marks on the spine${edges === 2 ? ', one of the two edges,' : ''} before the fire, from end A: ${list(marks.map((s) => `${s.name} at ${mm(s.barMm)}`))}.`,
      `Forge the point first, then the rest towards end A${inHeats(heats)}, the bevel ${edges === 2 ? 'on both sides, each over half of the width' : bevel >= 0.999 ? 'over the whole width' : `over the ${Math.round(100 * bevel)} % of the width next to the edge`}, straight between these sections:`,
      ...sections.map(
        ({ name, atMm, barMm, toEdgeMm, toSpineMm, spineMm, edgeMm }) =>
          `${mm(atMm)} from end A${name ? ` (${name})` : ''}, from ${mm(barMm)} on the bar: ${mm(toEdgeMm + toSpineMm)} wide, ${mm(Math.abs(toEdgeMm))} ${toEdgeMm < 0 ? 'inside' : 'out'} of the middle line at the ${edges === 2 ? 'left' : 'edge'} and ${mm(Math.abs(toSpineMm))} ${toSpineMm < 0 ? 'inside' : 'out'} at the ${edges === 2 ? 'right' : 'spine'}; ${edges === 2 ? `${formatFine(spineMm, lengths)} thick in the middle, ${formatFine(edgeMm, lengths)} at both edges` : `${formatFine(spineMm, lengths)} thick at the spine, ${formatFine(edgeMm, lengths)} at the edge`}.`,
      ),
    ];
  },
  'forge flat': ({ toMm, heats }, { lengths }) =>
    `Forge flat${inHeats(heats)}, to ${formatFine(toMm, lengths)} thick.`,
};
