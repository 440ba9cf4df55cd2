import { type Billet, sizeOf } from '../billet/billet.ts';
import type { Point2 } from '../geometry/outline.ts';
import type { Action, Arrow } from '../instruct/action.ts';
import { moveOf } from '../moves/index.ts';
import { type AssembleParameters, gridSizes, laidPieces, stripSizes } from '../moves/lay/assemble/laid.ts';
import { apartMm } from '../moves/lay/assemble/blocks.ts';
import { areWedges, pointedBase } from '../moves/lay/assemble/wedges.ts';
import { wedgeOf } from '../geometry/shapes.ts';
import { type Evaluation, type StepResult, actionsOf, endMarks, sawnFromTheSide } from '../plan/index.ts';

/** A drawing of outlines and words, in mm of the steel; x to the right, y up from its lower left corner. */
export interface Diagram {
  readonly what: 'as they lie' | 'the bar from the side' | 'as they will lie' | 'in the row';
  readonly caption: string;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly shapes: readonly {
    readonly outline: readonly Point2[];
    readonly tint: 'steel' | 'strip' | 'paper';
  }[];
  /** Saw cuts. */
  readonly cuts: readonly (readonly [from: Point2, to: Point2])[];
  /** `room`: how much space there is for it, mm. */
  readonly words: readonly { readonly at: Point2; readonly text: string; readonly roomMm: number }[];
  readonly arrows: readonly { readonly at: Point2; readonly to: Arrow; readonly longMm: number }[];
}

const box = (x: number, y: number, w: number, h: number): Point2[] => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];

/** The number, the end in front and the arrow of a piece, about a point, in a square of some size. */
function marked(piece: string, front: 'A' | 'B', arrow: Arrow, [x, y]: Point2, sideMm: number) {
  return {
    words: [
      { at: [x - 0.2 * sideMm, y] as Point2, text: piece, roomMm: 0.42 * sideMm },
      { at: [x + 0.3 * sideMm, y + 0.24 * sideMm] as Point2, text: front, roomMm: 0.24 * sideMm },
    ],
    arrows: [{ at: [x + 0.3 * sideMm, y - 0.14 * sideMm] as Point2, to: arrow, longMm: 0.36 * sideMm }],
  };
}

type Lay = Extract<Action, { do: 'lay' }>;
type LayWedge = Extract<Action, { do: 'lay wedge' }>;

/** The block as its pieces are laid: from the actions that lay them, sizes from the pieces. */
function asTheyLie(
  before: readonly Billet[],
  p: AssembleParameters,
  actions: readonly Action[],
): Diagram | null {
  const laid = laidPieces(before, p);
  const wedges = actions.filter((a): a is LayWedge => a.do === 'lay wedge');
  const [first] = laid.map((l) => wedgeOf(l.billet.outline));
  if (first && areWedges(laid.map((l) => l.billet))) return sunburst(wedges, pointedBase(first), apartMm(p));
  const lays = actions.filter((a): a is Lay => a.do === 'lay');
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const { uprightMm, levelMm, frameMm } = stripSizes(p);
  const whole = widths.reduce((a, b) => a + b, 0) + uprightMm * (p.columns - 1) + 2 * frameMm;
  const high = heights.reduce((a, b) => a + b, 0) + levelMm * (p.rows - 1) + 2 * frameMm;
  const shapes: Diagram['shapes'][number][] = [
    { outline: box(0, 0, whole, high), tint: p.strips ? 'strip' : 'paper' },
  ];
  const words: Diagram['words'][number][] = [];
  const arrows: Diagram['arrows'][number][] = [];
  let top = high - frameMm;
  for (let row = 0; row < p.rows; row++) {
    let left = frameMm;
    const here = lays.filter((l) => l.row === row + 1).sort((a, b) => a.place - b.place);
    for (const [i, { piece, front, arrow, of }] of here.entries()) {
      // Of a shifted row of bricks the two ends are halves.
      const half = of.places > p.columns && (i === 0 || i === of.places - 1);
      const shifted = of.places > p.columns;
      const wide = half ? widths[p.columns - 1] / 2 : widths[shifted ? i - 1 : i];
      const h = heights[row];
      shapes.push({ outline: box(left, top - h, wide, h), tint: 'steel' });
      const drawn = marked(piece, front, arrow, [left + wide / 2, top - h / 2], Math.min(wide, h));
      words.push(...drawn.words);
      arrows.push(...drawn.arrows);
      left += wide + (shifted ? 0 : uprightMm);
    }
    top -= heights[row] + levelMm;
  }
  return {
    what: 'as they lie',
    caption: LIE,
    widthMm: whole,
    heightMm: high,
    shapes,
    cuts: [],
    words,
    arrows,
  };
}

