import { formatFine, formatLength, formatSizes } from '../units/length.ts';
import { formatMass } from '../units/mass.ts';
import type { CanAction, InsertWord } from './canAction.ts';
import { type Sentences, type Units, list, plural } from './said.ts';

/** More than these are looked up in the section that is drawn. */
const MOST_TOLD = 6;
/** mm. Bars that differ by less are of one size. */
const ALIKE_MM = 0.02;

const HANDLE = {
  none: '',
  stub: ' A stub on the near cap to hold it by.',
  bar: ' A handle on the near cap.',
} as const;

const SETTLED = {
  tapped: 'tapped until it sinks no more',
  shaken: 'shaken by the machine until it sinks no more',
  poured: 'poured in loosely and left as it lies',
} as const;

const MANY: Record<InsertWord, string> = {
  rod: 'rods',
  'square bar': 'square bars',
  'bent rod': 'bent rods',
  strip: 'strips',
  'saw blade': 'saw blades',
  ball: 'balls',
  bar: 'bars',
  springs: 'springs',
  chain: 'chain',
  offcuts: 'offcuts',
};

/** Many of a kind of insert. */
export const manyOf = (what: InsertWord): string => MANY[what];

/** So many of a kind; of springs and chain each is a spring or a length of chain. */
const numberOf = (n: number, what: InsertWord): string =>
  what === 'springs'
    ? plural(n, 'spring')
    : what === 'chain'
      ? plural(n, 'length of chain', 'lengths of chain')
      : plural(n, what, MANY[what]);

const sizesSaid = (sizesMm: readonly number[], { lengths }: Units): string =>
  sizesMm.map((mm) => formatFine(mm, lengths)).join(' × ');

