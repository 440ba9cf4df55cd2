import type { Pace } from '../../core/days/index.ts';
import { setImmediate } from 'node:timers/promises';
import type { Forecast } from '../../core/forecast/index.ts';
import { type Evaluation, materialOrder, stepResult } from '../../core/plan/index.ts';
import { type WallStep, wallSheet } from '../../core/print/wall.ts';
import { GUTTER, LEAST_BESIDE, MOST_BESIDE, draw, drawRow, drawnSize, rowHigh, rowsOf } from './diagrams.ts';
import { facePng } from './facePng.ts';
import {
  BOX_HIGH,
  FADED,
  type FontStyle,
  INK,
  MARGIN,
  PT_PER_MM,
  type Paper,
  Sheet,
  inFont,
} from './sheet.ts';

/** mm. Widest and highest a picture may be, and the last of a bar; larger faces are made smaller, and are then not said to be true size. */
const MOST_MM = 27;
const MOST_LAST_MM = 60;
type Picture = { png: Buffer; wide: number; high: number; note: string };

function pictureOf(evaluation: Evaluation, stepId: string, mostMm: number): Picture | null {
  const bar = stepResult(evaluation, stepId)?.after?.[0];
  if (!bar) return null;
  const { png, wideMm, highMm, scale, face } = facePng(
    bar,
    evaluation.shop,
    materialOrder(evaluation),
    mostMm,
    mostMm,
  );
  const note = scale === 1 ? `${face}, true size` : `${face}, at ${Math.round(100 * scale)} %`;
  return { png, wide: wideMm * PT_PER_MM, high: highMm * PT_PER_MM, note };
}

type Line = readonly [text: string, size: number, style: FontStyle, colour: string];

/** A step's lines beside its picture, under which what is to be heeded stands; without one it is among them. */
function linesOf(step: WallStep, besidePicture: boolean): Line[] {
  return [
    ...step.say.map((line, i): Line => [`${i + 1}. ${line}`, 9.25, 'body', INK]),
    ...(step.figures.length > 0
      ? [[step.figures.map(([what, value]) => `${what} ${value}`).join(' · '), 8.5, 'body', FADED] as const]
      : []),
    ...(step.may ? [[step.may, 8.5, 'body', FADED] as const] : []),
    ...step.came.map((text): Line => [`Came: ${text}`, 9, 'body', INK]),
    ...step.heed.map((text): Line => [`Look again: ${text}`, 9, 'bold', '#9a5410']),
    ...(besidePicture ? [] : careOf(step).map((text): Line => [text, 8.5, 'bold', FADED])),
  ];
}

/** What is to be heeded at a step, by the letters under which it stands at the foot of the page. */
const careOf = ({ cautions }: WallStep): string[] =>
  cautions.length > 0 ? [`Take care: ${[...cautions].sort().join(', ')}`] : [];

/** Room kept for pictures, so that the words of all steps begin at one line. pt */
const LEAST_PICTURE = 27 * PT_PER_MM;
/** What the picture shows, and what is to be heeded. pt */
const UNDER_PICTURE = 23;

function stepBlock(
  sheet: Sheet,
  step: WallStep,
  picture: Picture | null,
  cautions: ReadonlyMap<string, string>,
): void {
  const { doc } = sheet;
  const left = MARGIN + (picture ? Math.max(picture.wide, LEAST_PICTURE) + GUTTER : 0);
  const width = MARGIN + sheet.width - left;
  const lines = linesOf(step, picture !== null);
  // How pieces lie stands beside the words where it is narrow.
  const [first] = step.diagrams;
  const lies = first?.what === 'as they lie' ? first.widthMm * drawnSize(first, width).perMm : Infinity;
  const beside = lies < MOST_BESIDE * width ? Math.max(lies, LEAST_BESIDE) : 0;
  const textWide = width - (beside > 0 ? beside + GUTTER : 0);
  const rows = rowsOf(beside > 0 ? step.diagrams.slice(1) : step.diagrams, width);
  const besideHigh = beside > 0 ? drawnSize(first, beside).high : 0;
  const textHigh = lines.reduce((sum, [text, size]) => sum + sheet.heightOf(text, size, textWide) + 1.5, 0);
  const drawnHigh = rows.reduce((sum, row) => sum + rowHigh(row, width), 0);
  const whole =
    17 +
    Math.max(
      Math.max(textHigh, besideHigh) + drawnHigh + BOX_HIGH + 5,
      picture ? picture.high + UNDER_PICTURE : 0,
    ) +
    8;
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
    doc.font('bold').fontSize(8);
    for (const text of careOf(step)) doc.text(text, MARGIN, top + picture.high + 12, { lineBreak: false });
    doc.x = MARGIN;
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
    sheet.room(rowHigh(row, width));
    drawRow(sheet, row, left, width);
  }
  sheet.gap(1);
  sheet.boxes(step.boxes, left);
  // Where the step was torn apart, its picture stands on the page before.
  const below = picture && doc.y >= top ? top + picture.high + UNDER_PICTURE : doc.y;
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
export async function wallPdf(
  evaluation: Evaluation,
  paper: Paper,
  forecast: Forecast | null = null,
  pace?: Pace,
): Promise<Buffer> {
  const wall = wallSheet(evaluation, forecast, pace);
  const sheet = await Sheet.begin(paper, wall.title);
  const { doc } = sheet;
  const chunks: Buffer[] = [];
  const done = new Promise<Buffer>((resolve, reject) => {
    doc.on('data', (chunk: Buffer) => chunks.push(chunk));
    doc.on('end', () => resolve(Buffer.concat(chunks)));
    doc.on('error', reject);
  });
  sheet.text(wall.title, 24, 'title');
  sheet.text(`Finished bar ${wall.goal}. This plan gives ${wall.comes}.`, 12, 'bold');
  if (wall.sure) sheet.text(wall.sure, 10);
  if (wall.notes) sheet.text(wall.notes, 10);
  sheet.text(wall.general, 9, 'body', FADED);
  sheet.gap(10);
  if (wall.cut.length > 0) {
    sheet.text('To cut', 15, 'title');
    table(sheet, ['Steel', 'Section', 'Length', 'Pieces', 'For'], wall.cut, [0.22, 0.26, 0.16, 0.11, 0.25]);
    sheet.text(`From new stock: ${wall.buy.join('; ')}.`, 10);
    sheet.gap(10);
  }
  if (wall.costs.length > 0) {
    sheet.text('What it takes', 15, 'title');
    table(sheet, ['', 'Amount', 'Price'], wall.costs, [0.5, 0.25, 0.25]);
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
