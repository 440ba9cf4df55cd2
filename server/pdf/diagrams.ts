import type { Diagram } from '../../core/print/diagrams.ts';
import { FADED, INK, MARGIN, type Sheet, inFont } from './sheet.ts';

/** Between what stands beside something else. pt */
export const GUTTER = 14;
/** Share of the room, and pt: what stands beside something else is no wider, and has so much. */
export const MOST_BESIDE = 0.5;
export const LEAST_BESIDE = 130;

/** Pieces are drawn so large at most, and a bar from the side so high. pt */
const MOST_CELL = 33;
const MOST_LAID = 76;
const MOST_SIDE = 36;
const CAPTION = 10;
/** pt a letter of it, amply. */
const CAPTION_LETTER = 4.1;
/** Captions have the width of what they stand under. pt */
const captionHigh = (caption: string, wide: number): number =>
  CAPTION * Math.ceil((caption.length * CAPTION_LETTER) / wide);

/** How large a diagram is drawn, to the mm; and how high with its caption. pt */
export function drawnSize(diagram: Diagram, wide: number): { perMm: number; high: number } {
  const most =
    diagram.what === 'as they lie' ? MOST_LAID : diagram.what === 'as they will lie' ? Infinity : MOST_SIDE;
  const cell = diagram.what === 'as they will lie' ? MOST_CELL / diagram.shapes[0].outline[1][0] : Infinity;
  const perMm = Math.min(wide / diagram.widthMm, most / diagram.heightMm, cell);
  return { perMm, high: diagram.heightMm * perMm + captionHigh(diagram.caption, wide) + 8 };
}

/** Diagrams beside each other, and what stands under them all. */
export interface Row {
  readonly drawn: { readonly diagram: Diagram; readonly left: number; wide: number }[];
  caption: string;
}

/** Diagrams in rows: what is written on the ends stands beside the bar that is sawn, where there is room for both. */
export function rowsOf(diagrams: readonly Diagram[], wide: number): Row[] {
  const rows: Row[] = [];
  for (const diagram of diagrams) {
    const own = diagram.widthMm * drawnSize(diagram, wide).perMm;
    const row = rows.at(-1);
    const beside = row?.drawn.at(-1);
    if (diagram.what === 'as they will lie' && beside && own < MOST_BESIDE * wide) {
      beside.wide = wide - own - GUTTER;
      row!.drawn.push({ diagram, left: wide - own, wide: own });
      row!.caption += `. On the right: ${diagram.caption[0].toLowerCase()}${diagram.caption.slice(1)}`;
    } else rows.push({ drawn: [{ diagram, left: 0, wide }], caption: diagram.caption });
  }
  return rows;
}

const drawingHigh = ({ drawn }: Row): number =>
  Math.max(...drawn.map(({ diagram, wide }) => diagram.heightMm * drawnSize(diagram, wide).perMm));

export const rowHigh = (row: Row, wide: number): number =>
  drawingHigh(row) + captionHigh(row.caption, wide) + 8;

/** Draws a row where the page has come to, so far from the left and no wider. */
export function drawRow(sheet: Sheet, row: Row, left: number, wide: number): void {
  const top = sheet.doc.y;
  for (const { diagram, left: from, wide: own } of row.drawn) {
    sheet.doc.y = top;
    drawing(sheet, diagram, left + from, own);
  }
  captioned(sheet, row.caption, left, top + 3 + drawingHigh(row) + 2, wide);
  sheet.doc.y = top + rowHigh(row, wide);
}

/** One diagram with its caption. */
export function draw(sheet: Sheet, diagram: Diagram, left: number, wide: number): void {
  const top = sheet.doc.y;
  drawing(sheet, diagram, left, wide);
  captioned(
    sheet,
    diagram.caption,
    left,
    top + 3 + diagram.heightMm * drawnSize(diagram, wide).perMm + 2,
    wide,
  );
}

function captioned({ doc }: Sheet, caption: string, left: number, top: number, wide: number): void {
  doc.font('body').fontSize(8).fillColor(FADED);
  doc.text(inFont(caption), left, top, { width: wide, lineGap: -1 });
  doc.x = MARGIN;
}

const TINTS = { steel: '#e9e2d3', strip: '#b9b2a4', paper: '#ffffff' } as const;
const TOWARDS = { up: [0, -1], right: [1, 0], down: [0, 1], left: [-1, 0] } as const;

/** A diagram where the page has come to, so far from the left and no wider. */
function drawing({ doc }: Sheet, diagram: Diagram, left: number, wide: number): void {
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
}
