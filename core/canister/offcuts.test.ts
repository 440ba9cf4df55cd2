import { describe, expect, it } from 'vitest';
import { anyTurn, facetsGauge, lying, offcut } from '../geometry/offcut.ts';
import { findingsOf } from '../judgement/index.ts';
import { balls, can } from '../tests/cans.ts';
import { evaluated, planOf } from '../tests/plans.ts';
import { roomOf } from './can.ts';
import { type Insert, insertVolume, worstOverlap } from './inserts.ts';
import { allPlaced, mostThatLie } from './layout.ts';
import { type LyingOffcut, lieAbout } from './offcuts.ts';
import { seeded } from './packing.ts';

describe('offcuts', () => {
  const room = { widthMm: 60, heightMm: 60, depthMm: 100 };
  const of = (sizeMm: number, count = 2000): Insert =>
    balls({ shape: 'offcuts', sizeMm, count, lay: 'hexagonal' });

  /** Which shares of the room lie in one of them, and in more than one. */
  function shares(at: readonly { x: number; y: number; z: number }[], lie: readonly LyingOffcut[]) {
    let [one, two] = [0, 0];
    const n = 30_000;
    for (let i = 0; i < n; i++) {
      const [u, v, w] = [0.8191725133961645, 0.6710436067037893, 0.5497004779019703].map(
        (k) => (0.5 + i * k) % 1,
      );
      const p = [(u - 0.5) * room.widthMm, (v - 0.5) * room.heightMm, w * room.depthMm];
      const met = at.filter(
        (q, k) =>
          Math.hypot(p[0] - q.x, p[1] - q.y, p[2] - q.z) < lie[k].farthestMm &&
          facetsGauge(lie[k].facets, p[0] - q.x, p[1] - q.y, p[2] - q.z) < 1,
      ).length;
      if (met > 0) one++;
      if (met > 1) two++;
    }
    return { one: one / n, two: two / n };
  }

  it('lie as they fall: each turned to where it presses least on the others, the same ones each time', () => {
    const count = mostThatLie(of(12), room);
    const at = allPlaced([of(12, count)], room);
    const lie = lieAbout(at, 12, room);
    const anyhow = at.map((_, i) => {
      const random = seeded(i + 1);
      const facets = lying(offcut(random), anyTurn(random), 12);
      return { ...lie[i], facets, farthestMm: 20 };
    });
    const [settled, thrown] = [shares(at, lie), shares(at, anyhow)];
    expect(settled.two).toBeLessThan(0.8 * thrown.two);
    expect(settled.two).toBeLessThan(0.05 * settled.one);
    expect(lieAbout(at, 12, room)).toEqual(lie);
  });

  it('few of them lie all along the can', () => {
    const at = allPlaced([of(12, 40)], room).map(({ z }) => z);
    expect(at).toHaveLength(40);
    for (let from = 0; from < 100; from += 20)
      expect(at.filter((z) => z >= from && z < from + 20).length).toBeGreaterThanOrEqual(5);
    const three = allPlaced([of(12, 3)], room);
    expect(worstOverlap(three, room)).toBeNull();
    expect(worstOverlap(allPlaced([of(12, 40)], room), room)).toBeNull();
  });

  it('fill at most 0.64 of the room [pub: cubes 0.57–0.67], and more are refused with how many go in', () => {
    const box = roomOf(can({ inserts: [] }));
    const each = insertVolume(of(6), box);
    const most = mostThatLie(of(6), box);
    expect((most * each) / (box.widthMm * box.heightMm * box.depthMm)).toBeLessThanOrEqual(0.64);
    const e = evaluated(planOf([['can', can({ inserts: [of(6, Math.min(2000, most + 50))] })]]));
    const said = findingsOf(e, e.lanes[0].steps[0]).find((f) => f.code === 'too many');
    expect(said?.remedy?.label).toBe(`Take ${most}`);
  });
});
