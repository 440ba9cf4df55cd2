import { type LineCap, type LineJoin, type Rule } from '../geometry/regions.ts';
import type { Node } from './svgNodes.ts';

/** What is passed down from a group to what is in it. */
export interface Style {
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

export const PLAIN: Style = {
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
export function classesOf(root: Node): Map<string, Record<string, string>> {
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

export const numberOr = (text: string | undefined, otherwise: number): number => {
  const value = Number.parseFloat(text ?? '');
  return Number.isFinite(value) ? value : otherwise;
};

const oneOf = <T extends string>(value: string | undefined, among: readonly T[], otherwise: T): T =>
  among.includes(value as T) ? (value as T) : otherwise;

export function styleOf(node: Node, above: Style, classes: Map<string, Record<string, string>>): Style {
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
