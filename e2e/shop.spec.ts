import { expect, test } from './fixtures.ts';
import {
  accessible,
  at,
  downloaded,
  noSidewaysScroll,
  openPiece,
  panel,
  saved,
  watchTroubles,
} from './steps.ts';

watchTroubles();

test('a kiln program is taken, checked against the kiln, mended, run and handed out', async ({ page }) => {
  await openPiece(page, 'Salt Marsh');
  await page.getByRole('link', { name: 'Kiln' }).click();
  await page.getByRole('button', { name: /^Harden/ }).click();
  await expect(page.getByText(/Quench oil burns/)).toBeVisible();
  await expect(page.getByText(/data sheet of whoever made the steel takes precedence/)).toBeVisible();
  await page.getByLabel('Leg 2 to').fill('1250');
  await expect(page.getByText(/Leg 2 wants 1250 °C; the shop’s kiln gets to 1148 °C/)).toBeVisible();
  await page.getByRole('button', { name: 'Hold at 1148 °C' }).click();
  await expect(page.getByText(/Leg 2 wants/)).toBeHidden();
  await page.getByLabel('Leg 2 to').fill('810');
  await page.getByLabel('Its clock').click();
  await page.getByRole('option', { name: 'an hour a second' }).click();
  await page.getByRole('button', { name: 'Run on the simulated kiln' }).click();
  const kiln = page.getByLabel('Simulated kiln');
  await expect(kiln).toContainText('done', { timeout: 20_000 });
  await expect(kiln).toContainText(/set 810 °C, thermocouple (80\d|81\d) °C/);
  const run = await downloaded(page, () => page.getByRole('button', { name: 'Run, CSV' }).click());
  const hottest = Math.max(
    ...run.content
      .toString()
      .split('\r\n')
      .slice(1)
      .map((row) => Number(row.split(',')[3])),
  );
  expect(Math.abs(hottest - 810)).toBeLessThan(12);
  const program = await downloaded(page, () => page.getByRole('button', { name: 'Program, CSV' }).click());
  expect(program.content.toString().split('\r\n')[2]).toContain('810 °C,10,');
  await page.getByRole('link', { name: 'Card to print' }).click();
  await expect(page.getByRole('heading', { name: 'Harden, 1084' })).toBeVisible();
  await expect(page.getByRole('cell', { name: '810 °C' })).toBeVisible();
  await page.getByRole('link', { name: 'Kiln' }).click();
  await page.getByRole('button', { name: 'Take this program out' }).click();
  await expect(page.getByRole('heading', { name: 'What is the kiln to do?' })).toBeVisible();
  await saved(page);
});

test('units are switched one by one, and nothing stored changes', async ({ page, request }) => {
  await openPiece(page, 'Salt Marsh');
  const id = page.url().split('/').at(-1)!;
  const stored = async () => (await (await request.get(at(`/api/projects/${id}`))).json()).plan;
  const before = await stored();
  await page.getByRole('button', { name: 'Units' }).click();
  const choose = async (label: string, option: string) => {
    await page.getByRole('dialog', { name: 'Units' }).getByLabel(label).click();
    await page.getByRole('option', { name: option }).click();
  };
  await choose('Temperatures', '°F');
  await choose('Weights', 'pounds and ounces');
  await page.keyboard.press('Escape');
  await panel(page, /^8\. Weld/).click();
  await expect(page.getByLabel('Welding heat')).toHaveValue('2192 °F');
  await expect(page.getByLabel('Plan against goal')).toContainText('360 × 38 × 5 mm');
  await page.getByRole('link', { name: 'Shop' }).click();
  await page.getByLabel('Force').focus();
  await page.getByLabel('Kerf').focus();
  await expect(page.getByLabel('Force')).toHaveValue(/tons$/);
  await saved(page);
  const after = await stored();
  expect({ ...after, shop: { ...after.shop, masses: 'kg', temperatures: 'C' } }).toEqual(before);
});

test('a set-up is kept, changed, taken by a piece and removed', async ({ page }) => {
  await page.goto(at('/shop'));
  await page.route('**/api/shop/setups', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 700));
    await route.continue();
  });
  await page.getByRole('button', { name: 'Another set-up' }).click();
  await page.getByLabel('Name of the set-up').fill('Brasa Chica');
  await page.getByLabel('Name of the set-up').press('Enter');
  await expect(page.getByText('Another set-up is named so')).toBeVisible();
  await page.getByLabel('Name of the set-up').fill('Barn');
  await page.getByLabel('Name of the set-up').press('Enter');
  await page.getByRole('button', { name: 'Barn', exact: true }).click();
  await page.getByLabel('Kerf').fill('2.5');
  await expect(page.getByText('Kept', { exact: true })).toBeVisible();
  await page.getByLabel('Kerf').fill('50');
  await expect(page.getByText('Kerf may be at most 10 mm')).toBeVisible();
  await page.getByLabel('Off a faying face').fill('0.7');
  await page.getByRole('button', { name: 'Brasa Chica', exact: true }).click();
  await expect(page.getByLabel('Name of the set-up')).toHaveValue('Brasa Chica');
  await page.getByRole('button', { name: 'Barn', exact: true }).click();
  await expect(page.getByLabel('Off a faying face')).toHaveValue('0.7 mm');
  await page.unrouteAll({ behavior: 'wait' });
  await openPiece(page, 'Tide Ladder');
  await page.getByRole('link', { name: 'Shop' }).click();
  await page.getByRole('button', { name: 'Take a set-up…' }).click();
  await page.getByRole('menuitem', { name: 'Barn' }).click();
  await expect(page.getByLabel('Kerf')).toHaveValue('2.5 mm');
  await page.getByRole('button', { name: 'Undo (Z)' }).click();
  await expect(page.getByLabel('Kerf')).toHaveValue('1 mm');
  await saved(page);
  await page.goto(at('/shop'));
  await page.getByRole('button', { name: 'Barn', exact: true }).click();
  await page.getByRole('button', { name: 'Remove this set-up…' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Barn', exact: true })).toBeHidden();
});

