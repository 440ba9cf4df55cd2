import svgpath from 'svgpath';
import type { Point2 } from '../geometry/outline.ts';
import { type Ring } from '../geometry/regions.ts';
import { numberOr } from './svgStyle.ts';
import type { Node } from './svgNodes.ts';

/** The outline of a basic shape as path data; null for what draws nothing. */
export function pathOf({ name, attributes: a }: Node): string | null {
  const n = (key: string) => numberOr(a[key], 0);
  const round = (cx: number, cy: number, rx: number, ry: number) =>
    rx > 0 && ry > 0
      ? `M${cx - rx} ${cy}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0z`
      : null;
  switch (name) {
    case 'path':
      return a.d ?? null;
    case 'rect': {
      const [w, h] = [n('width'), n('height')];
      if (!(w > 0 && h > 0)) return null;
      const rx = Math.min(w / 2, numberOr(a.rx, numberOr(a.ry, 0)));
      const ry = Math.min(h / 2, numberOr(a.ry, rx));
      return rx > 0 && ry > 0
        ? `M${n('x') + rx} ${n('y')}h${w - 2 * rx}a${rx} ${ry} 0 0 1 ${rx} ${ry}v${h - 2 * ry}a${rx} ${ry} 0 0 1 ${-rx} ${ry}h${2 * rx - w}a${rx} ${ry} 0 0 1 ${-rx} ${-ry}v${2 * ry - h}a${rx} ${ry} 0 0 1 ${rx} ${-ry}z`
        : `M${n('x')} ${n('y')}h${w}v${h}h${-w}z`;
    }
    case 'circle':
      return round(n('cx'), n('cy'), n('r'), n('r'));
    case 'ellipse':
      return round(n('cx'), n('cy'), n('rx'), n('ry'));
    case 'line':
      return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`;
    case 'polyline':
    case 'polygon': {
      const points = (a.points ?? '').match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? [];
      return points.length >= 4 ? `M${points.join(' ')}${name === 'polygon' ? 'z' : ''}` : null;
    }
    default:
      return null;
  }
}

interface Line {
  readonly points: Ring;
  readonly closed: boolean;
}

/** Path data as straight lines, off the curve by at most `tolerance`. */
export function flattened(data: string, tolerance: number): Line[] {
  const lines: Line[] = [];
  let now: Point2[] = [];
  const end = (closed: boolean) => {
    if (now.length > 1) lines.push({ points: now, closed });
    now = [];
  };
  const curve = (p: readonly Point2[]) => {
    // A Bézier strays from its chords by an eighth (cubic: 3/4 · d/…) of its second differences over the square of their number.
    const bends = p
      .slice(2)
      .map((q, i) => Math.hypot(q[0] - 2 * p[i + 1][0] + p[i][0], q[1] - 2 * p[i + 1][1] + p[i][1]));
    const degree = p.length - 1;
    const most = (degree * (degree - 1) * Math.max(...bends)) / 8;
    const steps = Math.min(200, Math.max(1, Math.ceil(Math.sqrt(most / tolerance))));
    for (let k = 1; k <= steps; k++) now.push(bezierAt(p, k / steps));
  };
  svgpath(data)
    .abs()
    .unarc()
    .unshort()
    .iterate((segment, _i, x, y) => {
      const [kind, ...v] = segment as [string, ...number[]];
      if (v.some((c) => !Number.isFinite(c))) return;
      if (kind === 'M') {
        end(false);
        now = [[v[0], v[1]]];
      } else if (kind === 'Z') {
        const first = now[0] as Point2 | undefined;
        end(true);
        if (first) now = [first];
      } else {
        if (now.length === 0) now = [[x, y]];
        if (kind === 'L') now.push([v[0], v[1]]);
        else if (kind === 'H') now.push([v[0], y]);
        else if (kind === 'V') now.push([x, v[0]]);
        else if (kind === 'Q')
          curve([
            [x, y],
            [v[0], v[1]],
            [v[2], v[3]],
          ]);
        else if (kind === 'C')
          curve([
            [x, y],
            [v[0], v[1]],
            [v[2], v[3]],
            [v[4], v[5]],
          ]);
      }
    });
  end(false);
  return lines;
}

/** de Casteljau. */
function bezierAt(points: readonly Point2[], t: number): Point2 {
  let p = points;
  while (p.length > 1)
    p = p.slice(1).map((q, i): Point2 => [p[i][0] + (q[0] - p[i][0]) * t, p[i][1] + (q[1] - p[i][1]) * t]);
  return p[0];
}

/** a b c d e f of a plane map, as SVG writes them. */
export type Matrix = readonly [number, number, number, number, number, number];
export const SAME: Matrix = [1, 0, 0, 1, 0, 0];

export const times = (m: Matrix, n: Matrix): Matrix => [
  m[0] * n[0] + m[2] * n[1],
  m[1] * n[0] + m[3] * n[1],
  m[0] * n[2] + m[2] * n[3],
  m[1] * n[2] + m[3] * n[3],
  m[0] * n[4] + m[2] * n[5] + m[4],
  m[1] * n[4] + m[3] * n[5] + m[5],
];

export const applied = (m: Matrix, [x, y]: Point2): Point2 => [
  m[0] * x + m[2] * y + m[4],
  m[1] * x + m[3] * y + m[5],
];

/** The map that a transform text means: read off what it does to three points. */
export function matrixOf(text: string | undefined): Matrix {
  if (!text) return SAME;
  const moved: Point2[] = [];
  svgpath('M0 0L1 0L0 1')
    .transform(text.slice(0, 2000))
    .iterate((segment) => {
      const [, x, y] = segment as [string, number, number];
      moved.push([x, y]);
    });
  const [o, i, j] = moved;
  const m: Matrix = [i[0] - o[0], i[1] - o[1], j[0] - o[0], j[1] - o[1], o[0], o[1]];
  return m.every(Number.isFinite) ? m : SAME;
}
