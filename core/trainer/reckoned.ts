import { facePlane } from '../billet/face.ts';
import { KnownFlows } from '../flow/flows.ts';
import { evaluate, startFor } from '../plan/index.ts';
import { square } from '../recipes/families/parts.ts';
import { formatLength, formatSizes } from '../units/length.ts';
import { sweptBar, layeredBar } from './bars.ts';
import {
  type Kind,
  type Level,
  type Random,
  allDiffer,
  between,
  oneOf,
  playedOf,
  replayed,
  seen,
  shuffled,
} from './exercise.ts';

const MM = { unit: 'mm', division: 1 } as const;
const mm = (value: number): string => formatLength(value, MM);

/** The right number among wrong ones, each so many times as much as another; in their order. */
function numbers(
  right: number,
  ratio: number,
  count: number,
  random: Random,
): { all: number[]; right: number } {
  const at = Math.floor(random() * count);
  const all = Array.from({ length: count }, (_, i) => right * ratio ** (i - at));
  return { all, right: at };
}

/** How far apart wrong lengths lie. */
const APART: Record<Level, number> = { 1: 2, 2: 1.5, 3: 1.25 };

/** How long will it be? */
export const howLong: Kind = {
  id: 'how-long',
  title: 'How long will it be?',
  make(level, random) {
    const side = oneOf([30, 36, 40, 48], random);
    const to = Math.round(side * between(0.4, 0.75, random));
    const long = 10 * Math.round(between(8, 20, random));
    const thick = level > 1 ? Math.max(5, Math.round(to * 0.4)) : to;
    const after = (side * side * long) / (to * thick);
    const { all, right } = numbers(after, APART[level], 4, random);
    return {
      question: `A square bar of ${mm(side)}, ${mm(long)} long, is drawn to ${level > 1 ? formatSizes([to, thick], MM) : `${mm(to)} square`}. How long is it then, if nothing scales off?`,
      shown: [],
      choices: all.map((value) => ({ text: mm(value) })),
      right,
      why: `The steel stays the same: ${side} × ${side} × ${long} = ${to} × ${thick} × ${Math.round(after)}.`,
      played: [],
    };
  },
};

/** A ball between others: of their diameter, at most (geometry of close packing). */
interface Gap {
  readonly where: string;
  readonly share: number;
}

const GAPS: readonly Gap[] = [
  { where: 'between six balls round a hollow', share: Math.SQRT2 - 1 },
  { where: 'between four balls that all touch', share: Math.sqrt(1.5) - 1 },
];
const ROD_GAPS: readonly Gap[] = [
  { where: 'between three rods that touch', share: 2 / Math.sqrt(3) - 1 },
  { where: 'between four rods in a square', share: Math.SQRT2 - 1 },
];

/** Will these nest? */
export const willNest: Kind = {
  id: 'will-nest',
  title: 'Will these nest?',
  make(level, random) {
    const isRod = level > 1 && random() < 0.5;
    const gap = oneOf(isRod ? ROD_GAPS : GAPS.slice(0, level === 1 ? 1 : 2), random);
    const large = Math.round(between(8, 20, random));
    const limit = large * gap.share;
    // Plainly under or over, the nearer the harder.
    const near = { 1: 0.35, 2: 0.2, 3: 0.1 }[level];
    const small = Math.round(10 * limit * (random() < 0.5 ? 1 - near : 1 + near)) / 10;
    if (Math.abs(small / limit - 1) < 0.04) return null;
    const what = isRod ? 'rods' : 'balls';
    return {
      question: `${isRod ? 'Rods' : 'Balls'} of ${large} mm lie close together. Do ${what} of ${small} mm fit ${gap.where}?`,
      shown: [],
      choices: [{ text: 'They fit the gaps' }, { text: 'They push the others apart' }],
      right: small <= limit ? 0 : 1,
      why: `${gap.where[0].toUpperCase()}${gap.where.slice(1)} there is room for ${(100 * gap.share).toFixed(1)} % of the diameter: ${limit.toFixed(1)} mm.`,
      played: [],
    };
  },
};

/** Which tile cut gives this face? */
export const whichTile: Kind = {
  id: 'which-tile',
  title: 'Which cut gives this face?',
  make(level, random) {
    const again = replayed(random);
    const begin = () => square(sweptBar(level, again()), 20);
    const cuts = shuffled(
      [
        { angleDeg: 45, lay: 'every other rolled' },
        { angleDeg: 90, lay: 'every other rolled' },
        { angleDeg: 45, lay: 'as they lie' },
        { angleDeg: 90, lay: 'as they lie' },
        ...(level > 1 ? [{ angleDeg: 30, lay: 'every other rolled' }] : []),
      ] as const,
      random,
    ).slice(0, level === 1 ? 3 : 4);
    const all = cuts.map(({ angleDeg, lay }) => {
      const making = begin().do('tile', { angleDeg, lay, count: 4 }, { thicknessMm: 9 });
      return {
        text: `${angleDeg === 90 ? 'Straight' : `Slanted, ${angleDeg}°`}, ${lay === 'as they lie' ? 'all as they lie' : 'every other rolled over'}`,
        result: seen(making.bars[0], 'The face', 'top'),
        making,
      };
    });
    if (!allDiffer(all.map((a) => a.result))) return null;
    const right = Math.floor(random() * all.length);
    const bar = begin().bars[0];
    return {
      question:
        'The bar on the left was sawn into four tiles, and their faces lie in a row on the right. How were they cut and laid?',
      shown: [seen(bar, 'End B'), all[right].result],
      choices: all.map(({ text }) => ({ text })),
      right,
      why: `${all[right].text}. A slanted tile is longer than the bar is high; rolled over, its picture meets its own mirror image at the joint.`,
      played: playedOf(all[right].making.steps),
    };
  },
};

const flows = new KnownFlows();

/** How big a start for that bar? */
export const howBig: Kind = {
  id: 'how-big',
  title: 'How big a start?',
  make(level, random) {
    const making = layeredBar(2, random, false);
    const to = { widthMm: Math.round(between(30, 44, random)), thicknessMm: oneOf([5, 6, 8], random) };
    if (level > 1)
      square(
        making
          .do('cut', { pieces: 4 })
          .do('grind')
          .do('assemble', { columns: 2, rows: 2, layout: 'alike' })
          .do('weld'),
        26,
      );
    making.do('draw', { shape: 'flat', sideMm: undefined, heats: 2 }, to);
    const lengthMm = 10 * Math.round(between(20, 34, random));
    const { widthMm, heightMm } = making.size;
    const plan = { ...making.plan, goal: { lengthMm, widthMm, thicknessMm: heightMm } };
    const answer = startFor(plan, flows);
    if (!answer.ok) return null;
    const [start] = answer.starts;
    const { all, right } = numbers(start.value, APART[level], 4, random);
    const stack = evaluate(plan, undefined, flows).lanes[0].steps[0].after![0];
    const { widthMm: wide, heightMm: high } = facePlane(stack, 'end B');
    return {
      question: `A bar of ${formatSizes([lengthMm, widthMm, heightMm], MM)} is to be drawn out of a stack ${formatSizes([wide, high], MM)} in section${level > 1 ? ', by way of a four-way' : ''}. How long must the stack be?`,
      shown: [seen(stack, 'The stack')],
      choices: all.map((value) => ({ text: mm(value) })),
      right,
      why: `Worked backward with what is lost to scale${level > 1 ? ', saw, grinding and crops' : ''}: ${mm(start.value)}.`,
      played: [],
    };
  },
};