test('a material of our own is added, used, stays while it is in use, and its newer numbers are taken when asked', async ({
  page,
}) => {
  await page.goto(at('/shop/materials'));
  await page.getByRole('button', { name: 'A mixture of powders' }).click();
  await page.getByLabel('Second powder').click();
  await page.getByRole('option', { name: '1084', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Look it over' })).toBeDisabled();
  await page.getByLabel('Second powder').click();
  await page.getByRole('option', { name: /^Nickel/ }).click();
  await page.getByLabel('Of the second, by mass').fill('3');
  await expect(page.getByLabel('What it comes to')).toContainText('Ni 2.99');
  await page.getByRole('button', { name: 'Look it over' }).click();
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('cell', { name: /\+ 3 % Nickel.* · ours$/ })).toBeVisible();

  await page.getByRole('button', { name: 'Another material' }).click();
  await page.getByLabel('Name').fill('River iron');
  await page.getByLabel('C', { exact: true }).fill('0.1');
  await page.getByRole('button', { name: /^Rule of thumb/ }).click();
  await page.getByLabel('Welds from').fill('1300');
  await expect(page.getByRole('alert')).toContainText('must begin lower than it ends');
  await page.getByLabel('Welds from').fill('1200');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('cell', { name: /^River iron/ })).toBeVisible();

  await openPiece(page, 'Tide Ladder');
  await panel(page, /^1\. Stack/).click();
  await page.getByLabel('Layer 1', { exact: true }).click();
  await page.getByRole('option', { name: 'River iron' }).click();
  await expect(page.getByLabel('Materials in the picture').first()).toContainText('River iron');
  await saved(page);

  await page.goto(at('/shop/materials'));
  await page.getByRole('button', { name: 'Remove River iron' }).click();
  await expect(page.getByRole('alert')).toContainText('in use: “Tide Ladder”');
  await page.getByRole('button', { name: 'Change River iron' }).click();
  await page.getByLabel('Never above').fill('1250');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('dialog')).toBeHidden();

  await openPiece(page, 'Tide Ladder');
  await page.getByRole('link', { name: 'Shop' }).click();
  await page.getByRole('button', { name: 'Take the shop’s newer numbers' }).click();
  await expect(page.getByRole('row', { name: /River iron/ })).toContainText('1250 °C');
  await page.getByRole('button', { name: 'Undo (Z)' }).click();
  await expect(page.getByRole('row', { name: /River iron/ })).not.toContainText('1250 °C');
  await withoutRiverIron(page);
  await page.goto(at('/shop/materials'));
  await page.getByRole('button', { name: 'Remove River iron' }).click();
  await expect(page.getByRole('cell', { name: /^River iron/ })).toBeHidden();
});

/** Puts the plan’s first layer back, so that nothing uses the material any more. */
async function withoutRiverIron(page: import('@playwright/test').Page): Promise<void> {
  await page.getByRole('link', { name: 'Plan', exact: true }).click();
  await panel(page, /^1\. Stack/).click();
  const layer = page.getByLabel('Layer 1', { exact: true });
  await layer.click();
  await page.getByRole('option', { name: '1084', exact: true }).click();
  await expect(page.getByRole('combobox', { name: 'Layer 1' })).toHaveText('1084');
  await saved(page);
}

test('the rack is filled and cleared by keyboard', async ({ page }) => {
  await page.goto(at('/shop/rack'));
  await page.getByLabel('Width').focus();
  await page.keyboard.type('33');
  await page.keyboard.press('Tab');
  await page.keyboard.type('7');
  await page.keyboard.press('Tab');
  await page.keyboard.type('1200');
  await page.getByRole('button', { name: 'Put on the rack' }).press('Enter');
  const length = page.getByLabel('Length of 1084 33 × 7 mm');
  await expect(length).toHaveValue('1200 mm');
  await length.fill('900');
  await length.press('Tab');
  await page.keyboard.press('Tab');
  await expect(page.getByLabel('Length of 1084 33 × 7 mm')).toHaveValue('900 mm');
  await page.getByRole('button', { name: 'Take 1084 33 × 7 mm off the rack' }).press('Enter');
  await expect(length).toBeHidden();
});

for (const [width, height] of [
  [1280, 800],
  [800, 1280],
])
  test(`the screens beside the plan are accessible and fit at ${width} × ${height}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await openPiece(page, 'Salt Marsh');
    for (const [screen, sign] of [
      ['Stock', 'Where the steel goes'],
      ['Kiln', 'What is the kiln to do?'],
      ['Shop', 'The shop for this piece'],
      ['Print', 'True size when this square'],
    ]) {
      await page.getByRole('link', { name: screen, exact: true }).click();
      await expect(page.getByText(sign).first()).toBeVisible();
      await accessible(page);
      await noSidewaysScroll(page);
    }
    for (const [path, sign] of [
      ['/shop', 'Another set-up'],
      ['/shop/materials', 'Another material'],
      ['/shop/rack', 'Put on the rack'],
    ]) {
      await page.goto(at(path));
      await expect(page.getByRole('button', { name: sign })).toBeVisible();
      await accessible(page);
      await noSidewaysScroll(page);
    }
    await page.getByRole('link', { name: 'Materials' }).click();
    await page.getByRole('button', { name: 'Change 1084', exact: true }).click();
    await accessible(page);
  });
