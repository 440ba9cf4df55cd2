import type { OrientationName } from '../geometry/orientation.ts';
import { type LengthDisplay, formatFine, formatLength, formatSizes } from '../units/length.ts';
import { type Action, type BenchAction, CROP_REASONS, type Counted, OLD, SIDES } from './action.ts';
import { BETWEEN_SENTENCES } from './betweenWords.ts';
import { CAN_SENTENCES } from './canWords.ts';
import { CARE } from './careWords.ts';
import { FORGE_SENTENCES } from './forgeWords.ts';
import { type Sentences, type Units, type Whole, begin, list, named, plural } from './said.ts';

/** How a piece lies, as a smith says it, seen on the end in front. */
export const ORIENTATION_SAID: Readonly<Record<OrientationName, string>> = {
  'as it lies': 'as it lay in the bar',
  'turned 90°': 'turned a quarter counter-clockwise',
  'turned 180°': 'turned half round',
  'turned 270°': 'turned a quarter clockwise',
  'rolled left–right': 'rolled end for end, left to right',
  'rolled top–bottom': 'rolled end for end, top to bottom',
  'rolled, turned 90°': 'rolled end for end, left to right, then a quarter counter-clockwise',
  'rolled, turned 270°': 'rolled end for end, left to right, then a quarter clockwise',
};

const QUARTER = 'a quarter turn';

type Doing<K extends Action['do']> = Extract<Action, { do: K }>;

/** How parts are marked that are still one: sawn across, their own ends are not there yet. */
const onParts = (what: string, counted: Counted): string =>
  counted === 'from end A'
    ? `on the top of ${what}, A and B towards the ends; off the saw, number, letter and an arrow up on both its ends.`
    : `on both ends of ${what}, the end’s letter A or B, and an arrow that points up as it lies.`;

const sawAlong = (
  { way, nearMm }: Pick<Doing<'saw along'>, 'way' | 'nearMm'>,
  what: string,
  lengths: LengthDisplay,
): string =>
  `Saw ${what} along its whole length, ${way}, the near side of the kerf ${formatFine(nearMm, lengths)} from the ${way === 'upright' ? 'left' : 'bottom'} face, seen on the end in front.`;

const sawAcross = (
  { marksMm, eachMm, differMm }: Pick<Doing<'saw across'>, 'marksMm' | 'eachMm' | 'differMm'>,
  what: string,
  lengths: LengthDisplay,
): string =>
  [
    marksMm.length > 0
      ? `Saw ${what}square across, the kerf on the B side of each mark; marks from end A: ${list(marksMm.map((mm) => formatLength(mm, lengths)))}.`
      : 'Nothing is sawn.',
    `Each piece is ${formatLength(eachMm, lengths)} long${differMm > 1e-6 ? `; rounding leaves at most ${formatFine(differMm, lengths)} between pieces` : ''}.`,
  ].join(' ');

