import type { Action } from '../instruct/action.ts';
import { type Thing, agrees, block, box, clipped, corners, moved } from './bodies.ts';

type Doing<K extends Action['do']> = Extract<Action, { do: K }>;
type CodeOf = (material: string) => number;

/** Things edge to edge in their order, from a new end A: a slanting edge counts from its middle. */
export function row(things: readonly Thing[], longMm: number): Thing {
  let at = 0;
  const laid = things.flatMap((thing) => {
    const { low, high } = box(thing);
    const points = thing.flatMap(corners);
    const along = (y: number) => points.filter((p) => Math.abs(p[1] - y) < 1e-6).map((p) => p[2]);
    const start = (Math.min(...along(low[1])) + Math.min(...along(high[1]))) / 2;
    const long = (Math.max(...along(low[1])) + Math.max(...along(high[1]))) / 2 - start;
    const there = moved(thing, [-(low[0] + high[0]) / 2, -low[1], at - start]);
    at += long;
    return there;
  });
  agrees(at, longMm);
  return laid;
}

/** Pieces, and bought steel as large as they are, one on (or beside) the other. */
export function pile(a: Doing<'pile'>, thingOf: (name: string | null) => Thing, codeOf: CodeOf): Thing {
  const i = a.from === 'bottom' ? 1 : 0;
  const pieces = a.parts.map((part) => ('piece' in part ? thingOf(part.piece) : null));
  const sizes = pieces.flatMap((thing) => (thing ? [box(thing)] : []));
  const span = (k: 0 | 1 | 2) => Math.max(...sizes.map((s) => s.high[k] - s.low[k]));
  agrees(span(2), a.longMm);
  let at = 0;
  return a.parts.flatMap((part, k): Thing => {
    const thing = pieces[k];
    const { low, high } = thing ? box(thing) : { low: null, high: null };
    const thick = low ? high[i] - low[i] : (part as { thickMm: number }).thickMm;
    const from = at;
    at += thick;
    if (thing && low)
      return moved(
        thing,
        i === 1
          ? [-(low[0] + high[0]) / 2, from - low[1], -low[2]]
          : [from - low[0], -(low[1] + high[1]) / 2, -low[2]],
      );
    const half = span(i === 1 ? 0 : 1) / 2;
    const code = codeOf((part as { material: string }).material);
    return i === 1
      ? block(code, [-half, from, 0], [half, at, span(2)])
      : block(code, [from, -half, 0], [at, half, span(2)]);
  });
}

/** Strips in turn from the bottom. */
export function stacked(a: Doing<'stack'>, codeOf: CodeOf): Thing {
  let at = 0;
  const [half, long] = [a.sizesMm[0] / 2, a.sizesMm[1]];
  const strips = Array.from({ length: a.count }, (_, i): Thing => {
    const { material, thickMm } = a.inTurn[i % a.inTurn.length];
    const from = at;
    at += thickMm;
    return block(codeOf(material), [-half, from, 0], [half, at, long]);
  });
  agrees(at, a.tallMm);
  return strips.flat();
}

/** A piece of what lies there taken out, ground, its bed ground, and pushed home. */
export function slidBack(thing: Thing, a: Doing<'put back'>): Thing {
  const { low } = box(thing);
  const [x0, y0] = [low[0] + a.fromMm[0], low[1] + a.fromMm[1]];
  const [x1, y1] = [x0 + a.sizesMm[0], y0 + a.sizesMm[1]];
  const off = (side: 'left' | 'right' | 'bottom' | 'top') => (a.faces.includes(side) ? a.offMm : 0);
  const within = (t: Thing, l: number, r: number, b: number, u: number): Thing =>
    clipped(clipped(clipped(clipped(t, [-1, 0, 0], -l), [1, 0, 0], r), [0, -1, 0], -b), [0, 1, 0], u);
  const piece = within(thing, x0 + off('left'), x1 - off('right'), y0 + off('bottom'), y1 - off('top'));
  const edge = (side: 'left' | 'right' | 'bottom' | 'top', mm: number, out: number) =>
    a.faces.includes(side) ? mm : out;
  const [l, r] = [edge('left', x0 - a.offMm, -1e4), edge('right', x1 + a.offMm, 1e4)];
  const [b, u] = [edge('bottom', y0 - a.offMm, -1e4), edge('top', y1 + a.offMm, 1e4)];
  const rest = [
    clipped(thing, [1, 0, 0], l),
    clipped(thing, [-1, 0, 0], -r),
    within(thing, l, r, -1e4, b),
    within(thing, l, r, u, 1e4),
  ].flat();
  const home = (low: 'left' | 'bottom', high: 'right' | 'top') => 2 * (off(high) - off(low));
  return [...moved(piece, [home('left', 'right'), home('bottom', 'top'), 0]), ...rest];
}
