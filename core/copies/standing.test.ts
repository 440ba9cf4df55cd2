import fc from 'fast-check';
import { expect, it } from 'vitest';
import { standingOf } from './standing.ts';

/** Histories as digests; few letters, so that things are taken back often. */
const history = fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { minLength: 1, maxLength: 8 });
const OTHER_WAY = { newer: 'older', older: 'newer', same: 'same', different: 'different' } as const;

it('what is not here is new; what goes on from the other’s newest is newer, and seen from there older', () => {
  fc.assert(
    fc.property(history, history, (first, more) => {
      const longer = [...first, ...more];
      expect(standingOf(first, [])).toBe('new');
      expect(standingOf(first, first)).toBe('same');
      if (longer.at(-1) === first.at(-1)) return;
      expect(standingOf(longer, first)).toBe('newer');
      expect(standingOf(first, longer)).toBe('older');
    }),
  );
});

it('two histories that share nothing newest went different ways, and each sees the other as the other sees it', () => {
  fc.assert(
    fc.property(history, history, (one, other) => {
      const how = standingOf(one, other);
      expect(how).not.toBe('new');
      if (one.length !== other.length || how === 'different' || how === 'same')
        expect(standingOf(other, one)).toBe(OTHER_WAY[how as keyof typeof OTHER_WAY]);
      if (!one.includes(other.at(-1)!) && !other.includes(one.at(-1)!)) expect(how).toBe('different');
    }),
  );
});
