import { expect, test } from './fixtures.ts';
import { noSidewaysScroll, openPiece, painted, panel, saved, verdict, watchTroubles } from './steps.ts';

watchTroubles();

test('a blade is forged to shape first, its tip cut beforehand, and looked at on the blank', async ({
  page,
}) => {
  await openPiece(page, 'Rain Barrel');
  await page.getByRole('link', { name: 'Blade' }).click();
  const blade = page.getByRole('region', { name: 'The blade' });
  await painted(page);
  // Another profile keeps the sizes that were entered.
  const length = blade.getByLabel('Blade length');
  await length.fill('190');
  await length.press('Enter');
  await blade.getByLabel('Profile').click();
  await page.getByRole('option', { name: 'Short hunter' }).click();
  await expect(length).toHaveValue(/^190/);
  await blade.getByRole('button', { name: 'Forge it to shape first' }).click();
  await expect(page.getByText(/^On the blank/)).toBeVisible();
  await expect(blade.getByText(/^It fits: 1 mm past the tip, 1 mm behind the tang/)).toBeVisible();
  // The finished bar is still the one that it is forged of.
  await expect(verdict(page)).toContainText('to spare');
  await painted(page);
  await page.getByRole('link', { name: 'Plan' }).click();
  await panel(page, /Forge to shape/).click();
  await expect(page.getByRole('button', { name: 'Blank' })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('row', { name: /heel/ })).toBeVisible();
  await page.getByLabel('Tip of the bar').click();
  await page.getByRole('option', { name: 'Left square' }).click();
  await expect(page.getByText(/times as long: the picture runs to lines there/)).toBeVisible();
  await page.getByRole('button', { name: 'Cut the tip beforehand' }).click();
  await expect(page.getByText(/times as long: the picture runs to lines there/)).toHaveCount(0);
  // More than there is steel for is refused, with what can be done.
  const tang = page.getByLabel('Tang length');
  await tang.fill('900');
  await tang.press('Enter');
  await expect(page.getByText(/^Error\.? ?This blade takes|This blade takes/).first()).toBeVisible();
  await page.getByRole('button', { name: /^A tang of/ }).click();
  await expect(page.getByText(/This blade takes .* short/)).toHaveCount(0);
  await saved(page);
  await noSidewaysScroll(page);
});

test('the section of the bar shows what becomes blade, and the bar is turned under it', async ({ page }) => {
  await openPiece(page, 'Rain Barrel');
  await panel(page, /^8\. Draw out/).click();
  await page.getByRole('button', { name: 'Blade on it' }).click();
  await expect(page.getByText(/from the heel/)).toHaveCount(3);
  await expect(page.getByText(/% of it becomes blade/).first()).toBeVisible();
  await painted(page);
  const moves = page.getByRole('navigation', { name: /^Moves of Barrel/ }).getByRole('button');
  const before = await moves.count();
  await page.getByRole('button', { name: 'Turn the bar left' }).click();
  await expect(panel(page, /^8\. Turn/)).toBeVisible();
  await panel(page, /^9\. Draw out/).click();
  await page.getByRole('button', { name: 'Blade on it' }).click();
  await page.getByRole('button', { name: 'Turn the bar right' }).click();
  await expect(moves).toHaveCount(before);
});

test('from copper sheet to hardening: the kiln’s programs are the moves’ own, the etch says what will do', async ({
  page,
}) => {
  await openPiece(page, 'Lantern');
  await expect(verdict(page)).toContainText('to spare');
  await panel(page, /^6\. In the kiln/).click();
  await expect(page.getByText('740 °C', { exact: true })).toBeVisible();
  await page.getByLabel('Treatment').click();
  await page.getByRole('option', { name: 'Anneal: sub-critical' }).click();
  await expect(page.getByRole('list', { name: 'Legs of the program' })).toContainText('675 °C');
  await page.getByRole('link', { name: 'Change it on the kiln’s page' }).click();
  const programs = page.getByRole('group', { name: 'Program' }).getByRole('button');
  await expect(programs).toHaveCount(5);
  await expect(programs.first()).toHaveText('Anneal: sub-critical, 1084');
  const held = page.getByLabel('Leg 1 held');
  await held.fill('60');
  await held.press('Enter');
  await page.getByRole('link', { name: 'Plan' }).click();
  await panel(page, /^6\. In the kiln/).click();
  await expect(page.getByRole('list', { name: 'Legs of the program' })).toContainText('held 60 min');
  await panel(page, /Etch/).click();
  await page.getByRole('button', { name: 'Will it do?' }).click();
  await expect(page.getByText('Will not do')).toHaveCount(3);
  await painted(page);
  await noSidewaysScroll(page);
});

test('tacks stay on the bar until they are ground off, and the schools are chosen at the weld', async ({
  page,
}) => {
  await openPiece(page, 'Salt Marsh');
  await panel(page, /^2\. Weld/).click();
  await page.getByLabel('Held together by').click();
  await page.getByRole('option', { name: 'tacks, fused without filler' }).click();
  const tacks = page.getByLabel('Tacks, how deep');
  await tacks.fill('2');
  await tacks.press('Enter');
  await page.getByLabel('Tacked along').click();
  await page.getByRole('option', { name: /along the sides/ }).click();
  await page.getByLabel('Air kept out by').click();
  await page.getByRole('option', { name: 'a dunk in light oil' }).click();
  await expect(page.getByText(/Oil flashes: dunk it away from the fire/)).toBeVisible();
  await panel(page, /^3\. Draw out/).click();
  await expect(page.getByText(/Weld beads stand on/)).toBeVisible();
  await page.getByRole('button', { name: 'Grind them off first' }).click();
  await panel(page, /^4\. Draw out/).click();
  await page.getByRole('button', { name: 'Crop them off first' }).click();
  await panel(page, /^5\. Draw out/).click();
  await expect(page.getByText(/Weld beads stand on/)).toHaveCount(0);
});

test('on the tablet a blade is forged by its sections', async ({ page }) => {
  await page.setViewportSize({ width: 800, height: 1280 });
  await openPiece(page, 'Lantern');
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await page.getByRole('button', { name: 'All moves' }).click();
  await page.getByRole('button', { name: /Forge to shape/ }).click();
  await expect(page.getByText('from above, edge down, as it should be')).toBeVisible();
  await expect(page.getByText(/Punch marks on the spine before the fire/)).toBeVisible();
  await painted(page);
  await noSidewaysScroll(page);
});
