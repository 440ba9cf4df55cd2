import { type Colord, colord, extend } from 'colord';
import namesPlugin from 'colord/plugins/names';
import type { Point2 } from '../geometry/outline.ts';
import {
  type Region,
  boxOf,
  cornersOf,
  crossMoreThan,
  crossings,
  joined,
  mappedRegion,
  strokeOf,
  tidied,
  without,
} from '../geometry/regions.ts';
import { type Drawing, type DrawingRead, MOST_MENDED, MOST_TONES, refused, settled } from './drawing.ts';
import { type Matrix, SAME, applied, flattened, matrixOf, pathOf, times } from './svgPaths.ts';
import { PLAIN, type Style, classesOf, numberOr, styleOf } from './svgStyle.ts';
import { MOST_ELEMENTS, type Node, Refusal, parsed } from './svgNodes.ts';

extend([namesPlugin]);

/** Shapes that are drawn, and corners of all their outlines before they are joined. */
const MOST_SHAPES = 4000;
const MOST_RAW_CORNERS = 200_000;
/** Places where one shape may cross itself: parting it takes as long as there are of them. */
const MOST_CROSSED = 5000;
/** Corners of a shape below which it cannot cross itself so often that it matters. */
const FEW_CORNERS = 100;
/** Outlines are straightened to this share of the drawing's size. */
const FLATNESS = 1 / 6000;
/** Copies of copies of copies. */
const MOST_COPIES_DEEP = 8;

interface Shape {
  readonly data: string;
  readonly matrix: Matrix;
  readonly style: Style;
}

/** Not drawn where they stand. */
const UNDRAWN = new Set([
  'defs',
  'clipPath',
  'mask',
  'pattern',
  'marker',
  'symbol',
  'title',
  'desc',
  'metadata',
  'style',
  'linearGradient',
  'radialGradient',
  'filter',
]);

/** Everything drawn, in order, with copies set out. */
function shapesOf(root: Node, notes: Set<string>): Shape[] {
  const classes = classesOf(root);
  const byId = new Map<string, Node>();
  const index = (node: Node): void => {
    if (node.attributes.id) byId.set(node.attributes.id, node);
    node.children.forEach(index);
  };
  index(root);
  const shapes: Shape[] = [];
  let visited = 0;
  const visit = (node: Node, matrix: Matrix, above: Style, copies: number): void => {
    if (++visited > MOST_ELEMENTS)
      throw new Refusal(`With its copies set out this drawing has more than ${MOST_ELEMENTS} elements.`);
    const { name, attributes: a } = node;
    if (UNDRAWN.has(name)) return;
    const style = styleOf(node, above, classes);
    if (!style.visible) return;
    const here = times(matrix, matrixOf(a.transform));
    if (name === 'text') notes.add('Text is left out: turn it into paths in the drawing program.');
    if (name === 'image') notes.add('Pictures inside the drawing are left out: open them by themselves.');
    if (a['clip-path'] || a.mask) notes.add('Clips and masks are not followed.');
    if (a['stroke-dasharray'] && a['stroke-dasharray'] !== 'none')
      notes.add('Dashed lines are taken as whole.');
    if (name === 'use') {
      const target = byId.get((a.href ?? a['xlink:href'] ?? '').slice(1));
      if (!target) return;
      if (copies >= MOST_COPIES_DEEP)
        throw new Refusal('Copies in this drawing are made of copies without end.');
      const moved = times(here, [1, 0, 0, 1, numberOr(a.x, 0), numberOr(a.y, 0)]);
      if (target.name === 'symbol')
        for (const child of target.children) visit(child, moved, style, copies + 1);
      else visit(target, moved, style, copies + 1);
      return;
    }
    const data = pathOf(node);
    if (data !== null) {
      shapes.push({ data, matrix: here, style });
      if (shapes.length > MOST_SHAPES)
        throw new Refusal(`This drawing has more than ${MOST_SHAPES} shapes: simplify it first.`);
    }
    for (const child of node.children) visit(child, here, style, copies);
  };
  visit(root, SAME, PLAIN, 0);
  return shapes;
}

function colourOf(text: string, style: Style, notes: Set<string>): Colord | null {
  const value = text === 'currentColor' ? style.colour : text;
  if (value === 'none' || value === 'transparent' || value === 'inherit') return null;
  if (value.startsWith('url')) {
    notes.add('Gradients and patterns are taken as one middle grey.');
    return colord('#808080');
  }
  const colour = colord(value);
  return colour.isValid() ? (colour.alpha() > 0.02 ? colour : null) : colord('#000000');
}

/** A drawn part: where, and what colour. */
interface Part {
  readonly region: Region;
  readonly colour: Colord;
}

