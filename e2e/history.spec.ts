import { expect, test } from './fixtures.ts';
import { accessible, noSidewaysScroll, openPiece, painted, panel, saved, watchTroubles } from './steps.ts';

watchTroubles();

test('what a piece was before is listed, named, compared and taken back, and undo leads back', async ({
  page,
}) => {
  await openPiece(page, 'Tide Ladder');
  await panel(page, /^1\. Stack/).click();
  const layers = page.getByLabel('Layers in all');
  const first = await layers.inputValue();
  await layers.fill('15');
  await saved(page);
  await layers.fill('9');
  await expect(page.getByLabel('Saving')).not.toContainText('Saved');
  await saved(page);
  await page.getByRole('button', { name: 'History' }).click();
  const list = page.getByLabel('Revisions');
  await expect(list.getByRole('button')).toHaveCount(2);
  // The newest of them is shown at first: 15 layers.
  await expect(page.getByText('Stack, step 1: Layers in all 15 then, 9 now')).toBeVisible();
  await list.getByRole('button').last().click();
  await expect(page.getByText(`Stack, step 1: Layers in all ${first} then, 9 now`)).toBeVisible();
  await page.getByLabel('Name of this revision').fill('before the second four-way');
  await page.getByLabel('Name of this revision').press('Enter');
  await expect(list).toContainText('before the second four-way');
  await painted(page);
  await accessible(page);
  await noSidewaysScroll(page);
  await page.getByRole('button', { name: 'Take this one back' }).click();
  await panel(page, /^1\. Stack/).click();
  await expect(layers).toHaveValue(first);
  await saved(page);
  await page.getByRole('button', { name: 'Undo (Z)' }).click();
  await expect(layers).toHaveValue('9');
  await saved(page);
  await page.getByRole('button', { name: 'History' }).click();
  await expect(list.getByRole('button')).toHaveCount(4);
});
