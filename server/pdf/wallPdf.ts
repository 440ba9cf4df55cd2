import { createRequire } from 'node:module';
import { setImmediate } from 'node:timers/promises';
import PDFDocument from 'pdfkit';
import { type Evaluation, stepResult } from '../../core/plan/index.ts';
import type { Diagram } from '../../core/print/diagrams.ts';
import { type WallStep, wallSheet } from '../../core/print/wall.ts';
import { facePng } from './facePng.ts';

export const PAPERS = ['A4', 'LETTER'] as const;
export type Paper = (typeof PAPERS)[number];

const font = (file: string) => createRequire(import.meta.url).resolve(`@fontsource/${file}`);
const FONTS = {
  body: font('atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff'),
  bold: font('atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff'),
  title: font('young-serif/files/young-serif-latin-400-normal.woff'),
};

const PT_PER_MM = 72 / 25.4;
const MARGIN = 36;
const GUTTER = 14;
/** mm. Widest and highest a picture may be, and the last of a bar; larger faces are made smaller, and are then not said to be true size. */
const MOST_MM = 27;
const MOST_LAST_MM = 60;
/** mm. The square on every page by which the paper's own scale is checked. */
const TEST_SQUARE_MM = 20;
const BOX_HIGH = 22;
const CARE_SIZE = 7.5;
const FOOT_WORDS = 14;
const INK = '#1f2124';
const FADED = '#5b564c';
const LINE = '#c9bfa9';

type Doc = PDFKit.PDFDocument;
type Picture = { png: Buffer; wide: number; high: number; note: string };

/** Signs that the shipped fonts do not have, said with those they do. */
const inFont = (text: string): string =>
  text
    .replace(/−/g, '-')
    .replace(/[₀-₉]/g, (d) => String(d.charCodeAt(0) - 0x2080))
    .replace(/[^\n\u0020-\u024F\u2010-\u2026\u20ac\u2122\u00b7\u00d7]/g, '');

class Sheet {
  readonly doc: Doc;
  private readonly title: string;
  private page = 1;
  /** Cautions of the steps on this page, by their letters: said above its foot. */
  private heeded = new Map<string, string>();
  constructor(paper: Paper, title: string) {
    this.title = title;
    this.doc = new PDFDocument({ size: paper, margin: MARGIN, info: { Title: title, Producer: 'Retablo' } });
    for (const [name, file] of Object.entries(FONTS)) this.doc.registerFont(name, file);
  }

  get width(): number {
    return this.doc.page.width - 2 * MARGIN;
  }

  /** Beside the test square. */
  private get footLeft(): number {
    return MARGIN + TEST_SQUARE_MM * PT_PER_MM + 10;
  }

  /** Where the foot of the page begins: nothing else is set below it. */
  get bottom(): number {
    return this.doc.page.height - MARGIN - this.footHigh(this.heeded) - 6;
  }

  /** The test square, and beside it the cautions of the page and its name. */
  private footHigh(cautions: ReadonlyMap<string, string>): number {
    const wide = MARGIN + this.width - this.footLeft;
    const said = [...cautions].map(([letter, text]) => this.heightOf(`${letter}  ${text}`, CARE_SIZE, wide));
    const words = said.length === 0 ? 0 : CARE_SIZE + 4 + said.reduce((sum, high) => sum + high, 0);
    return Math.max(TEST_SQUARE_MM * PT_PER_MM, words + FOOT_WORDS);
  }

  /** How much room cautions take that this page does not have yet. */
  moreFor(cautions: ReadonlyMap<string, string>): number {
    return this.footHigh(new Map([...this.heeded, ...cautions])) - this.footHigh(this.heeded);
  }

  /** These are said on this page. */
  heed(cautions: ReadonlyMap<string, string>): void {
    for (const [letter, text] of cautions) this.heeded.set(letter, text);
  }

