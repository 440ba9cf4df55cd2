import { type Colord, colord, extend } from 'colord';
import namesPlugin from 'colord/plugins/names';
import { SaxesParser } from 'saxes';
import svgpath from 'svgpath';
import type { Point2 } from '../geometry/outline.ts';
import {
  type LineCap,
  type LineJoin,
  type Region,
  type Ring,
  type Rule,
  boxOf,
  crossings,
  joined,
  mappedRegion,
  strokeOf,
  tidied,
  without,
} from '../geometry/regions.ts';
import { type Drawing, type DrawingRead, MOST_TONES, refused, settled } from './drawing.ts';

extend([namesPlugin]);

/** Characters of a file, elements in it (also after copies are set out), and how deep they nest. */
const MOST_TEXT = 4_000_000;
const MOST_ELEMENTS = 20_000;
const MOST_DEPTH = 200;
/** Shapes that are drawn, and corners of all their outlines before they are joined. */
const MOST_SHAPES = 4000;
const MOST_RAW_CORNERS = 200_000;
/** Outlines are straightened to this share of the drawing's size. */
const FLATNESS = 1 / 6000;
/** Copies of copies of copies. */
const MOST_COPIES_DEEP = 8;

interface Node {
  readonly name: string;
  readonly attributes: Record<string, string>;
  readonly children: Node[];
  text: string;
}

/** A file that is not taken, and why. */
class Refusal extends Error {}

const localName = (name: string): string => name.slice(name.indexOf(':') + 1);