/** The size over all, from the corners and handles of every path. */
function sizeOver(shapes: readonly Shape[]): number {
  const points: Point2[] = [];
  for (const { data, matrix } of shapes)
    for (const { points: line } of flattened(data, Infinity))
      for (const p of line) points.push(applied(matrix, p));
  const box = boxOf([points]);
  return box ? Math.max(box.maxX - box.minX, box.maxY - box.minY, 1e-6) : 1;
}

function mustBePlain(rings: Region): void {
  if (cornersOf(rings) > FEW_CORNERS && crossMoreThan(rings, MOST_CROSSED))
    throw new Refusal(
      `A shape in this drawing crosses itself in more than ${MOST_CROSSED} places: part or simplify it in the drawing program first.`,
    );
}

function partsOf(shapes: readonly Shape[], notes: Set<string>, mended: Point2[]): Part[] {
  const size = sizeOver(shapes);
  // Everything is worked on at one size, so that what is kept of a fraction does not depend on the drawing's units.
  const fit: Matrix = [100 / size, 0, 0, -100 / size, 0, 0];
  const parts: Part[] = [];
  let corners = 0;
  for (const { data, matrix, style } of shapes) {
    const whole = times(fit, matrix);
    const stretch = Math.sqrt(Math.abs(whole[0] * whole[3] - whole[1] * whole[2])) || 1;
    const tolerance = (100 * FLATNESS) / stretch;
    const lines = flattened(data, tolerance);
    corners += lines.reduce((sum, l) => sum + l.points.length, 0);
    if (corners > MOST_RAW_CORNERS)
      throw new Refusal(
        `The outlines have more than ${MOST_RAW_CORNERS} corners: simplify the drawing first.`,
      );
    const fill = colourOf(style.fill, style, notes);
    const place = (p: Point2) => applied(whole, p);
    if (fill) {
      const rings = lines.filter((l) => l.points.length > 2).map((l) => l.points.map(place));
      mustBePlain(rings);
      mended.push(...crossings(rings));
      const region = tidied(rings, style.rule);
      if (region.length > 0) parts.push({ region, colour: fill });
    }
    const stroke = colourOf(style.stroke, style, notes);
    if (stroke && style.strokeWidth > 0)
      for (const { points, closed } of lines) {
        mustBePlain([points]);
        const { strokeWidth, cap, join, miterLimit } = style;
        const drawn = strokeOf(points, closed, strokeWidth, cap, join, miterLimit, tolerance);
        // A mirrored map turns rings round: tidied by crossings inside, not by turning.
        parts.push({ region: tidied(mappedRegion(drawn, place), 'evenodd'), colour: stroke });
      }
  }
  return parts;
}

const luminance = (colour: Colord): number => {
  const { r, g, b } = colour.toRgb();
  return (0.2126 * r + 0.7152 * g + 0.0722 * b) / 255;
};

/** As many tones as are taken: colours as they are, or, where there are more, gathered by how light they are. */
function tonesOf(parts: readonly Part[]): Drawing['tones'] {
  const colours = [...new Set(parts.map((p) => p.colour.toHex()))];
  const gathered = (hex: string): string => {
    if (colours.length <= MOST_TONES) return hex;
    const step = Math.min(MOST_TONES - 1, Math.floor(luminance(colord(hex)) * MOST_TONES));
    const grey = Math.round((255 * (step + 0.5)) / MOST_TONES);
    return colord({ r: grey, g: grey, b: grey }).toHex();
  };
  const shown = new Map<string, Region>();
  for (const { region, colour } of parts) {
    const mine = gathered(colour.toHex());
    // What is painted later covers what is under it.
    for (const [other, there] of shown) if (other !== mine) shown.set(other, without(there, region));
    shown.set(mine, joined(shown.get(mine) ?? [], region));
  }
  return [...shown]
    .map(([colour, region]) => ({ colour: colour.slice(0, 7), tone: luminance(colord(colour)), region }))
    .filter(({ region }) => region.length > 0)
    .sort((a, b) => a.tone - b.tone);
}

/**
 * The filled shapes and drawn lines of an SVG drawing as outlines by tone: paths with holes, transforms, copies, style sheets of
 * plain classes; strokes become outlines; what lies under something else is cut away. Nothing in the file is run, fetched or
 * shown. Refused, with the reason, where it is broken, too large, or asks for something from elsewhere.
 */
export function drawingFromSvg(text: string): DrawingRead {
  try {
    const notes = new Set<string>();
    const mended: Point2[] = [];
    const shapes = shapesOf(parsed(text), notes);
    if (shapes.length === 0) return refused('There is no shape in this drawing.');
    const tones = tonesOf(partsOf(shapes, notes, mended));
    return settled(tones, mended.slice(0, MOST_MENDED), [...notes]);
  } catch (error) {
    if (error instanceof Refusal) return refused(error.message);
    throw error;
  }
}
