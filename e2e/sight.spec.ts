import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { evaluate, materialOrder, readPlanText, stepResult } from '../core/plan/index.ts';
import { predictionOf } from '../core/render/foreseen.ts';
import { photographed } from '../core/sighting/camera.ts';
import { STILL } from '../core/sighting/warp.ts';
import { type Page, expect, test } from './fixtures.ts';
import { accessible, at, noSidewaysScroll, painted } from './steps.ts';

test.use({ viewport: { width: 800, height: 1280 }, hasTouch: true });

const TURNED = (3.5 * Math.PI) / 180;

/** End B of the re-squared bar as the simulated camera takes it: its pattern turned by 3.5°. */
async function photograph() {
  const read = readPlanText(readFileSync('server/demo/salt-marsh.json', 'utf8'));
  if (!read.ok) throw new Error('no plan');
  const evaluation = evaluate(read.plan);
  const [bar] = stepResult(evaluation, 's4')!.after!;
  const prediction = predictionOf(bar, evaluation.shop, materialOrder(evaluation));
  const { photo, corners } = photographed({
    ...prediction,
    end: 'B',
    rolledDeg: 24,
    fault: { ...STILL, turn: TURNED },
  });
  const raw = { width: photo.width, height: photo.height, channels: 4 } as const;
  const buffer = await sharp(Buffer.from(photo.rgba), { raw }).jpeg({ quality: 90 }).toBuffer();
  return { file: { name: 'end-b.jpg', mimeType: 'image/jpeg', buffer }, corners, side: photo.width };
}

/** Drags the corners to where they are on the photograph. */
async function toCorners(page: Page, corners: readonly (readonly [number, number])[], side: number) {
  const box = (await page.getByRole('group', { name: /^The edges of the section/ }).boundingBox())!;
  for (const [k, [x, y]] of corners.entries()) {
    const handle = (await page.getByRole('button', { name: new RegExp(`^Corner ${k + 1},`) }).boundingBox())!;
    await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + (x / side) * box.width + 3, box.y + (y / side) * box.height - 2, {
      steps: 4,
    });
    await page.mouse.up();
  }
}

test('an end is photographed, laid over the plan, taken over: the four-way shows what came; and taken back', async ({
  page,
}) => {
  const { file, corners, side } = await photograph();
  await page.goto(at('/'));
  await page.getByRole('link', { name: /Salt Marsh/ }).tap();
  await page.getByRole('link', { name: 'Bench', exact: true }).tap();
  const toMove = async (name: RegExp) => {
    await page.getByRole('button', { name: 'All moves' }).tap();
    await page.getByRole('navigation', { name: 'All moves' }).getByRole('button', { name }).tap();
  };
  await toMove(/^4\. Re-square/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Re-square on the bias');
  await painted(page);
  await page.locator('input[type=file]').setInputFiles(file);
  await page.getByRole('group', { name: 'It shows' }).getByRole('button', { name: 'End B' }).tap();
  await page.getByRole('button', { name: 'Lay it over the plan' }).tap();
  const dialog = page.getByRole('dialog', { name: 'What the photograph shows' });
  await expect(dialog.getByRole('group', { name: /^The edges of the section/ })).toBeVisible();
  // Lines that lie somewhere else: said, and nothing is taken.
  await dialog.getByRole('button', { name: 'Read it' }).tap();
  await expect(dialog.getByRole('alert')).toBeVisible({ timeout: 60_000 });
  await toCorners(page, corners, side);
  await dialog.getByRole('button', { name: /^Corner 1,/ }).press('Shift+ArrowUp');
  await dialog.getByRole('button', { name: /^Corner 1,/ }).press('Shift+ArrowDown');
  await accessible(page);
  await noSidewaysScroll(page);
  if (process.env.SHOT) await page.screenshot({ path: process.env.SHOT.replace('.png', '-lines.png') });
  await dialog.getByRole('button', { name: 'Read it' }).tap();
  const read = dialog.getByRole('status', { name: 'What was read' });
  await expect(read).toContainText('End B', { timeout: 60_000 });
  await expect(read).toContainText(/run [2-4]\.\d° counter-clockwise of where they should/);
  await accessible(page);
  await noSidewaysScroll(page);
  if (process.env.SHOT) await page.screenshot({ path: process.env.SHOT });
  await dialog.getByRole('button', { name: 'Take it over' }).tap();
  await expect(page.getByText(/^Read: the layers run/)).toBeVisible();
  // From here the plan goes on from what came.
  await toMove(/^7\. Arrange/);
  await painted(page);
  await toMove(/^4\. Re-square/);
  await page.getByRole('button', { name: 'Take the reading back' }).tap();
  await expect(page.getByRole('button', { name: 'Lay it over the plan' })).toBeVisible();
});

test('the simulated camera takes an end of a bar of the shelf, with a fault of one’s choice', async ({
  page,
}) => {
  await page.goto(at('/instruments'));
  const camera = page.getByRole('region', { name: 'Camera' });
  const choose = async (what: string, name: string | RegExp) => {
    await camera.getByLabel(what).click();
    await page.getByRole('option', { name }).click();
  };
  await choose('Piece', 'Salt Marsh');
  await choose('After the move', /^4\. Re-square/);
  await choose('End', 'A');
  await camera.getByRole('slider', { name: 'Pattern turned' }).press('ArrowRight');
  await accessible(page);
  await noSidewaysScroll(page);
  if (process.env.SHOT)
    await page.screenshot({ path: process.env.SHOT.replace('.png', '-camera.png'), fullPage: true });
  const taken = page.waitForEvent('download');
  await camera.getByRole('button', { name: 'Take the photograph' }).click();
  const file = await taken;
  expect(file.suggestedFilename()).toBe('salt-marsh-end-A.jpg');
  const { format, width } = await sharp(await file.path()).metadata();
  expect([format, width]).toEqual(['jpeg', 900]);
});
