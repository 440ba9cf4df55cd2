import { interpolateViridis } from 'd3-scale-chromatic';
import { type FlowDone, type FlowSpec, startMesh } from '../../../../core/flow/run.ts';

/** What of the steel is shown as colour. */
export type Shade = 'strain' | 'push' | 'density';

/** Values of the elements, not a number where there is none, and the range that is shown. */
export interface Shading {
  readonly values: Float64Array;
  readonly least: number;
  readonly most: number;
}

/** Of all elements, so many at either end do not stretch the range: a corner would otherwise darken all the rest. */
const OUTLIERS = 0.01;

/** `pushes`: across the seams, of each element. */
export function shadingOf(
  stage: FlowDone,
  shade: Shade,
  unitMPa: number,
  pushes: () => Float64Array,
): Shading | null {
  const values =
    shade === 'density'
      ? stage.density?.map((d) => Math.min(1, d))
      : shade === 'strain'
        ? stage.strain
        : pushes().map((p) => p * unitMPa);
  if (!values) return null;
  const sorted = values.filter((v) => !Number.isNaN(v)).sort();
  const at = (share: number) => sorted[Math.round(share * (sorted.length - 1))] ?? 0;
  return { values, least: shade === 'density' ? sorted[0] : 0, most: Math.max(at(1 - OUTLIERS), 1e-9) };
}

/** Where there is nothing to tell. */
const NOTHING = '#b9bcbe';

/** Squares into which an element is cut each way, so that colour goes over evenly. */
const CUTS = 4;

/** Paints the section of a stage in colour: `perMm` px to a mm, its press's middle in the middle of the canvas. */
export function paintShading(
  canvas: HTMLCanvasElement,
  spec: FlowSpec,
  stage: FlowDone,
  { values, least, most }: Shading,
  perMm: number,
): void {
  const context = canvas.getContext('2d')!;
  context.clearRect(0, 0, canvas.width, canvas.height);
  const { quads } = startMesh(spec);
  const { x, y } = stage;
  const sums = new Float64Array(x.length);
  const counts = new Float64Array(x.length);
  quads.forEach((node, k) => {
    if (Number.isNaN(values[k >> 2])) return;
    sums[node] += values[k >> 2];
    counts[node]++;
  });
  const [cx, cy] = [canvas.width / 2, canvas.height / 2];
  for (let e = 0; e < quads.length; e += 4) {
    const nodes = [0, 1, 2, 3].map((k) => quads[e + k]);
    /** Of the four nodes, evenly, at a place in the element (0 … 1 each way). */
    const at = (of: (node: number) => number, u: number, v: number) =>
      (1 - u) * (1 - v) * of(nodes[0]) +
      u * (1 - v) * of(nodes[1]) +
      u * v * of(nodes[2]) +
      (1 - u) * v * of(nodes[3]);
    for (let i = 0; i < CUTS; i++)
      for (let j = 0; j < CUTS; j++) {
        const value = at((n) => sums[n] / counts[n], (i + 0.5) / CUTS, (j + 0.5) / CUTS);
        context.fillStyle = Number.isNaN(value)
          ? NOTHING
          : interpolateViridis(Math.min(1, Math.max(0, (value - least) / (most - least || 1))));
        context.strokeStyle = context.fillStyle;
        context.beginPath();
        for (const [a, b] of [
          [i, j],
          [i + 1, j],
          [i + 1, j + 1],
          [i, j + 1],
        ])
          context.lineTo(
            cx + perMm * at((n) => x[n], a / CUTS, b / CUTS),
            cy - perMm * at((n) => y[n], a / CUTS, b / CUTS),
          );
        context.closePath();
        context.fill();
        context.stroke();
      }
  }
}

/** The map of colours as a CSS background, from the least to the most. */
export const SCALE = `linear-gradient(to right, ${Array.from({ length: 11 }, (_, i) => interpolateViridis(i / 10)).join(', ')})`;
