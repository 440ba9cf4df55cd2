import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SparseSystem, dissected } from './sparse.ts';

describe('sparse systems', () => {
  it('are solved as a full elimination solves them, over random meshes of points', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 9 }),
        fc.integer({ min: 3, max: 9 }),
        fc.integer(),
        (w, h, seed) => {
          const at = (i: number, j: number) => j * w + i;
          const neighbours = Array.from({ length: w * h }, (_, k) => {
            const [i, j] = [k % w, Math.floor(k / w)];
            return [-1, 0, 1].flatMap((dj) =>
              [-1, 0, 1].flatMap((di) =>
                (di || dj) && i + di >= 0 && i + di < w && j + dj >= 0 && j + dj < h
                  ? [at(i + di, j + dj)]
                  : [],
              ),
            );
          });
          const order = dissected(
            neighbours.map((_, k) => k % w),
            neighbours.map((_, k) => Math.floor(k / w)),
            neighbours,
          );
          expect([...order].sort((a, b) => a - b)).toEqual(neighbours.map((_, k) => k));
          const system = new SparseSystem(neighbours, order);
          const n = 2 * w * h;
          const noise = (i: number) => Math.sin(12.9898 * (i + 1) + (seed % 1000)) / 2;
          const full = Array.from({ length: n }, () => new Float64Array(n));
          for (let i = 0; i < n; i++)
            for (const j of [i ^ 1, ...neighbours[i >> 1].flatMap((m) => [2 * m, 2 * m + 1])])
              if (j > i) {
                full[i][j] = full[j][i] = noise(i * n + j);
                system.values[system.slot(i, j)] = full[i][j];
              }
          for (let i = 0; i < n; i++) system.values[system.slot(i, i)] = full[i][i] = 20 + noise(i);
          const wanted = Float64Array.from({ length: n }, (_, i) => noise(7 * i));
          const right = Float64Array.from(full, (row) => row.reduce((sum, v, j) => sum + v * wanted[j], 0));
          expect(system.factor()).toBe(true);
          system.solve(right);
          right.forEach((v, i) => expect(v).toBeCloseTo(wanted[i], 9));
        },
      ),
      { numRuns: 30 },
    );
  });

  it('that are not positive definite are refused', () => {
    const system = new SparseSystem([[1], [0]], [0, 1]);
    system.values[system.slot(0, 0)] = 1;
    system.values[system.slot(1, 1)] = -1;
    expect(system.factor()).toBe(false);
    expect(() => system.slot(0, 9)).toThrow();
  });
});
