import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { contains, moveOutline, outlineArea, rectangle } from '../geometry/outline.ts';
import { addVolumes, totalVolume } from '../materials/volumes.ts';
import { evaluate } from '../plan/index.ts';
import { makeShop } from '../shop/shop.ts';
import { SQUARE_BAR, planOf, stackOf, weldIt } from '../tests/plans.ts';
import { type Billet, sizeOf } from './billet.ts';
import { FACES, closeUpOf, facePlane, holds, partOf, sectionPlane, tellingFace } from './face.ts';
import { turning } from '../geometry/maps/plain.ts';
import { BLOCK } from './fields/field.ts';
import { MappedField } from './fields/mapped.ts';
import { layerTilt } from './layerTilt.ts';
import { scattered } from './scatter.ts';
import { contentsOf, shareOut, splitSection } from './split.ts';

const shop = makeShop();
const barOf = (moves: Parameters<typeof planOf>[0]): Billet =>
  evaluate(planOf(moves)).lanes[0].steps.at(-1)!.after![0];
const bar = barOf([...SQUARE_BAR]);
const { widthMm: w, heightMm: h } = sizeOf(bar);
/** As told by the points asked. */
const SAMPLED = 0.01;

describe('dividing a bar', () => {
  it('lengthwise into parts and what is lost keeps every material to the last of it', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -0.3, max: 0.3, noNaN: true }),
        fc.double({ min: 0, max: 0.1, noNaN: true }),
        (at, kerf) => {
          const left = moveOutline(rectangle((0.5 + at) * w, h), -w / 2 + ((0.5 + at) * w) / 2, 0);
          const rest = (0.5 - at - kerf) * w;
          const right = moveOutline(rectangle(rest, h), w / 2 - rest / 2, 0);
          const { parts, lost } = splitSection(bar, [left, right], shop);
          const all = addVolumes(...parts.map((p) => p.volumes), lost);
          for (const id of Object.keys(bar.volumes)) expect(all[id]).toBeCloseTo(bar.volumes[id], 3);
          parts.forEach((part, i) => {
            const area = outlineArea([left, right][i]);
            expect(totalVolume(part.volumes)).toBeCloseTo(area * bar.lengthMm, 3);
            expect(outlineArea(part.outline)).toBeCloseTo(area, 9);
          });
        },
      ),
      { numRuns: 8 },
    );
  });

  it('gives each part what its own picture holds', () => {
    const top = moveOutline(rectangle(w, h / 2), 0, h / 4);
    const { parts } = splitSection(bar, [top], shop);
    const seen = contentsOf(parts[0], shop);
    for (const id of Object.keys(seen))
      expect(Math.abs(seen[id] - parts[0].volumes[id]) / totalVolume(parts[0].volumes)).toBeLessThan(SAMPLED);
  });

  it('a region that no point hits still gets its share of everything', () => {
    const whole = totalVolume(bar.volumes);
    const [sliver, others] = shareOut(bar, shop, [1e-4 * whole, (1 - 1e-4) * whole], () => 1);
    expect(totalVolume(sliver)).toBeCloseTo(1e-4 * whole, 6);
    for (const id of Object.keys(bar.volumes)) {
      expect(sliver[id]).toBeGreaterThan(0);
      expect(sliver[id] + others[id]).toBeCloseTo(bar.volumes[id], 6);
    }
  });

  it('what a billet holds by its picture is what went into it', () => {
    const seen = contentsOf(bar, shop);
    for (const [id, mm3] of Object.entries(bar.volumes))
      expect(Math.abs(seen[id] - mm3) / totalVolume(bar.volumes)).toBeLessThan(SAMPLED);
  });
});

