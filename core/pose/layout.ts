import type { Action } from '../instruct/action.ts';
import { type Solid, type V3, blockOf } from './solid.ts';
import { type Thing, asItCame, boxOf, movedBy } from './thing.ts';

/** Between pieces that lie side by side, as a share of the widest. */
export const APART = 0.35;

/** What bought strips between pieces are called. */
export const STRIPS = 'strips';

export interface Laid {
  readonly thing: Thing;
  readonly lay: Extract<Action, { do: 'lay' }>;
}

type Strips = Extract<Action, { do: 'lay strips' }>;

/** Side by side from the left, end A of each in one line. */
export function inARow(things: readonly Thing[]): Thing[] {
  const boxes = things.map((t) => boxOf([t]));
  const gap = APART * Math.max(...boxes.map(({ low, high }) => high[0] - low[0]));
  const whole = boxes.reduce((sum, { low, high }) => sum + high[0] - low[0], gap * (things.length - 1));
  let x = -whole / 2;
  return things.map((thing, i) => {
    const { low, high } = boxes[i];
    const there = movedBy(thing, [x - low[0], -(low[1] + high[1]) / 2, -low[2]]);
    x += high[0] - low[0] + gap;
    return there;
  });
}

/** Where a lane of laid pieces comes to lie: rows from the top, each pushed together and centred, back ends flush. */
export function assembled(laid: readonly Laid[], strips: Strips | null): Thing[] {
  const between = (on: boolean | undefined) => (on && strips ? strips.thickMm : 0);
  const done: Thing[] = [];
  const bought: Solid[] = [];
  const rows = [...new Set(laid.map(({ lay }) => lay.row))].sort((a, b) => a - b);
  const gap = between(strips?.betweenPlaces);
  const level = between(strips?.betweenRows);
  let top = 0;
  rows.forEach((row, r) => {
    const own = laid.filter(({ lay }) => lay.row === row).sort((a, b) => a.lay.place - b.lay.place);
    const boxes = own.map(({ thing }) => boxOf([thing]));
    const wide = boxes.map(({ low, high }) => high[0] - low[0]);
    const high = Math.max(...boxes.map((b) => b.high[1] - b.low[1]));
    const long = Math.max(...boxes.map((b) => b.high[2] - b.low[2]));
    const whole = wide.reduce((sum, w) => sum + w, gap * (wide.length - 1));
    let x = -whole / 2;
    own.forEach(({ thing }, i) => {
      const { low, high: up } = boxes[i];
      done.push(movedBy(thing, [x - low[0], top - up[1], -low[2]]));
      x += wide[i];
      if (gap > 0 && i < own.length - 1)
        bought.push(blockOf(strips!.material, [x, top - high, 0], [x + gap, top, long]));
      x += gap;
    });
    top -= high;
    if (level > 0 && r < rows.length - 1)
      bought.push(blockOf(strips!.material, [-whole / 2, top - level, 0], [whole / 2, top, long]));
    top -= level;
  });
  if (strips?.outside && done.length > 0) {
    const { low, high } = boxOf(done);
    const t = strips.thickMm;
    const strip = (a: V3, b: V3) => bought.push(blockOf(strips.material, a, b));
    strip([low[0] - t, low[1], low[2]], [low[0], high[1], high[2]]);
    strip([high[0], low[1], low[2]], [high[0] + t, high[1], high[2]]);
    strip([low[0] - t, low[1] - t, low[2]], [high[0] + t, low[1], high[2]]);
    strip([low[0] - t, high[1], low[2]], [high[0] + t, high[1] + t, high[2]]);
  }
  return bought.length > 0 ? [...done, asItCame(STRIPS, bought)] : done;
}

/** Pieces, and bought steel as large as they are, one on (or beside) the other. */
export function piled(
  a: Extract<Action, { do: 'pile' }>,
  thingsOf: (name: string | null) => readonly Thing[],
): Thing[] {
  const i = a.from === 'bottom' ? 1 : 0;
  const boxes = a.parts.map((part) => ('piece' in part ? boxOf(thingsOf(part.piece)) : null));
  const span = (k: 0 | 1 | 2) => Math.max(...boxes.map((b) => (b ? b.high[k] - b.low[k] : 0)));
  const half = span(i === 1 ? 0 : 1) / 2;
  let at = 0;
  return a.parts.flatMap((part, k): Thing[] => {
    const b = boxes[k];
    const from = at;
    at += b ? b.high[i] - b.low[i] : (part as { thickMm: number }).thickMm;
    if ('piece' in part && b) {
      const by: V3 =
        i === 1
          ? [-(b.low[0] + b.high[0]) / 2, from - b.low[1], -b.low[2]]
          : [from - b.low[0], -(b.low[1] + b.high[1]) / 2, -b.low[2]];
      return thingsOf(part.piece).map((t) => movedBy(t, by));
    }
    const { material } = part as { material: string };
    const [low, high]: [V3, V3] =
      i === 1
        ? [
            [-half, from, 0],
            [half, at, span(2)],
          ]
        : [
            [from, -half, 0],
            [at, half, span(2)],
          ];
    return [asItCame(`${material} ${a.from} ${k + 1}`, [blockOf(material, low, high)])];
  });
}
