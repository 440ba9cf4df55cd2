import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Outline, outlineArea, rectangle, regularPolygon } from '../geometry/outline.ts';
import { type Mesh, butterflyMesh, meshArea, neighboursOf, regridded, worstShape } from './mesh.ts';

const rhombus = (lean: number): Outline => rectangle(24, 20).map(([x, y]) => [x + lean * y, y] as const);

const outlines = fc.oneof(
  fc
    .tuple(fc.integer({ min: 6, max: 60 }), fc.integer({ min: 6, max: 60 }))
    .filter(([w, h]) => w / h < 4 && h / w < 4)
    .map(([w, h]) => rectangle(w, h)),
  fc.double({ min: -0.6, max: 0.6, noNaN: true }).map(rhombus),
  fc.integer({ min: 8, max: 60 }).map((sides) => regularPolygon(sides, 700)),
);

const rimOf = ({ x, y, rim }: Mesh): Outline => Array.from(rim, (node) => [x[node], y[node]] as const);

describe('a butterfly mesh', () => {
  it('covers the section it is laid over, unfolded, its rim the outline', () => {
    fc.assert(
      fc.property(
        outlines,
        fc.integer({ min: 4, max: 12 }),
        fc.integer({ min: 2, max: 5 }),
        (outline, n, rings) => {
          const mesh = butterflyMesh(outline, n, rings);
          expect(worstShape(mesh)).toBeGreaterThan(0.1);
          expect(mesh.quads.length).toBe(4 * (n * n + 4 * n * rings));
          expect(meshArea(mesh)).toBeCloseTo(outlineArea(rimOf(mesh)), 8);
          // Every rim node lies on a side of the outline.
          for (const [px, py] of rimOf(mesh)) {
            const away = Math.min(
              ...outline.map(([x0, y0], i) => {
                const [x1, y1] = outline[(i + 1) % outline.length];
                const [dx, dy] = [x1 - x0, y1 - y0];
                const t = Math.min(1, Math.max(0, ((px - x0) * dx + (py - y0) * dy) / (dx * dx + dy * dy)));
                return Math.hypot(px - x0 - t * dx, py - y0 - t * dy);
              }),
            );
            expect(away).toBeLessThan(1e-9);
          }
        },
      ),
      { numRuns: 40 },
    );
  });

  it('of four corners has all four as nodes, so that its area is the section’s own', () => {
    fc.assert(
      fc.property(fc.double({ min: -0.6, max: 0.6, noNaN: true }), (lean) => {
        expect(meshArea(butterflyMesh(rhombus(lean), 8, 3))).toBeCloseTo(480, 8);
      }),
    );
  });

  it('gives a node as neighbours those it shares an element with, both ways, and each of them once', () => {
    const mesh = butterflyMesh(rectangle(20, 20), 5, 2);
    const around = neighboursOf(mesh);
    around.forEach((list, node) => {
      expect(new Set(list).size).toBe(list.length);
      expect(list).not.toContain(node);
      for (const other of list) expect(around[other]).toContain(node);
    });
    // Euler’s formula for a disc: nodes − edges + elements = 1.
    const diagonals = mesh.quads.length / 2;
    const edges = around.reduce((sum, list) => sum + list.length, 0) / 2 - diagonals;
    expect(mesh.x.length - edges + mesh.quads.length / 4).toBe(1);
  });

  it('crowds its nodes where it is told to', () => {
    const shortest = (mesh: Mesh) => {
      const tops = rimOf(mesh).filter(([, y]) => y > 10 - 1e-9);
      const xs = tops.map(([x]) => x).sort((a, b) => a - b);
      return xs.slice(1).map((x, i) => ({ at: (x + xs[i]) / 2, length: x - xs[i] }));
    };
    const crowded = shortest(butterflyMesh(rectangle(40, 20), 12, 3, (x) => (Math.abs(x) < 5 ? 4 : 1)));
    const inside = crowded.filter(({ at }) => Math.abs(at) < 4).map((e) => e.length);
    const beside = crowded.filter(({ at }) => Math.abs(at) > 8).map((e) => e.length);
    expect(Math.max(...inside)).toBeLessThan(0.5 * Math.min(...beside));
  });

  it('laid afresh over a section whose elements are worked thin is well shaped again, and has its area', () => {
    const mesh = butterflyMesh(rectangle(30, 30), 8, 3);
    const rim = new Set(mesh.rim);
    const worked = {
      ...mesh,
      x: mesh.x.map((x, i) =>
        rim.has(i) ? x : x + 3.5 * Math.sin((Math.PI * x) / 15) * Math.cos((Math.PI * mesh.y[i]) / 30),
      ),
    };
    const fresh = regridded(worked, 8, 3);
    expect(meshArea(fresh)).toBeCloseTo(meshArea(worked), 9);
    expect(worstShape(worked)).toBeLessThan(0.7 * worstShape(fresh));
    expect(worstShape(fresh)).toBeCloseTo(worstShape(mesh), 9);
    expect(fresh.quads).toBe(mesh.quads);
  });
});

describe('the shape of an element', () => {
  const one = (x: number[], y: number[]): Mesh => ({
    x: Float64Array.from(x),
    y: Float64Array.from(y),
    quads: Int32Array.of(0, 1, 2, 3),
    rim: Int32Array.of(0, 1, 2, 3),
  });

  it('is 1 for a square, less the flatter it is, and below nothing when it folds', () => {
    expect(worstShape(one([0, 1, 1, 0], [0, 0, 1, 1]))).toBeCloseTo(1, 12);
    // A rectangle of 1 to 4: 2·4/(1 + 16).
    expect(worstShape(one([0, 4, 4, 0], [0, 0, 1, 1]))).toBeCloseTo(8 / 17, 12);
    expect(worstShape(one([0, 1, 0.1, 0], [0, 0, 0.1, 1]))).toBeLessThan(0);
  });
});
