import { laid, square } from '../recipes/families/parts.ts';
import type { Making } from '../recipes/making.ts';
import { layeredBar } from './bars.ts';
import { type Kind, playedOf, replayed, seen, toldApart } from './exercise.ts';

interface Fault {
  readonly text: string;
  readonly mend: string;
  readonly do: (begin: () => Making) => Making;
}

const fourOf = (making: Making): Making => square(laid(making, 2, 2, 'mirrored'), 30);
const quarter = (making: Making, errorDeg = 0): Making =>
  making.do('resquare', { turn: 'left', sideMm: 22, heats: 1, reckoned: 'usual' }, { errorDeg });

const freeFour = (making: Making, orientations: readonly string[]): Making =>
  square(
    laid(making, 2, 2, 'free', {
      places: orientations.map((orientation, i) => ({ piece: i + 1, orientation })),
    }),
    30,
  );

/** What can go wrong on the way to a star. */
const FAULTS: readonly Fault[] = [
  {
    text: 'The re-square was turned too far',
    mend: 'Grind the pieces true before they are laid, or live with it: it is seen at every corner.',
    do: (begin) => fourOf(quarter(begin(), 11)),
  },
  {
    text: 'One piece was laid upside down',
    mend: 'Number both ends of every piece before it is sawn off, and lay them by the numbers.',
    do: (begin) =>
      freeFour(quarter(begin()), ['as it lies', 'rolled left–right', 'rolled top–bottom', 'turned 90°']),
  },
  {
    text: 'No piece was mirrored: all lie alike',
    mend: 'Only a piece turned end for end shows its mirror image.',
    do: (begin) => square(laid(quarter(begin()), 2, 2, 'alike'), 30),
  },
  {
    text: 'The bar was not re-squared at all',
    mend: 'Level layers stay level: it is the press on the corners that bends them.',
    do: (begin) => square(laid(square(begin(), 22), 2, 2, 'mirrored'), 30),
  },
  {
    text: 'The bar twisted as it was drawn',
    mend: 'Draw with light passes, and look at the middle of a bar, not only at its ends.',
    do: (begin) => {
      const making = quarter(begin());
      making
        .do('corners', { shape: 'round', heats: 0, reckoned: 'usual' })
        .do('twist', { heats: 0 }, { turns: 0.4 });
      return fourOf(square(making, 18));
    },
  },
];

/** A star was wanted, and this came: what went wrong? */
export const whatWentWrong: Kind = {
  id: 'what-went-wrong',
  title: 'What went wrong?',
  make(level, random) {
    const again = replayed(random);
    const begin = () => layeredBar(level, again(), false);
    const wanted = fourOf(quarter(begin()));
    const all = FAULTS.slice(0, level === 1 ? 3 : FAULTS.length).map((fault) => {
      const making = fault.do(begin);
      return { text: fault.text, mend: fault.mend, result: seen(making.bars[0], 'What came'), making };
    });
    const target = seen(wanted.bars[0], 'What was wanted');
    const told = toldApart(all, level === 1 ? 3 : 4, random);
    if (!told) return null;
    const right = all.find((f) => f.text === told.done[told.right].text)!;
    return {
      question: 'The star on the left was wanted. What went wrong on the right?',
      shown: [target, right.result],
      choices: told.done.map(({ text }) => ({ text })),
      right: told.right,
      why: `${right.text}. ${right.mend}`,
      played: playedOf(right.making.steps),
    };
  },
};
