import { type Asked, defineRecipe } from '../recipe.ts';
import { LAYER_NUMBERS, faced, fourOf, laid, pressed, quarterMm, square } from './parts.ts';

const bowed = (asked: Asked, sizeMm?: number) => pressed(asked, 'C or W: corners, then flatten', sizeMm);

export const bows = defineRecipe({
  id: 'bows',
  name: 'Bows',
  text: 'Corners pressed first, then flat: layers bow, and lie all one way.',
  group: 'waves',
  numbers: LAYER_NUMBERS,
  layouts: ['alike', 'mirrored', 'turned', 'brick'],
  needs: ['press'],
  isLayered: true,
  make: (asked) => void square(bowed(asked), asked.sideMm),
});

/** mm. Pressed so large and drawn square, what is left of it when it is ground askew makes as large an element as bows do. */
const LEANED = { pressedMm: 44, squareMm: 37 };
/** To a tenth of a degree a bar is set on a shim. */
const PER_DEG = 10;

export const leanedBows = defineRecipe({
  id: 'leaned-bows',
  name: 'Leaned bows',
  text: 'Bows ground askew on a shim, so that they lean in the bar: mirrored they run as barbs.',
  group: 'waves',
  numbers: { ...LAYER_NUMBERS, lean: { label: 'Leaned by, degrees', least: 6, most: 16, usual: 12 } },
  layouts: ['mirrored', 'alike', 'turned', 'brick'],
  needs: ['press'],
  everyRounds: 3,
  isLayered: true,
  make(asked) {
    const errorDeg = Math.round(PER_DEG * asked.numbers.lean) / PER_DEG;
    const bar = square(bowed(asked, LEANED.pressedMm), LEANED.squareMm);
    square(bar.do('trueUp', { errorDeg }), asked.sideMm);
  },
});

export const waves = defineRecipe({
  id: 'waves',
  name: 'Waves',
  text: 'Bowed bars, every other one upside down: the bows run on as a wave.',
  group: 'waves',
  numbers: LAYER_NUMBERS,
  layouts: ['alike', 'brick'],
  needs: ['press'],
  everyRounds: 3,
  isLayered: true,
  make: (asked) =>
    void fourOf(asked, (side) => square(bowed(asked), side), 'free', {
      places: [1, 2, 3, 4].map((piece) => ({
        piece,
        orientation: piece % 2 === 1 ? 'as it lies' : 'turned 180°',
      })),
    }),
});

const hooked = (asked: Asked) => pressed(asked, 'S: past 45°, then flatten');

export const hooks = defineRecipe({
  id: 'hooks',
  name: 'Hooks',
  text: 'Pressed a little past the corner and flat again: the layers make an S, four of which turned make hooks.',
  group: 'waves',
  numbers: { ...LAYER_NUMBERS, layers: { ...LAYER_NUMBERS.layers, most: 21, usual: 7 } },
  layouts: ['alike', 'mirrored', 'brick'],
  needs: ['press'],
  everyRounds: 3,
  isLayered: true,
  make: (asked) => void fourOf(asked, (side) => square(hooked(asked), side), 'turned'),
});

export const links = defineRecipe({
  id: 'links',
  name: 'Links',
  text: 'An S ripped lengthwise into two hooks, laid mirrored: hook meets hook and closes a link.',
  group: 'waves',
  numbers: { ...LAYER_NUMBERS, layers: { ...LAYER_NUMBERS.layers, most: 21, usual: 7 } },
  layouts: ['alike', 'brick'],
  needs: ['press'],
  everyRounds: 4,
  isLayered: true,
  make(asked) {
    const { making, sideMm } = asked;
    square(hooked(asked), 28);
    making.do('rip', { way: 'upright', offCentreMm: 0 });
    faced(making).do('assemble', { columns: 2, rows: 1, layout: 'mirrored' }).do('weld');
    square(making, Math.min(25, quarterMm(asked)));
    square(laid(making, 2, 2, 'mirrored'), sideMm);
  },
});
