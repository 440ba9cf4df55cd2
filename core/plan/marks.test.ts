import { describe, expect, it } from 'vitest';
import { SQUARE_BAR, cutInto, evaluated, planOf, planOfLanes } from '../tests/plans.ts';
import { endMarks } from './index.ts';

describe('how the pieces of a cut will lie', () => {
  const lyingAs = (layout: string) => {
    const e = evaluated(planOf([...SQUARE_BAR, cutInto(4), ['assemble', { columns: 2, rows: 2, layout }]]));
    return endMarks(e, e.lanes[0].steps[SQUARE_BAR.length]);
  };

  it('is each piece’s number, its front end, its place, and where its arrow then points', () => {
    expect(lyingAs('mirrored')).toEqual([
      { piece: '1', front: 'B', place: '1·1', arrow: 'up' },
      { piece: '2', front: 'A', place: '1·2', arrow: 'up' },
      { piece: '3', front: 'A', place: '2·1', arrow: 'down' },
      { piece: '4', front: 'B', place: '2·2', arrow: 'down' },
    ]);
  });

  it('has the arrow turn with the piece: a quarter counter-clockwise points it left', () => {
    expect(lyingAs('turned').map((m) => m.arrow)).toEqual(['right', 'down', 'up', 'left']);
  });

  it('carries the lane’s mark where another lane takes the pieces, and is nothing before anyone does', () => {
    const lanes = {
      star: [...SQUARE_BAR, cutInto(2)],
      row: [['assemble', { columns: 2, rows: 1, layout: 'alike', from: ['star'] }]] as const,
    };
    const e = evaluated(planOfLanes(lanes));
    expect(endMarks(e, e.lanes[0].steps.at(-1)!).map((m) => `${m.piece} ${m.place}`)).toEqual([
      'P1 1·1',
      'P2 1·2',
    ]);
    const alone = evaluated(planOfLanes({ star: lanes.star }));
    expect(endMarks(alone, alone.lanes[0].steps.at(-1)!)).toEqual([]);
  });
});
