import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { convert } from 'fontverter';
import PDFDocument from 'pdfkit';

export const PAPERS = ['A4', 'LETTER'] as const;
export type Paper = (typeof PAPERS)[number];

const FONTS = {
  body: 'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff',
  bold: 'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff',
  title: 'young-serif/files/young-serif-latin-400-normal.woff',
};
export type FontStyle = keyof typeof FONTS;

/** A font of the pages, unpacked once: the writer of PDFs would unpack each table of it whenever it looks there. */
async function unpacked(file: string): Promise<Buffer> {
  return convert(await readFile(createRequire(import.meta.url).resolve(`@fontsource/${file}`)), 'truetype');
}
const unpackedAll = () =>
  Promise.all(Object.entries(FONTS).map(async ([style, file]) => [style, await unpacked(file)] as const));
let known: ReturnType<typeof unpackedAll> | undefined;
const fonts = () => (known ??= unpackedAll());

/** Lengths on paper are points where nothing else is said. */
export const PT_PER_MM = 72 / 25.4;
export const MARGIN = 36;
/** mm. The square on every page by which the paper's own scale is checked. */
const TEST_SQUARE_MM = 20;
export const BOX_HIGH = 22;
const CARE_SIZE = 7.5;
const FOOT_WORDS = 14;
export const INK = '#1f2124';
export const FADED = '#5b564c';
const LINE = '#c9bfa9';

type Doc = PDFKit.PDFDocument;
/** Signs that the shipped fonts do not have, said with those they do. */
export const inFont = (text: string): string =>
  text
    .replace(/−/g, '-')
    .replace(/[₀-₉]/g, (d) => String(d.charCodeAt(0) - 0x2080))
    .replace(/[^\n\u0020-\u024F\u2010-\u2026\u20ac\u2122\u00b7\u00d7]/g, '');

/** Pages of a document that are filled from the top; every foot has the test square and what is to be heeded on that page. */
export class Sheet {
  readonly doc: Doc;
  private readonly title: string;
  private page = 1;
  /** Cautions of the steps on this page, by their letters: said above its foot. */
  private heeded = new Map<string, string>();

  static async begin(paper: Paper, title: string): Promise<Sheet> {
    return new Sheet(paper, title, await fonts());
  }

  private constructor(paper: Paper, title: string, styles: Awaited<ReturnType<typeof fonts>>) {
    this.title = title;
    this.doc = new PDFDocument({ size: paper, margin: MARGIN, info: { Title: title, Producer: 'Retablo' } });
    for (const [style, font] of styles) this.doc.registerFont(style, font);
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
    style: FontStyle = 'body',
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
