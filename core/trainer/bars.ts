import { square } from '../recipes/families/parts.ts';
import type { Making } from '../recipes/making.ts';
import { type Level, type Random, between, oneOf, practice } from './exercise.ts';

/** mm. Sides of the stack and of the bar. */
const STACK_MM = 42;
const SIDE_MM = 26;

/** Layers of a bar for a level, which lie evenly or not. */
const LAYERS: Record<Level, readonly number[]> = { 1: [3, 5], 2: [5, 7, 9], 3: [9, 11, 13] };

/** A square bar of level layers; uneven ones are thicker towards the top. */
export function layeredBar(level: Level, random: Random, isUneven = true): Making {
  const layers = oneOf(LAYERS[level], random);
  const shares = Array.from({ length: layers }, (_, i) =>
    isUneven ? 0.5 + (1.4 * (i + 1)) / layers + 0.5 * random() : 1,
  );
  const all = shares.reduce((a, b) => a + b, 0);
  const making = practice();
  making
    .do(
      'stack',
      { layers, widthMm: STACK_MM, lengthMm: making.startMm },
      {
        pattern: shares.map((share, i) => ({
          material: i % 2 ? '15n20' : '1084',
          thicknessMm: Math.round((20 * share * STACK_MM) / all) / 20,
        })),
      },
    )
    .do('weld');
  return square(making, SIDE_MM);
}

/** A bar whose layers sweep to two corners, thicker on one side and turned a little off: no turn and no mirror leaves it as it was. */
export function sweptBar(level: Level, random: Random): Making {
  const making = layeredBar(level, random);
  return making.do(
    'resquare',
    { turn: oneOf(['left', 'right'] as const, random), sideMm: 22, heats: 1, reckoned: 'usual' },
    { errorDeg: Math.round(between(6, 12, random)) },
  );
}
