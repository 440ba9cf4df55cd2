import { describe, expect, it } from 'vitest';
import { seeded } from '../canister/packing.ts';
import { ORIENTATION_NAMES } from '../geometry/orientation.ts';
import { KINDS, LEVELS, VISIBLE, difference, exerciseOf } from './index.ts';
import { judgedLaying, layThem } from './laying.ts';
import { whichTurn } from './moved.ts';

/** Exercises of each kind and level that are made here; by faces that differ, told apart by eye. */
const MADE = 37;

const isRight = (...asked: Parameters<typeof judgedLaying>) => judgedLaying(...asked).isRight;
const CHOSEN = KINDS.filter((k) => k !== layThem);

describe('exercises in reading end grain', () => {
  it.each(CHOSEN.flatMap((k) => LEVELS.map((l) => [k.id, l, k] as const)))(
    '%s, level %i: one right answer among those offered, the same for the same seed',
    (_, level, kind) => {
      const rights = new Set<number>();
      for (let seed = 1; seed <= MADE; seed++) {
        const made = exerciseOf(kind, level, seed);
        rights.add(made.right);
        expect(made.choices.length).toBeGreaterThanOrEqual(2);
        expect(made.right).toBeGreaterThanOrEqual(0);
        expect(made.right).toBeLessThan(made.choices.length);
        expect(new Set(made.choices.map((c) => c.text)).size).toBe(made.choices.length);
        const faces = made.choices.flatMap((c) => c.seen ?? []);
        for (const [i, a] of faces.entries())
          for (const b of faces.slice(0, i)) expect(difference(a, b)).toBeGreaterThanOrEqual(VISIBLE);
        expect(made.why.length).toBeGreaterThan(10);
      }
      // No place among the answers is always the right one.
      expect(rights.size).toBeGreaterThan(1);
      const [one, again] = [exerciseOf(kind, level, 5), exerciseOf(kind, level, 5)];
      expect([again.question, again.right, again.choices.map((c) => c.text)]).toEqual([
        one.question,
        one.right,
        one.choices.map((c) => c.text),
      ]);
    },
  );

  it('what is to be found is what the right answer makes, and no other answer does', () => {
    for (let seed = 1; seed <= 20; seed++) {
      const made = whichTurn.make(2, seeded(seed));
      if (!made) continue;
      const [before, now] = made.shown;
      // Nobody could tell a piece that is turned from one that is not, if turning did nothing.
      const isSame = made.choices[made.right].text.startsWith('Not at all');
      expect(difference(before, now) < VISIBLE).toBe(isSame);
    }
  });

  it.each(LEVELS)(
    'laid by hand, level %i: what is kept is right, any piece turned otherwise is not',
    (level) => {
      for (let seed = 1; seed <= 8; seed++) {
        const task = exerciseOf(layThem, level, seed).lay!;
        expect(isRight(task, task.places)).toBe(true);
        // The pieces are alike: exchanged, the same comes out.
        const exchanged = task.places.map((p, i) => ({ ...p, piece: task.places[3 - i].piece }));
        expect(isRight(task, exchanged)).toBe(true);
        const at = seed % 4;
        const wrong = ORIENTATION_NAMES.filter((name) => name !== task.places[at].orientation);
        for (const orientation of wrong)
          expect(
            isRight(
              task,
              task.places.map((p, i) => (i === at ? { ...p, orientation } : p)),
            ),
            orientation,
          ).toBe(false);
      }
    },
  );

  it('whatever can go wrong in the press, on the block and on the saw is asked about', () => {
    const wrong = KINDS.find((k) => k.id === 'what-went-wrong')!;
    const asked = new Set<string>();
    for (let seed = 1; seed <= 120; seed++) {
      const { choices, right } = exerciseOf(wrong, 2, seed);
      asked.add(choices[right].text);
    }
    const all = [...asked].join('\n');
    for (const fault of [/leaned/, /turned too far/, /upside down/, /twisted/, /tile was not rolled/])
      expect(all).toMatch(fault);
  });

  it('how long: the steel stays the same; nesting: the gaps of close packing', () => {
    const long = KINDS.find((k) => k.id === 'how-long')!;
    for (let seed = 1; seed < 30; seed++) {
      const { why, choices, right } = exerciseOf(long, 2, seed);
      const [a, b, c, d, e] = [...why.matchAll(/\d+/g)].map(Number);
      expect(Math.abs((a * b * c) / (d * e) / Number.parseFloat(choices[right].text) - 1)).toBeLessThan(0.01);
    }
    const nest = KINDS.find((k) => k.id === 'will-nest')!;
    for (let seed = 1; seed < 30; seed++) {
      const { question, right, why } = exerciseOf(nest, 3, seed);
      const [large, small] = [...question.matchAll(/[\d.]+(?= mm)/g)].map(Number);
      // Octahedral and tetrahedral gaps, and those between rods: 0.414, 0.225, 0.155 (handbook, canister).
      const share = Number(/([\d.]+) %/.exec(why)![1]) / 100;
      expect([0.414, 0.225, 0.155]).toContain(Math.round(1000 * share) / 1000);
      expect(small <= share * large).toBe(right === 0);
    }
  });
});
