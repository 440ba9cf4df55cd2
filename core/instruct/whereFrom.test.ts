import { describe, expect, it } from 'vitest';
import { bar, shop } from '../tests/mottled.ts';
import { moveOf } from '../moves/index.ts';
import { whereFrom } from './whereFrom.ts';

const does = (kind: 'rip' | 'upset' | 'grind', p: object) =>
  moveOf(kind).does(
    [bar(30, 26, 60)],
    { ...(moveOf(kind).begin([bar(30, 26, 60)], shop) as object), ...p },
    shop,
  );

describe('what is written beside a part', () => {
  it('of a rip is where it lay in the bar', () => {
    const upright = does('rip', { way: 'upright' });
    expect(['1', '2'].map((part) => whereFrom(upright, part, 'end B'))).toEqual([
      { part: 'left' },
      { part: 'right' },
    ]);
    expect(whereFrom(does('rip', { way: 'level' }), '1', 'end B')).toEqual({ part: 'lower' });
  });

  it('of a block that was upset and laid down is what its faces were, either way', () => {
    const faces = ['top', 'bottom', 'end A', 'end B', 'left'];
    expect(faces.map((face) => whereFrom(does('upset', { up: 'B' }), '1', face)?.face)).toEqual([
      'end B',
      'end A',
      'the top',
      'the bottom',
      undefined,
    ]);
    expect(faces.map((face) => whereFrom(does('upset', { up: 'A' }), '1', face)?.face)).toEqual([
      'end A',
      'end B',
      'the bottom',
      'the top',
      undefined,
    ]);
  });

  it('of what lies as it lay is nothing', () => {
    expect(whereFrom(does('grind', { topMm: 1 }), '1', 'top')).toBeNull();
  });
});
