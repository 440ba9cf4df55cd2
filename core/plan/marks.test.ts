import { describe, expect, it } from 'vitest';
import { SQUARE_BAR, cutInto, planOf, planOfLanes } from '../tests/plans.ts';
import { endMarks, evaluate, upArrow } from './index.ts';

describe('what to write before sawing', () => {
  it('is each piece’s number, its place and which way is up, on the end that will be in front', () => {
    const e = evaluate(
      planOf([...SQUARE_BAR, cutInto(4), ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }]]),
    );
    const marks = endMarks(e, e.lanes[0].steps[SQUARE_BAR.length]);
    expect(marks).toEqual([
      { piece: 1, end: 'B', text: '1 1·1 ↑' },
      { piece: 2, end: 'A', text: '2 1·2 ↑' },
      { piece: 3, end: 'A', text: '3 2·1 ↓' },
      { piece: 4, end: 'B', text: '4 2·2 ↓' },
    ]);
  });

  it('carries the lane’s mark where another lane takes the pieces, and is nothing before anyone does', () => {
    const lanes = {
      star: [...SQUARE_BAR, cutInto(2)],
      row: [['assemble', { columns: 2, rows: 1, layout: 'alike', from: ['star'] }]] as const,
    };
    const e = evaluate(planOfLanes(lanes));
    expect(endMarks(e, e.lanes[0].steps.at(-1)!).map((m) => m.text)).toEqual(['P1 1·1 ↑', 'P2 1·2 ↑']);
    const alone = evaluate(planOfLanes({ star: lanes.star }));
    expect(endMarks(alone, alone.lanes[0].steps.at(-1)!)).toEqual([]);
  });

  it('points the arrow at the side that will be up', () => {
    expect(upArrow({ piece: 1, orientation: 'turned 90°' })).toBe('→');
    expect(upArrow({ piece: 1, orientation: 'turned 270°' })).toBe('←');
  });
});
