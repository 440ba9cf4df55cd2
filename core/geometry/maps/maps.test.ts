import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drifting } from './drifting.ts';
import { type Grooves, Grooving } from './grooving.ts';
import { knockBackward, knockForward, knocking, cornersFilled } from './knock.ts';
import { leaning, turning, twisting, wedging } from './plain.ts';
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

const across: Grooves = { pattern: 'across', depthMm: 3, widthMm: 7, pitchMm: 11, slantRad: 0 };
const MAPS: [string, PointMap][] = [
  ['lean', leaning(0.3)],
  ['turn', turning(0.2)],
  ['twist', twisting(0.02)],
  ['wedge', wedging(24, 20, 40, 24)],
  ['drift', drifting(0.1, 0.002, 12, 10)],
  ['grooves across', new Grooving(across, 20, 24)],
  ['slanting grooves', new Grooving({ ...across, pattern: 'diagonal', slantRad: 0.5 }, 20, 24)],
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
  it.each(MAPS)('%s: keeps volume point by point', (_name, map) => {
    const jacobians: number[] = [];
    for (let i = 0; i < 200; i++)
      jacobians.push(
        jacobian(map, [((i * 7.31) % 19) - 9.5, ((i * 3.77) % 19) - 9.5, 20 + ((i * 13.13) % 200)]),
      );
    const off = jacobians.filter((j) => Math.abs(j - 1) > 1e-4).length;
    expect(off / jacobians.length).toBeLessThan(0.04);
  });

  it('knocked corners: there and back, area kept, and the square’s rim on the new outline', () => {
    const out: [number, number] = [0, 0];
    for (const shape of ['octagon', 'round'] as const) {
      const apothem =
        shape === 'octagon' ? Math.sqrt(1 / (2 * Math.tan(Math.PI / 8))) : Math.sqrt(4 / Math.PI);
      for (let i = 0; i <= 40; i++) {
        const v = i / 20 - 1;
        knockForward(shape)(1, v, out);
        const angle = Math.atan2(out[1], out[0]);
        const side = shape === 'octagon' ? Math.round(angle / (Math.PI / 4)) * (Math.PI / 4) : angle;
        expect(Math.abs((Math.hypot(...out) * Math.cos(angle - side)) / apothem - 1), shape).toBeLessThan(
          0.0037,
        );
        knockForward(shape)(0.9 * v, 0.6, out);
        knockBackward(shape)(out[0], out[1], out);
        expect(Math.hypot(out[0] - 0.9 * v, out[1] - 0.6)).toBeLessThan(1e-7);
      }
      const map: PointMap = knocking(shape, 10);
      for (const [x, y] of [
        [1, 2],
        [7, 3],
        [8, 8],
        [-9, 4],
      ]) {
        expect(jacobian(map, [x, y, 0])).toBeCloseTo(1, 3);
        const there = moved(map, 'forward', [x, y, 0]);
        // The picture looks up a table: within 1e-4 of the half-side.
        const back = moved(map, 'backward', there);
        expect(Math.hypot(back[0] - x, back[1] - y)).toBeLessThan(2e-3);
        const again = moved(cornersFilled(shape, 10), 'forward', there);
        expect(Math.hypot(again[0] - x, again[1] - y)).toBeLessThan(1e-6);
      }
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