  /** Sets the foot of the page: each caution of its steps in full, once. */
  finish(): void {
    const { doc, footLeft } = this;
    const side = TEST_SQUARE_MM * PT_PER_MM;
    const end = doc.page.height - MARGIN;
    const wide = MARGIN + this.width - footLeft;
    const said = [...this.heeded].sort(([a], [b]) => a.localeCompare(b));
    doc
      .rect(MARGIN, end - side, side, side)
      .lineWidth(0.7)
      .strokeColor(INK)
      .stroke();
    if (said.length > 0) {
      doc.font('bold').fontSize(CARE_SIZE).fillColor(INK);
      doc.text('Take care', footLeft, end - this.footHigh(this.heeded), { width: wide });
      doc.font('body').fontSize(CARE_SIZE).fillColor(FADED);
      for (const [letter, text] of said)
        doc.text(inFont(`${letter}  ${text}`), footLeft, doc.y, { width: wide });
    }
    doc.font('body').fontSize(8.5).fillColor(FADED);
    const text = `True size when this square measures ${TEST_SQUARE_MM} mm each way: print at 100 %. ${this.title}, page ${this.page}`;
    doc.text(inFont(text), footLeft, end - 11, { lineBreak: false });
    this.heeded = new Map();
  }

  /** A new page when so much does not fit any more. */
  room(high: number): void {
    if (this.doc.y + high <= this.bottom) return;
    this.finish();
    this.doc.addPage();
    this.page++;
    this.doc.x = MARGIN;
    this.doc.y = MARGIN;
  }

  text(
    text: string,
    size: number,
    style: keyof typeof FONTS = 'body',
    colour = INK,
    x = MARGIN,
    width = this.width,
  ): void {
    const { doc } = this;
    doc.font(style).fontSize(size);
    this.room(doc.heightOfString(inFont(text), { width }));
    // Measuring the foot of the page chose another font.
    doc.font(style).fontSize(size).fillColor(colour).text(inFont(text), x, doc.y, { width });
  }

  gap(high: number): void {
    this.doc.y += high;
  }

  rule(): void {
    const { doc } = this;
    doc
      .moveTo(MARGIN, doc.y)
      .lineTo(MARGIN + this.width, doc.y)
      .lineWidth(0.6)
      .strokeColor(LINE)
      .stroke();
    this.gap(4);
  }

  heightOf(text: string, size: number, width: number): number {
    return this.doc.font('body').fontSize(size).heightOfString(inFont(text), { width });
  }

  /** Empty boxes in a row, from `left` to the margin. */
  boxes(names: readonly string[], left: number): void {
    const { doc } = this;
    this.room(BOX_HIGH + 4);
    const wide = (MARGIN + this.width - left - (names.length - 1) * 5) / names.length;
    const y = doc.y;
    names.forEach((name, i) => {
      const x = left + i * (wide + 5);
      doc.rect(x, y, wide, BOX_HIGH).lineWidth(0.6).strokeColor(FADED).stroke();
      doc
        .font('body')
        .fontSize(7.5)
        .fillColor(FADED)
        .text(name, x + 3, y + 2, { lineBreak: false });
    });
    doc.x = MARGIN;
    doc.y = y + BOX_HIGH + 3;
  }
}

function pictureOf(evaluation: Evaluation, stepId: string, mostMm: number): Picture | null {
  const bar = stepResult(evaluation, stepId)?.after?.[0];
  if (!bar) return null;
  const { png, wideMm, highMm, scale, face } = facePng(bar, evaluation.shop, mostMm, mostMm);
  const note = scale === 1 ? `${face}, true size` : `${face}, at ${Math.round(100 * scale)} %`;
  return { png, wide: wideMm * PT_PER_MM, high: highMm * PT_PER_MM, note };
}

type Line = readonly [text: string, size: number, style: keyof typeof FONTS, colour: string];

/** A step's lines beside its picture. */
function linesOf(step: WallStep): Line[] {
  return [
    ...step.say.map((line, i): Line => [`${i + 1}. ${line}`, 9.25, 'body', INK]),
    ...(step.figures.length > 0
      ? [[step.figures.map(([what, value]) => `${what} ${value}`).join(' · '), 8.5, 'body', FADED] as const]
      : []),
    ...step.heed.map((text): Line => [`Look again: ${text}`, 9, 'bold', '#9a5410']),
    ...(step.cautions.length > 0
      ? [[`Take care: ${[...step.cautions].sort().join(', ')} below.`, 8.5, 'bold', FADED] as const]
      : []),
  ];
}

