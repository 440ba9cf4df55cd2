import { SAME_LENGTH_MM } from './tolerances.ts';

export type Point2 = readonly [x: number, y: number];

/** A closed section outline: corners in mm, counter-clockwise, centred on the bar's axis. The last corner joins the first. */
export type Outline = readonly Point2[];

/** A rectangle `widthMm` (x) by `heightMm` (y) centred on the axis. */
export function rectangle(widthMm: number, heightMm: number): Outline {
  const x = widthMm / 2;
  const y = heightMm / 2;
  return [
    [-x, -y],
    [x, -y],
    [x, y],
    [-x, y],
  ];
}

/** Area in mm² (shoelace formula); positive for a counter-clockwise outline. */
export function outlineArea(outline: Outline): number {
  let twice = 0;
  outline.forEach(([x0, y0], i) => {
    const [x1, y1] = outline[(i + 1) % outline.length];
    twice += x0 * y1 - x1 * y0;
  });
  return twice / 2;
}

export interface Box {
  minX: number;
  maxX: number;
  minY: number;
  maxY: number;
}

export function boundingBox(outline: Outline): Box {
  const box = { minX: Infinity, maxX: -Infinity, minY: Infinity, maxY: -Infinity };
  for (const [x, y] of outline) {
    box.minX = Math.min(box.minX, x);
    box.maxX = Math.max(box.maxX, x);
    box.minY = Math.min(box.minY, y);
    box.maxY = Math.max(box.maxY, y);
  }
  return box;
}

/** Width (x) and height (y) over all, in mm. */
export function outlineSize(outline: Outline): { widthMm: number; heightMm: number } {
  const box = boundingBox(outline);
  return { widthMm: box.maxX - box.minX, heightMm: box.maxY - box.minY };
}

export function isRectangle(outline: Outline): boolean {
  const box = boundingBox(outline);
  const full = (box.maxX - box.minX) * (box.maxY - box.minY);
  return outline.length === 4 && Math.abs(outlineArea(outline) - full) <= SAME_LENGTH_MM * full;
}

/** Whether a point lies in the outline or on its rim (even-odd rule, rim counted in). */
export function contains(outline: Outline, x: number, y: number): boolean {
  let inside = false;
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [x0, y0] = outline[i];
    const [x1, y1] = outline[j];
    if (y0 > y !== y1 > y && x < x0 + ((y - y0) * (x1 - x0)) / (y1 - y0)) inside = !inside;
  }
  return inside;
}

/** The part of an outline with nx·x + ny·y ≤ limit (Sutherland–Hodgman; exact for convex outlines). */
export function clipOutline(outline: Outline, nx: number, ny: number, limit: number): Outline {
  const kept: [number, number][] = [];
  outline.forEach(([x0, y0], i) => {
    const [x1, y1] = outline[(i + 1) % outline.length];
    const over0 = nx * x0 + ny * y0 - limit;
    const over1 = nx * x1 + ny * y1 - limit;
    if (over0 <= 0) kept.push([x0, y0]);
    if (over0 < 0 !== over1 < 0 && over0 !== over1 && over0 !== 0 && over1 !== 0) {
      const t = over0 / (over0 - over1);
      // Upright and level cuts to the last digit.
      kept.push([ny === 0 ? nx * limit : x0 + t * (x1 - x0), nx === 0 ? ny * limit : y0 + t * (y1 - y0)]);
    }
  });
  return kept;
}

/** Whether no corner turns inward. */
export const isConvex = (outline: Outline): boolean =>
  outline.every(([x0, y0], i) => {
    const [x1, y1] = outline[(i + 1) % outline.length];
    const [x2, y2] = outline[(i + 2) % outline.length];
    return (
      (x1 - x0) * (y2 - y1) - (y1 - y0) * (x2 - x1) >=
      -1e-9 * (Math.hypot(x1 - x0, y1 - y0) * Math.hypot(x2 - x1, y2 - y1))
    );
  });

/** Whether every ray from the axis meets the outline once. */
export const isSeenFromAxis = (outline: Outline): boolean =>
  outline.every(([x0, y0], i) => {
    const [x1, y1] = outline[(i + 1) % outline.length];
    return x0 * y1 - y0 * x1 > 0;
  });

/** A step is drawn out over so many times its height, and what is left of steps again, so often at most. */
const EASED = 5;
const MOST_EASINGS = 4;

