import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { AxeResults, RunOptions } from 'axe-core';
import { type Page, expect, test } from './fixtures.ts';

export const at = (path: string): string => `${process.env.RETABLO_URL}${path}`;

/** Waits until every picture on the page is painted sharp. */
export async function painted(page: Page): Promise<void> {
  await page.waitForFunction(() => {
    // What is drawn over the steel to be dragged is not painted by the worker.
    const canvases = [...document.querySelectorAll('canvas')].filter((c) => !c.closest('.konvajs-content'));
    return canvases.length > 0 && canvases.every((canvas) => canvas.dataset.painted === 'sharp');
  });
}

/** Waits until every piece on the shelf has its small picture, and all of them are shown. */
export async function pictured(page: Page): Promise<void> {
  await expect(page.locator('main li').first()).toBeVisible();
  await expect(page.getByText('its picture is being made')).toHaveCount(0, { timeout: 100_000 });
  await page.waitForFunction(() =>
    [...document.querySelectorAll<HTMLImageElement>('main img')].every(
      (image) =>
        image.getBoundingClientRect().top > innerHeight || (image.complete && image.naturalWidth > 0),
    ),
  );
}

/** Begins a piece and leaves it open on the Plan screen. */
export async function beginPiece(
  page: Page,
  name: string,
  sizes: { unit: 'in' | 'mm'; length: string; width: string; thickness: string },
): Promise<void> {
  await page.goto(at('/'));
  await page.getByRole('button', { name: 'Begin a new piece' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'A bar', exact: true }).click();
  await page.getByRole('button', { name: sizes.unit === 'in' ? 'inches' : 'mm', exact: true }).click();
  await page.getByLabel('Finished length').fill(sizes.length);
  await page.getByLabel('Finished width').fill(sizes.width);
  await page.getByLabel('Finished thickness').fill(sizes.thickness);
  await page.getByRole('button', { name: 'Begin empty' }).click();
  await expect(page.getByRole('heading', { name: 'What does the bar begin as?' })).toBeVisible();
}

/** Adds a move at the end of the lane. */
export async function addMove(page: Page, title: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a move' }).click();
  await page
    .getByRole('menuitem')
    .filter({ has: page.getByText(title, { exact: true }) })
    .click();
}

/** Opens a demo piece from the shelf. */
export async function openPiece(page: Page, name: string): Promise<void> {
  await page.goto(at('/'));
  await page.getByRole('link', { name: new RegExp(name) }).click();
  await expect(page.getByLabel('Name of the piece')).toHaveValue(name);
}

/** Waits until what is on screen is saved. */
export const saved = (page: Page): Promise<void> => expect(page.getByLabel('Saving')).toContainText('Saved');

/** Takes back everything changed since the piece was opened. */
export async function undoAll(page: Page): Promise<void> {
  const undo = page.getByRole('button', { name: 'Undo (Z)' });
  while (await undo.isEnabled()) await undo.click();
  await saved(page);
}

/** Bytes of the picture after the selected move, to tell pictures apart. */
export const pictureAfter = (page: Page): Promise<string> =>
  page
    .getByRole('img', { name: /^After|^The can in section/ })
    .evaluate((canvas) => (canvas as HTMLCanvasElement).toDataURL());

/** A page that hears nothing of what others change: it works on a plan that may be an older one. */
export async function deaf(page: Page): Promise<void> {
  await page.route('**/events?*', (route) => route.abort());
}

export const verdict = (page: Page) => page.getByLabel('Plan against goal');

/** Panels of all bars, by their spoken names. */
export const panel = (page: Page, name: RegExp) =>
  page.getByRole('navigation', { name: /^Moves of/ }).getByRole('button', { name });

export async function noSidewaysScroll(page: Page): Promise<void> {
  expect(
    await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth),
  ).toBe(0);
}

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface AxeWindow {
  axe?: { run(within: Document, options: RunOptions): Promise<AxeResults> };
}

/** All rules of axe over the page, which has no frames: put in once a page and run there, without its two-page way for frames. */
export async function accessible(page: Page, rules: RunOptions['rules'] = {}): Promise<void> {
  expect(page.frames()).toHaveLength(1);
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(AXE);
  const violations = await page.evaluate(
    async (also) =>
      (
        await (window as unknown as AxeWindow).axe!.run(document, {
          resultTypes: ['violations'],
          rules: also,
        })
      ).violations.map(({ id, impact, nodes }) => ({ id, impact, html: nodes.map((node) => node.html) })),
    rules,
  );
  const serious = violations.filter((v) => v.impact === 'serious' || v.impact === 'critical');
  expect(serious.map((v) => `${v.id}: ${v.html.join(' | ')}`)).toEqual([]);
}

/** What a press hands to the browser as a file: its name and content. */
export async function downloaded(
  page: Page,
  press: () => Promise<void>,
): Promise<{ name: string; content: Buffer }> {
  const [file] = await Promise.all([page.waitForEvent('download'), press()]);
  return { name: file.suggestedFilename(), content: readFileSync(await file.path()) };
}

/** Fails a test on anything that went wrong in the page's console; the list, for tests that expect some. */
export function watchTroubles(): string[] {
  const troubles: string[] = [];
  test.beforeEach(({ page }) => {
    troubles.length = 0;
    page.on('pageerror', (error) => troubles.push(error.message));
    page.on('console', (message) => {
      if (message.type() === 'error' && !message.text().includes('409')) troubles.push(message.text());
    });
  });
  test.afterEach(() => expect(troubles).toEqual([]));
  return troubles;
}

/** From the wish's screen: looks closer at the first plan of a recipe, and begins with it. */
export async function beginWith(page: Page, recipe: RegExp): Promise<void> {
  await page.getByRole('button', { name: recipe }).first().click({ timeout: 60_000 });
  await page.getByRole('dialog').getByRole('button', { name: 'Begin with it' }).click();
}
