import { expect, test } from './fixtures.ts';
import {
  accessible,
  addMove,
  beginPiece,
  noSidewaysScroll,
  openPiece,
  painted,
  panel,
  pictureAfter,
  saved,
  verdict,
  watchTroubles,
} from './steps.ts';

watchTroubles();

test('a can is filled by number, poured, pressed solid and drawn', async ({ page }) => {
  await beginPiece(page, 'Shot tower', { unit: 'mm', length: '200', width: '30', thickness: '5' });
  await page.getByRole('button', { name: /^A canister/ }).click();
  await page.getByRole('button', { name: 'Rods', exact: true }).click();
  await page.getByLabel('Insert 1 lies').click();
  await page.getByRole('option', { name: 'around the rim' }).click();
  await page.getByLabel('Insert 1 count').fill('500');
  await expect(page.getByRole('alert')).toContainText(/500 .* do not fit as they are laid: \d+ do/);
  await page.getByRole('button', { name: /^Take \d+/ }).click();
  await expect(page.getByRole('alert')).toBeHidden();
  await page.getByRole('button', { name: 'Balls', exact: true }).click();
  await page.getByLabel('Insert 2 diameter').fill('9');
  // So many that they reach beyond the middle of the can, where it is shown.
  await page.getByLabel('Insert 2 count').fill('190');
  await page.getByRole('button', { name: 'Pour insert 2 in' }).click();
  await expect(page.getByText(/^One settled arrangement of many/)).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('they cannot lie so')).toBeHidden();
  await painted(page);
  const once = await pictureAfter(page);
  await page.getByRole('button', { name: 'Pour insert 2 again' }).click();
  await expect.poll(() => pictureAfter(page), { timeout: 30_000 }).not.toBe(once);
  for (const what of ['Powder goes in', 'Powder to make ready', 'Fill factor', 'Full weight'])
    await expect(page.getByRole('button', { name: new RegExp(`^${what} `) })).toBeVisible();
  await expect(page.getByText(/A can without a vent can burst/)).toBeVisible();

  await addMove(page, 'Draw out');
  await expect(page.getByRole('alert')).toContainText('still full of loose powder');
  await page.getByRole('button', { name: 'Press it solid first' }).click();
  await expect(page.getByText(/A prediction of first order/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Solid outside / })).toBeVisible();
  await page.getByLabel('First, end to end').fill('0');
  await expect(page.getByText('loose caps pop')).toBeVisible();
  await page.getByRole('button', { name: /^Press 3 mm end to end first/ }).click();
  await expect(page.getByText('loose caps pop')).toBeHidden();
  await panel(page, /Draw out/).click();
  await page.getByLabel('Side', { exact: true }).fill('30');
  await expect(verdict(page)).toContainText('This plan gives');
  await expect(page.getByLabel('Starting stack needed')).toContainText('Takes a can');
  await page.getByRole('link', { name: 'Stock' }).click();
  const weigh = page.getByRole('article', { name: 'To count and weigh' });
  await expect(weigh).toContainText(/1084 powder: \d/);
  await expect(weigh).toContainText('15N20 balls 9 mm: 190');
  await saved(page);
});

for (const [width, height] of [
  [1280, 800],
  [800, 1280],
])
  test(`the canister’s screens are accessible and fit at ${width} × ${height}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await openPiece(page, 'Hailstorm');
    for (const move of [/^1\. Canister/, /^2\. Press solid/]) {
      await panel(page, move).click();
      await painted(page);
      await accessible(page);
      await noSidewaysScroll(page);
    }
  });

test('how powder is filled in decides how dense it lies; poured in alone it is not taken for shaken down', async ({
  page,
}) => {
  await openPiece(page, 'Hailstorm');
  await panel(page, /^1\. Canister/).click();
  const density = page.getByLabel('Tap density');
  await expect(density).toHaveValue('62 %');
  await page.getByRole('combobox', { name: 'Filled' }).click();
  await page.getByRole('option', { name: 'poured in alone' }).click();
  await expect(density).toHaveValue('53 %');
  // One's own stays, and is spoken of.
  await density.fill('60');
  await density.press('Enter');
  await expect(page.getByText(/poured in alone seldom fills more than 50 to 55 %/)).toBeVisible();
  await page.getByRole('combobox', { name: 'Filled' }).click();
  await page.getByRole('option', { name: 'shaken by a machine' }).click();
  await expect(density).toHaveValue('60 %');
  await expect(page.getByText(/poured in alone seldom/)).toBeHidden();
});