/** One sentence an action; a second language is a second table. No sentence needs another to be understood. */
const BENCH_SENTENCES: Sentences<BenchAction> = {
  mark: ({ pieces, ends, counted = 'from end A' }) =>
    ends === 'both'
      ? `Before sawing, write ${onParts(
          `every piece (${pieces.length === 1 ? pieces[0] : `${pieces[0]} to ${pieces.at(-1)}`}, counted ${counted}) its number`,
          counted,
        )}`
      : `Every piece lies as it did in its bar: end B in front, the arrow up (${list(pieces)}). What is not marked yet, mark now: number, A and B, the arrow.`,
  'mark as it lies': ({ otherEnds }) =>
    `Strike out the old arrow and draw a new one on both ends, up as it now lies.${otherEnds ? ' The end now in front is the new end B, the other A: strike out the old letters and write them.' : ''}`,
  'mark anew': ({ parts, counted }) =>
    `Before sawing, strike out the numbers and write ${onParts('every part its new one', counted)} Counted ${counted}: ${parts.map(({ was, now }) => `what was ${was} becomes ${list(now)}`).join('; ')}.`,
  'saw across': (action, { lengths: l }, whole) =>
    sawAcross(action, action.piece === undefined ? '' : `${named(action.piece, whole)} `, l),
  'saw slanting': ({ bottomMm, angleDeg, topTowards, thicknessMm, everyMm, parts }, { lengths: l }) =>
    `Saw ${angleDeg === 90 ? 'square across' : `at ${angleDeg}° to the bar, the saw leaning so that its cut runs up towards end ${topTowards}`}, ${formatFine(thicknessMm, l)} thick square to the cut: ${bottomMm.length === 0 ? 'the bar is one tile as it is' : bottomMm[0] <= 0 ? 'the first cut begins at the bottom edge of end A, its kerf in the waste' : `the first kerf begins ${formatFine(bottomMm[0], l)} from end A`}, then one every ${formatFine(everyMm, l)} along the bar, for ${parts.filter((p) => p !== null).length} tiles. Before sawing, number them along the left face from end A, with an arrow up.`,
  'saw along': (action, { lengths: l }, whole) =>
    `${sawAlong(action, named(action.piece, whole), l)} Part ${action.parts[0]} is the ${action.way === 'upright' ? 'left' : 'lower'} one, ${formatFine(action.sizesMm[0], l)} ${action.way === 'upright' ? 'wide' : 'high'}; part ${action.parts[1]} the ${action.way === 'upright' ? 'right' : 'upper'} one, ${formatFine(action.sizesMm[1], l)}.`,
  crop: ({ end, offMm, piece, leftMm, why }, { lengths: l }, whole) =>
    `Cut ${formatFine(offMm, l)} off end ${end} of ${named(piece, whole)}${why ? ` (${CROP_REASONS[why]})` : ''}; ${formatLength(leftMm, l)} remains.`,
  turn({ piece, about, deg, way }, _units, whole) {
    const who = named(piece, whole);
    if (about === 'upright')
      return `Roll ${who} end for end, left to right, like a page: its other end comes to the front, its top stays up.`;
    if (about === 'across')
      return `Roll ${who} end for end, top to bottom: its other end comes to the front, its top goes down.`;
    const much = deg === 90 ? QUARTER : deg === 180 ? 'half a turn' : `${Math.round(deg * 100) / 100}°`;
    return `Turn ${who} ${much}${way ? ` ${way}` : ''} about its length, seen on the end in front.`;
  },
  lay: ({ piece, row, place, of, front, arrow }) =>
    `Lay piece ${piece} in ${of.rows > 1 ? `row ${row} from the top, ` : ''}place ${place} from the left: end ${front} in front, its arrow ${arrow}.`,
  'lay wedge': ({ piece, side, front, arrow }) =>
    `Lay wedge ${piece} ${side === 'top' || side === 'bottom' ? `at the ${side}` : `on the ${side}`}, its point to the middle: end ${front} in front, its arrow ${arrow}.`,
  'grind to a point': ({ piece, point, offMm }, { lengths: l }) =>
    `Grind ${formatFine(offMm, l)} off both slanting faces of wedge ${piece}, flat and square, until they meet in an edge ${{ bottom: 'at the bottom', top: 'at the top', left: 'on the left', right: 'on the right' }[point]}, seen on the end in front.`,
  'lay cross': ({ material, thickMm, longMm, squareMm }, { lengths: l }) =>
    `Between the wedges lay strips of ${material} ${formatFine(thickMm, l)} thick and ${formatLength(longMm, l)} long: one right across from the lower left corner to the upper right, two from its sides to the other corners. Grind what stands out at the corners: ${formatFine(squareMm, l)} square.`,
  'lay strips': ({ material, thickMm, betweenPlaces, betweenRows, outside, longMm }, { lengths: l }) =>
    `Lay strips of ${material} ${formatFine(thickMm, l)} thick and ${formatLength(longMm, l)} long ${list([
      ...(betweenPlaces ? ['upright between the places, from bottom to top'] : []),
      ...(betweenRows ? ['level between the rows'] : []),
      ...(outside ? ['round the outside'] : []),
    ])}.`,
  'lay down'({ pieces, what, up, topTowards }) {
    if (what === 'block')
      return `Lay the block down with its end ${up} up and its old top towards the new end ${topTowards}; write the new A and B on it: the end grain is now the broad face.`;
    const who = pieces.length === 1 ? `${what} ${pieces[0]}` : `${what}s ${list(pieces)}`;
    const face = what === 'tile' ? `the cut face that looked to end ${up} up` : `end ${up} up`;
    return `Lay ${who} with ${face} and the old top towards the new end ${topTowards}.`;
  },
  scarf: ({ piece, end, angleDeg, reachMm }, { lengths: l }) =>
    `Saw end ${end} of piece ${piece} at ${angleDeg}° to the bar, the cut running up towards end B: ${formatFine(reachMm, l)} off the ${end === 'B' ? 'bottom' : 'top'}, nothing off the ${end === 'B' ? 'top' : 'bottom'}.`,
  'put back': ({ piece, fromMm, sizesMm, faces, offMm }, { lengths: l }) =>
    `Take out piece ${piece}, ${formatFine(sizesMm[0], l)} × ${formatFine(sizesMm[1], l)}, which lay ${formatFine(fromMm[0], l)} from the left and ${formatFine(fromMm[1], l)} from the bottom of the section, seen on end B. Grind ${formatFine(offMm, l)} off its ${faces.join(' and ')}, flat and square, and as much off what ${faces.length > 1 ? 'these faces' : 'this face'} lay against${faces.length > 1 ? ', into the corner' : ''}. Lay it back as it lay, end B in front, pushed home to the ${faces.join(' and to the ')}.`,
  row: ({ pieces, longMm }, { lengths: l }) =>
    `Set them edge to edge from the new end A in the order ${list(pieces)}: ${formatLength(longMm, l)} in all.`,
  raise: ({ edge, shimMm }, { lengths: l }) =>
    `On the magnetic chuck, end B in front, put a shim ${formatFine(shimMm, l)} thick under the ${edge} edge, the other edge on the chuck, a stop behind it.`,
  'grind down': ({ toMm }, { lengths: l }) =>
    `Grind the face that is up level, until it stands ${formatFine(toMm, l)} over the chuck.`,
  'rest flat': ({ on }) =>
    on === 'the same face'
      ? 'Take it off the shim and lay it flat on the same face again.'
      : 'Lay it flat on the ground face, which is now down; no shim.',
  'grind off': ({ piece, side, offMm }, { lengths: l }, whole) =>
    `Grind ${formatFine(offMm, l)} off the ${side} of ${named(piece, whole)}, flat and square.`,
  pile: ({ from, parts, longMm }, { lengths: l }) =>
    `Lay one ${from === 'bottom' ? 'on' : 'beside'} the other, from the ${from}, seen on the end in front: ${list(
      parts.map((part) =>
        'piece' in part
          ? named(part.piece ?? undefined, 'the bar')
          : `${part.material} ${formatFine(part.thickMm, l)} thick`,
      ),
    )}; all ${formatLength(longMm, l)} long.`,
  stack: ({ inTurn, tallMm }, { lengths: l }) =>
    `Stack from the bottom, in turn: ${inTurn.map(({ material, thickMm }) => `${material} ${formatFine(thickMm, l)}`).join(', ')}. It stands ${formatLength(tallMm, l)} tall.`,
  wrap: ({ material, thickMm, allRound }, { lengths: l }) =>
    `Wrap ${allRound ? 'all round' : 'top and bottom'} with ${material} sheet ${formatFine(thickMm, l)} thick, tight; weld its seams but for a pinhole at the far end.`,
  'cut strips': ({ count, sizesMm }, { lengths: l }) =>
    `Cut ${plural(count, 'strip')} ${formatSizes([...sizesMm], l)}; grind every faying face bright.`,
  unwrap({ how, sideMm, topMm }, { lengths: l }) {
    const depths = list([
      ...(sideMm > 0 ? [`${formatFine(sideMm, l)} on each side`] : []),
      `${formatFine(topMm, l)} on top and bottom`,
    ]);
    return how === 'peel'
      ? `Cut the sheet’s corner beads and peel it off: ${depths}.`
      : `Grind the sheet off until the pattern shows all over: ${depths}.`;
  },
  'grind both': ({ toMm }, { lengths: l }) =>
    `Surface-grind both broad faces by turns to ${formatFine(toMm, l)}, the same off each.`,
  'grind to the hollows': ({ toMm, faces }, { lengths: l }) =>
    faces === 'both'
      ? `Grind both faces alike, down to the bottom of the hollows: ${formatFine(toMm, l)} thick.`
      : `Grind the ${faces} down to the bottom of them: ${formatFine(toMm, l)} thick.`,
  'cut Vs': ({ openingDeg, deepMm, middlesMm, everyMm, ends }, { lengths: l }) =>
    `Mark V-cuts ${openingDeg}° wide and ${formatLength(deepMm, l)} deep every ${formatLength(everyMm, l)}, by turns from the top and from the bottom: ${plural(middlesMm.length, 'cut')}, the middle of the first, from the top, ${formatLength(middlesMm[0], l)} from end A. Saw both ends off along the walls of the legs there: from end A, end A at ${formatLength(ends.A.bottomMm, l)} on the bottom and ${formatLength(ends.A.topMm, l)} on the top, end B at ${formatLength(ends.B.bottomMm, l)} and ${formatLength(ends.B.topMm, l)}.`,
  'open Vs': ({ wideMm, thickMm, longMm }, { lengths: l }) =>
    `Open it hot a little at each V in turn until it lies flat, the walls of the first V up: about ${formatSizes([wideMm, thickMm], l)}, ${formatLength(longMm, l)} long. What was end A stays end A.`,
  'set aside': ({ pieces }) => {
    const anew = pieces.filter(({ was, now }) => was !== now);
    const those = pieces.length === 1 ? `piece ${pieces[0].now}` : `pieces ${list(pieces.map((p) => p.now))}`;
    return [
      ...(anew.length > 0
        ? [
            `Strike out ${list(anew.map((p) => p.was))} and write ${list(anew.map((p) => p.now))} instead, on both ends; A, B and the arrow stay.`,
          ]
        : []),
      `Set ${those} aside.`,
    ];
  },
  'bring back': ({ pieces }) =>
    `Take ${pieces.length === 1 ? `piece ${pieces[0]}` : `pieces ${list(pieces)}`} back to the bench.`,
  each: ({ count, pieces }) =>
    pieces === undefined
      ? `Do this to each of the ${count} pieces, as it lies:`
      : `Do this to ${count === 1 ? `piece ${pieces[0]}, as it lies` : `pieces ${list(pieces)}, each as it lies`}:`,
  join: ({ end, material, lengthMm, sizesMm }, { lengths: l }) =>
    `Grind end ${end} square and bright. Weld on a block of ${material} ${formatSizes([...sizesMm], l)}, ${formatLength(lengthMm, l)} long, with a scarf if there is length for it.`,
};