/** Pieces are drawn so large at most, and a bar from the side so high. pt */
const MOST_CELL = 33;
const MOST_LAID = 92;
const MOST_SIDE = 36;
const CAPTION = 10;
/** pt a letter of it, amply. */
const CAPTION_LETTER = 4.1;
/** Room kept for pictures, so that the words of all steps begin at one line. pt */
const LEAST_PICTURE = 27 * PT_PER_MM;

/** Captions have the width of their diagram, or what is given it. pt */
const captionHigh = ({ caption }: Diagram, wide: number): number =>
  CAPTION * Math.ceil((caption.length * CAPTION_LETTER) / wide);

/** How large a diagram is drawn, to the mm; and how high with its caption. pt */
function drawnSize(diagram: Diagram, wide: number): { perMm: number; high: number } {
  const most =
    diagram.what === 'as they lie' ? MOST_LAID : diagram.what === 'as they will lie' ? Infinity : MOST_SIDE;
  const cell = diagram.what === 'as they will lie' ? MOST_CELL / diagram.shapes[0].outline[1][0] : Infinity;
  const perMm = Math.min(wide / diagram.widthMm, most / diagram.heightMm, cell);
  return { perMm, high: diagram.heightMm * perMm + captionHigh(diagram, wide) + 8 };
}