/** The elements of a file as a tree. Nothing in it is run, fetched or expanded; what could ask for that is refused. */
function parsed(text: string): Node {
  if (text.length > MOST_TEXT) throw new Refusal('This drawing is too large: at most 4 MB.');
  const parser = new SaxesParser();
  const open: Node[] = [];
  let root: Node | null = null;
  let count = 0;
  const stop = (why: string): never => {
    throw new Refusal(why);
  };
  parser.on('doctype', (doctype) => {
    if (/\[|<!ENTITY/i.test(doctype))
      stop('This drawing declares entities of its own, which are not taken: save it as plain SVG.');
  });
  parser.on('opentag', (tag) => {
    count++;
    if (count > MOST_ELEMENTS)
      stop(`This drawing has more than ${MOST_ELEMENTS} elements: simplify it first.`);
    if (open.length > MOST_DEPTH) stop('This drawing nests its groups too deep: ungroup it first.');
    const name = localName(tag.name);
    const attributes = tag.attributes as Record<string, string>;
    if (name === 'script') stop('This drawing has a script in it; scripts are not taken.');
    if (name === 'foreignObject' || name === 'iframe')
      stop('This drawing has a foreign page in it, which is not taken: save it as plain SVG.');
    for (const [key, value] of Object.entries(attributes))
      if (
        localName(key) === 'href' &&
        !value.startsWith('#') &&
        name !== 'a' &&
        !value.startsWith('data:image/')
      )
        stop(
          `This drawing fetches something from elsewhere (${value.slice(0, 60)}): embed it or take it out.`,
        );
    const node: Node = { name, attributes, children: [], text: '' };
    if (open.length > 0) open[open.length - 1].children.push(node);
    else root = node;
    open.push(node);
  });
  parser.on('closetag', () => void open.pop());
  parser.on('text', (more) => {
    const top = open.at(-1);
    if (top?.name === 'style') top.text += more;
  });
  parser.on('cdata', (more) => {
    const top = open.at(-1);
    if (top?.name === 'style') top.text += more;
  });
  parser.on('error', (error) => {
    throw error;
  });
  try {
    parser.write(text).close();
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal(`This is not a whole SVG drawing: ${(error as Error).message.slice(0, 120)}.`);
  }
  const found = root as Node | null;
  if (found?.name !== 'svg') throw new Refusal('This is not an SVG drawing.');
  return found;
}

/** What is passed down from a group to what is in it. */
interface Style {
  readonly fill: string;
  readonly stroke: string;
  readonly strokeWidth: number;
  readonly rule: Rule;
  readonly cap: LineCap;
  readonly join: LineJoin;
  readonly miterLimit: number;
  readonly visible: boolean;
  readonly colour: string;
}

const PLAIN: Style = {
  fill: '#000000',
  stroke: 'none',
  strokeWidth: 1,
  rule: 'nonzero',
  cap: 'butt',
  join: 'miter',
  miterLimit: 4,
  visible: true,
  colour: '#000000',
};

/** `name: value` pairs of a style text. */
function declarations(text: string): Record<string, string> {
  const found: Record<string, string> = {};
  for (const part of text.split(';')) {
    const at = part.indexOf(':');
    if (at > 0)
      found[part.slice(0, at).trim()] = part
        .slice(at + 1)
        .replace('!important', '')
        .trim();
  }
  return found;
}

/** Classes of the style sheets in a drawing: plain `.name { … }` rules, as drawing programs write them. */
function classesOf(root: Node): Map<string, Record<string, string>> {
  const classes = new Map<string, Record<string, string>>();
  const visit = (node: Node): void => {
    if (node.name === 'style')
      for (const block of node.text.slice(0, 200_000).split('}')) {
        const [names, body = ''] = block.split('{');
        for (const name of names.split(','))
          if (/^\.[\w-]+$/.test(name.trim())) {
            const key = name.trim().slice(1);
            classes.set(key, { ...classes.get(key), ...declarations(body) });
          }
      }
    node.children.forEach(visit);
  };
  visit(root);
  return classes;
}

const numberOr = (text: string | undefined, otherwise: number): number => {
  const value = Number.parseFloat(text ?? '');
  return Number.isFinite(value) ? value : otherwise;
};

const oneOf = <T extends string>(value: string | undefined, among: readonly T[], otherwise: T): T =>
  among.includes(value as T) ? (value as T) : otherwise;

function styleOf(node: Node, above: Style, classes: Map<string, Record<string, string>>): Style {
  const { attributes: a } = node;
  const named = (a.class ?? '').split(/\s+/).map((c) => classes.get(c) ?? {});
  const says: Record<string, string> = Object.assign({}, a, ...named, declarations(a.style ?? ''));
  const clear = (name: string) => numberOr(says[name], 1) <= 0.02;
  const fill = says.fill ?? above.fill;
  const stroke = says.stroke ?? above.stroke;
  return {
    fill: clear('fill-opacity') ? 'none' : fill,
    stroke: clear('stroke-opacity') ? 'none' : stroke,
    strokeWidth: numberOr(says['stroke-width'], above.strokeWidth),
    rule: oneOf(says['fill-rule'], ['nonzero', 'evenodd'], above.rule),
    cap: oneOf(says['stroke-linecap'], ['butt', 'round', 'square'], above.cap),
    join: oneOf(says['stroke-linejoin'], ['miter', 'round', 'bevel'], above.join),
    miterLimit: numberOr(says['stroke-miterlimit'], above.miterLimit),
    visible: above.visible && says.display !== 'none' && says.visibility !== 'hidden' && !clear('opacity'),
    colour: says.color ?? above.colour,
  };
}

/** The outline of a basic shape as path data; null for what draws nothing. */
function pathOf({ name, attributes: a }: Node): string | null {
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
function flattened(data: string, tolerance: number): Line[] {
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
type Matrix = readonly [number, number, number, number, number, number];
const SAME: Matrix = [1, 0, 0, 1, 0, 0];

const times = (m: Matrix, n: Matrix): Matrix => [
  m[0] * n[0] + m[2] * n[1],
  m[1] * n[0] + m[3] * n[1],
  m[0] * n[2] + m[2] * n[3],
  m[1] * n[2] + m[3] * n[3],
  m[0] * n[4] + m[2] * n[5] + m[4],
  m[1] * n[4] + m[3] * n[5] + m[5],
];

const applied = (m: Matrix, [x, y]: Point2): Point2 => [
  m[0] * x + m[2] * y + m[4],
  m[1] * x + m[3] * y + m[5],
];

/** The map that a transform text means: read off what it does to three points. */
function matrixOf(text: string | undefined): Matrix {
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
      mended.push(...crossings(rings));
      const region = tidied(rings, style.rule);
      if (region.length > 0) parts.push({ region, colour: fill });
    }
    const stroke = colourOf(style.stroke, style, notes);
    if (stroke && style.strokeWidth > 0)
      for (const { points, closed } of lines) {
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
    return settled(tones, mended.slice(0, 20), [...notes]);
  } catch (error) {
    if (error instanceof Refusal) return refused(error.message);
    throw error;
  }
}
