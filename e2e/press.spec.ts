import { expect, test } from '@playwright/test';
import {
  accessible,
  noSidewaysScroll,
  openPiece,
  painted,
  panel,
  undoAll,
  verdict,
  watchTroubles,
} from './steps.ts';

watchTroubles();

const worked = { timeout: 40_000 };

test('passes are worked out beside the page, seen one by one, and only what changed is worked out again', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await openPiece(page, 'Ebb Bar');
  await panel(page, /^4\. Press/).click();
  // The page answers while the flow is worked out.
  await expect(page.getByText(/^Pass 6, 90°/)).toBeVisible(worked);
  await expect(verdict(page)).toContainText('This plan gives');
  await painted(page);
  const slider = page.getByRole('slider', { name: 'Pass' });
  await slider.focus();
  await page.keyboard.press('Home');
  await expect(page.getByRole('img', { name: 'The section before the first pass' })).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('img', { name: 'The section after pass 1' })).toBeVisible();
  await expect(page.getByText(/force at the end about/)).toBeVisible();
  await page.getByRole('button', { name: 'Beside the ideal re-square' }).click();
  await expect(page.getByText(/^They differ on \d+ % of the section/)).toBeVisible();
  await page.getByRole('button', { name: 'Between the dies' }).click();

  // The last pass alone is changed: what follows waits, and is there again.
  await page.getByLabel('Pass 6, to').fill('34.5');
  await page.getByLabel('Pass 6, to').press('Enter');
  await expect(slider).toBeEnabled();
  await slider.focus();
  await expect(async () => {
    await page.keyboard.press('End');
    await expect(page.getByText(/^Pass 6, 90°: .* 34.5 mm high/)).toBeVisible({ timeout: 1000 });
  }).toPass(worked);
  await expect(verdict(page)).toContainText('This plan gives');
  // A stop that cannot be: said in words, and nothing is lost.
  await page.getByLabel('Take a ready sequence').click();
  await page.getByRole('option', { name: 'flatten a diamond' }).click();
  await expect(page.getByLabel('Pass 3, turn')).toBeHidden();
  await expect(page.getByText(/fills only \d+ % of its box/)).toBeVisible(worked);
  await undoAll(page);
});

for (const [width, height] of [
  [1280, 800],
  [800, 1280],
])
  test(`the press view is accessible and fits at ${width} × ${height}`, async ({ page }) => {
    test.setTimeout(90_000);
    await page.setViewportSize({ width, height });
    await openPiece(page, 'Ebb Bar');
    await panel(page, /^4\. Press/).click();
    await expect(page.getByText(/^Pass 6, 90°/)).toBeVisible(worked);
    await painted(page);
    await accessible(page);
    await noSidewaysScroll(page);
  });

test('a can is pressed solid by the flow of its section where that is asked for', async ({ page }) => {
  test.setTimeout(120_000);
  await openPiece(page, 'Night Heron');
  await panel(page, /^2\. Press solid/).click();
  await expect(page.getByText(/A prediction of first order/)).toBeVisible();
  await page.getByRole('combobox', { name: 'Reckoned' }).click();
  await page.getByRole('option', { name: 'by the flow of the section' }).click();
  await expect(page.getByText(/Working out how the can’s section flows/)).toBeVisible();
  await expect(page.getByText(/Reckoned by the flow of the section between the dies/)).toBeVisible({
    timeout: 80_000,
  });
  await expect(verdict(page)).toContainText('This plan gives');
  // The form was walked back through the other reckoning: that is noticed.
  await page.getByRole('link', { name: 'Canister' }).click();
  await page.getByRole('button', { name: 'Form', exact: true }).click();
  await expect(
    page.getByText(/has changed since the form was walked back|leaves the steel of this can/),
  ).toBeVisible({ timeout: 30_000 });
  await undoAll(page);
});
