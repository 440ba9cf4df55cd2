import { describe, expect, it } from 'vitest';
import { type Action, type Counted, OLD, endCrop } from './action.ts';
import type { Units } from './said.ts';
import { sentencesOf } from './words.ts';

const MM: Units = { lengths: { unit: 'mm', division: 0.5 }, masses: 'kg', temperatures: 'C' };
const ground: Action[] = (['top', 'left'] as const).map((side) => ({ do: 'grind off', side, offMm: 0.4 }));
const turned: Action = { do: 'turn', about: 'length', deg: 45, way: 'clockwise' };

describe('sentences', () => {
  it('of an end cut off say why where it was no usual crop', () => {
    const said = (why?: 'cracked') => sentencesOf(endCrop('A', 16, 300, undefined, why), MM).join(' ');
    expect(said()).toBe('Cut 16 mm off end A of the bar; 300 mm remains.');
    expect(said('cracked')).toBe('Cut 16 mm off end A of the bar (it cracked there); 300 mm remains.');
  });

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

  it('of pieces that are sawn on name them by what they were, in one sentence where they are alike', () => {
    const along = (was: string, parts: [string, string], nearMm = 12): Action => ({
      do: 'saw along',
      piece: `${OLD}${was}`,
      way: 'level',
      nearMm,
      kerfMm: 1,
      parts,
      sizesMm: [nearMm, 11],
    });
    const anew: Action = {
      do: 'mark anew',
      parts: ['1', '2', '3'].map((was, i) => ({ was, now: [String(2 * i + 1), String(2 * i + 2)] })),
      counted: 'from the bottom',
    };
    const said = sentencesOf(
      [anew, along('1', ['1', '2']), along('2', ['3', '4']), along('3', ['5', '6'], 9)],
      MM,
    );
    expect(said[0]).toContain(
      'Counted from the bottom: what was 1 becomes 1, 2; what was 2 becomes 3, 4; what was 3 becomes 5, 6.',
    );
    expect(said.slice(1)).toEqual([
      'Saw each of the old pieces 1, 2 along its whole length, level, the near side of the kerf 12 mm from the bottom face, seen on the end in front. The lower parts are 1, 3, 12 mm high; the upper ones 2, 4, 11 mm.',
      'Saw what was piece 3 along its whole length, level, the near side of the kerf 9 mm from the bottom face, seen on the end in front. Part 5 is the lower one, 9 mm high; part 6 the upper one, 11 mm.',
    ]);
    const across = (piece: string): Action => ({
      do: 'saw across',
      piece,
      nearMm: [10],
      marksMm: [10],
      kerfMm: 1,
      parts: ['1', '2'],
      eachMm: 10,
      differMm: 0,
    });
    expect(sentencesOf([across(`${OLD}1`), across(`${OLD}4`)], MM)).toEqual([
      'Saw each of the old pieces 1, 4 square across, the kerf on the B side of each mark; marks from end A: 10 mm. Each piece is 10 mm long.',
    ]);
  });

  it('mark parts where there is something to write on: sawn across, their own ends are not there before', () => {
    const mark = (counted: Counted): Action => ({
      do: 'mark',
      pieces: ['1', '2', '3'],
      ends: 'both',
      counted,
    });
    expect(sentencesOf([mark('from end A')], MM)).toEqual([
      'Before sawing, write on the top of every piece (1 to 3, counted from end A) its number, A and B towards the ends; off the saw, number, letter and an arrow up on both its ends.',
    ]);
    expect(sentencesOf([mark('from the left')], MM)).toEqual([
      'Before sawing, write on both ends of every piece (1 to 3, counted from the left) its number, the end’s letter A or B, and an arrow that points up as it lies.',
    ]);
  });
});
