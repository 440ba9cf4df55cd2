import { type Asked, defineRecipe } from '../recipe.ts';
import { LAYER_NUMBERS, fourOf, layeredBar, pressed, quarterMm, quarterStar, square } from './parts.ts';

export const checker = defineRecipe({
  id: 'checker',
  name: 'Basket of turned bars',
  text: 'A layered bar sawn in four and laid turned: level and upright layers by turns.',
  group: 'stars',
  numbers: LAYER_NUMBERS,
  layouts: ['alike', 'mirrored', 'brick'],
  isLayered: true,
  make: (asked) => void fourOf(asked, (side) => layeredBar(asked, side), 'turned'),
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
  make: (asked) => void fourOf(asked, (side) => quarterStar(asked, side), 'mirrored'),
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
    const { numbers, wish } = asked;
    const strips = {
      material: wish.bright,
      thicknessMm: numbers.strip * quarterMm(asked),
      where: 'cross',
    };
    fourOf(asked, (side) => quarterStar(asked, side), 'mirrored', { strips });
  },
});

const halfStarBar = (asked: Asked) => pressed(asked, 'half star: two corners beside each other, then flat');

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
  make: (asked) => void fourOf(asked, (side) => square(halfStarBar(asked), side), 'mirrored'),
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
  make: (asked) => void fourOf(asked, (side) => square(halfStarBar(asked), side), 'turned'),
});