const LIE = 'As they lie, seen from the front: number, end in front, arrow';

/** Four wedges of a square, each with its broad side outward, and the cross of strips that keeps them apart. mm */
function sunburst(wedges: readonly LayWedge[], baseMm: number, apart: number): Diagram {
  const sideMm = baseMm + 2 * apart;
  const [m, near] = [sideMm / 2, apart];
  const far = sideMm - near;
  const corners: Record<LayWedge['side'], readonly [Point2, Point2, Point2]> = {
    right: [
      [m + apart, m],
      [sideMm, near],
      [sideMm, far],
    ],
    top: [
      [m, m + apart],
      [far, sideMm],
      [near, sideMm],
    ],
    left: [
      [m - apart, m],
      [0, far],
      [0, near],
    ],
    bottom: [
      [m, m - apart],
      [near, 0],
      [far, 0],
    ],
  };
  const drawn = wedges.map(({ piece, side, front, arrow }) => {
    const outline = corners[side];
    const middle = [0, 1].map((k) => outline.reduce((sum, p) => sum + p[k], 0) / 3) as [number, number];
    return { outline: [...outline], ...marked(piece, front, arrow, middle, 0.31 * baseMm) };
  });
  const strips: Diagram['shapes'] = apart > 0 ? [{ outline: box(0, 0, sideMm, sideMm), tint: 'strip' }] : [];
  return {
    what: 'as they lie',
    caption: LIE,
    widthMm: sideMm,
    heightMm: sideMm,
    shapes: [...strips, ...drawn.map(({ outline }) => ({ outline, tint: 'steel' as const }))],
    cuts: [],
    words: drawn.flatMap((d) => d.words),
    arrows: drawn.flatMap((d) => d.arrows),
  };
}

/** The bar from the side, end A to the left, with its saw cuts at their true lean, and what its parts are called. */
function fromTheSide(result: StepResult, evaluation: Evaluation): Diagram | null {
  const { before } = result;
  const sawing = sawnFromTheSide(result, evaluation.shop);
  if (!sawing) return null;
  const [bar] = before;
  const { heightMm } = sizeOf(bar);
  const l = bar.lengthMm;
  // Straight cuts need no true height; a leaning one is drawn at its angle.
  const leans = sawing.saws.some((s) => s.bottomMm !== s.topMm);
  const high = leans ? heightMm : Math.max(heightMm, l / 12);
  const up = high / heightMm;
  const roomMm = sawing.names.length > 1 ? Math.abs(sawing.names[1].atMm - sawing.names[0].atMm) * 0.8 : high;
  return {
    what: 'the bar from the side',
    caption: `${before.length > 1 ? 'Each piece' : 'The bar'} from the side, end A to the left`,
    widthMm: l,
    heightMm: high,
    shapes: [{ outline: box(0, 0, l, high), tint: 'steel' }],
    cuts: sawing.saws.map((s) => [
      [s.bottomMm, (s.from ?? 0) * up],
      [s.topMm, high - (s.to ?? 0) * up],
    ]),
    words: sawing.names.map(({ text, atMm }) => ({
      at: [atMm, high / 2],
      text,
      roomMm: Math.min(roomMm, high),
    })),
    arrows: [],
  };
}

