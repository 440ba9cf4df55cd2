import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import {
  biasBackward,
  biasForward,
  resquareBackward,
  resquareForward,
  resquareTable,
  slideAlongSquare,
  slideForError,
  tableStation,
} from './biasResquare.ts';

const inSquare = fc.tuple(
  fc.double({ min: -1, max: 1, noNaN: true }),
  fc.double({ min: -1, max: 1, noNaN: true }),
);
const degrees = (d: number) => (d * Math.PI) / 180;

describe('the ideal bias re-square', () => {
  // Handbook, geometry: table of points under "The ideal bias re-square".
  it.each([
    [0.5, 0, 0.47986, 0],
    [0.5, 0.25, 0.49676, 0.28082],
    [1, 0.2, 0.88124, 0.35943],
    [0.3, 0.9, 0.4673, 0.84106],
    [0.7, 0.7, 0.96192, 0.96192],
    [1.3, 0.05, 0.98283, 0.19108],
  ])('takes %d + %di to %d + %di', (x, y, u, v) => {
    const [nx, ny] = resquareForward(x, y);
    expect(Math.abs(nx - u)).toBeLessThan(1e-4);
    expect(Math.abs(ny - v)).toBeLessThan(1e-4);
  });

  it('lands the old outline on the new one within the handbook’s −0.23 … +0.34 %', () => {
    for (let i = 0; i <= 400; i++) {
      const along = i / 400;
      const [x, y] = resquareForward(Math.SQRT2 * (1 - along), Math.SQRT2 * along);
      const reach = Math.max(Math.abs(x), Math.abs(y)) - 1;
      expect(reach).toBeGreaterThan(-0.0024);
      expect(reach).toBeLessThan(0.0035);
    }
  });

  it('keeps area and comes back, anywhere in the section', () => {
    const h = 1e-5;
    fc.assert(
      fc.property(inSquare, ([x, y]) => {
        const [a, c] = resquareBackward(x + h, y);
        const [a0, c0] = resquareBackward(x - h, y);
        const [b, d] = resquareBackward(x, y + h);
        const [b0, d0] = resquareBackward(x, y - h);
        const jacobian = ((a - a0) * (d - d0) - (b - b0) * (c - c0)) / (4 * h * h);
        expect(Math.abs(jacobian - 1)).toBeLessThan(1e-3);
        const [u, v] = biasBackward(x, y, 'left');
        const [x2, y2] = biasForward(u, v, 'left');
        expect(Math.hypot(x2 - x, y2 - y)).toBeLessThan(1e-4);
      }),
    );
  });

  it('agrees with its baked quarter to 1e-4 between the nodes', () => {
    const { cells, sources } = resquareTable();
    const coordinate = (station: number) => {
      let [low, high] = [0, 1];
      for (let k = 0; k < 60; k++) {
        const middle = (low + high) / 2;
        if (tableStation(middle) < station) low = middle;
        else high = middle;
      }
      return low;
    };
    for (let j = 0; j < cells; j += 5)
      for (let i = 0; i < cells; i += 3) {
        const corner = (di: number, dj: number, k: number) =>
          sources[2 * ((j + dj) * (cells + 1) + i + di) + k];
        const middle = [0, 1].map(
          (k) => (corner(0, 0, k) + corner(1, 0, k) + corner(0, 1, k) + corner(1, 1, k)) / 4,
        );
        const [x, y] = resquareBackward(coordinate((i + 0.5) / cells), coordinate((j + 0.5) / cells));
        expect(Math.hypot(x - middle[0], y - middle[1])).toBeLessThan(1e-4);
      }
  });

  it('turns the corner line by exactly the angle error', () => {
    for (const error of [-20, -5, 0.5, 3, 10, 45])
      for (const reach of [0.1, 0.5, 0.95]) {
        const [x, y] = slideAlongSquare(reach, reach, slideForError(degrees(error)));
        expect(Math.atan2(y, x)).toBeCloseTo(degrees(45 + error), 10);
      }
  });

  it('slides along concentric squares without changing them, and back', () => {
    fc.assert(
      fc.property(inSquare, fc.double({ min: -1, max: 1, noNaN: true }), ([x, y], slide) => {
        const [u, v] = slideAlongSquare(x, y, slide);
        expect(Math.max(Math.abs(u), Math.abs(v))).toBeCloseTo(Math.max(Math.abs(x), Math.abs(y)), 12);
        const [x2, y2] = slideAlongSquare(u, v, -slide);
        expect(Math.hypot(x2 - x, y2 - y)).toBeLessThan(1e-9);
      }),
    );
  });

  it('runs flat layers corner to corner: their middle line along the diagonal, the old corners at the sides’ middles', () => {
    const [x, y] = biasForward(0.6, 0, 'left');
    expect(x).toBeCloseTo(y, 9);
    const [cx, cy] = biasForward(1, 1, 'left');
    expect(cx).toBeCloseTo(0, 6);
    expect(Math.abs(cy - 1)).toBeLessThan(0.004);
  });
});
