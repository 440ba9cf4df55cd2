import { expect, test } from './fixtures.ts';
import {
  at,
  beginWith,
  downloaded,
  noSidewaysScroll,
  openPiece,
  panel,
  saved,
  verdict,
  watchTroubles,
} from './steps.ts';

watchTroubles();

test('given a blade and two thicknesses of stock, a new user comes to a cut list', async ({ page }) => {
  await page.goto(at('/'));
  await page.getByRole('button', { name: 'Begin a new piece' }).click();
  await page.getByLabel('Name').fill('First knife');
  await page.getByRole('button', { name: 'mm', exact: true }).click();
  await page.getByLabel('Blade length').fill('250');
  await page.getByLabel('Widest').fill('40');
  await page.getByLabel('Spine at the heel').fill('4');
  await page.getByLabel('Tang').fill('110');
  await expect(page.getByRole('dialog')).toContainText('366 × 42 × 5 mm');
  await page.getByRole('button', { name: 'See what it could be' }).click();
  await page.getByLabel('Dark, thick').fill('6');
  await page.getByLabel('Bright, thick').fill('3');
  await page.getByLabel('Bright, thick').press('Enter');
  await beginWith(page, /^Look closer: Quarter star/);
  await expect(verdict(page)).toContainText('This plan gives');
  await page.getByRole('link', { name: 'Stock' }).click();
  // Its start is the least already.
  await expect(page.getByRole('button', { name: 'Set these sizes' })).toBeDisabled();
  await expect(verdict(page)).toContainText(/to spare|exactly/);
  const dark = page.getByRole('article', { name: /^1084 [\d.]+ × 6 mm$/ });
  await expect(dark).toContainText(/cut 7 × \d+/);
  await expect(page.getByRole('article', { name: /^15N20 [\d.]+ × 3 mm$/ })).toContainText(/cut 6 × \d+/);
  await expect(page.getByText(/^To buy: 2 bars/)).toBeVisible();
  const { name, content } = await downloaded(page, () =>
    page.getByRole('button', { name: 'Cut list as CSV' }).click(),
  );
  expect(name).toBe('first-knife-cut-list.csv');
  const [head, ...rows] = content.toString('utf8').split('\r\n');
  expect(head).toContain('steel,what,width,thickness,length,pieces');
  const widths = rows.map((r) => r.split(',').slice(0, 4));
  expect(widths.map(([steel, what, , thick]) => [steel, what, thick])).toEqual([
    ['1084', 'strip', '6 mm'],
    ['15N20', 'strip', '3 mm'],
  ]);
  await page.getByRole('link', { name: 'Blade' }).click();
  await expect(page.getByLabel('Blade length')).toHaveValue('250 mm');
  await saved(page);
});

test('which numbers are free is the maker’s choice, and an impossible goal says what stands in the way', async ({
  page,
}) => {
  await openPiece(page, 'Tide Ladder');
  await page.getByRole('link', { name: 'Stock' }).click();
  await page.getByLabel('Finished length').fill('500');
  const backward = page.getByLabel('Worked backward');
  await expect(backward).toContainText(/Comes to 50\d/);
  await page.getByLabel('length', { exact: true }).uncheck();
  await expect(backward).toContainText('Every starting number is held');
  await page.getByLabel('width', { exact: true }).check();
  await expect(backward).toContainText(/Comes to 5\d\d/);
  await page.getByRole('button', { name: 'Set these sizes' }).click();
  await expect(verdict(page)).toContainText(/to spare|exactly/);
  await page.getByLabel('Finished length').fill('9000');
  await expect(backward).toContainText(/No width of stack helps|Even the largest width/);
});

test('more rounds are tried before they are planned, and so is a shorter bar', async ({ page }) => {
  await openPiece(page, 'Salt Marsh');
  await page.getByRole('link', { name: 'Stock' }).click();
  await page.getByRole('button', { name: 'Plan 1 more' }).click();
  await page.getByRole('link', { name: 'Plan', exact: true }).click();
  await expect(panel(page, /Arrange/)).toHaveCount(3);
  await page.getByRole('button', { name: 'Undo (Z)' }).click();
  await expect(panel(page, /Arrange/)).toHaveCount(2);
  await page.getByRole('link', { name: 'Stock' }).click();
  await page.getByLabel('Only').fill('70');
  await expect(page.getByLabel('What it comes to then')).toContainText('too short');
  await saved(page);
});

test('what the rack gives is taken and put back', async ({ page }) => {
  await openPiece(page, 'Salt Marsh');
  await page.getByRole('link', { name: 'Stock' }).click();
  const rack = page.getByRole('region', { name: 'From the rack' });
  await expect(rack).toContainText('3 bars on the rack would be used');
  await rack.getByRole('button', { name: 'Take them off the rack now' }).click();
  await expect(rack).toContainText('Taken for this piece');
  await rack.getByRole('link', { name: 'What lies on the rack' }).click();
  await expect(page.getByLabel('Length of 1084 45 × 4.5 mm')).toHaveValue(/8\d(\.5)? mm/);
  await page.goBack();
  await rack.getByRole('button', { name: 'Put it back' }).click();
  await expect(rack).toContainText('3 bars on the rack would be used');
});

test('every figure says how it was reckoned, and a finding is mended with one press', async ({ page }) => {
  await openPiece(page, 'Salt Marsh');
  await panel(page, /^8\. Weld/).click();
  const figure = page.getByRole('button', { name: /^Hot through in .*how it is worked out/ });
  await figure.focus();
  await page.keyboard.press('Enter');
  const answer = page.getByRole('dialog', { name: 'Hot through in' });
  await expect(answer).toContainText('ζ tan ζ = Bi');
  await expect(answer).toContainText('Incropera');
  await expect(answer.getByRole('img', { name: /over time/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(figure).toBeFocused();
  await page.getByLabel('Welding heat').fill('1100');
  await page.keyboard.press('Enter');
  const alert = page.getByText(/1100 °C/).first();
  await expect(alert).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo (Z)' }).click();
  await panel(page, /^11\. Grind/).click();
  await page.getByRole('button', { name: 'Take this move out' }).click();
  await expect(page.getByLabel(/Arrange.*has a warning/).first()).toBeVisible();
  await page
    .getByRole('navigation', { name: /^Moves of/ })
    .getByRole('button', { name: /Arrange.*has a warning/ })
    .click();
  await page.locator('[data-numbers]').getByRole('button', { name: /grind/i }).first().click();
  await expect(panel(page, /^11\. Grind/)).toBeVisible();
  await expect(page.getByLabel(/Arrange.*has a warning/)).toHaveCount(0);
});

for (const [width, height] of [
  [1280, 800],
  [800, 1280],
])
  test(`Stock fits at ${width} × ${height}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await openPiece(page, 'Quarry Quilt');
    await page.getByRole('link', { name: 'Stock' }).click();
    await expect(page.getByText('Where the steel goes')).toBeVisible();
    await expect(page.getByText('Comes to').first()).toBeVisible();
    await noSidewaysScroll(page);
  });
