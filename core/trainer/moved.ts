import type { Billet } from '../billet/billet.ts';
import { turnedBar } from '../billet/turned.ts';
import { ORIENTATION_NAMES, orientationNamed } from '../geometry/orientation.ts';
import { laid, square } from '../recipes/families/parts.ts';
import { NotMade } from '../recipes/making.ts';
import type { Making } from '../recipes/making.ts';
import { layeredBar, sweptBar } from './bars.ts';
import { type Done, type Kind, type Level, playedOf, replayed, seen, toldApart } from './exercise.ts';

/** Answers offered. */
const OFFERED: Record<Level, number> = { 1: 3, 2: 4, 3: 4 };

/** A move done to a bar that is begun the same way each time. */
interface Move {
  readonly text: string;
  readonly do: (making: Making) => Making;
  readonly from: Level;
}

const MOVES: readonly Move[] = [
  {
    text: 'Re-squared on the bias',
    from: 1,
    do: (m) => m.do('resquare', { turn: 'left', sideMm: 22, errorDeg: 0, heats: 1, reckoned: 'usual' }),
  },
  { text: 'Sawn in four and laid alike', from: 1, do: (m) => square(laid(m, 2, 2, 'alike'), 26) },
  { text: 'Sawn in four and laid mirrored', from: 1, do: (m) => square(laid(m, 2, 2, 'mirrored'), 26) },
  { text: 'Sawn in four and laid turned', from: 1, do: (m) => square(laid(m, 2, 2, 'turned'), 26) },
  {
    text: 'Split by a wedge and closed: a feather',
    from: 2,
    do: (m) => m.do('feather', { heats: 1 }, { dragMm: 8, fadesMm: 6 }).do('weld'),
  },
  {
    text: 'Leaned over, and left so',
    from: 3,
    do: (m) => m.do('lean', { heats: 1, reckoned: 'usual' }, { leanDeg: 22 }),
  },
  { text: 'Turned a quarter', from: 2, do: (m) => m.do('turn', { to: 'turned 90°' }) },
  {
    text: 'Sawn in four, two by two with a bright cross between',
    from: 2,
    do: (m) =>
      square(
        laid(m, 2, 2, 'mirrored', { strips: { material: '15n20', thicknessMm: 3, where: 'cross' } }),
        26,
      ),
  },
];

/** Every one of some moves done to the same bar, by one chance. */
function allDone(moves: readonly Move[], begin: () => Making): (Done & { making: Making })[] {
  return moves.flatMap((move) => {
    try {
      const making = move.do(begin());
      return [{ text: move.text, making, result: seen(making.bars[0], 'After') }];
    } catch (error) {
      if (error instanceof NotMade) return [];
      throw error;
    }
  });
}

/** Before and after: which move was it? */
export const whichMove: Kind = {
  id: 'which-move',
  title: 'Which move made this?',
  make(level, random) {
    const again = replayed(random);
    const begin = () => layeredBar(level, again());
    const all = allDone(
      MOVES.filter((m) => m.from <= level),
      begin,
    );
    const told = toldApart(all, OFFERED[level], random);
    if (!told) return null;
    const right = all.find((d) => d.text === told.done[told.right].text)!;
    return {
      question: 'The bar on the left became the one on the right. What was done to it?',
      shown: [seen(begin().bars[0], 'Before'), right.result],
      choices: told.done.map(({ text }) => ({ text })),
      right: told.right,
      why: `${right.text}: follow one layer from before to after.`,
      played: playedOf(right.making.steps),
    };
  },
};

/** What each orientation does, in shop words. */
const WAYS: Record<(typeof ORIENTATION_NAMES)[number], string> = {
  'as it lies': 'Not at all: it lies as it lay',
  'turned 90°': 'A quarter turn to the left',
  'turned 180°': 'Half a turn',
  'turned 270°': 'A quarter turn to the right',
  'rolled left–right': 'Rolled end for end, mirrored left and right',
  'rolled, turned 90°': 'Rolled end for end, then a quarter turn',
  'rolled top–bottom': 'Rolled end for end, mirrored top and bottom',
  'rolled, turned 270°': 'Rolled end for end, then a quarter turn back',
};

const turnsOf = (bar: Billet, level: Level): Done[] =>
  ORIENTATION_NAMES.filter((name) => level > 1 || !name.startsWith('rolled')).map((name) => ({
    text: WAYS[name],
    result: seen(name === 'as it lies' ? bar : turnedBar(bar, orientationNamed(name)), 'Now'),
  }));

