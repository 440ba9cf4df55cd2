import { contours } from 'd3-contour';
import type { Billet } from '../billet/billet.ts';
import type { Plane } from '../billet/face.ts';
import { sampleCodes } from './codes.ts';

/** A closed ring, mm from the face's lower left corner, x to the right, y up. */
export type FaceRing = readonly (readonly [x: number, y: number])[];

/** What one material covers on a face: outer rings with their holes. */
export interface FaceOutline {
  /** The material's code in the field. */
  readonly code: number;
  readonly polygons: readonly (readonly FaceRing[])[];
}

/** Samples each way in one cell: coverage is smooth, so that outlines do not show the grid. */
const FINE = 3;
/** Cells along the longer side at most. */
const MOST_CELLS = 900;

/**
 * The outlines of every material on a face, traced from a grid of its coverage (marching squares; d3-contour). `cellMm` is how
 * fine; outlines err by a small part of it, corners by up to half.
 */
export function faceOutlines(billet: Billet, plane: Plane, cellMm: number): FaceOutline[] {
  const cell = Math.max(cellMm, Math.max(plane.widthMm, plane.heightMm) / MOST_CELLS);
  const [w, h] = [
    Math.max(1, Math.round(plane.widthMm / cell)),
    Math.max(1, Math.round(plane.heightMm / cell)),
  ];
  const codes = sampleCodes(billet, plane, w * FINE, h * FINE);
  const present = [...new Set(codes)].filter((code) => code > 0).sort((a, b) => a - b);
  // A rim of empty cells closes the outlines at the very edge of the face.
  const [gw, gh] = [w + 2, h + 2];
  const [dx, dy] = [plane.widthMm / w, plane.heightMm / h];
  return present.map((code) => {
    const coverage = new Float64Array(gw * gh);
    for (let y = 0; y < h * FINE; y++)
      for (let x = 0; x < w * FINE; x++)
        if (codes[y * w * FINE + x] === code)
          coverage[(Math.floor(y / FINE) + 1) * gw + Math.floor(x / FINE) + 1] += 1 / (FINE * FINE);
    const [{ coordinates }] = contours().size([gw, gh]).thresholds([0.5])(Array.from(coverage));
    const place = ([x, y]: number[]): [number, number] => [
      Math.min(plane.widthMm, Math.max(0, (x - 1) * dx)),
      Math.min(plane.heightMm, Math.max(0, plane.heightMm - (y - 1) * dy)),
    ];
    return { code, polygons: coordinates.map((rings) => rings.map((ring) => ring.slice(0, -1).map(place))) };
  });
}

/** Area of polygons with holes, mm². */
export const outlinedArea = ({ polygons }: FaceOutline): number =>
  polygons.reduce(
    (sum, [outer, ...holes]) => sum + ringArea(outer) - holes.reduce((s, hole) => s + ringArea(hole), 0),
    0,
  );

const ringArea = (ring: FaceRing): number =>
  Math.abs(
    ring.reduce((sum, [x, y], i) => {
      const [x1, y1] = ring[(i + 1) % ring.length];
      return sum + x * y1 - x1 * y;
    }, 0),
  ) / 2;
