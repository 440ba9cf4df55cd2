import { group } from 'd3-array';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  anyPlan,
  cutInto,
  drawSquare,
  evaluated,
  planOf,
  resquareTo,
  stackOf,
  weldIt,
} from '../tests/plans.ts';
import { bandsOf, layersIn } from './bands.ts';
import type { Billet } from './billet.ts';
import { BLOCK, makePoints } from './fields/field.ts';

type Place = ReturnType<typeof layersIn>[number];
type Moves = Parameters<typeof planOf>[0];
const ends = (moves: Moves): Billet => evaluated(planOf(moves)).lanes[0].steps.at(-1)!.after![0];
const INCH = 25.4;
const flat = (widthMm: number, thicknessMm: number) =>
  ['draw', { shape: 'flat', widthMm, thicknessMm, heats: 0 }] as const;

/** Layers looked at in every direction, from the thinnest. */
const MOST_ASKED = 8;
/** Points on a ray. */
const RAY = 384;

/** How far one can go from a place before the steel is another, mm: the least over many directions, both ways together. */
function sampledThickness(
  billet: Billet,
  [x, y, z]: readonly [number, number, number],
  upTo: number,
): number {
  const points = makePoints();
  const codes = new Uint8Array(BLOCK);
  const reach = (a: number, b: number, c: number): number => {
    for (let i = 0; i < RAY; i++) {
      const far = (upTo * i) / RAY;
      [points.x[i], points.y[i], points.z[i]] = [x + a * far, y + b * far, z + c * far];
    }
    points.count = RAY;
    billet.field.sample(points, codes);
    const end = codes.subarray(0, RAY).findIndex((code) => code !== codes[0]);
    return end < 0 ? Infinity : (upTo * (end - 0.5)) / RAY;
  };
  const across = (u: number, v: number) => {
    const [a, b, c] = [Math.cos(u) * Math.cos(v), Math.sin(u) * Math.cos(v), Math.sin(v)];
    return reach(a, b, c) + reach(-a, -b, -c);
  };
  let best = { u: 0, v: 0, mm: Infinity };
  const attempt = (u: number, v: number) => {
    const mm = across(u, v);
    if (mm < best.mm) best = { u, v, mm };
  };
  for (let i = 0; i < 10; i++) for (let k = -2; k <= 2; k++) attempt((i * Math.PI) / 10, (k * Math.PI) / 5);
  for (const step of [0.15, 0.06, 0.025])
    for (let i = -1; i <= 1; i++) for (let k = -2; k <= 2; k++) attempt(best.u + i * step, best.v + k * step);
  return best.mm;
}

