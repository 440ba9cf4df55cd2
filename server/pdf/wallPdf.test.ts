import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { shortFace, tellingFace } from '../../core/billet/face.ts';
import { type Evaluation, readPlanText } from '../../core/plan/index.ts';
import { evaluated } from '../../core/tests/plans.ts';
import { wallSheet } from '../../core/print/wall.ts';
import { demoFiles } from '../demo/index.ts';
import { PAPERS, type Paper } from './sheet.ts';
import { wallPdf } from './wallPdf.ts';

/** Read back with poppler's tools (Debian's poppler-utils), which know nothing of how the file was written. */
const scratch = mkdtempSync(join(tmpdir(), 'retablo-pdf-'));
afterAll(() => rmSync(scratch, { recursive: true, force: true }));

const MM = 25.4;
const PT = 72;
/** mm, of the papers' standards: ISO 216 and ANSI/ASME Y14.1 (values from memory). */
const SIZES: Record<Paper, [number, number]> = { A4: [210, 297], LETTER: [215.9, 279.4] };
/** mm. What "true size" is allowed to be off. */
const TRUE_MM = 0.5;

const demos = new Map<string, Evaluation>();

function demo(file: string): Evaluation {
  const known = demos.get(file);
  if (known) return known;
  const read = readPlanText(readFileSync(file, 'utf8'));
  if (!read.ok) throw new Error(file);
  const evaluation = evaluated(read.plan);
  demos.set(file, evaluation);
  return evaluation;
}

async function made(evaluation: Evaluation, paper: Paper): Promise<string> {
  const file = join(scratch, 'wall.pdf');
  writeFileSync(file, await wallPdf(evaluation, paper));
  return file;
}

const say = (tool: string, ...args: string[]): string => execFileSync(tool, args, { encoding: 'utf8' });

const numbers = (text: string, pattern: RegExp): number[][] =>
  [...text.matchAll(pattern)].map((m) => m.slice(1).map(Number));

describe.each(PAPERS)('on %s', (paper) => {
  const [wideMm, highMm] = SIZES[paper];

  it.each(demoFiles().map((f) => [f.split('/').at(-1)!, f]))(
    '%s: nothing is cut off, and true size is true',
    async (_, path) => {
      const evaluation = demo(path);
      const file = await made(evaluation, paper);
      const boxes = say('pdftotext', '-bbox', file, '-');
      for (const [w, h] of numbers(boxes, /<page width="([\d.]+)" height="([\d.]+)"/g)) {
        expect((w / PT) * MM).toBeCloseTo(wideMm, 0);
        expect((h / PT) * MM).toBeCloseTo(highMm, 0);
      }
      const margin = (5 * PT) / MM;
      const words = numbers(
        boxes,
        /<word xMin="([-\d.]+)" yMin="([-\d.]+)" xMax="([-\d.]+)" yMax="([-\d.]+)"/g,
      );
      expect(words.length).toBeGreaterThan(100);
      for (const [x0, y0, x1, y1] of words) {
        expect(Math.min(x0, y0)).toBeGreaterThan(margin);
        expect(x1).toBeLessThan((wideMm / MM) * PT - margin);
        expect(y1).toBeLessThan((highMm / MM) * PT - margin + 2);
      }
      const images = numbers(
        say('pdfimages', '-list', file),
        /image\s+(\d+)\s+(\d+)\s+rgb\s+3\s+8\s+image\s+\w+\s+\d+\s+\d+\s+(\d+)\s+(\d+)/g,
      );
      const bars = evaluation.lanes.flatMap((l) =>
        l.steps.flatMap((s) => (s.after?.[0] ? [{ bar: s.after[0], isLast: s === l.steps.at(-1) }] : [])),
      );
      expect(images).toHaveLength(bars.length);
      const text = say('pdftotext', '-layout', file, '-');
      let true_ = 0;
      bars.forEach(({ bar, isLast }, i) => {
        const plane = shortFace(bar, tellingFace(bar), 3);
        const [wPx, hPx, xPpi, yPpi] = images[i];
        const printed = [(wPx / xPpi) * MM, (hPx / yPpi) * MM];
        const most = isLast ? 60 : 27;
        const scale = Math.min(1, most / plane.widthMm, most / plane.heightMm);
        expect(Math.abs(printed[0] - plane.widthMm * scale)).toBeLessThan(TRUE_MM);
        expect(Math.abs(printed[1] - plane.heightMm * scale)).toBeLessThan(TRUE_MM);
        if (scale === 1) true_++;
      });
      expect(text.match(/, true size/g) ?? []).toHaveLength(true_);
    },
  );

  it('the test square is 20 mm, on every page', async () => {
    const file = await made(demo(demoFiles()[0]), paper);
    const pages = Number(/Pages:\s+(\d+)/.exec(say('pdfinfo', file))![1]);
    for (let page = 1; page <= pages; page++) {
      const drawn = say('pdftocairo', '-svg', '-f', String(page), '-l', String(page), file, '-');
      const side = (20 / MM) * PT;
      const squares = numbers(
        drawn,
        /d="M ([\d.]+) ([\d.]+) L ([\d.]+) ([\d.]+) L ([\d.]+) ([\d.]+) L/g,
      ).filter(
        ([x0, y0, x1, y1, x2, y2]) =>
          Math.abs(Math.abs(x1 - x0) + Math.abs(y1 - y0) - side) < 0.05 &&
          Math.abs(Math.abs(x2 - x1) + Math.abs(y2 - y1) - side) < 0.05,
      );
      expect(squares.length, `page ${page}`).toBeGreaterThan(0);
    }
  });
});