/** Which way was the piece turned? */
export const whichTurn: Kind = {
  id: 'which-turn',
  title: 'Which way was it turned?',
  make(level, random) {
    const making = sweptBar(level, random);
    const [bar] = making.bars;
    const told = toldApart(turnsOf(bar, level), OFFERED[level], random);
    if (!told) return null;
    const right = told.done[told.right];
    return {
      question: 'The piece on the left lies on the right now, seen from the same side. How was it turned?',
      shown: [seen(bar, 'Before'), right.result],
      choices: told.done.map(({ text }) => ({ text })),
      right: told.right,
      why: `${right.text}. Turned about its length it stays the same picture; only end for end does it become its mirror image.`,
      played: [...playedOf(making.steps), right.result],
    };
  },
};

/** What does the other end look like? */
export const otherEnd: Kind = {
  id: 'other-end',
  title: 'What does the other end look like?',
  make(level, random) {
    const making = sweptBar(level, random);
    if (level === 3) {
      making.do('corners', { shape: 'round', heats: 1 }).do('twist', { heats: 1 }, { turns: 0.125 });
      square(making, 20);
    }
    const [bar] = making.bars;
    const half = turnedBar(bar, orientationNamed('turned 180°'));
    const all = [
      { text: 'A', result: seen(bar, '', 'end A') },
      { text: 'B', result: seen(bar, '') },
      { text: 'C', result: seen(half, '', 'end A') },
      ...(level === 1 ? [] : [{ text: 'D', result: seen(half, '') }]),
    ];
    const told = toldApart(all, OFFERED[level], random);
    if (!told?.done.includes(all[0])) return null;
    const choices = told.done.map(({ result }, i) => ({
      text: 'ABCD'[i],
      seen: { ...result, caption: 'ABCD'[i] },
    }));
    return {
      question: `This is end B. You walk round to end A, the same side up. What do you see?${level === 3 ? ' The bar was twisted by an eighth of a turn from end A to end B.' : ''}`,
      shown: [seen(bar, 'End B')],
      choices,
      right: told.done.indexOf(all[0]),
      why: `End A shows the mirror image, left and right changed: the two ends of one bar are seen from opposite sides.${level === 3 ? ' Twisted, it is turned besides.' : ''}`,
      played: [seen(bar, 'End B'), seen(bar, 'End A', 'end A')],
    };
  },
};

/** How the four pieces of a block may lie. */
const LAYINGS = ['alike', 'turned', 'mirrored'] as const;
const LAID_TEXT = {
  alike: 'All alike',
  turned: 'Turned: each a quarter further round the middle',
  mirrored: 'Mirrored: book-matched both ways',
} as const;

/** Lay the four pieces so that this comes out. */
export const layFour: Kind = {
  id: 'lay-four',
  title: 'How must the four lie?',
  make(level, random) {
    const again = replayed(random);
    const begin = () => sweptBar(level, again());
    const free = (text: string, orientations: readonly string[]): Move => ({
      text,
      from: 2,
      do: (m) =>
        laid(m, 2, 2, 'free', {
          places: orientations.map((orientation, i) => ({ piece: i + 1, orientation })),
        }),
    });
    const moves: Move[] = [
      ...LAYINGS.map((layout): Move => ({
        text: LAID_TEXT[layout],
        from: 1,
        do: (m) => laid(m, 2, 2, layout),
      })),
      free('The right two upside down', ['as it lies', 'turned 180°', 'as it lies', 'turned 180°']),
      free('The lower two rolled end for end', [
        'as it lies',
        'as it lies',
        'rolled top–bottom',
        'rolled top–bottom',
      ]),
      free('Mirrored, but one of them upside down', [
        'as it lies',
        'rolled left–right',
        'rolled top–bottom',
        'as it lies',
      ]),
    ];
    const all = allDone(
      moves.filter((m) => m.from <= level),
      begin,
    );
    const told = toldApart(all, OFFERED[level], random);
    if (!told) return null;
    const right = all.find((d) => d.text === told.done[told.right].text)!;
    return {
      question: 'Four pieces of the bar on the left are to make the block on the right. How must they lie?',
      shown: [seen(begin().bars[0], 'A piece, end B'), { ...right.result, caption: 'The block' }],
      choices: told.done.map(({ text }) => ({ text })),
      right: told.right,
      why: `${right.text}: look where the thick layers go at the seams.`,
      played: playedOf(right.making.steps),
    };
  },
};
