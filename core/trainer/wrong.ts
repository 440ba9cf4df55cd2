import { laid, square } from '../recipes/families/parts.ts';
import type { Making } from '../recipes/making.ts';
import type { FaceName } from '../billet/face.ts';
import { layeredBar, sweptBar } from './bars.ts';
import { type Kind, VISIBLE, difference, oneOf, playedOf, replayed, seen, toldApart } from './exercise.ts';

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

const quarterRight = (making: Making): Making =>
  making.do('resquare', { turn: 'right', sideMm: 22, heats: 1, reckoned: 'usual', errorDeg: 0 });

/** What can go wrong with one bar in the press. */
const BAR_FAULTS: readonly Fault[] = [
  {
    text: 'The bar leaned over in the press',
    mend: 'Its diagonals differ: press the longer one until they are alike, before anything else is done to it.',
    do: (begin) => quarter(begin()).do('lean', { heats: 1, reckoned: 'usual' }, { leanDeg: 14 }),
  },
  {
    text: 'It was turned too far before it was pressed',
    mend: 'Set the corner upright by a square held to it, not by eye: every piece sawn off the bar has the same fault.',
    do: (begin) => quarter(begin(), 11),
  },
  {
    text: 'It was turned to the other side',
    mend: 'Mark the top of the bar on its end: which corner goes up is decided by it.',
    do: (begin) => quarterRight(begin()),
  },
  {
    text: 'It was drawn smaller, but not re-squared',
    mend: 'Level layers stay level: it is the press on the corners that bends them.',
    do: (begin) => square(begin(), 22),
  },
];

const TILE_MM = 9;
const tiled = (making: Making, lay: object | string, angleDeg = 45): Making =>
  making.do('tile', { angleDeg, count: 4 }, { thicknessMm: TILE_MM, lay });

/** What can go wrong on the way to a face of tiles. */
const TILE_FAULTS: readonly Fault[] = [
  {
    text: 'One tile was not rolled over',
    mend: 'Number the tiles as they come off the saw: every even one is rolled.',
    do: (begin) => tiled(begin(), ['as it lies', 'as it lies', 'as it lies', 'rolled over']),
  },
  {
    text: 'No tile was rolled over',
    mend: 'As they lie the picture comes again; rolled over, it meets its own mirror image at every joint.',
    do: (begin) => tiled(begin(), 'as they lie'),
  },
  {
    text: 'The saw stood steeper than it should',
    mend: 'The flatter the cut, the longer the picture: set the saw by a block, not by eye.',
    do: (begin) => tiled(begin(), 'every other rolled', 65),
  },
  {
    text: 'The bar lay on its side on the saw',
    mend: 'Mark which face is up on both ends before the first cut.',
    do: (begin) => tiled(begin().do('turn', { to: 'turned 90°' }), 'every other rolled'),
  },
];

/** Something was wanted, and this came of it. */
interface Scene {
  readonly what: string;
  readonly begin: () => Making;
  readonly wanted: (begin: () => Making) => Making;
  readonly faults: readonly Fault[];
  readonly face: FaceName;
}

const STAR = {
  what: 'star',
  wanted: (begin) => fourOf(quarter(begin())),
  faults: FAULTS,
  face: 'end B',
} as const satisfies Omit<Scene, 'begin'>;

const TILES = {
  what: 'face of four tiles',
  wanted: (begin) => tiled(begin(), 'every other rolled'),
  faults: TILE_FAULTS,
  face: 'top',
} as const satisfies Omit<Scene, 'begin'>;

const BAR = {
  what: 're-squared bar',
  wanted: (begin) => quarter(begin()),
  faults: BAR_FAULTS,
  face: 'end B',
} as const satisfies Omit<Scene, 'begin'>;

/** A re-squared bar was wanted, a star or a face of tiles, and this came: what went wrong? */
export const whatWentWrong: Kind = {
  id: 'what-went-wrong',
  title: 'What went wrong?',
  make(level, random) {
    const chosen = oneOf([BAR, STAR, TILES], random);
    const again = replayed(random);
    const begin = {
      [BAR.what]: () => layeredBar(level, again()),
      [STAR.what]: () => layeredBar(level, again(), false),
      [TILES.what]: () => square(sweptBar(level, again()), 20),
    }[chosen.what];
    const scene: Scene = { ...chosen, begin };
    const target = seen(scene.wanted(scene.begin).bars[0], 'What was wanted', scene.face);
    const all = scene.faults.slice(0, level === 1 ? 3 : scene.faults.length).map((fault) => {
      const making = fault.do(scene.begin);
      const result = seen(making.bars[0], 'What came', scene.face);
      return { text: fault.text, mend: fault.mend, result, making };
    });
    if (all.some(({ result }) => difference(result, target) < VISIBLE)) return null;
    const told = toldApart(all, level === 1 ? 3 : 4, random);
    if (!told) return null;
    const right = all.find((f) => f.text === told.done[told.right].text)!;
    return {
      question: `The ${scene.what} on the left was wanted. What went wrong on the right?`,
      shown: [target, right.result],
      choices: told.done.map(({ text }) => ({ text })),
      right: told.right,
      why: `${right.text}. ${right.mend}`,
      played: playedOf(right.making.steps),
    };
  },
};