describe('what is written', () => {
  const evaluation = demo(demoFiles().find((f) => f.includes('salt-marsh'))!);

  it('is every instruction, size, caution and mark of the wall sheet', async () => {
    const words = say('pdftotext', '-raw', await made(evaluation, 'A4'), '-').replace(/\s+/g, '');
    const sheet = wallSheet(evaluation);
    const plain = (text: string) => text.replace(/\s+/g, '').replace(/[^\x21-\u024F\u2010-\u2026×·]/g, '');
    for (const lane of sheet.lanes)
      for (const step of lane.steps) {
        expect(words).toContain(plain(step.sizes));
        for (const text of step.heed) if (!/[−₀-₉]/.test(text)) expect(words).toContain(plain(text));
      }
    expect(words).toContain(plain(sheet.general));
    for (const row of sheet.cut) expect(words).toContain(plain(row[2]));
  });

  it('has each caution in full once on every page whose steps refer to it, and no arrow in letters', async () => {
    const file = await made(evaluation, 'A4');
    const pages = Number(/Pages:\s+(\d+)/.exec(say('pdfinfo', file))![1]);
    const { cautions } = wallSheet(evaluation);
    const plain = (text: string) => text.replace(/\s+/g, ' ');
    let said = 0;
    for (let page = 1; page <= pages; page++) {
      const text = plain(say('pdftotext', '-raw', '-f', String(page), '-l', String(page), file, '-'));
      const referred = new Set(
        [...text.matchAll(/Take care: ([a-z](?:, [a-z])*)/g)].flatMap((m) => m[1].split(', ')),
      );
      for (const { letter, text: caution } of cautions) {
        const times = text.split(plain(caution)).length - 1;
        expect(times, `${letter} on page ${page}`).toBe(referred.has(letter) ? 1 : 0);
        said += times;
      }
      expect(text).not.toMatch(/\^ up|> right|v down|< left/);
    }
    expect(said).toBeGreaterThan(5);
    // Nineteen moves.
    expect(pages).toBeLessThanOrEqual(5);
  });

  it('is in the shop’s units', async () => {
    const { plan } = evaluation;
    const inches = evaluated({
      ...plan,
      shop: { ...plan.shop, lengths: { unit: 'in', division: 32 }, masses: 'lb', temperatures: 'F' },
    });
    const text = say('pdftotext', await made(inches, 'LETTER'), '-');
    expect(text).toContain('°F');
    expect(text).not.toContain('°C');
    expect(text.replace(/measures 20 mm/g, '')).not.toMatch(/\d mm\b/);
  });
});
