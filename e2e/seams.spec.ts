import { expect, test } from './fixtures.ts';
import { accessible, noSidewaysScroll, openPiece, panel, saved, watchTroubles } from './steps.ts';

watchTroubles();

const worked = { timeout: 60_000 };

test('what is asked about the seams of a four-way is worked out, kept, and never shown for another question', async ({
  page,
}) => {
  await openPiece(page, 'Salt Marsh');
  await panel(page, /^8\. Weld/).click();
  await page.getByRole('button', { name: 'Will the seams shut?' }).click();
  await expect(page.getByRole('img', { name: 'The pieces before the first press' })).toBeVisible();
  for (const press of [4, 3]) await page.getByRole('button', { name: `Remove press ${press}` }).click();
  await page.getByRole('button', { name: 'Work it out' }).click();
  await expect(page.getByText(/^Every seam is shut after [\d.]+\smm of travel/)).toBeVisible(worked);
  const table = page.getByLabel('Seams', { exact: true });
  await expect(table.getByRole('row')).toHaveCount(5);
  await expect(table.getByRole('cell', { name: 'shut' })).toHaveCount(4);
  await expect(table.getByRole('cell', { name: /^\d+\sMPa$/ })).toHaveCount(4);
  await expect(page.getByRole('img', { name: 'The emptiest corner' })).toBeVisible();

  // Before the second press the seams along the press stand open at their ends.
  const slider = page.getByRole('slider', { name: 'Press' });
  await slider.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByText(/^Press 1, to 47.7\smm: .* 2 of 4 seams open/)).toBeVisible();
  await accessible(page);
  await noSidewaysScroll(page);

  // Another question has no answer yet; it can be stopped; the first one's is there again at once.
  await page.getByLabel('Ends open by').fill('0.4');
  await page.getByLabel('Ends open by').press('Enter');
  await expect(page.getByText(/Every seam is shut/)).toHaveCount(0);
  await page.getByRole('button', { name: 'Work it out' }).click();
  await expect(page.getByRole('progressbar', { name: 'Seams worked out' })).toBeVisible();
  // Looking at the steel meanwhile stops nothing.
  await page.getByRole('button', { name: 'Before and after' }).click();
  await page.getByRole('button', { name: 'Seams', exact: true }).click();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Work it out' })).toBeVisible();
  await page.getByLabel('Ends open by').fill('0.2');
  await page.getByLabel('Ends open by').press('Enter');
  await expect(page.getByText(/^Every seam is shut after/)).toBeVisible();

  // Opened again it comes from the database: nobody works it out anew.
  await saved(page);
  await page.reload();
  await panel(page, /^8\. Weld/).click();
  await expect(page.getByText(/^Every seam is shut after/)).toBeVisible();

  // As a step of its own it can be done.
  await page.getByRole('button', { name: 'Press it so after the weld' }).click();
  await expect(panel(page, /^9\. Press/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo (Z)' }).click();
  await panel(page, /^8\. Weld/).click();
  await page.getByRole('button', { name: 'Ask nothing about the seams' }).click();
  await expect(page.getByRole('button', { name: 'Will the seams shut?' })).toBeVisible();
});