export const CAN_SENTENCES: Sentences<CanAction> = {
  'build can'(a, { lengths }) {
    const [wide, high] = a.outsideMm;
    const wall = formatFine(a.wallMm, lengths);
    const made = {
      box: `Weld a box of ${a.material} plate ${wall}: ${formatSizes([wide, high], lengths)} outside`,
      tube: `Cut a round tube of ${a.material}, ${formatLength(wide, lengths)} outside, wall ${wall}`,
      free: `Bend and weld plate and square rod of ${a.material}, ${wall}, round the drawn outline: ${formatSizes([wide, high], lengths)} outside`,
    };
    const release = a.release === 'none' ? '' : `; ${a.release} inside`;
    return `${made[a.shape]}, ${formatLength(a.longMm, lengths)} long with caps of ${formatFine(a.capMm, lengths)}${release}.${HANDLE[a.handle]}`;
  },
  'set in'(a, units) {
    const count = a.middlesMm.length;
    const size = sizesSaid(a.sizesMm, units);
    const weight = formatMass(a.kg, units.masses);
    const cut = a.lengths
      ? `, each ${plural(a.lengths.count, 'length')} of ${formatFine(a.lengths.eachMm, units.lengths)}${a.lengths.count > 1 ? ` with ${formatFine(a.lengths.gapMm, units.lengths)} between` : ''} and as much left at either end`
      : '';
    const wire = a.wire
      ? ` over all, wire ${formatFine(a.wire.thickMm, units.lengths)}, ${a.what === 'springs' ? 'a turn' : 'a link'} every ${formatFine(a.wire.pitchMm, units.lengths)}${
          a.what === 'springs'
            ? a.wire.strands > 1
              ? ` (wound to the right, ${a.wire.strands} springs screwed into one another for each, their wires beginning evenly round at end A, one on the right)`
              : ' (wound to the right, the wire beginning on the right at end A)'
            : ' (the first link at end A lying level)'
        }`
      : '';
    const bent = [
      ...(a.bowMm === undefined
        ? []
        : [
            `bowed ${a.bowed ?? 'across'} by ${formatFine(a.bowMm, units.lengths)}, ${count > 1 ? 'by turns middle up and middle down, the first up' : 'the middle up'}`,
          ]),
      ...(a.teeth
        ? [
            `the teeth to the right, ${a.teeth.count} whole ones ${formatFine(a.teeth.deepMm, units.lengths)} deep on each length, a gap at either end`,
          ]
        : []),
    ].map((said) => `, ${said}`);
    const places = a.middlesMm.map((at) => sizesSaid(at, units));
    // Which bow up and which down is told by their order alone.
    const where =
      count > MOST_TOLD && a.bowMm === undefined
        ? 'where the section shows them, seen on end B'
        : `${count === 1 ? 'its middle' : 'their middles'} from the left and the bottom of the room inside, seen on end B: ${list(places)}`;
    return `Set in ${numberOf(count, a.what)} of ${a.material}, ${size}${wire}${bent.join('')}${cut}, ${weight}; ${where}.`;
  },
  'stand in'({ bars, longMm, kg }, units) {
    const { lengths, masses } = units;
    const cut = bars.filter((b) => b.isCut);
    const isAlone = bars.length === 1;
    const one = bars.every((b) => b.isCan) ? 'filled can' : 'finished bar';
    const many = bars.some((b) => b.isCan) && one === 'finished bar' ? 'bars and filled cans' : `${one}s`;
    const saw =
      cut.length === 0
        ? ''
        : `Saw ${isAlone ? 'the finished bar' : `${cut.length > 1 ? 'bars' : 'bar'} ${list(cut.map((b) => b.name))}`} to ${formatLength(longMm, lengths)}, taking it off end B. `;
    const unlike = bars.some(({ sizeMm }) =>
      sizeMm.some((mm, i) => Math.abs(mm - bars[0].sizeMm[i]) > ALIKE_MM),
    );
    const size = sizesSaid(bars[0].sizeMm, units);
    const own = bars.map(({ name, sizeMm, middleMm }) => {
      const at = sizesSaid(middleMm, units);
      if (isAlone) return at;
      return unlike ? `${name}, ${sizesSaid(sizeMm, units)}, at ${at}` : `${name} at ${at}`;
    });
    const named = isAlone ? '' : ', by what is written on them (write it on those that have no name yet)';
    const weight = formatMass(kg, masses);
    return `${saw}Stand ${isAlone ? (cut.length > 0 ? 'it' : `the ${one}`) : `${bars.length} ${many}`} in the room${named}, ${unlike ? '' : `${size}, `}${weight}, end B in front, the arrow up; ${isAlone ? 'its middle' : 'their middles'} from the left and the bottom of the room inside, seen on end B: ${own.join('; ')}.`;
  },
  'bend in': ({ material, thickMm, longMm, middlesMm, kg }, { lengths, masses }) =>
    `Bend ${numberOf(middlesMm.length, 'bent rod').replace('bent ', '')} of ${material}, ${formatFine(thickMm, lengths)} thick and ${formatLength(longMm, lengths)} long, round inside the wall, touching it all round, the ends welded together; ${formatMass(kg, masses)}. ${middlesMm.length === 1 ? 'Its middle' : 'Their middles, one above another,'} over the cap of end A: ${list(middlesMm.map((mm) => formatFine(mm, lengths)))}.`,
  'strew in'(a, units) {
    if (a.from)
      return `Saw ${plural(a.from.length, 'piece')} of other bars (${list(a.from)}) into pieces about ${sizesSaid(a.sizesMm, units)} across, weigh out ${formatMass(a.kg, units.masses)} and strew them in as they fall.`;
    if (a.count === null)
      return `Weigh out ${formatMass(a.kg, units.masses)} of ${a.material} ${MANY[a.what]} and strew them in.`;
    const what = `${numberOf(a.count, a.what)} of ${a.material}, ${sizesSaid(a.sizesMm, units)}, ${formatMass(a.kg, units.masses)}`;
    if (!a.poured) return `Set in ${what}, as the section shows.`;
    const { lifts, withOthers } = a.poured;
    const how =
      lifts > 1
        ? `in ${plural(lifts, 'lift')}${withOthers ? ', in each of them by turns with the other sizes' : ''}`
        : withOthers
          ? 'mixed with the other sizes'
          : 'at once';
    return `Pour in ${what}, ${how}, and shake them down: they lie as they fall, not as the section shows.`;
  },
  'set form': ({ wallMm, leftIn }, { lengths }) =>
    `Set the printed form in (wall ${formatFine(wallMm, lengths)}); ${leftIn ? 'it stays in and burns away' : 'each powder goes into its own part of it'}.`,
  powder: ({ material, kg, readyKg }, { masses }) =>
    `Make ${formatMass(readyKg, masses)} of ${material} powder ready; ${formatMass(kg, masses)} goes in.`,
  fill: ({ lifts, liftMm, drawUp, how }, { lengths }) =>
    `Fill in ${plural(lifts, 'lift')} of ${formatFine(liftMm, lengths)}, each ${SETTLED[how]}.${drawUp ? ' Draw the form up with every lift.' : ''}`,
  'weigh can': ({ fullKg }, { masses }) =>
    `Full, the can weighs ${formatMass(fullKg, masses)}: less, and there is a hollow.`,
  cap: ({ pinhole }, { lengths }) =>
    pinhole === null
      ? 'Cap it.'
      : `Cap it and weld it shut but for a pinhole of ${formatFine(pinhole.mm, lengths)} at the ${pinhole.where}.`,
};