describe('points scattered through a bar', () => {
  it('are spread evenly: every eighth of the cube has its share', () => {
    const n = 4 * BLOCK;
    const counts = new Array<number>(8).fill(0);
    for (let i = 0; i < n; i++)
      counts[
        (scattered(i, 0) < 0.5 ? 0 : 1) + (scattered(i, 1) < 0.5 ? 0 : 2) + (scattered(i, 2) < 0.5 ? 0 : 4)
      ]++;
    // Thrown at random they would miss it by as much in one eighth alone, by more in the worst.
    for (const count of counts) expect(Math.abs(count / n - 1 / 8)).toBeLessThan(0.006);
  });

  it('step by the powers of the root of x⁴ = x + 1 (M. Roberts’ R sequences, value from memory)', () => {
    const root = 1 / (scattered(1, 0) - scattered(0, 0) + 1);
    expect(root ** 4).toBeCloseTo(root + 1, 9);
  });
});

describe('faces', () => {
  it('end A is end B’s mirror: the same steel, left for right, where the bar is the same all along', () => {
    const [b, a] = [facePlane(bar, 'end B'), facePlane(bar, 'end A')];
    expect(a.across).toEqual(b.across.map((v) => -v));
    expect(a.up).toEqual(b.up);
    expect(a.widthMm).toBe(b.widthMm);
  });

  it.each(FACES)('%s: all of its window lies in or on the bar, seen from outside', (face) => {
    const { origin, across, up, widthMm, heightMm } = facePlane(bar, face);
    for (const [u, v] of [
      [0.01, 0.01],
      [0.5, 0.5],
      [0.99, 0.99],
    ]) {
      const at = origin.map((o, k) => o + across[k] * u * widthMm + up[k] * v * heightMm);
      expect(holds(bar, at[0], at[1], at[2])).toBe(true);
      // Across × up points out of the steel, save where the window is a cut through its middle.
      const out = [0, 1, 2].map(
        (k) => across[(k + 1) % 3] * up[(k + 2) % 3] - across[(k + 2) % 3] * up[(k + 1) % 3],
      );
      const beyond = at.map((c, k) => c + out[k] * 0.6);
      if (face !== 'middle' && face !== 'lengthwise' && face !== 'level')
        expect(holds(bar, beyond[0], beyond[1], beyond[2])).toBe(false);
    }
  });

  it('a part of a window lies in it, and its middle is no wider than told', () => {
    const plane = facePlane(bar, 'top');
    const part = partOf(plane, 10, 2, 30, 5);
    expect(part.origin).toEqual([plane.origin[0] + 2, plane.origin[1], plane.origin[2] + 10]);
    const middle = closeUpOf(plane, 0.5, 1.5);
    expect(middle.widthMm).toBeCloseTo(1.5 * plane.heightMm, 12);
    expect(middle.origin[2] + middle.widthMm / 2).toBeCloseTo(bar.lengthMm / 2, 9);
    expect(sectionPlane(bar, 40).origin[2]).toBe(40);
    expect(contains(bar.outline, ...([sectionPlane(bar, 40).origin[0] + w / 2, 0] as const))).toBe(true);
  });

  it('the end grain tells most of a square bar', () => {
    expect(tellingFace(bar)).toBe('end B');
  });
});

describe('how the layers lie', () => {
  it('level in a stack, on edge when it is turned a quarter', () => {
    const flat = barOf([stackOf(9, 30, 3, 200), weldIt]);
    expect(layerTilt(flat)).toBeCloseTo(0, 6);
    const onEdge = { ...flat, field: new MappedField(flat.field, turning(Math.PI / 2)) };
    expect(layerTilt(onEdge)).toBeCloseTo(90, 6);
  });

  it('between level and on edge after a bias re-square', () => {
    const tilt = layerTilt(bar);
    expect(tilt).toBeGreaterThan(25);
    expect(tilt).toBeLessThan(65);
  });

  it('of one steel all through lie nowhere in particular', () => {
    const one = barOf([
      ['stack', { layers: 4, pattern: [{ material: '1084', thicknessMm: 5 }], widthMm: 20, lengthMm: 100 }],
      weldIt,
    ]);
    expect(layerTilt(one)).toBe(0);
  });
});
