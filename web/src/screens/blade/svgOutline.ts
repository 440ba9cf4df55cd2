/** Bytes of SVG that are looked at, and points taken along its outline. */
const MOST_BYTES = 400_000;
/** More shapes than this are not looked at. */
const MOST_SHAPES = 200;
const POINTS = 72;

export type OutlineRead =
  { ok: true; outline: [number, number][]; aspect: number } | { ok: false; message: string };

const refuse = (message: string): OutlineRead => ({ ok: false, message });

const SHAPES = 'path, polygon, polyline, rect, ellipse, circle';

/**
 * The longest outline of a drawing, heel to tip 0…1 and edge to spine 0…1 (a drawing's y runs down). Only geometry is read:
 * nothing in the file is run, fetched or shown.
 */
export function outlineFromSvg(text: string): OutlineRead {
  if (text.length > MOST_BYTES) return refuse('This drawing is too large: at most 400 kB.');
  const parsed = new DOMParser().parseFromString(text, 'image/svg+xml');
  if (parsed.querySelector('parsererror') || parsed.documentElement.localName !== 'svg')
    return refuse('This is not an SVG drawing.');
  const shapes = [...parsed.querySelectorAll(SHAPES)].slice(0, MOST_SHAPES).flatMap(geometryOf);
  const longest = shapes.sort((a, b) => b.getTotalLength() - a.getTotalLength())[0];
  if (!longest || longest.getTotalLength() <= 0) return refuse('There is no outline in this drawing.');
  const whole = longest.getTotalLength();
  const points = Array.from({ length: POINTS }, (_, i) => longest.getPointAtLength((i / POINTS) * whole));
  const xs = points.map((p) => p.x);
  const ys = points.map((p) => p.y);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  if (!(x1 > x0 && y1 > y0)) return refuse('The outline in this drawing has no area.');
  return {
    ok: true,
    aspect: (y1 - y0) / (x1 - x0),
    outline: points.map((p) => [(p.x - x0) / (x1 - x0), (y1 - p.y) / (y1 - y0)]),
  };
}

/** A fresh element with the geometry of one from the file and nothing else of it. */
function geometryOf(element: Element): SVGGeometryElement[] {
  const fresh = document.createElementNS('http://www.w3.org/2000/svg', element.localName);
  for (const name of ['d', 'points', 'x', 'y', 'width', 'height', 'rx', 'ry', 'cx', 'cy', 'r']) {
    const value = element.getAttribute(name);
    if (value !== null) fresh.setAttribute(name, value);
  }
  return fresh instanceof SVGGeometryElement ? [fresh] : [];
}
