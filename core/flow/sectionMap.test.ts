import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makePoints } from '../billet/fields/field.ts';
import { rectangle } from '../geometry/outline.ts';
import { butterflyMesh, meshArea } from './mesh.ts';
import { type Places, carried, meshMap } from './sectionMap.ts';

const mesh = butterflyMesh(rectangle(40, 30), 10, 4);

/** The mesh reshaped by a smooth map that folds nothing. */
const reshaped = (bend: number, squeeze: number): Places => ({
  x: mesh.x.map((x, i) => x / squeeze + bend * Math.sin(mesh.y[i] / 12)),
  y: mesh.y.map((y) => y * squeeze),
});

const anyShape = fc
  .tuple(fc.double({ min: -4, max: 4, noNaN: true }), fc.double({ min: 0.6, max: 1.5, noNaN: true }))
  .map(([bend, squeeze]) => ({ bend, squeeze, places: reshaped(bend, squeeze) }));
const anyPoints = fc.array(
  fc.tuple(
    fc.double({ min: -19.5, max: 19.5, noNaN: true }),
    fc.double({ min: -14.5, max: 14.5, noNaN: true }),
  ),
  { minLength: 1, maxLength: 30 },
);

function take(way: 'forward' | 'backward', places: Places, points: readonly (readonly [number, number])[]) {
  const p = makePoints(points.length);
  points.forEach(([x, y], i) => ([p.x[i], p.y[i]] = [x, y]));
  p.count = points.length;
  meshMap(mesh.quads, mesh, places)[way](p);
  return points.map((_, i) => [p.x[i], p.y[i]] as const);
}

describe('the mesh as a map', () => {
  it('goes there and back within 1e-8 mm', () => {
    fc.assert(
      fc.property(anyShape, anyPoints, ({ places }, points) => {
        const again = take('backward', places, take('forward', places, points));
        again.forEach(([x, y], i) =>
          expect(Math.hypot(x - points[i][0], y - points[i][1])).toBeLessThan(1e-8),
        );
      }),
      { numRuns: 60 },
    );
  });

  it('is a stretch exactly, and a bend as nearly as its elements are small', () => {
    fc.assert(
      fc.property(anyShape, anyPoints, ({ bend, squeeze, places }, points) => {
        const straight = take('forward', reshaped(0, squeeze), points);
        straight.forEach(([x, y], i) => {
          expect(x).toBeCloseTo(points[i][0] / squeeze, 9);
          expect(y).toBeCloseTo(points[i][1] * squeeze, 9);
        });
        // A chord over 3 mm of a bow of this curvature lies off it by |bend|/12²·3²/8 at most.
        take('forward', places, points).forEach(([x, y], i) => {
          const wanted = points[i][0] / squeeze + bend * Math.sin(points[i][1] / 12);
          expect(Math.abs(x - wanted)).toBeLessThan((Math.abs(bend) / 144) * (9 / 8) * 1.5 + 1e-9);
          expect(y).toBeCloseTo(points[i][1] * squeeze, 6);
        });
      }),
      { numRuns: 40 },
    );
  });

  it('goes on a little past the rim, where the outline’s chords leave slivers, and no further', () => {
    const [[near], [far]] = [
      take('forward', reshaped(0, 0.8), [[20.05, 0]]),
      take('forward', reshaped(0, 0.8), [[60, 0]]),
    ];
    expect(near[0]).toBeCloseTo(20.05 / 0.8, 6);
    expect(far[0]).toBeLessThan(30);
    expect(Number.isFinite(far[1])).toBe(true);
  });

  it('of a folded or empty place answers all the same', () => {
    const flat: Places = { x: mesh.x.map(() => 1), y: mesh.y.map(() => 2) };
    const [[x, y]] = take('forward', flat, [[3, 3]]);
    expect([x, y]).toEqual([1, 2]);
  });
});

describe('what a fresh grid takes over', () => {
  it('is the value of the element that lay there', () => {
    const values = Float64Array.from({ length: mesh.quads.length / 4 }, (_, e) => e);
    expect([...carried(mesh.quads, mesh, mesh, values)]).toEqual([...values]);
  });

  it('of a smooth field is that field, as nearly as elements are small', () => {
    const finer = { x: mesh.x.map((x) => 0.97 * x), y: mesh.y.map((y) => 0.97 * y) };
    const middles = (of: Places) =>
      Float64Array.from({ length: mesh.quads.length / 4 }, (_, e) => {
        const nodes = mesh.quads.subarray(4 * e, 4 * e + 4);
        return nodes.reduce((sum, n) => sum + of.x[n] + 2 * of.y[n], 0) / 4;
      });
    const taken = carried(mesh.quads, mesh, finer, middles(mesh));
    middles(finer).forEach((wanted, e) => expect(Math.abs(taken[e] - wanted)).toBeLessThan(4));
    const mean = (v: Float64Array) => v.reduce((a, b) => a + b, 0) / v.length;
    expect(mean(taken)).toBeCloseTo(mean(middles(finer)), 0);
    expect(meshArea({ ...mesh, ...finer })).toBeCloseTo(0.97 ** 2 * 1200, 6);
  });
});