const SENTENCES: Sentences<Action> = {
  ...BENCH_SENTENCES,
  ...FORGE_SENTENCES,
  ...CAN_SENTENCES,
  ...BETWEEN_SENTENCES,
  care: ({ what }) => CARE[what],
};

/** What is said of an action, in the shop's own units. */
function sentences(action: Action, units: Units, whole: Whole): string[] {
  const say = SENTENCES[action.do] as (action: Action, units: Units, whole: Whole) => string | string[];
  return [say(action, units, whole)].flat().map(begin);
}

/** As much off several faces of one piece. */
function offEach(all: readonly Doing<'grind off'>[], { lengths: l }: Units, whole: Whole): string {
  const [{ piece, offMm }] = all;
  const sides = all.map((a) => `the ${a.side}`);
  const faces =
    sides.length === SIDES.length
      ? 'each of the four long faces'
      : `${list(sides.slice(0, -1))} and ${sides[sides.length - 1]}`;
  return `Grind ${formatFine(offMm, l)} off ${faces} of ${named(piece, whole)}, flat and square.`;
}

/** Pieces that one thing is done to, by their names; those whose numbers were struck out by what they were. */
function eachOf(all: readonly { readonly piece?: string }[]): string {
  const names = all.map(({ piece = '' }) => piece);
  const old = names.every((name) => name.startsWith(OLD));
  return `each of ${old ? `the old pieces ${list(names.map((n) => n.slice(OLD.length)))}` : `pieces ${list(names)}`}`;
}

