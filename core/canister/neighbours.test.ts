import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Cells } from './neighbours.ts';
import { type Insert, type PlacedPiece, overlapMm, worstOverlap } from './inserts.ts';

const coordinate = fc.double({ min: -20, max: 20, noNaN: true });

const insertOf = (shape: Insert['shape'], sizeMm: number): Insert => ({
  shape,
  material: '1018',
  sizeMm,
  thicknessMm: sizeMm / 2,
  count: 1,
  lay: 'placed',
});

const anyPlaced = fc
  .record({
    shape: fc.constantFrom<Insert['shape'][]>('ball', 'rod', 'square bar', 'strip'),
    sizeMm: fc.double({ min: 1, max: 9, noNaN: true }),
    x: coordinate,
    y: coordinate,
    z: fc.double({ min: 5, max: 35, noNaN: true }),
  })
  .map(({ shape, sizeMm, x, y, z }): PlacedPiece => ({
    insert: insertOf(shape, sizeMm),
    x,
    y,
    z: shape === 'ball' ? z : 0,
    halfX: sizeMm / 2,
    halfY: shape === 'strip' ? sizeMm / 4 : sizeMm / 2,
  }));

describe('inserts found by cells', () => {
  it('are all that touch a spot, and each once', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            x: coordinate,
            y: coordinate,
            z: coordinate,
            reachMm: fc.double({ min: 0.1, max: 4, noNaN: true }),
          }),
        ),
        (spots) => {
          const cells = new Cells(
            spots,
            spots.map((_, i) => i),
          );
          for (const spot of spots) {
            const near = [...cells.near(spot)];
            expect(new Set(near).size).toBe(near.length);
            spots.forEach((other, i) => {
              const apart = Math.hypot(spot.x - other.x, spot.y - other.y, spot.z - other.z);
              if (apart < spot.reachMm + other.reachMm) expect(near).toContain(i);
            });
          }
        },
      ),
    );
  });

  it('the worst overlap is that of looking at every pair', () => {
    const room = { widthMm: 60, heightMm: 60, depthMm: 40 } as Parameters<typeof worstOverlap>[1];
    fc.assert(
      fc.property(fc.array(anyPlaced, { maxLength: 25 }), (placed) => {
        const pairs = placed.flatMap((p, i) => placed.slice(i + 1).map((q) => overlapMm(p, q)));
        const most = Math.max(0.05, ...pairs);
        const found = worstOverlap(placed, room);
        if (most > 0.05) expect(found!.mm).toBeGreaterThanOrEqual(most - 1e-12);
        else expect(found?.second ?? 'wall').toBe('wall');
        if (found && found.second !== 'wall')
          expect(overlapMm(placed[found.first], placed[found.second])).toBeCloseTo(found.mm, 12);
      }),
    );
  });
});
