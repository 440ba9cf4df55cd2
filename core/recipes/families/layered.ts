import { mostTurns } from '../../moves/forge/twist.ts';
import { type AlongWanted, type Asked, defineRecipe } from '../recipe.ts';
import { fineMm, leastWidthMm } from '../sides.ts';
import { LAYER_NUMBERS, faced, flat, laid, layeredBar, square, stacked } from './parts.ts';

/** Layers across the end grain, brought to the side as stripes. */
export const stripes = defineRecipe({
  id: 'stripes',
  name: 'Stripes',
  text: 'Layers as they were stacked, their edges brought to the face.',
  group: 'layered',
  numbers: {
    ...LAYER_NUMBERS,
    onEdge: { label: 'Layers on edge', least: 0, most: 1, usual: 0, whole: true },
  },
  layouts: ['alike', 'turned', 'brick'],
  isLayered: true,
  make(asked) {
    const making = layeredBar(asked, asked.sideMm);
    if (asked.numbers.onEdge >= 0.5) making.do('turn', { to: 'turned 90°' });
  },
});

/** Layers that lie along the face are seen only where something cuts them: more of them, and finer. */
const ALONG_LAYERS = {
  ...LAYER_NUMBERS,
  layers: { ...LAYER_NUMBERS.layers, least: 15, most: 61, usual: 31 },
} as const;

/** Depth of a groove or dimple to the bar's thickness; its width to the step. */
const DEEP = { label: 'Deep, to the bar', least: 0.18, most: 0.4, usual: 0.3 } as const;
const WIDE_TO_STEP = 0.62;

/** mm. Least from groove to groove. */
const LEAST_STEP_MM = 6;

/** A stack a little wider than it is to be, drawn flat. */
function flatBar(asked: Asked, { widthMm, thickMm }: AlongWanted): void {
  stacked(asked, 1.04 * widthMm);
  flat(asked.making, widthMm, thickMm);
}

const grooved = (pattern: 'across' | 'dimples', name: string, id: string, text: string) =>
  defineRecipe({
    id,
    name,
    text,
    group: 'layered',
    numbers: { ...ALONG_LAYERS, deep: DEEP },
    layouts: ['alike'],
    sides: ['along'],
    isLayered: true,
    along(asked, wanted) {
      flatBar(asked, wanted);
      const { making, numbers } = asked;
      faced(making, 'level');
      const { heightMm } = making.size;
      const stepMm = Math.max(LEAST_STEP_MM, wanted.alongMm / wanted.longer);
      making.do(
        'grooves',
        { pattern, how: 'ground', face: 'both offset', slantDeg: 0, heats: 1 },
        {
          depthMm: fineMm((numbers.deep / 2) * heightMm, making.shop),
          widthMm: fineMm(WIDE_TO_STEP * stepMm, making.shop),
          pitchMm: fineMm(stepMm, making.shop),
        },
      );
      const { lastId } = making;
      making.do('flatten', { heats: 1 });
      return lastId;
    },
  });

export const ladder = grooved(
  'across',
  'Ladder',
  'ladder',
  'Grooves ground across a layered bar on both faces and forged flat: lower layers come up as rungs.',
);

export const drops = grooved(
  'dimples',
  'Drops',
  'drops',
  'Dimples sunk in rows into a layered bar and forged flat: rings come up.',
);

/** So many times fewer turns than those at which the skin tears. */
const SAFELY = 1.05;

/** mm. Sides of a bar that is twisted. */
const TWISTED_MM = [14, 60] as const;

/** Bars rounded and twisted, squared up, laid side by side and drawn flat: one element is the half turn after which it looks the same. */
export const twisted = defineRecipe({
  id: 'twist',
  name: 'Twist',
  text: 'A layered bar rounded and twisted, laid by itself or several side by side, and drawn flat: layers run as spirals along the blade.',
  group: 'layered',
  numbers: {
    ...LAYER_NUMBERS,
    layers: { ...LAYER_NUMBERS.layers, most: 25, usual: 9 },
    bars: { label: 'Bars side by side', least: 1, most: 4, usual: 2, whole: true },
  },
  layouts: ['alike'],
  sides: ['along'],
  isLayered: true,
  fixesLength: true,
  nearest: 'twisted tighter, its skin tears',
  elements: ({ bars }) => [Math.round(bars), 1],
  along(asked, { alongMm, goal }) {
    const { making, numbers } = asked;
    const bars = Math.round(numbers.bars);
    const off = 2 * making.shop.fayingMm;
    // As thick as it must be to spread to the finished width from bars side by side.
    let [low, sideMm]: [number, number] = [TWISTED_MM[0], TWISTED_MM[1]];
    for (let i = 0; i < 20; i++) {
      const middle = (low + sideMm) / 2;
      const wide = leastWidthMm(middle - off, goal.widthMm, goal.thicknessMm, making.shop);
      if (bars * (middle - off) >= 1.02 * wide) sideMm = middle;
      else low = middle;
    }
    // Rounded and squared again it loses its skin twice.
    const first = (bars > 1 ? 1.08 : 1.02) * sideMm;
    layeredBar({ ...asked, startMm: Math.max(asked.startMm, 1.15 * first) }, first);
    making.do('corners', { shape: 'round', heats: 1 });
    const { lengthMm } = making.size;
    const longer = (bars * (sideMm - off) ** 2) / (goal.widthMm * goal.thicknessMm);
    const wanted = Math.round((50 * lengthMm * longer) / alongMm) / 100;
    const turns = Math.max(0.5, Math.min(wanted, mostTurns(making.bars[0]) / SAFELY));
    making.do('twist', { heats: Math.min(6, Math.max(1, Math.ceil(turns / 4))) }, { turns });
    const { lastId } = making;
    if (bars > 1) {
      square(making, sideMm);
      laid(making, bars, 1, 'alike');
    }
    return lastId;
  },
});

/** Layers as they lie, drawn flat: what shows is the grinding through them. */
export const plain = defineRecipe({
  id: 'layers',
  name: 'Layers',
  text: 'A layered bar drawn flat, its broad face one layer: lines come where the bevels are ground through.',
  group: 'layered',
  numbers: ALONG_LAYERS,
  layouts: ['alike'],
  sides: ['along'],
  isLayered: true,
  isBare: true,
  along(asked, wanted) {
    flatBar(asked, wanted);
    return null;
  },
});