/** Several pieces sawn along alike. */
function alongEach(all: readonly Doing<'saw along'>[], { lengths: l }: Units): string {
  const [{ way, sizesMm }] = all;
  const parts = (k: 0 | 1) => `${list(all.map((a) => a.parts[k]))}, ${formatFine(sizesMm[k], l)}`;
  const [low, high, wide] = way === 'upright' ? ['left', 'right', 'wide'] : ['lower', 'upper', 'high'];
  return `${sawAlong(all[0], eachOf(all), l)} The ${low} parts are ${parts(0)} ${wide}; the ${high} ones ${parts(1)}.`;
}

/** All but what may differ between actions that are said in one sentence; null of those that never are. */
function alikeKey(a: Action): string | null {
  if (a.do === 'grind off') return JSON.stringify([a.do, a.piece, a.offMm]);
  if (a.do === 'saw along' && a.piece) return JSON.stringify([a.do, a.way, a.nearMm, a.sizesMm]);
  if (a.do === 'saw across' && a.piece) return JSON.stringify([a.do, a.nearMm, a.marksMm, a.eachMm]);
  return null;
}

function saidTogether(all: readonly Action[], units: Units, whole: Whole): string[] {
  const [first] = all;
  if (all.length === 1) return sentences(first, units, whole);
  if (first.do === 'saw along') return [alongEach(all as Doing<'saw along'>[], units)];
  if (first.do === 'saw across')
    return [sawAcross(first, `${eachOf(all as Doing<'saw across'>[])} `, units.lengths)];
  return [offEach(all as Doing<'grind off'>[], units, whole)];
}

/** What is said of an action, or of several that differ in the piece or the face alone. */
export interface Saying {
  readonly actions: readonly Action[];
  readonly said: readonly string[];
}

export function sayingsOf(actions: readonly Action[], units: Units): Saying[] {
  const sayings: Saying[] = [];
  let whole: Whole = 'the bar';
  for (let i = 0; i < actions.length;) {
    const first = actions[i];
    if (first.do === 'each') whole = first.count === 1 ? 'this piece' : 'each piece';
    const key = alikeKey(first);
    let next = i + 1;
    while (key !== null && next < actions.length && alikeKey(actions[next]) === key) next++;
    const together = actions.slice(i, next);
    sayings.push({ actions: together, said: saidTogether(together, units, whole) });
    i = next;
  }
  return sayings;
}

/** A sentence for each action; those that differ in the piece or the face alone are said in one. */
export const sentencesOf = (actions: readonly Action[], units: Units): string[] =>
  sayingsOf(actions, units).flatMap(({ said }) => said);
