import { type Outline, boundingBox, isRectangle } from './outline.ts';

export type SectionShape = 'rectangle' | 'leaning' | 'triangle' | 'octagon' | 'round' | 'other';

/** What a shop would call the section. */
export function shapeOf(outline: Outline): SectionShape {
  if (isRectangle(outline)) return 'rectangle';
  if (outline.length === 3 || wedgeOf(outline)) return 'triangle';
  if (isParallelogram(outline)) return 'leaning';
  if (!isRegular(outline)) return 'other';
  return outline.length === 8 ? 'octagon' : outline.length >= 24 ? 'round' : 'other';
}

/** Share. Corners of a regular section are this alike in their distance from the axis. */
const REGULAR = 1e-6;

function isRegular(outline: Outline): boolean {
  const radii = outline.map(([x, y]) => Math.hypot(x, y));
  return Math.max(...radii) - Math.min(...radii) <= REGULAR * Math.max(...radii);
}

/** Share of a section's size by which corners that should lie on one line may miss it. */
const STRAIGHT = 1e-6;

function isParallelogram(outline: Outline): boolean {
  if (outline.length !== 4) return false;
  const [a, b, c, d] = outline;
  const size = Math.hypot(c[0] - a[0], c[1] - a[1]);
  return Math.hypot(a[0] + c[0] - b[0] - d[0], a[1] + c[1] - b[1] - d[1]) <= STRAIGHT * size;
}

/** A wedge, pointed or blunt: broad side, blunt side (0 where it has a point) and how deep, mm; how it is turned, counter-clockwise, to stand point down. */
export interface Wedge {
  readonly baseMm: number;
  readonly bluntMm: number;
  readonly deepMm: number;
  readonly toPointDown: 0 | 1 | 2 | 3;
}

/** A section of three or four corners whose broad side lies level or upright, the other ones alike on both sides; null of any other. */
export function wedgeOf(outline: Outline): Wedge | null {
  if (outline.length !== 3 && outline.length !== 4) return null;
  for (const toPointDown of [0, 1, 2, 3] as const) {
    const [cos, sin] = [[1, 0, -1, 0][toPointDown], [0, 1, 0, -1][toPointDown]];
    const turned = outline.map(([x, y]) => [cos * x - sin * y, sin * x + cos * y] as const);
    const { minX, maxX, minY, maxY } = boundingBox(turned);
    const near = STRAIGHT * Math.max(maxX - minX, maxY - minY);
    const at = (y: number) => turned.filter((p) => Math.abs(p[1] - y) <= near).map(([x]) => x);
    const [above, below] = [at(maxY), at(minY)];
    const spanOf = (xs: readonly number[]) => Math.max(...xs) - Math.min(...xs);
    const middle = (xs: readonly number[]) => (Math.max(...xs) + Math.min(...xs)) / 2;
    if (above.length !== 2 || above.length + below.length !== outline.length) continue;
    const [baseMm, bluntMm] = [spanOf(above), spanOf(below)];
    if (Math.abs(middle(above) - middle(below)) > near || baseMm - bluntMm <= near) continue;
    return { baseMm, bluntMm, deepMm: maxY - minY, toPointDown };
  }
  return null;
}
