import { describe, expect, it } from 'vitest';
import { type Action, eachPiece } from './action.ts';
import { sentencesOf } from './words.ts';

const MM = { unit: 'mm', division: 0.5 } as const;
const ground: Action[] = (['top', 'left'] as const).map((side) => ({ do: 'grind off', side, offMm: 0.4 }));
const turned: Action = { do: 'turn', about: 'length', deg: 45, way: 'clockwise' };

describe('sentences', () => {
  it('of one bar name the bar', () => {
    expect(sentencesOf([...eachPiece(['bar']), ...ground, turned], MM)).toEqual([
      'Grind 0.4 mm off the top and the left of the bar, flat and square.',
      'Turn the bar 45° clockwise about its length, seen on the end in front.',
    ]);
  });

  it('of several pieces say so first, and then name each piece: no bar is left to be ground', () => {
    expect(sentencesOf([...eachPiece([1, 2, 3, 4]), ...ground, turned], MM)).toEqual([
      'Do this to each of the 4 pieces, as it lies:',
      'Grind 0.4 mm off the top and the left of each piece, flat and square.',
      'Turn each piece 45° clockwise about its length, seen on the end in front.',
    ]);
  });

  it('with a piece’s own name keep it', () => {
    const one: Action = { do: 'grind off', side: 'bottom', offMm: 1, piece: '3' };
    expect(sentencesOf([{ do: 'each', count: 2 }, one], MM)[1]).toBe(
      'Grind 1 mm off the bottom of piece 3, flat and square.',
    );
  });
});