describe('how thick the layers are where they lie', () => {
  it('is the stack’s own at first, and follows the height of a flat bar alone', () => {
    // 24 layers on 3/4" are 1/32" each; 384 across 3/16" about half a thousandth of an inch: by geometry.
    const three = ends([stackOf(24, 40, (0.75 * INCH) / 24, 200)]);
    expect(bandsOf(three)!.leastMm / INCH).toBeCloseTo(0.03125, 5);
    expect(bandsOf(three)!.across).toBe(24);
    const drawn = ends([stackOf(384, 60, 0.2, 60), weldIt, flat(60, (3 / 16) * INCH)]);
    expect(bandsOf(drawn)!.leastMm / INCH).toBeGreaterThan((0.98 * 3) / 16 / 384);
    expect(bandsOf(drawn)!.leastMm / INCH).toBeLessThan((1.02 * 3) / 16 / 384);
    // Scale took a little of the outermost.
    expect(Math.abs(bandsOf(drawn)!.across! - 384)).toBeLessThan(5);
  });

  it('is the upright layers’ by the width alone', () => {
    const upright = ends([
      stackOf(10, 30, 3, 200),
      weldIt,
      drawSquare(26),
      cutInto(1),
      [
        'assemble',
        { columns: 1, rows: 1, layout: 'free', places: [{ piece: 1, orientation: 'turned 90°' }] },
      ],
      flat(40, 10),
    ]);
    expect(Math.abs(bandsOf(upright)!.leastMm / 4 - 1)).toBeLessThan(0.03);
    expect(bandsOf(upright)!.across).toBe(10);
  });

  it('finds a thin sheet among thick layers, and counts 25 × 5 = 125', () => {
    const pattern = [
      { material: '1084', thicknessMm: 3 },
      { material: 'nickel', thicknessMm: 0.2 },
    ];
    const sheet = ends([['stack', { widthMm: 40, lengthMm: 300, layers: 12, pattern }]]);
    expect(bandsOf(sheet)!.leastMm).toBeCloseTo(0.2, 6);
    const restacked = ends([
      stackOf(25, 40, 1.6, 600),
      weldIt,
      cutInto(5),
      ['assemble', { columns: 1, rows: 5, layout: 'alike' }],
    ]);
    expect(Math.round(bandsOf(restacked)!.across!)).toBe(125);
  });

  it('takes alike steel that lies together for one band', () => {
    const pattern = [
      { material: '1084', thicknessMm: 3 },
      { material: 'nickel', thicknessMm: 0.2 },
      { material: 'nickel', thicknessMm: 0.2 },
    ];
    const doubled = ends([['stack', { widthMm: 40, lengthMm: 300, layers: 12, pattern }]]);
    expect(Math.abs(bandsOf(doubled)!.leastMm / 0.4 - 1)).toBeLessThan(0.05);
  });

  it('does not overlook one foil in a thick bar', () => {
    // A hundredth of the bar: met at two or three of the places looked at first.
    const pattern = [
      { material: '1084', thicknessMm: 15 },
      { material: 'nickel', thicknessMm: 0.3 },
      { material: '1084', thicknessMm: 15 },
    ];
    const foil = ends([['stack', { widthMm: 40, lengthMm: 100, layers: 3, pattern }]]);
    expect(bandsOf(foil)!.leastMm).toBeCloseTo(0.3, 6);
  });

  it('is one layer in plain steel, and no one count where they run many ways', () => {
    expect(
      bandsOf(
        ends([
          [
            'stack',
            { widthMm: 40, lengthMm: 300, layers: 1, pattern: [{ material: '1018', thicknessMm: 20 }] },
          ],
        ]),
      )!.across,
    ).toBeCloseTo(1, 6);
    const bias = ends([stackOf(8, 30, 3.6, 200), weldIt, drawSquare(24), resquareTo(20)]);
    expect(bandsOf(bias)!.across).toBeNull();
  });

  it('agrees with what is sampled, in 30 random plans', () => {
    let [near, asked] = [0, 0];
    fc.assert(
      fc.property(anyPlan, (plan) => {
        const bar = evaluated(plan).goal.bar;
        if (!bar) return;
        for (const { at, thickMm } of layersIn(bar)
          .filter((l) => l.thickMm < 4)
          .slice(0, 7)) {
          const sampled = sampledThickness(bar, at, 3 * thickMm);
          asked++;
          if (Math.abs(sampled / thickMm - 1) < 0.1) near++;
        }
      }),
      { numRuns: 30 },
    );
    // The rest are where alike layers of two pieces meet and read as one, and where a seam cuts a layer’s corner off.
    expect(asked).toBeGreaterThan(120);
    expect(near / asked).toBeGreaterThan(0.75);
  });

  it('names the thinnest band within a tenth of what is sampled, in 30 random plans', () => {
    const middle = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)];
    const off: number[] = [];
    fc.assert(
      fc.property(anyPlan, (plan) => {
        const bar = evaluated(plan).goal.bar;
        const said = bar && bandsOf(bar)?.leastMm;
        if (!said) return;
        const places = [0, 1, 2].flatMap((round): Place[] => layersIn(bar, round));
        // Of every layer that could be the thinnest: the place that has the middle of what it measures, and its neighbours.
        const sampled = [...group(places, (p) => p.layer).values()]
          .filter((own) => own.length >= 3)
          .map((own) => own.sort((a, b) => a.thickMm - b.thickMm))
          .map((own) => own.slice(Math.max(0, (own.length >> 1) - 1), (own.length >> 1) + 2))
          .map((near) => ({ near, mm: middle(near.map((p) => p.thickMm)) }))
          .filter(({ mm }) => mm < 1.1 * said)
          .sort((a, b) => a.mm - b.mm)
          .slice(0, MOST_ASKED)
          .map(({ near, mm }) => ({
            mm,
            seen: near.map((p) => sampledThickness(bar, p.at, 3 * p.thickMm)),
          }))
          // What saw and grinder left of a layer is none of its own; a corner that a seam cuts off is no band.
          .filter(({ mm, seen }) => Math.max(...seen) < 1.5 * Math.min(...seen) && middle(seen) > 0.9 * mm)
          .map(({ seen }) => middle(seen));
        if (sampled.length > 0) off.push(Math.min(...sampled) / said);
      }),
      { numRuns: 30 },
    );
    expect(off.length).toBeGreaterThan(20);
    expect(Math.max(...off.map((share) => Math.abs(share - 1)))).toBeLessThan(0.1);
    expect(Math.abs(middle(off) - 1)).toBeLessThan(0.02);
  });
});
