import { describe, expect, it } from 'vitest';
import type { Action } from './action.ts';
import type { Units } from './said.ts';
import { sentencesOf } from './words.ts';

const MM: Units = { lengths: { unit: 'mm', division: 0.5 }, masses: 'kg', temperatures: 'C' };
const ground: Action[] = (['top', 'left'] as const).map((side) => ({ do: 'grind off', side, offMm: 0.4 }));
const turned: Action = { do: 'turn', about: 'length', deg: 45, way: 'clockwise' };

describe('sentences', () => {
  it('of one bar name the bar', () => {
    expect(sentencesOf([...ground, turned], MM)).toEqual([
      'Grind 0.4 mm off the top and the left of the bar, flat and square.',
      'Turn the bar 45° clockwise about its length, seen on the end in front.',
    ]);
  });

  it('of several pieces say so first, and then name each piece: no bar is left to be ground', () => {
    expect(sentencesOf([{ do: 'each', count: 4 }, ...ground, turned], MM)).toEqual([
      'Do this to each of the 4 pieces, as it lies:',
      'Grind 0.4 mm off the top and the left of each piece, flat and square.',
      'Turn each piece 45° clockwise about its length, seen on the end in front.',
    ]);
  });

  it('of some of the pieces name them', () => {
    const both: Action[] = [
      { do: 'each', count: 1, pieces: ['2'] },
      { do: 'draw', toMm: [20, 20], passes: [], heats: 1 },
      { do: 'each', count: 2, pieces: ['1', '3'] },
      { do: 'draw', toMm: [25, 20], passes: [{ pressed: 'height', stopMm: 20 }], heats: 2 },
    ];
    expect(sentencesOf(both, MM)).toEqual([
      'Do this to piece 2, as it lies:',
      'Draw this piece to 20 × 20 mm in 1 heat: about 0 passes, 0 quarter turns.',
      'Do this to pieces 1, 3, each as it lies:',
      'Draw each piece to 25 × 20 mm in 2 heats: about 1 pass, 0 quarter turns.',
      'Stop blocks in turn: 20 mm lying flat.',
    ]);
  });

  it('with a piece’s own name keep it', () => {
    const one: Action = { do: 'grind off', side: 'bottom', offMm: 1, piece: '3' };
    expect(sentencesOf([{ do: 'each', count: 2 }, one], MM)[1]).toBe(
      'Grind 1 mm off the bottom of piece 3, flat and square.',
    );
  });
});