/** Every ray from the axis meets it once: the outline itself, or with its steps drawn out to slopes; null where that is not enough. */
export function seenWhole(outline: Outline): Outline | null {
  let now = outline;
  for (let i = 0; i < MOST_EASINGS && !isSeenFromAxis(now); i++) now = eased(now);
  return isSeenFromAxis(now) ? now : null;
}

/** With every corner that turns inward moved along the longer of its sides. */
const eased = (outline: Outline): Outline =>
  outline.map((v, i): Point2 => {
    if (turnAt(outline, i) >= 0) return v;
    const n = outline.length;
    const [before, after] = [outline[(i + n - 1) % n], outline[(i + 1) % n]];
    const [a, b] = [before, after].map((p) => Math.hypot(p[0] - v[0], p[1] - v[1]));
    const [to, long, short] = a > b ? [before, a, b] : [after, b, a];
    const share = Math.min(0.5, (EASED * short) / long);
    return [v[0] + share * (to[0] - v[0]), v[1] + share * (to[1] - v[1])];
  });

export const scaleOutline = (outline: Outline, sx: number, sy: number): Outline =>
  outline.map(([x, y]) => [x * sx, y * sy]);

export const moveOutline = (outline: Outline, dx: number, dy: number): Outline =>
  outline.map(([x, y]) => [x + dx, y + dy]);

/** How far an outline turns to the left at its i-th point, rad. */
export function turnAt(outline: Outline, i: number): number {
  const n = outline.length;
  const [a, p, b] = [outline[(i + n - 1) % n], outline[i], outline[(i + 1) % n]];
  const [ux, uy, vx, vy] = [p[0] - a[0], p[1] - a[1], b[0] - p[0], b[1] - p[1]];
  return Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy);
}

/** The place on an outline that is nearest to a point, the side on which it lies, and its share of the way along that. */
export function placeOn(
  outline: Outline,
  x: number,
  y: number,
): { readonly at: Point2; readonly side: number; readonly share: number } {
  let best = { at: outline[0], side: 0, share: 0 };
  let least = Infinity;
  outline.forEach(([x0, y0], i) => {
    const [x1, y1] = outline[(i + 1) % outline.length];
    const [dx, dy] = [x1 - x0, y1 - y0];
    const along = ((x - x0) * dx + (y - y0) * dy) / (dx * dx + dy * dy || 1);
    const share = Math.min(1, Math.max(0, along));
    const at: Point2 = [x0 + dx * share, y0 + dy * share];
    const far = (at[0] - x) ** 2 + (at[1] - y) ** 2;
    if (far < least) [least, best] = [far, { at, side: i, share }];
  });
  return best;
}

/** A regular polygon of `sides` corners and a given area, a side facing right. */
export function regularPolygon(sides: number, areaMm2: number): Outline {
  const half = Math.PI / sides;
  const radius = Math.sqrt(areaMm2 / (sides * Math.sin(half) * Math.cos(half)));
  return Array.from({ length: sides }, (_, i) => [
    radius * Math.cos((2 * i + 1) * half),
    radius * Math.sin((2 * i + 1) * half),
  ]);
}

/**
 * How far a section leans to the right, rad: as the upright sides of the parallelogram do that lies level and has the same second
 * moments about its middle, which for a parallelogram is itself. A slide by y·t puts t·∫y² into ∫xy.
 */
export function leanOf(outline: Outline): number {
  const edges = outline.map((from, i) => [from, outline[(i + 1) % outline.length]] as const);
  const cross = ([[x0, y0], [x1, y1]]: (typeof edges)[number]) => x0 * y1 - x1 * y0;
  const sum = (of: (edge: (typeof edges)[number]) => number) => edges.reduce((t, edge) => t + of(edge), 0);
  const area = sum(cross) / 2;
  const cx = sum((e) => cross(e) * (e[0][0] + e[1][0])) / (6 * area);
  const cy = sum((e) => cross(e) * (e[0][1] + e[1][1])) / (6 * area);
  const yy = sum((e) => cross(e) * (e[0][1] ** 2 + e[0][1] * e[1][1] + e[1][1] ** 2)) / 12 - area * cy ** 2;
  const xy =
    sum((e) => {
      const [[x0, y0], [x1, y1]] = e;
      return cross(e) * (x0 * y1 + 2 * x0 * y0 + 2 * x1 * y1 + x1 * y0);
    }) /
      24 -
    area * cx * cy;
  return Math.atan2(xy, yy);
}
