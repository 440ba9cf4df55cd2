import type { Diagram } from '../../core/print/diagrams.ts';
import { FADED, INK, MARGIN, type Sheet, inFont } from './sheet.ts';

/** Between what stands beside something else. pt */
export const GUTTER = 14;
/** Share of the room, and pt: what stands beside something else is no wider, and has so much. */
export const MOST_BESIDE = 0.5;
export const LEAST_BESIDE = 104;

/** Pieces are drawn so large at most, and a bar from the side so high. pt */
const MOST_CELL = 33;
const MOST_LAID = 92;
const MOST_SIDE = 36;
const CAPTION = 10;
/** pt a letter of it, amply. */
const CAPTION_LETTER = 4.1;
/** Captions have the width of their diagram, or what is given it. pt */
const captionHigh = ({ caption }: Diagram, wide: number): number =>
  CAPTION * Math.ceil((caption.length * CAPTION_LETTER) / wide);

/** How large a diagram is drawn, to the mm; and how high with its caption. pt */
export function drawnSize(diagram: Diagram, wide: number): { perMm: number; high: number } {
  const most =
    diagram.what === 'as they lie' ? MOST_LAID : diagram.what === 'as they will lie' ? Infinity : MOST_SIDE;
  const cell = diagram.what === 'as they will lie' ? MOST_CELL / diagram.shapes[0].outline[1][0] : Infinity;
  const perMm = Math.min(wide / diagram.widthMm, most / diagram.heightMm, cell);
  return { perMm, high: diagram.heightMm * perMm + captionHigh(diagram, wide) + 8 };
}

/** Diagrams in rows: what is written on the ends stands beside the bar that is sawn, where there is room for both. */
export function rowsOf(
  diagrams: readonly Diagram[],
  wide: number,
): { diagram: Diagram; left: number; wide: number }[][] {
  const rows: { diagram: Diagram; left: number; wide: number }[][] = [];
  for (const diagram of diagrams) {
    const own = diagram.widthMm * drawnSize(diagram, wide).perMm;
    const beside = rows.at(-1)?.at(-1);
    if (diagram.what === 'as they will lie' && beside && own < MOST_BESIDE * wide) {
      beside.wide = wide - own - GUTTER;
      rows.at(-1)!.push({ diagram, left: wide - own, wide: own });
    } else rows.push([{ diagram, left: 0, wide }]);
  }
  return rows;
}

export const rowHigh = (row: ReturnType<typeof rowsOf>[number]): number =>
  Math.max(...row.map(({ diagram, wide }) => drawnSize(diagram, wide).high));

const TINTS = { steel: '#e9e2d3', strip: '#b9b2a4', paper: '#ffffff' } as const;
const TOWARDS = { up: [0, -1], right: [1, 0], down: [0, 1], left: [-1, 0] } as const;

/** Draws a diagram where the page has come to, so far from the left and no wider. */
export function draw(sheet: Sheet, diagram: Diagram, left: number, wide: number): void {
  const { doc } = sheet;
  const { perMm } = drawnSize(diagram, wide);
  const top = doc.y + 3;
  const at = ([x, y]: readonly [number, number]): [number, number] => [
    left + x * perMm,
    top + (diagram.heightMm - y) * perMm,
  ];
  for (const { outline, tint } of diagram.shapes)
    doc
      .polygon(...outline.map(at))
      .lineWidth(0.7)
      .fillAndStroke(TINTS[tint], FADED);
  for (const [from, to] of diagram.cuts)
    doc
      .moveTo(...at(from))
      .lineTo(...at(to))
      .lineWidth(1)
      .strokeColor('#8e2a20')
      .stroke();
  for (const { at: middle, text, roomMm } of diagram.words) {
    const size = Math.min(11, Math.max(5, roomMm * perMm * (text.length > 2 ? 0.55 : 0.8)));
    const [x, y] = at(middle);
    doc.font('bold').fontSize(size).fillColor(INK);
    doc.text(inFont(text), x - 40, y - size * 0.62, { width: 80, align: 'center', lineBreak: false });
  }
  for (const { at: middle, to, longMm } of diagram.arrows) {
    const [x, y] = at(middle);
    const [dx, dy] = TOWARDS[to];
    const half = Math.min(14, longMm * perMm) / 2;
    const head = half * 0.8;
    const [tipX, tipY] = [x + dx * half, y + dy * half];
    doc
      .moveTo(x - dx * half, y - dy * half)
      .lineTo(tipX - dx * head, tipY - dy * head)
      .lineWidth(1.1)
      .strokeColor(INK)
      .stroke();
    doc
      .polygon(
        [tipX, tipY],
        [tipX - dx * head + dy * head * 0.5, tipY - dy * head + dx * head * 0.5],
        [tipX - dx * head - dy * head * 0.5, tipY - dy * head - dx * head * 0.5],
      )
      .fill(INK);
  }
  doc.font('body').fontSize(8).fillColor(FADED);
  doc.text(inFont(diagram.caption), left, top + diagram.heightMm * perMm + 2, { width: wide, lineGap: -1 });
  doc.x = MARGIN;
}