/** Diagrams in rows: what is written on the ends stands beside the bar that is sawn, where there is room for both. */
function rowsOf(
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

const rowHigh = (row: ReturnType<typeof rowsOf>[number]): number =>
  Math.max(...row.map(({ diagram, wide }) => drawnSize(diagram, wide).high));

/** Share of the room, and pt: what stands beside something else is no wider, and has so much. */
const MOST_BESIDE = 0.5;
const LEAST_BESIDE = 104;

const TINTS = { steel: '#e9e2d3', strip: '#b9b2a4', paper: '#ffffff' } as const;
const TOWARDS = { up: [0, -1], right: [1, 0], down: [0, 1], left: [-1, 0] } as const;

function draw(sheet: Sheet, diagram: Diagram, left: number, wide: number): void {
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

function stepBlock(
  sheet: Sheet,
  step: WallStep,
  picture: Picture | null,
  cautions: ReadonlyMap<string, string>,
): void {
  const { doc } = sheet;
  const left = MARGIN + (picture ? Math.max(picture.wide, LEAST_PICTURE) + GUTTER : 0);
  const width = MARGIN + sheet.width - left;
  const lines = linesOf(step);
  // How pieces lie stands beside the words where it is narrow.
  const [first] = step.diagrams;
  const lies = first?.what === 'as they lie' ? first.widthMm * drawnSize(first, width).perMm : Infinity;
  const beside = lies < MOST_BESIDE * width ? Math.max(lies, LEAST_BESIDE) : 0;
  const textWide = width - (beside > 0 ? beside + GUTTER : 0);
  const rows = rowsOf(beside > 0 ? step.diagrams.slice(1) : step.diagrams, width);
  const besideHigh = beside > 0 ? drawnSize(first, beside).high : 0;
  const textHigh = lines.reduce((sum, [text, size]) => sum + sheet.heightOf(text, size, textWide) + 1.5, 0);
  const drawnHigh = rows.reduce((sum, row) => sum + rowHigh(row), 0);
  const whole =
    17 + Math.max(Math.max(textHigh, besideHigh) + drawnHigh + BOX_HIGH + 5, (picture?.high ?? 0) + 12) + 8;
  // A step that fits a page is not torn apart.
  sheet.room(Math.min(whole + sheet.moreFor(cautions), sheet.bottom - MARGIN));
  sheet.heed(cautions);
  const name = `${step.number}. ${step.title}`;
  doc.font('title').fontSize(12.5);
  const wide = doc.widthOfString(inFont(name));
  const line = doc.y;
  sheet.text(name, 12.5, 'title');
  const under = doc.y;
  doc.font('bold').fontSize(9.5).fillColor(INK);
  doc.text(inFont(step.sizes), MARGIN + wide + 10, line + 4, {
    width: sheet.width - wide - 10,
    align: 'right',
  });
  doc.x = MARGIN;
  doc.y = Math.max(under, doc.y) + 1;
  const top = doc.y;
  if (picture) {
    doc.image(picture.png, MARGIN, top, { width: picture.wide, height: picture.high });
    doc.font('body').fontSize(8).fillColor(FADED);
    doc.text(picture.note, MARGIN, top + picture.high + 2, { lineBreak: false });
    doc.y = top;
  }
  for (const [text, size, style, colour] of lines) {
    sheet.text(text, size, style, colour, left, textWide);
    sheet.gap(1.5);
  }
  if (beside > 0) {
    const said = doc.y;
    const from = said >= top ? top - 3 : MARGIN;
    doc.y = from;
    draw(sheet, first, left + textWide + GUTTER, beside);
    doc.y = Math.max(said, from + besideHigh);
  }
  for (const row of rows) {
    sheet.room(rowHigh(row));
    const y = doc.y;
    for (const { diagram, left: from, wide: own } of row) {
      doc.y = y;
      draw(sheet, diagram, left + from, own);
    }
    doc.y = y + rowHigh(row);
  }
  sheet.gap(1);
  sheet.boxes(step.boxes, left);
  // Where the step was torn apart, its picture stands on the page before.
  const below = picture && doc.y >= top ? top + picture.high + 12 : doc.y;
  doc.y = Math.max(doc.y, below) + 1;
  sheet.rule();
}

function table(
  sheet: Sheet,
  heads: readonly string[],
  rows: readonly (readonly string[])[],
  shares: readonly number[],
): void {
  const { doc } = sheet;
  const row = (cells: readonly string[], style: 'body' | 'bold') => {
    const widths = shares.map((s) => s * sheet.width - 6);
    const high = Math.max(...cells.map((c, i) => sheet.heightOf(c, 10, widths[i]))) + 4;
    sheet.room(high);
    const y = doc.y;
    let x = MARGIN;
    cells.forEach((cell, i) => {
      doc.font(style).fontSize(10).fillColor(INK).text(inFont(cell), x, y, { width: widths[i] });
      x += shares[i] * sheet.width;
    });
    doc.x = MARGIN;
    doc.y = y + high;
  };
  row(heads, 'bold');
  sheet.rule();
  rows.forEach((cells) => row(cells, 'body'));
  sheet.gap(8);
}

/** The whole plan on paper, as a PDF. */
export async function wallPdf(evaluation: Evaluation, paper: Paper): Promise<Buffer> {
  const wall = wallSheet(evaluation);
  const sheet = new Sheet(paper, wall.title);
  const { doc } = sheet;
  const chunks: Buffer[] = [];
  const done = new Promise<Buffer>((resolve, reject) => {
    doc.on('data', (chunk: Buffer) => chunks.push(chunk));
    doc.on('end', () => resolve(Buffer.concat(chunks)));
    doc.on('error', reject);
  });
  sheet.text(wall.title, 24, 'title');
  sheet.text(`Finished bar ${wall.goal}. This plan gives ${wall.comes}.`, 12, 'bold');
  if (wall.notes) sheet.text(wall.notes, 10);
  sheet.text(wall.general, 9, 'body', FADED);
  sheet.gap(10);
  if (wall.cut.length > 0) {
    sheet.text('To cut', 15, 'title');
    table(sheet, ['Steel', 'Section', 'Length', 'Pieces', 'For'], wall.cut, [0.22, 0.26, 0.16, 0.11, 0.25]);
    sheet.text(`From new stock: ${wall.buy.join('; ')}.`, 10);
    sheet.gap(10);
  }
  for (const lane of wall.lanes) {
    sheet.room(170);
    sheet.text(wall.lanes.length > 1 ? `${lane.mark}: ${lane.name}` : lane.name, 17, 'title');
    sheet.gap(4);
    for (const step of lane.steps) {
      // Between pictures others are answered.
      await setImmediate();
      const texts = wall.cautions.filter((c) => step.cautions.includes(c.letter));
      const own = new Map(texts.map(({ letter, text }) => [letter, text]));
      const last = step === lane.steps.at(-1);
      stepBlock(sheet, step, pictureOf(evaluation, step.stepId, last ? MOST_LAST_MM : MOST_MM), own);
    }
  }
  sheet.finish();
  doc.end();
  return done;
}