/** The pieces of a cut as they will lie, once they are turned. Off the saw every arrow is written upward. */
function asTheyWillLie(result: StepResult, evaluation: Evaluation): Diagram | null {
  const marks = moveOf(result.step.kind).cuts ? endMarks(evaluation, result) : [];
  const [first] = result.after ?? [];
  if (marks.length === 0 || !first) return null;
  const { widthMm: w, heightMm: h } = sizeOf(first);
  const side = Math.min(w, h);
  const across = Math.min(marks.length, MOST_ACROSS);
  const rows = Math.ceil(marks.length / across);
  const [dx, dy] = [1.25 * w, 1.6 * h];
  const drawn = marks.map(({ piece, place, front, arrow }, i) => {
    const [x, y] = [(i % across) * dx, (rows - 1 - Math.floor(i / across)) * dy + 0.5 * h];
    const { words, arrows } = marked(piece, front, arrow, [x + w / 2, y + h / 2], side);
    return {
      outline: box(x, y, w, h),
      words: [...words, { at: [x + w / 2, y - 0.25 * h] as Point2, text: place, roomMm: 0.36 * side }],
      arrows,
    };
  });
  return {
    what: 'as they will lie',
    caption:
      'How they will lie later, seen from the front: end in front, and where the arrow written upward then points; below: row·place',
    widthMm: (across - 1) * dx + w,
    heightMm: (rows - 1) * dy + 1.5 * h,
    shapes: drawn.map(({ outline }) => ({ outline, tint: 'steel' })),
    cuts: [],
    words: drawn.flatMap((d) => d.words),
    arrows: drawn.flatMap((d) => d.arrows),
  };
}

const MOST_ACROSS = 9;

type LayDown = Extract<Action, { do: 'lay down' }>;

/** Tiles as they lie edge to edge, the new end A to the left: what each shows, and where its old top looks, from the actions that lay them. */
function inTheRow({ after }: StepResult, actions: readonly Action[]): Diagram | null {
  const laid = after?.[0]?.laid;
  if (laid?.seen !== 'from the side') return null;
  const downs = actions.filter((a): a is LayDown => a.do === 'lay down');
  const drawn = laid.each.flatMap(({ name, outline }) => {
    const down = downs.find((a) => a.pieces.includes(name));
    return down ? [{ name, outline, down }] : [];
  });
  if (drawn.length === 0) return null;
  const [[left, right], [low, high]] = [0, 1].map((k) => {
    const all = drawn.flatMap(({ outline }) => outline.map((at) => at[k]));
    return [Math.min(...all), Math.max(...all)];
  });
  const pieces = drawn.map(({ name, outline, down }) => {
    const corners = outline.map(([x, y]): Point2 => [x - left, y - low]);
    const middle = [0, 1].map((k) => corners.reduce((sum, at) => sum + at[k], 0) / corners.length);
    const wide = (corners[1][0] - corners[0][0] + corners[2][0] - corners[3][0]) / 2;
    const side = Math.min(wide / 2.2, high - low);
    const at = (shares: number): Point2 => [middle[0] + shares * side, middle[1]];
    return {
      outline: corners,
      words: [
        { at: at(-0.65), text: name, roomMm: 0.6 * side },
        { at: at(0.05), text: down.up, roomMm: 0.6 * side },
      ],
      arrow: { at: at(0.7), to: (down.topTowards === 'A' ? 'left' : 'right') as Arrow, longMm: 0.55 * side },
    };
  });
  return {
    what: 'in the row',
    caption:
      'In the row from the side, new end A left: number, end the upper face looked to, way of the old top',
    widthMm: right - left,
    heightMm: high - low,
    shapes: pieces.map(({ outline }) => ({ outline, tint: 'steel' })),
    cuts: [],
    words: pieces.flatMap((d) => d.words),
    arrows: pieces.map((d) => d.arrow),
  };
}

/** What of a step is drawn on the sheet for the wall. */
export function diagramsOf(evaluation: Evaluation, result: StepResult): Diagram[] {
  if (!result.after) return [];
  const { step, before } = result;
  const actions = actionsOf(result, evaluation.shop);
  const laid = step.kind === 'assemble' ? asTheyLie(before, step.parameters, actions) : null;
  return [
    laid,
    fromTheSide(result, evaluation),
    inTheRow(result, actions),
    asTheyWillLie(result, evaluation),
  ].filter((d) => d !== null);
}
