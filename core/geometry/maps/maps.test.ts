import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bowing } from './bowing.ts';
import { drifting } from './drifting.ts';
import { type Grooves, Grooving } from './grooving.ts';
import { dragging, leaning, turning, twisting, wedging, waisting } from './plain.ts';
import type { PointMap } from './pointMap.ts';

type Point = [number, number, number];

function moved(map: PointMap, way: 'forward' | 'backward', [x, y, z]: Point): Point {
  const points = { x: Float64Array.of(x), y: Float64Array.of(y), z: Float64Array.of(z), count: 1 };
  map[way](points);
  return [points.x[0], points.y[0], points.z[0]];
}

/** Volume that a small box takes up after the map, over its volume before: the Jacobian by central differences. */
function jacobian(map: PointMap, [x, y, z]: Point, h = 1e-4): number {
  const column = (dx: number, dy: number, dz: number): Point => {
    const a = moved(map, 'forward', [x + dx, y + dy, z + dz]);
    const b = moved(map, 'forward', [x - dx, y - dy, z - dz]);
    return [(a[0] - b[0]) / (2 * h), (a[1] - b[1]) / (2 * h), (a[2] - b[2]) / (2 * h)];
  };
  const [a, b, c] = [column(h, 0, 0), column(0, h, 0), column(0, 0, h)];
  return (
    a[0] * (b[1] * c[2] - b[2] * c[1]) -
    b[0] * (a[1] * c[2] - a[2] * c[1]) +
    c[0] * (a[1] * b[2] - a[2] * b[1])
  );
}

const across: Grooves = {
  pattern: 'across',
  depthMm: 3,
  widthMm: 7,
  pitchMm: 11,
  slantRad: 0,
  top: true,
  bottomShiftMm: null,
};
const MAPS: [string, PointMap][] = [
  ['lean', leaning(0.3)],
  ['turn', turning(0.2)],
  ['twist', twisting(0.02)],
  ['wedge', wedging(24, 20, 40, 24)],
  ['bow-tie', waisting(20, 3, 0.7)],
  ['feather', dragging(6, 4, 24)],
  ['drift', drifting(0.1, 0.002, 12, 10)],
  ['bow', bowing((z) => 4 - z / 40, 12, 10)],
  ['grooves across', new Grooving(across, 20, 24)],
  ['slanting grooves', new Grooving({ ...across, pattern: 'diagonal', slantRad: 0.5 }, 20, 24)],
  ['grooves on both faces', new Grooving({ ...across, bottomShiftMm: 5.5 }, 20, 24)],
  ['grooves in the bottom', new Grooving({ ...across, top: false, bottomShiftMm: 0 }, 20, 24)],
  ['dimples', new Grooving({ ...across, pattern: 'dimples' }, 20, 24)],
];

const inside = fc.record({
  x: fc.double({ min: -9.9, max: 9.9, noNaN: true }),
  y: fc.double({ min: -9.9, max: 9.9, noNaN: true }),
  z: fc.double({ min: 5, max: 300, noNaN: true }),
});

