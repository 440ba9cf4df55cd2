import { createRequire } from 'node:module';
import { setImmediate } from 'node:timers/promises';
import PDFDocument from 'pdfkit';
import { type Evaluation, stepResult } from '../../core/plan/index.ts';
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
/** mm. Widest and highest a picture may be; larger faces are made smaller, and are then not said to be true size. */
const MOST_MM = 60;
/** mm. The square on every page by which the paper's own scale is checked. */
const TEST_SQUARE_MM = 20;
const BOX_HIGH = 26;
const INK = '#1f2124';
const FADED = '#5b564c';
const LINE = '#c9bfa9';

type Doc = PDFKit.PDFDocument;
type Picture = { png: Buffer; wide: number; high: number; note: string };

/** Signs that the shipped fonts do not have, said with those they do. */
const inFont = (text: string): string =>
  text
    .replace(/[↑]/g, '^ up')
    .replace(/[→]/g, '> right')
    .replace(/[↓]/g, 'v down')
    .replace(/[←]/g, '< left')
    .replace(/−/g, '-')
    .replace(/[₀-₉]/g, (d) => String(d.charCodeAt(0) - 0x2080))
    .replace(/[^\n\u0020-\u024F\u2010-\u2026\u20ac\u2122\u00b7\u00d7]/g, '');

class Sheet {
  readonly doc: Doc;
  private readonly title: string;
  private page = 1;
  constructor(paper: Paper, title: string) {
    this.title = title;
    this.doc = new PDFDocument({ size: paper, margin: MARGIN, info: { Title: title, Producer: 'Retablo' } });
    for (const [name, file] of Object.entries(FONTS)) this.doc.registerFont(name, file);
    this.foot();
  }

  get width(): number {
    return this.doc.page.width - 2 * MARGIN;
  }

  /** Where the foot of the page begins: nothing else is set below it. */
  get bottom(): number {
    return this.doc.page.height - MARGIN - TEST_SQUARE_MM * PT_PER_MM - 8;
  }

  private foot(): void {
    const { doc } = this;
    const side = TEST_SQUARE_MM * PT_PER_MM;
    const y = doc.page.height - MARGIN - side;
    doc.rect(MARGIN, y, side, side).lineWidth(0.7).strokeColor(INK).stroke();
    doc.font('body').fontSize(8.5).fillColor(FADED);
    const text = `True size when this square measures ${TEST_SQUARE_MM} mm each way: print at 100 %.`;
    doc.text(text, MARGIN + side + 10, y + side - 22, { lineBreak: false });
    doc.text(inFont(`${this.title}, page ${this.page}`), MARGIN + side + 10, y + side - 10, {
      lineBreak: false,
    });
    doc.x = MARGIN;
    doc.y = MARGIN;
  }

  /** A new page when so much does not fit any more. */
  room(high: number): void {
    if (this.doc.y + high <= this.bottom) return;
    this.doc.addPage();
    this.page++;
    this.foot();
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
    doc.fillColor(colour).text(inFont(text), x, doc.y, { width });
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
    this.gap(6);
  }

  heightOf(text: string, size: number, width: number): number {
    return this.doc.font('body').fontSize(size).heightOfString(inFont(text), { width });
  }

  boxes(names: readonly string[]): void {
    const { doc } = this;
    this.room(BOX_HIGH + 8);
    const wide = (this.width - (names.length - 1) * 6) / names.length;
    const y = doc.y;
    names.forEach((name, i) => {
      const x = MARGIN + i * (wide + 6);
      doc.rect(x, y, wide, BOX_HIGH).lineWidth(0.6).strokeColor(FADED).stroke();
      doc
        .font('body')
        .fontSize(7.5)
        .fillColor(FADED)
        .text(name, x + 3, y + 2, { lineBreak: false });
    });
    doc.x = MARGIN;
    doc.y = y + BOX_HIGH + 6;
  }
}

function pictureOf(evaluation: Evaluation, stepId: string): Picture | null {
  const bar = stepResult(evaluation, stepId)?.after?.[0];
  if (!bar) return null;
  const { png, wideMm, highMm, scale, face } = facePng(bar, evaluation.shop, MOST_MM, MOST_MM);
  const note = scale === 1 ? `${face}, true size` : `${face}, at ${Math.round(100 * scale)} %`;
  return { png, wide: wideMm * PT_PER_MM, high: highMm * PT_PER_MM, note };
}

/** A step's lines beside its picture: [text, size, style, colour]. */
function linesOf(step: WallStep): [string, number, keyof typeof FONTS, string][] {
  return [
    [step.sizes, 10.5, 'bold', INK],
    ...step.say.map((line, i): [string, number, keyof typeof FONTS, string] => [
      `${i + 1}. ${line}`,
      10,
      'body',
      INK,
    ]),
    ...(step.marks.length > 0
      ? [
          [`Write on the pieces before sawing: ${step.marks.join('; ')}.`, 10, 'bold', INK] as [
            string,
            number,
            keyof typeof FONTS,
            string,
          ],
        ]
      : []),
    ...(step.figures.length > 0
      ? [
          [step.figures.map(([what, value]) => `${what} ${value}`).join(' · '), 9, 'body', FADED] as [
            string,
            number,
            keyof typeof FONTS,
            string,
          ],
        ]
      : []),
    ...step.heed.map((text): [string, number, keyof typeof FONTS, string] => [
      `Look again: ${text}`,
      9.5,
      'bold',
      '#9a5410',
    ]),
    ...step.cautions.map((text): [string, number, keyof typeof FONTS, string] => [
      `Take care: ${text}`,
      8.5,
      'body',
      FADED,
    ]),
  ];
}

function stepBlock(sheet: Sheet, step: WallStep, picture: Picture | null): void {
  const { doc } = sheet;
  const left = picture ? Math.max(picture.wide, 90) + GUTTER : 0;
  const width = sheet.width - left;
  const lines = linesOf(step);
  const textHigh = lines.reduce((sum, [text, size]) => sum + sheet.heightOf(text, size, width) + 2.5, 0);
  const whole = 20 + Math.max(textHigh, (picture?.high ?? 0) + 14) + BOX_HIGH + 16;
  // A step that fits a page is not torn apart.
  sheet.room(Math.min(whole, sheet.bottom - MARGIN));
  sheet.text(`${step.number}. ${step.title}`, 13, 'title');
  sheet.gap(3);
  const top = doc.y;
  if (picture) {
    doc.image(picture.png, MARGIN, top, { width: picture.wide, height: picture.high });
    doc.font('body').fontSize(8).fillColor(FADED);
    doc.text(picture.note, MARGIN, top + picture.high + 3, { lineBreak: false });
    doc.y = top;
  }
  for (const [text, size, style, colour] of lines) {
    sheet.text(text, size, style, colour, MARGIN + left, width);
    sheet.gap(2.5);
  }
  doc.y = Math.max(doc.y, picture && doc.y >= top ? top + picture.high + 16 : doc.y);
  sheet.gap(3);
  sheet.boxes(step.boxes);
  sheet.gap(4);
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
    sheet.room(220);
    sheet.text(wall.lanes.length > 1 ? `${lane.mark}: ${lane.name}` : lane.name, 17, 'title');
    sheet.gap(4);
    for (const step of lane.steps) {
      // Between pictures others are answered.
      await setImmediate();
      stepBlock(sheet, step, pictureOf(evaluation, step.stepId));
    }
  }
  doc.end();
  return done;
}
