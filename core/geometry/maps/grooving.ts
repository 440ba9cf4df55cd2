import type { Coordinates, PointMap } from './pointMap.ts';

/** Grooves across (angle 0) or slanting, or dimples in rows, repeated along the bar. Lengths mm. */
export interface Grooves {
  readonly pattern: 'across' | 'diagonal' | 'dimples';
  readonly depthMm: number;
  readonly widthMm: number;
  readonly pitchMm: number;
  /** Slant of diagonal grooves against straight across, rad. */
  readonly slantRad: number;
  /** Whether the top has them, and by how much those of the bottom, where it has any, lie further from end A. */
  readonly top: boolean;
  readonly bottomShiftMm: number | null;
}

/** Cells a pitch: thicknesses are taken as even within a cell, so that there and back are exact. */
const CELLS = 96;

const hollow = (distance: number, widthMm: number): number =>
  Math.abs(distance) >= widthMm / 2 ? 0 : 0.5 * (1 + Math.cos((2 * Math.PI * distance) / widthMm));

const nearest = (at: number, pitch: number): number => at - pitch * Math.round(at / pitch);

/** How deep the groove is at a place on the face: `across` from the bar's axis, `along` from end A. mm. */
export function grooveDepth(g: Grooves, across: number, along: number): number {
  if (g.pattern !== 'dimples')
    return g.depthMm * hollow(nearest(along + across * Math.tan(g.slantRad), g.pitchMm), g.widthMm);
  const row = Math.round(across / g.pitchMm);
  const shift = row % 2 === 0 ? 0 : g.pitchMm / 2;
  const dx = across - row * g.pitchMm;
  const dz = nearest(along - shift, g.pitchMm);
  return g.depthMm * hollow(Math.hypot(dx, dz), g.widthMm);
}

/** How deep it is there on each face, mm. */
export const depthsAt = (g: Grooves, across: number, along: number): { top: number; bottom: number } => ({
  top: g.top ? grooveDepth(g, across, along) : 0,
  bottom: g.bottomShiftMm === null ? 0 : grooveDepth(g, across, along - g.bottomShiftMm),
});

interface Line {
  /** Thickness of each cell of one pitch, how much of the bottom is gone there, and where the cell ends after, as shares of the pitch. */
  readonly thickness: Float64Array;
  readonly bottom: Float64Array;
  readonly ends: Float64Array;
  readonly mean: number;
}

/**
 * Steel of thickness t less the grooves, forged to one even thickness: columns thicker than the rest spread along the bar,
 * thinner ones draw in, and every column is stretched up to the new face, so volume is kept cell by cell (the handbook's
 * column map, with the lengthening taken along z; for dimples lines of unlike mean thickness also share the width).
 * y from the middle; grooves in the top face, the bottom or both.
 */
export class Grooving implements PointMap {
  readonly usesZ = true;
  /** Even thickness after forging flat, mm. */
  readonly toThicknessMm: number;
  private readonly lines: Line[];
  private readonly edges: Float64Array;
  private readonly newEdges: Float64Array;
  private readonly grooves: Grooves;
  private readonly thicknessMm: number;
  private readonly halfWidthMm: number;

  constructor(grooves: Grooves, thicknessMm: number, widthMm: number) {
    this.grooves = grooves;
    this.thicknessMm = thicknessMm;
    this.halfWidthMm = widthMm / 2;
    const count = grooves.pattern === 'dimples' ? CELLS : 1;
    this.edges = Float64Array.from({ length: count + 1 }, (_, k) => -widthMm / 2 + (widthMm * k) / count);
    this.lines = Array.from({ length: count }, (_, k) =>
      this.line(count === 1 ? 0 : (this.edges[k] + this.edges[k + 1]) / 2),
    );
    this.toThicknessMm = this.lines.reduce((sum, l) => sum + l.mean, 0) / count;
    this.newEdges = new Float64Array(count + 1).fill(-widthMm / 2);
    for (let k = 0; k < count; k++)
      this.newEdges[k + 1] =
        this.newEdges[k] + ((this.edges[k + 1] - this.edges[k]) * this.lines[k].mean) / this.toThicknessMm;
  }

  private line(across: number): Line {
    const { pitchMm } = this.grooves;
    // Slanting grooves are the same line everywhere, shifted along the bar.
    const along = { ...this.grooves, slantRad: 0 };
    const depths = Array.from({ length: CELLS }, (_, i) =>
      depthsAt(along, across, ((i + 0.5) * pitchMm) / CELLS),
    );
    const thickness = Float64Array.from(depths, (d) => this.thicknessMm - d.top - d.bottom);
    const bottom = Float64Array.from(depths, (d) => d.bottom);
    const sum = thickness.reduce((a, b) => a + b, 0);
    let end = 0;
    const ends = thickness.map((t) => (end += t / sum));
    ends[CELLS - 1] = 1;
    return { thickness, bottom, ends, mean: sum / CELLS };
  }

  forward(points: Coordinates): void {
    for (let i = 0; i < points.count; i++) this.move(points, i, true);
  }

  backward(points: Coordinates): void {
    for (let i = 0; i < points.count; i++) this.move(points, i, false);
  }

  private move(points: Coordinates, i: number, forward: boolean): void {
    const { x, y, z } = points;
    const [from, to] = forward ? [this.edges, this.newEdges] : [this.newEdges, this.edges];
    const k = this.lineAt(from, x[i]);
    const line = this.lines[k];
    if (this.lines.length > 1)
      x[i] = to[k] + ((x[i] - from[k]) * (to[k + 1] - to[k])) / (from[k + 1] - from[k]);
    const shift = this.grooves.pattern === 'diagonal' ? x[i] * Math.tan(this.grooves.slantRad) : 0;
    const { pitchMm } = this.grooves;
    const at = (z[i] + shift) / pitchMm;
    const pitch = Math.floor(at);
    const share = at - pitch;
    const cell = forward ? Math.min(CELLS - 1, Math.floor(share * CELLS)) : cellAt(line.ends, share);
    const start = cell === 0 ? 0 : line.ends[cell - 1];
    const moved = forward
      ? start + (share * CELLS - cell) * (line.ends[cell] - start)
      : (cell + (share - start) / (line.ends[cell] - start)) / CELLS;
    z[i] = (pitch + moved) * pitchMm - shift;
    const stretch = this.toThicknessMm / line.thickness[cell];
    const bottom = line.bottom[cell] - this.thicknessMm / 2;
    y[i] = forward
      ? (y[i] - bottom) * stretch - this.toThicknessMm / 2
      : (y[i] + this.toThicknessMm / 2) / stretch + bottom;
  }

  private lineAt(edges: Float64Array, across: number): number {
    const last = this.lines.length - 1;
    if (last === 0) return 0;
    let k = Math.max(
      0,
      Math.min(last, Math.floor(((across + this.halfWidthMm) / (2 * this.halfWidthMm)) * (last + 1))),
    );
    while (k < last && across > edges[k + 1]) k++;
    while (k > 0 && across < edges[k]) k--;
    return k;
  }
}

/** The first cell whose end lies past `share`. */
function cellAt(ends: Float64Array, share: number): number {
  let low = 0;
  let high = ends.length - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ends[middle] < share) low = middle + 1;
    else high = middle;
  }
  return low;
}
