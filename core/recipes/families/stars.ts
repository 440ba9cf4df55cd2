import { SEQUENCES } from '../../moves/forge/press/sequences.ts';
import { defineRecipe } from '../recipe.ts';
import { LAYER_NUMBERS, laid, layeredBar, pressed, quarterMm, quarterStar, square } from './parts.ts';

export const checker = defineRecipe({
  id: 'checker',
  name: 'Basket of turned bars',
  text: 'A layered bar sawn in four and laid turned: level and upright layers by turns.',
  group: 'stars',
  numbers: LAYER_NUMBERS,
  layouts: ['alike', 'mirrored', 'brick'],
  isLayered: true,
  make(asked) {
    layeredBar(asked, quarterMm(asked));
    square(laid(asked.making, 2, 2, 'turned'), asked.sideMm);
  },
});

export const quarter = defineRecipe({
  id: 'quarter-star',
  name: 'Quarter star',
  text: 'One bar re-squared on the bias: layers sweep from corner to corner.',
  group: 'stars',
  numbers: LAYER_NUMBERS,
  layouts: ['alike', 'turned', 'brick'],
  isLayered: true,
  make: (asked) => void quarterStar(asked, asked.sideMm),
});

export const star = defineRecipe({
  id: 'star',
  name: 'Star',
  text: 'Four re-squared pieces mirrored round a centre.',
  group: 'stars',
  numbers: LAYER_NUMBERS,
  layouts: ['alike', 'brick'],
  isLayered: true,
  make(asked) {
    quarterStar(asked, quarterMm(asked));
    square(laid(asked.making, 2, 2, 'mirrored'), asked.sideMm);
  },
});

export const ringed = defineRecipe({
  id: 'star-with-cross',
  name: 'Star with a cross',
  text: 'Four re-squared pieces mirrored round a centre, with strips of the bright steel between.',
  group: 'stars',
  numbers: {
    ...LAYER_NUMBERS,
    strip: { label: 'Strip, to the piece', least: 0.03, most: 0.14, usual: 0.07 },
  },
  layouts: ['alike', 'brick'],
  isLayered: true,
  make(asked) {
    const { making, numbers, wish, sideMm } = asked;
    const side = quarterMm(asked);
    quarterStar(asked, side);
    const strips = { material: wish.bright, thicknessMm: numbers.strip * side, where: 'cross' };
    square(laid(making, 2, 2, 'mirrored', { strips }), sideMm);
  },
});

const halfStarBar = (asked: Parameters<typeof pressed>[0]) =>
  pressed(asked, (side) =>
    SEQUENCES['half star: two corners beside each other, then flat'].passes(side, side),
  );

export const halfStar = defineRecipe({
  id: 'half-star',
  name: 'Half star',
  text: 'Pressed on two corners beside each other in a V, then flat: layers splay from one side; two mirrored close the figure.',
  group: 'stars',
  numbers: LAYER_NUMBERS,
  layouts: ['alike', 'brick'],
  needs: ['press'],
  everyRounds: 3,
  isLayered: true,
  make(asked) {
    square(halfStarBar(asked), quarterMm(asked));
    square(laid(asked.making, 2, 2, 'mirrored'), asked.sideMm);
  },
});

export const pinwheel = defineRecipe({
  id: 'pinwheel',
  name: 'Pinwheel',
  text: 'Four half stars turned round a centre: each reaches over into the next.',
  group: 'stars',
  numbers: LAYER_NUMBERS,
  layouts: ['alike', 'mirrored', 'brick'],
  needs: ['press'],
  everyRounds: 3,
  isLayered: true,
  make(asked) {
    square(halfStarBar(asked), quarterMm(asked));
    square(laid(asked.making, 2, 2, 'turned'), asked.sideMm);
  },
});
