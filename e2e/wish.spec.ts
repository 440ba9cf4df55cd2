import { PNG } from 'pngjs';
import { seeded } from '../core/canister/packing.ts';
import { wishSchema } from '../core/plan/index.ts';
import { offerOf } from '../core/recipes/index.ts';
import { shopSchema } from '../core/shop/shop.ts';
import { FLOWS } from '../core/tests/plans.ts';
import { photographedRepeat } from '../core/tests/targets.ts';
import { type Page, expect, test } from './fixtures.ts';
import {
  accessible,
  at,
  beginWith,
  noSidewaysScroll,
  openPiece,
  saved,
  verdict,
  watchTroubles,
} from './steps.ts';

watchTroubles();

/** Every press and every number that a maker spends, from the empty shelf to the cut list. */
class Spent {
  presses = 0;
  numbers = 0;
  private readonly page: Page;
  constructor(page: Page) {
    this.page = page;
  }
  async press(name: string | RegExp, exact = true): Promise<void> {
    this.presses++;
    await this.page.getByRole('button', { name, exact }).first().click({ timeout: 60_000 });
  }
  async fill(label: string, text: string): Promise<void> {
    this.numbers++;
    await this.page.getByLabel(label, { exact: true }).fill(text);
  }
}

/** One star of seven layers, photographed a little turned. */
function starPhotographed(): Buffer {
  const piece = { name: 'Seen', goal: { lengthMm: 300, widthMm: 50, thicknessMm: 5 }, materials: [] };
  const spec = { recipe: 'star', numbers: { layers: 7, share: 0.45 }, columns: 2, rows: 1, alongMm: 24 };
  const made = offerOf(
    { ...spec, side: 'slanted', layout: 'alike', around: 'plain' },
    { ...piece, shop: shopSchema.parse({}) },
    wishSchema.parse({ alongMm: 24 }),
    FLOWS,
  );
  if (!made.ok) throw new Error(made.reason);
  const { width, height, values } = photographedRepeat(made.evaluation, made.offer, 2, seeded(3));
  const png = new PNG({ width, height });
  values.forEach((v, i) =>
    png.data.set(
      [1, 1, 1].map(() => 255 * Math.min(1, Math.max(0, v))),
      4 * i,
    ),
  );
  values.forEach((_, i) => (png.data[4 * i + 3] = 255));
  return PNG.sync.write(png);
}

const WISHES = [
  {
    name: 'Ten inches',
    what: 'A blade',
    sizes: { 'Blade length': '10', Widest: '2', 'Spine at the heel': '3/16', Tang: '4' },
    along: '1',
  },
  {
    name: 'Chopper',
    what: 'A blade',
    sizes: { 'Blade length': '7', Widest: '4', 'Spine at the heel': '3/16', Tang: '4 1/4' },
    along: '3/4',
  },
  {
    name: 'Folder',
    what: 'A bar',
    sizes: { 'Finished length': '6', 'Finished width': '1 1/8', 'Finished thickness': '3/16' },
    along: '3/8',
  },
];

for (const { name, what, sizes, along } of WISHES)
  test(`${name}: from an empty shelf to a cut list in twelve presses and eight numbers, in inches`, async ({
    page,
  }) => {
    const spent = new Spent(page);
    await page.goto(at('/'));
    await spent.press('Begin a new piece');
    await page.getByLabel('Name').fill(name);
    await spent.press(what);
    await spent.press('inches');
    for (const [label, text] of Object.entries(sizes)) await spent.fill(label, text);
    await spent.press('See what it could be');
    await spent.fill('Along the blade', along);
    await page.getByLabel('Along the blade').press('Enter');
    // The star of this wish, not of the one before: its element is as long as it was said to be.
    const star = page.getByRole('button', { name: /^Look closer: Star, / }).first();
    await expect(star).toContainText(`${along} ×`, { timeout: 60_000 });
    await spent.press(/^Look closer: Star, /, false);
    const closer = page.getByRole('dialog');
    await expect(closer).toContainText('Nothing that this shop would be warned of');
    await spent.press('Begin with it');
    await expect(verdict(page)).toContainText('This plan gives');
    await expect(verdict(page)).not.toContainText('short');
    spent.presses++;
    await page.getByRole('link', { name: 'Stock' }).click();
    await expect(page.getByRole('article', { name: /^1084 / })).toContainText(/cut \d+ × /);
    await expect(page.getByRole('article', { name: /^15N20 / })).toContainText(/cut \d+ × /);
    expect(spent.presses).toBeLessThanOrEqual(12);
    expect(spent.numbers).toBeLessThanOrEqual(8);
    await saved(page);
  });

