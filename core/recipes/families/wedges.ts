import { defineRecipe } from '../recipe.ts';
import { LAYER_NUMBERS, laid, layeredBar, quarterMm, square } from './parts.ts';

export const sunburst = defineRecipe({
  id: 'sunburst',
  name: 'Sunburst',
  text: 'Bars pressed into wedges, four of them point to point: layers gather towards the middle.',
  group: 'wedges',
  numbers: LAYER_NUMBERS,
  layouts: ['alike', 'brick'],
  isLayered: true,
  make(asked) {
    const { making, sideMm } = asked;
    layeredBar(asked, Math.max(22, quarterMm(asked)));
    making
      .do('cut', { pieces: 4 })
      .do('wedge', { apexDeg: 90, heats: 1 })
      .do('clean', { how: 'ground' })
      .do('assemble', { columns: 2, rows: 2, layout: 'alike' })
      .do('weld');
    square(making, sideMm);
  },
});

export const feather = defineRecipe({
  id: 'feather',
  name: 'Feather',
  text: 'A stack split by a wedge and closed again: layers are dragged down along the cut like the vane of a feather.',
  group: 'wedges',
  numbers: {
    ...LAYER_NUMBERS,
    drag: { label: 'Dragged, to the side', least: 0.2, most: 0.37, usual: 0.33 },
  },
  layouts: ['alike', 'mirrored', 'brick'],
  isLayered: true,
  make(asked) {
    const { making, sideMm, numbers } = asked;
    // Split over its whole length between the dies.
    const side = Math.min(46, Math.max(28, 1.15 * sideMm, 2 * quarterMm(asked)));
    layeredBar(asked, side)
      .do('feather', { heats: 2 }, { dragMm: numbers.drag * side, fadesMm: 0.25 * side })
      .do('weld');
    square(making, sideMm);
  },
});

export const featherCross = defineRecipe({
  id: 'feather-cross',
  name: 'Four feathers',
  text: 'Four feathers mirrored round a centre.',
  group: 'wedges',
  numbers: feather.numbers,
  layouts: ['alike', 'brick'],
  isLayered: true,
  make(asked) {
    feather.make!({ ...asked, sideMm: quarterMm(asked) });
    square(laid(asked.making, 2, 2, 'mirrored'), asked.sideMm);
  },
});
