import { PNG } from 'pngjs';
import { type Page, expect, test } from './fixtures.ts';
import { accessible, openPiece, panel } from './steps.ts';

const said = (page: Page) => page.getByRole('status', { name: 'What is shown' });
const there = (page: Page) => expect(page.locator('[data-there]')).toBeVisible();

/** The share of the stage's dots that are as dark as etched steel: faces that are not painted yet are grey. */
async function dark(page: Page): Promise<number> {
  const { data, width, height } = PNG.sync.read(await page.locator('canvas').last().screenshot());
  let found = 0;
  for (let i = 0; i < data.length; i += 4) if (data[i] < 70 && data[i + 1] < 70) found++;
  return found / (width * height);
}

test('an instruction is played: sentence by sentence, back and forth, to what comes of it', async ({
  page,
}) => {
  await openPiece(page, 'Salt Marsh');
  await panel(page, /^7\. Arrange/).click();
  const words = await page
    .getByRole('listitem')
    .filter({ hasText: /^Lay piece 1/ })
    .innerText();
  await page.getByRole('button', { name: 'Show me' }).click();
  await there(page);
  await accessible(page);
  await expect(said(page)).toHaveText('As it lies before');
  await expect.poll(() => dark(page)).toBeGreaterThan(0.02);
  const next = page.getByRole('button', { name: 'Next' });
  for (let i = 0; i < 3; i++) {
    await next.click();
    await there(page);
  }
  // The same words as beside the plan.
  await expect(said(page)).toHaveText(words);
  await page.getByRole('button', { name: 'Back' }).click();
  await expect(said(page)).not.toHaveText(words);
  while (await next.isEnabled()) {
    await next.click();
    await there(page);
  }
  await expect(said(page)).toHaveText('What comes of it');
  await expect.poll(() => dark(page)).toBeGreaterThan(0.02);
  await page.getByRole('button', { name: 'Play' }).click();
  await expect(said(page)).toHaveText('As it lies before');
  await expect(page.getByText('2 of 11')).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(said(page)).toBeHidden();
});

test('every move of a piece can be shown, and of one in which nothing lies there yet it is said', async ({
  page,
}) => {
  const broken: string[] = [];
  page.on('pageerror', (error) => broken.push(error.message));
  await openPiece(page, 'Hailstorm');
  for (let at = 1; at <= 11; at++) {
    await panel(page, new RegExp(`^${at}\\. `))
      .first()
      .click();
    await page.getByRole('button', { name: 'Show me' }).click();
    await there(page);
    const next = page.getByRole('button', { name: 'Next' });
    while (await next.isEnabled()) await next.click();
    await there(page);
    await page.getByRole('button', { name: 'Close' }).click();
  }
  expect(broken).toEqual([]);
});

test('without three dimensions it is drawn, at the bench too, large enough for gloves', async ({ page }) => {
  await page.addInitScript(() => {
    const real = HTMLCanvasElement.prototype.getContext;
    HTMLCanvasElement.prototype.getContext = function (
      this: HTMLCanvasElement,
      kind: string,
      ...rest: unknown[]
    ) {
      return kind.startsWith('webgl')
        ? null
        : (real as (...all: unknown[]) => unknown).call(this, kind, ...rest);
    } as typeof real;
  });
  await page.setViewportSize({ width: 800, height: 1280 });
  await openPiece(page, 'Slack Tide');
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await page.getByRole('button', { name: 'All moves' }).click();
  await page
    .getByRole('navigation', { name: 'All moves' })
    .getByRole('button', { name: /Arrange/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Show me' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.locator('svg polygon').first()).toBeVisible();
  await expect(dialog.getByText(/^\d B$/).first()).toBeVisible();
  for (const name of ['Close', 'Back', 'Next'])
    expect((await dialog.getByRole('button', { name }).boundingBox())!.height).toBeGreaterThanOrEqual(55.5);
  await dialog.getByRole('button', { name: 'Next' }).click();
  await expect(said(page)).not.toHaveText('As it lies before');
  await accessible(page, { 'color-contrast-enhanced': { enabled: true } });
});
