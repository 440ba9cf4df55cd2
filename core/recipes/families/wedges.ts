import type { Making } from '../making.ts';
import { type Asked, defineRecipe } from '../recipe.ts';
import { fineMm } from '../sides.ts';
import { LAYER_NUMBERS, flat, fourOf, layeredBar, quarterMm, square, stacked } from './parts.ts';

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

export const bowTie = defineRecipe({
  id: 'bow-tie',
  name: 'Bow-ties',
  text: 'Bars pressed to a waist and ripped there, four halves laid waist to the middle with strips between: layers fan out from a bright cross.',
  group: 'wedges',
  numbers: {
    ...LAYER_NUMBERS,
    waist: { label: 'Waist, to the side', least: 0.1, most: 0.3, usual: 0.16 },
    strip: { label: 'Strip, to the piece', least: 0.04, most: 0.2, usual: 0.1 },
  },
  layouts: ['alike', 'brick'],
  isLayered: true,
  make(asked) {
    const { making, numbers, sideMm, wish } = asked;
    const side = Math.min(36, Math.max(28, 1.2 * quarterMm(asked)));
    const waistMm = fineMm(numbers.waist * side, making.shop);
    // Its halves are a square point each: of the steel that was there the outer sides stand as high as the bar.
    const halfMm = (side - waistMm) / 2;
    stacked({ ...asked, startMm: Math.max(asked.startMm, 1.1 * side) });
    flat(making, (2 * halfMm * (waistMm + halfMm)) / side, side)
      .do('wedge', { apexDeg: 90, heats: 2, into: 'bow-tie' }, { waistMm })
      .do('rip', { way: 'upright', offCentreMm: 0 })
      .do('cut', { pieces: 2 })
      .do('clean', { how: 'ground' })
      .do(
        'assemble',
        { columns: 2, rows: 2, layout: 'alike' },
        {
          strips: {
            material: wish.bright,
            thicknessMm: fineMm(numbers.strip * side, making.shop),
            where: 'cross',
          },
        },
      )
      .do('weld');
    square(making, sideMm);
  },
});

function feathered(asked: Asked<'layers' | 'share' | 'drag'>): Making {
  // Split over its whole length between the dies.
  const side = Math.min(46, Math.max(28, 1.15 * asked.sideMm, 2 * quarterMm(asked)));
  const making = layeredBar(asked, side)
    .do('feather', { heats: 2 }, { dragMm: asked.numbers.drag * side, fadesMm: 0.25 * side })
    .do('weld');
  return square(making, asked.sideMm);
}

const FEATHER_NUMBERS = {
  ...LAYER_NUMBERS,
  drag: { label: 'Dragged, to the side', least: 0.2, most: 0.37, usual: 0.33 },
} as const;

export const feather = defineRecipe({
  id: 'feather',
  name: 'Feather',
  text: 'A stack split by a wedge and closed again: layers are dragged down along the cut like the vane of a feather.',
  group: 'wedges',
  numbers: FEATHER_NUMBERS,
  layouts: ['alike', 'mirrored', 'brick'],
  isLayered: true,
  make: (asked) => void feathered(asked),
});

export const featherCross = defineRecipe({
  id: 'feather-cross',
  name: 'Four feathers',
  text: 'Four feathers mirrored round a centre.',
  group: 'wedges',
  numbers: FEATHER_NUMBERS,
  layouts: ['alike', 'brick'],
  isLayered: true,
  make: (asked) => void fourOf(asked, (sideMm) => feathered({ ...asked, sideMm }), 'mirrored'),
});
