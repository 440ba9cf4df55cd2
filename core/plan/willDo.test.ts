import { describe, expect, it } from 'vitest';
import { facePlane } from '../billet/face.ts';
import { sampleCodes } from '../render/codes.ts';
import { MOTIFS, FITNESS, allSteps, evaluate, stepResult } from './index.ts';

const middle = (e: (typeof MOTIFS)[number]['examples'][number]) => {
  const evaluation = evaluate(e.plan);
  for (const s of allSteps(evaluation)) expect(s.after, s.findings.map((f) => f.text).join()).not.toBeNull();
  const [bar] = stepResult(evaluation, e.stepId)!.after!;
  return sampleCodes(bar, facePlane(bar, 'middle'), 80, 80);
};
const unlike = (a: Uint8Array, b: Uint8Array) => a.filter((c, i) => c !== b[i]).length / a.length;
const turnedHalf = (codes: Uint8Array) => codes.toReversed();
const mirrored = (codes: Uint8Array) => codes.map((_, i) => codes[80 * Math.floor(i / 80) + (79 - (i % 80))]);

describe('what to look for', () => {
  it.each(MOTIFS)(
    '$title: a good, a usable and one that will not do, each another picture',
    ({ examples }) => {
      expect(examples.map((e) => e.verdict)).toEqual(Object.keys(FITNESS));
      const [good, usable, not] = examples.map(middle);
      expect(unlike(good, usable)).toBeGreaterThan(0.02);
      expect(unlike(good, not)).toBeGreaterThan(0.05);
      expect(new Set(good).size).toBe(2);
    },
  );

  it('a good one is as its words say: a bow alike left and right, a hook alike turned half round', () => {
    const of = (id: string, k: number) => middle(MOTIFS.find((m) => m.id === id)!.examples[k]);
    expect(unlike(of('C', 0), mirrored(of('C', 0)))).toBeLessThan(0.02);
    expect(unlike(of('C', 1), mirrored(of('C', 1)))).toBeGreaterThan(0.05);
    expect(unlike(of('S', 0), turnedHalf(of('S', 0)))).toBeLessThan(0.02);
    expect(unlike(of('S', 1), turnedHalf(of('S', 1)))).toBeGreaterThan(0.03);
    // A star of four is its own turned a half.
    expect(unlike(of('star', 0), turnedHalf(of('star', 0)))).toBeLessThan(0.03);
  });
});