describe('maps of the solid', () => {
  it.each(MAPS)('%s: there and back returns every point within 1e-6 mm', (_name, map) => {
    fc.assert(
      fc.property(inside, ({ x, y, z }) => {
        const back = moved(map, 'backward', moved(map, 'forward', [x, y, z]));
        [x, y, z].forEach((value, k) => expect(Math.abs(back[k] - value)).toBeLessThan(1e-6));
      }),
    );
  });

  // Grooves keep volume cell by cell, so their Jacobian is 1 but at the cells' edges, where the differences straddle two.
  it.each(MAPS)('%s: keeps volume point by point', (name, map) => {
    const jacobians: number[] = [];
    for (let i = 0; i < 200; i++)
      jacobians.push(
        jacobian(map, [((i * 7.31) % 19) - 9.5, ((i * 3.77) % 19) - 9.5, 20 + ((i * 13.13) % 200)]),
      );
    // A drift's rings are kept in a table.
    const within = name === 'drift' ? 2e-3 : 1e-4;
    const off = jacobians.filter((j) => Math.abs(j - 1) > within).length;
    expect(off / jacobians.length).toBeLessThan(0.04);
  });

  it('a drift leaves the line to every corner straight, and turned by the angle that was measured', () => {
    for (const deg of [3.4, -8, 20, 130]) {
      const map = drifting((deg * Math.PI) / 180, 0, 1, 1);
      for (const reach of [0.02, 0.3, 0.7, 0.95, 0.9999]) {
        const [x, y] = moved(map, 'forward', [reach, reach, 0]);
        const turned = (Math.atan2(y, x) * 180) / Math.PI - 45 - deg;
        expect(turned - 360 * Math.round(turned / 360)).toBeCloseTo(0, 9);
      }
      // The rim stays the rim.
      for (const [x, y] of [
        [1, 0.3],
        [-0.8, 1],
        [1, 1],
      ]) {
        // prettier-ignore
        const [u, v] = moved(map, 'forward', [x, y, 0]);
        expect(Math.max(Math.abs(u), Math.abs(v))).toBeCloseTo(1, 9);
      }
    }
  });

  it('a drift bends a line across a diagonal nowhere sharply, as it would if whole squares slid', () => {
    const map = drifting((12 * Math.PI) / 180, 0, 1, 1);
    const line = Array.from({ length: 400 }, (_, i) => moved(map, 'forward', [0.2 + 0.001 * i, 0.4, 0]));
    const bends = line.slice(2).map(([x, y], i) => {
      const [[ax, ay], [bx, by]] = [line[i], line[i + 1]];
      return Math.abs(
        Math.atan2((bx - ax) * (y - by) - (by - ay) * (x - bx), (bx - ax) * (x - bx) + (by - ay) * (y - by)),
      );
    });
    expect((180 / Math.PI) * Math.max(...bends)).toBeLessThan(0.5);
  });

  it('a bow lifts the middle of a level line over its ends by what was said, and leaves the outline', () => {
    for (const mm of [0.5, 3, -6, 12]) {
      const map = bowing(() => mm, 14, 10);
      const middle = moved(map, 'forward', [0, 0, 0])[1];
      const end = moved(map, 'forward', [14, 0, 0])[1];
      expect(middle - end).toBeCloseTo(mm, 1);
      expect(moved(map, 'forward', [14, 4, 0])[0]).toBeCloseTo(14, 9);
      expect(moved(map, 'forward', [3, 10, 0])[1]).toBeCloseTo(10, 9);
    }
  });

  it('the wedge is the handbook’s: y′ = h′·√(y/h), x′ = (x/w)·b·(y′/h′)', () => {
    const [x, y] = moved(wedging(24, 20, 40, 24), 'forward', [6, -5, 0]);
    const up = 24 * Math.sqrt(5 / 20);
    expect(y).toBeCloseTo(up - 12, 12);
    expect(x).toBeCloseTo((6 / 24) * 40 * (up / 24), 12);
  });

  it('a groove’s column is stretched to the one new face: t_local to t_new', () => {
    const map = new Grooving(across, 20, 24);
    // Mean of a raised cosine of width 7 in a pitch of 11 is half its depth times 7/11.
    expect(map.toThicknessMm).toBeCloseTo(20 - (3 / 2) * (7 / 11), 3);
    for (const z of [0.01, 3, 5.5, 8]) {
      const distance = z - 11 * Math.round(z / 11);
      const depth = Math.abs(distance) >= 3.5 ? 0 : 1.5 * (1 + Math.cos((2 * Math.PI * distance) / 7));
      const [, y] = moved(map, 'forward', [0, 10 - depth, z]);
      expect(Math.abs(y - map.toThicknessMm / 2)).toBeLessThan(0.1);
      expect(moved(map, 'forward', [0, -10, z])[1]).toBeCloseTo(-map.toThicknessMm / 2, 9);
    }
  });
});
