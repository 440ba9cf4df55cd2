import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from './fixtures.ts';
import { PNG } from 'pngjs';
import { at, downloaded, openPiece, painted, panel, saved, watchTroubles } from './steps.ts';

watchTroubles();

const filesOut = async (page: import('@playwright/test').Page, item: RegExp | string) => {
  await page.getByRole('button', { name: 'Files out' }).click();
  await page.getByRole('menuitem', { name: item }).click();
};

test('a plan goes out as a file and comes in again the same', async ({ page, request }) => {
  await openPiece(page, 'Quarry Quilt');
  const { name, content } = await downloaded(page, () => filesOut(page, /^The plan, as a file/));
  expect(name).toBe('quarry-quilt.retablo.json');
  const sent = JSON.parse(content.toString('utf8'));
  await page.goto(at('/'));
  await page
    .getByLabel('Open a plan file')
    .last()
    .setInputFiles({ name, mimeType: 'application/json', buffer: content });
  await expect(page.getByLabel('Name of the piece')).toHaveValue('Quarry Quilt');
  const id = page.url().split('/').at(-1)!;
  expect((await (await request.get(at(`/api/projects/${id}`))).json()).plan).toEqual(sent);
  await request.delete(at(`/api/projects/${id}`));
});

test('a file that is no plan says where, and the shelf stays as it was', async ({ page }) => {
  await page.goto(at('/'));
  await expect(page.getByRole('link', { name: /Salt Marsh/ })).toBeVisible();
  const pieces = await page.getByRole('listitem').count();
  const input = page.getByLabel('Open a plan file').last();
  const tries: [string, string, RegExp][] = [
    ['notes.json', 'dear diary', /not JSON/],
    ['other.json', '{"format":"other"}', /is this a plan file/],
    [
      'spoiled.json',
      JSON.stringify({
        format: 'retablo-plan',
        version: 2,
        name: 'Spoiled',
        goal: { lengthMm: 300, widthMm: 38, thicknessMm: 5 },
        lanes: [
          {
            id: 'a',
            name: 'A',
            steps: [{ id: 's1', kind: 'weld', parameters: { heats: -1, temperatureC: 1200 } }],
          },
        ],
      }),
      /step 1 \(Weld\)/,
    ],
    ['newer.json', '{"format":"retablo-plan","version":99}', /newer than this Retablo/],
  ];
  for (const [name, text, said] of tries) {
    await input.setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
    const dialog = page.getByRole('dialog', { name: `${name} cannot be opened` });
    await expect(dialog).toContainText('Nothing was changed');
    await expect(dialog).toContainText(said);
    await dialog.getByRole('button', { name: 'Close' }).click();
    await expect(dialog).toBeHidden();
  }
  await page.reload();
  await expect(page.getByRole('link', { name: /Salt Marsh/ })).toBeVisible();
  await expect(page.getByRole('listitem')).toHaveCount(pieces);
});

test('a face goes out as a picture and as outlines in true size', async ({ page }) => {
  await openPiece(page, 'Salt Marsh');
  await panel(page, /^4\. Re-square/).click();
  await filesOut(page, 'A picture of the selected move…');
  const png = await downloaded(page, () => page.getByRole('button', { name: 'Picture, PNG' }).click());
  const picture = PNG.sync.read(png.content);
  expect(picture.width / picture.height).toBeCloseTo(1, 2);
  expect(picture.width).toBeGreaterThan(400);
  const tones = new Set<number>();
  for (let i = 0; i < picture.data.length; i += 4) tones.add(picture.data[i]);
  expect(tones.size).toBeGreaterThan(2);
  const svg = await downloaded(page, () => page.getByRole('button', { name: 'Outlines, SVG' }).click());
  const drawing = svg.content.toString('utf8');
  // Read back by the browser's own parser, as a drawing and not as text.
  const read = await page.evaluate((text) => {
    const root = new DOMParser().parseFromString(text, 'image/svg+xml')
      .documentElement as unknown as SVGSVGElement;
    return {
      width: root.getAttribute('width'),
      box: root.getAttribute('viewBox'),
      paths: [...root.querySelectorAll('path')].map((p) => p.id),
    };
  }, drawing);
  const side = Number(read.width!.replace('mm', ''));
  expect(side).toBeCloseTo(25, 0);
  expect(read.box).toBe(`0 0 ${side} ${side}`);
  expect(read.paths.sort()).toEqual(['1084', '15n20']);
});

