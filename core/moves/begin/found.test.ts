import { expect, it } from 'vitest';
import { facePlane } from '../../billet/face.ts';
import { sizeOf } from '../../billet/billet.ts';
import { keptDots, bandsOf, dotsOf, dotsSchema } from '../../picture/runs.ts';
import { stepResult } from '../../plan/index.ts';
import { sampleCodes } from '../../render/codes.ts';
import { photographed } from '../../sighting/camera.ts';
import { POSTER_SIDE, posterised } from '../../sighting/posterised.ts';
import { SIDE } from '../../sighting/fitted.ts';
import { tonesOf } from '../../sighting/tones.ts';
import { totalVolume } from '../../materials/volumes.ts';
import { cutInto, evaluated, fourWay, planOf } from '../../tests/plans.ts';
import { found } from './found.ts';

/** Three steels: a ring of one and a half moon of another in the third. */
const steelAt = (x: number, y: number): number =>
  Math.hypot(x, y) > 0.55 && Math.hypot(x, y) < 0.8 ? 1 : x > 0.2 * y && Math.hypot(x, y) < 0.4 ? 2 : 0;
const place = (k: number, n: number): [number, number] => [
  (2 * (k % n) + 1) / n - 1,
  1 - (2 * Math.floor(k / n) + 1) / n,
];
const TONES = [0.15, 0.5, 0.85];
const SECTION = tonesOf(
  SIDE,
  Float32Array.from({ length: SIDE * SIDE }, (_, k) => TONES[steelAt(...place(k, SIDE))]),
);

const shot = (shine: number, end: 'A' | 'B' = 'B') =>
  photographed({ tones: SECTION, widthMm: 30, heightMm: 20, end, shine, tippedDeg: [8, -5] });

it('a photographed end in the steels named: where each lies, under an uneven light', () => {
  const { photo, corners } = shot(0.35);
  const tapped = corners.map(([x, y], k) => [x + [4, -3, 3, -4][k], y + [-3, 4, 3, -2][k]] as const);
  const seen = posterised(photo, tapped as unknown as typeof corners, 3)!;
  expect(seen.n).toBe(POSTER_SIDE);
  const wrong = [...seen.tone].filter((tone, k) => tone !== steelAt(...place(k, POSTER_SIDE)));
  expect(wrong.length / seen.tone.length).toBeLessThan(0.03);
});

it('becomes a bar of its own with the steel that it shows, to be cut and laid like any other', () => {
  const side = 64;
  const steel = Uint8Array.from({ length: side * side }, (_, k) => steelAt(...place(k, side)));
  const dots = keptDots(side, steel);
  expect(dotsSchema.parse(dots)).toEqual(dots);
  expect(dotsOf({ ...dots })).toEqual(steel);
  const parameters = { widthMm: 30, heightMm: 30, lengthMm: 200, steels: ['1084', '15n20', '52100'], dots };
  const e = evaluated(planOf([['found', parameters], cutInto(4), fourWay('mirrored')]));
  expect(e.goalLane.steps[0].findings.map((f) => f.code)).toContain('as photographed');
  const [bar] = e.goalLane.steps[0].after!;
  expect(totalVolume(bar.volumes)).toBeCloseTo(30 * 30 * 200, 6);
  const ones = steel.filter((s) => s === 1).length / steel.length;
  expect(bar.volumes['15n20']).toBeCloseTo(ones * 30 * 30 * 200, 6);
  const codes = sampleCodes(bar, facePlane(bar, 'end B'), side, side);
  const kinds = [...new Set(codes)].sort();
  expect(kinds).toHaveLength(3);
  // As it is seen on end B, the first row uppermost.
  const shares = kinds.map((code) => codes.filter((c) => c === code).length / codes.length);
  const asKept = [0, 1, 2].map((s) => steel.filter((v) => v === s).length / steel.length);
  expect(shares.toSorted()).toEqual(asKept.toSorted().map((v) => expect.closeTo(v, 2)));
  const [laid] = e.goalLane.ends;
  expect(sizeOf(laid)).toEqual({ widthMm: 60, heightMm: 60 });
});

it('bands of dots are as wide as they are, straight or aslant', () => {
  const side = 200;
  const stripes = (aslant: number) =>
    bandsOf(
      keptDots(
        side,
        Uint8Array.from(
          { length: side * side },
          (_, k) => Math.floor(((k % side) + aslant * Math.floor(k / side) + 1000) / 10) % 2,
        ),
      ),
    );
  for (const [wide, is] of [
    [stripes(0)[0], 10],
    [stripes(1)[1], 10 / Math.SQRT2],
    [stripes(0.5)[0], 10 / Math.hypot(1, 0.5)],
  ])
    expect(Math.abs(wide / is - 1)).toBeLessThan(0.12);
});

it('is refused by its name where it cannot be', () => {
  const dots = keptDots(8, new Uint8Array(64).fill(2));
  const wrong = (some: object) =>
    found.parameters.safeParse({ ...found.begin([], evaluated(planOf([])).shop), ...some });
  expect(wrong({ dots }).error!.issues[0]).toMatchObject({ path: ['dots'] });
  expect(wrong({ dots: { side: 8, runs: 'a63' } }).success).toBe(false);
  expect(wrong({ dots: { side: 8, runs: 'a64' } }).success).toBe(true);
  expect(wrong({ dots: { side: 8, runs: 'x64' } }).success).toBe(false);
  expect(wrong({ steels: [] }).success).toBe(false);
  const plain = evaluated(planOf([['found', found.begin([], evaluated(planOf([])).shop)]]));
  const { findings } = stepResult(plain, plain.goalLane.steps[0].step.id)!;
  expect(findings.map((f) => f.code)).toContain('one steel');
});