test('the gallery: unlike plans as blades, filtered, kept, compared, varied, and begun with by keyboard', async ({
  page,
}) => {
  await openPiece(page, 'Salt Marsh');
  await page.getByRole('link', { name: 'Another way' }).click();
  const found = page.getByRole('list', { name: 'Plans found' }).getByRole('listitem');
  await expect(found.nth(7)).toBeVisible({ timeout: 60_000 });
  await noSidewaysScroll(page);
  await page.getByRole('button', { name: 'Stop looking' }).click();
  // Once nothing is looked for any more each is run forward, roughly.
  await expect(found.first()).toContainText(/reached about \d+ times? in 10/, { timeout: 60_000 });
  await accessible(page);
  const all = await found.count();
  await page.getByRole('combobox', { name: 'Family' }).click();
  await page.getByRole('option', { name: 'Stars' }).click();
  expect(await found.count()).toBeLessThan(all);
  await found
    .nth(0)
    .getByRole('button', { name: /^Keep / })
    .click();
  await found
    .nth(1)
    .getByRole('button', { name: /^Keep / })
    .click();
  await page.getByRole('button', { name: 'Compare 2 kept' }).click();
  await expect(page.getByRole('dialog').getByRole('img', { name: /at true size/ })).toHaveCount(2);
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  // A wish by keyboard, on the picture of the blade: what was found for another is gone.
  const corner = page.getByRole('slider', { name: 'Size of one element' });
  await corner.focus();
  await corner.press('Shift+ArrowRight');
  await expect(page.getByLabel('Along the blade')).not.toHaveValue('');
  await expect(found.first()).toBeVisible({ timeout: 60_000 });
  const star = page.getByRole('button', { name: /^Look closer: Star, / }).first();
  await star.focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Vary this one' }).click();
  await expect(page.getByRole('button', { name: 'Back to all kinds' })).toBeVisible();
  await expect(found.nth(3)).toBeVisible({ timeout: 60_000 });
  await beginWith(page, /^Look closer: Star, /);
  // Something stood there: it was asked before.
  await page.getByRole('button', { name: 'Put it in place' }).click();
  await expect(verdict(page)).toContainText('This plan gives');
  await page.getByRole('button', { name: 'Undo (Z)' }).click();
  await expect(
    page
      .getByRole('navigation', { name: /^Moves of/ })
      .getByRole('button', { name: /Grind/ })
      .first(),
  ).toBeVisible();
});

test('from a picture: one repeat of it is marked, and the plan whose face it was comes first', async ({
  page,
}) => {
  await openPiece(page, 'Salt Marsh');
  await page.getByRole('link', { name: 'Another way' }).click();
  await page.getByRole('button', { name: 'Stop looking' }).click();
  const picture = { name: 'face.png', mimeType: 'image/png', buffer: starPhotographed() };
  await page.locator('input[aria-label="From a picture"]').setInputFiles(picture);
  await expect(page.getByRole('dialog', { name: 'One repeat of the picture' })).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'Look for plans like it' }).click();
  const found = page.getByRole('list', { name: 'Plans found' }).getByRole('listitem');
  await expect(page.getByRole('button', { name: 'Look for more' })).toBeVisible({ timeout: 180_000 });
  await expect(found.first()).toContainText('Star');
  await expect(found.first()).toContainText('Near the picture');
  await noSidewaysScroll(page);
  await found
    .first()
    .getByRole('button', { name: /^Look closer/ })
    .click();
  await expect(page.getByRole('img', { name: 'As this plan shows it' })).toBeVisible();
  await page.setViewportSize({ width: 800, height: 1280 });
  const sheet = page.getByRole('dialog').locator('.MuiDialogContent-root');
  await expect.poll(() => sheet.evaluate((e) => e.scrollWidth - e.clientWidth)).toBe(0);
  await expect(page.getByRole('button', { name: 'Begin with it' })).toBeVisible();
});