test('the plan prints on either paper with nothing cut off and true sizes true', async ({
  page,
  request,
  context,
}) => {
  await openPiece(page, 'Salt Marsh');
  const id = page.url().split('/').at(-1)!;
  const pdf = await request.get(at(`/api/projects/${id}/wall.pdf?paper=LETTER`), { timeout: 120_000 });
  expect(pdf.headers()['content-type']).toContain('application/pdf');
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  expect((await request.get(at(`/api/projects/${id}/wall.pdf?paper=A3`))).status()).toBe(400);
  const scratch = mkdtempSync(join(tmpdir(), 'retablo-print-'));
  for (const [paper, wideMm, highMm] of [
    ['A4', 210, 297],
    ['Letter', 215.9, 279.4],
  ] as const) {
    // A page each: Chromium does not repaint one that was made into a PDF.
    const sheet = await context.newPage();
    await sheet.goto(at(`/pieces/${id}/print`));
    await sheet.getByRole('button', { name: paper, exact: true }).click();
    await painted(sheet);
    const square = await sheet.locator('[data-test-square]').boundingBox();
    expect(square!.width / (96 / 25.4)).toBeCloseTo(20, 1);
    const file = join(scratch, `${paper}.pdf`);
    writeFileSync(file, await sheet.pdf({ preferCSSPageSize: true }));
    await sheet.close();
    const boxes = execFileSync('pdftotext', ['-bbox', file, '-'], { encoding: 'utf8' });
    const sizes = [...boxes.matchAll(/<page width="([\d.]+)" height="([\d.]+)"/g)];
    expect(sizes.length).toBeGreaterThan(3);
    for (const [, w, h] of sizes) {
      expect(Math.abs((Number(w) / 72) * 25.4 - wideMm)).toBeLessThan(1);
      expect(Math.abs((Number(h) / 72) * 25.4 - highMm)).toBeLessThan(1);
    }
    const words = [
      ...boxes.matchAll(/<word xMin="([-\d.]+)" yMin="([-\d.]+)" xMax="([-\d.]+)" yMax="([-\d.]+)">([^<]*)/g),
    ];
    expect(words.length).toBeGreaterThan(200);
    const ends = (i: number, of: (...values: number[]) => number) => of(...words.map((w) => Number(w[i])));
    expect(Math.min(ends(1, Math.min), ends(2, Math.min))).toBeGreaterThan(20);
    expect(ends(3, Math.max)).toBeLessThan((wideMm / 25.4) * 72 - 20);
    expect(ends(4, Math.max)).toBeLessThan((highMm / 25.4) * 72 - 20);
    const text = words.map((w) => w[5]).join(' ');
    expect(text).not.toContain('Undo');
    for (const said of ['To cut', 'true size', 'Take care', '16. ']) expect(text).toContain(said);
    // The true-size picture of the re-squared bar: 25 mm each way on paper.
    const images = execFileSync('pdfimages', ['-list', file], { encoding: 'utf8' });
    const mm = [
      ...images.matchAll(
        /image\s+(\d+)\s+(\d+)\s+(?:rgb|icc)\s+\d\s+8\s+\w+\s+\w+\s+\d+\s+\d+\s+(\d+)\s+(\d+)/g,
      ),
    ].map(([, w, h, x, y]) => [(Number(w) / Number(x)) * 25.4, (Number(h) / Number(y)) * 25.4]);
    expect(mm.some(([w, h]) => Math.abs(w - 25) < 0.5 && Math.abs(h - 25) < 0.5)).toBe(true);
  }
  await saved(page);
});
