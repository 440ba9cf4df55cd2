import { type Page, expect, test } from './fixtures.ts';
import {
  at,
  beginPiece,
  openPiece,
  painted,
  panel,
  saved,
  verdict,
  watchTroubles,
  pictured,
} from './steps.ts';

watchTroubles();

/** Chooses a move from the open menu by typing, as a list is used by keyboard. */
async function chooseByKeys(page: Page, title: string): Promise<void> {
  const item = page.getByRole('menuitem').filter({ has: page.getByText(title, { exact: true }) });
  await expect(item).toBeVisible();
  await expect(page.locator('[role=menu]:focus, [role=menu] :focus')).toHaveCount(1);
  for (let i = 0; i < 40 && !(await item.evaluate((el) => el === document.activeElement)); i++)
    await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
}

async function addByKeys(page: Page, title: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a move' }).focus();
  await page.keyboard.press('Enter');
  await chooseByKeys(page, title);
}

test('a bar is begun, worked, arranged and given a blade by keyboard alone', async ({ page }) => {
  await beginPiece(page, 'No mouse', { unit: 'mm', length: '200', width: '34', thickness: '6' });
  await page.getByRole('button', { name: /^A stack/ }).focus();
  await page.keyboard.press('Enter');
  for (const move of ['Weld', 'Draw out', 'Re-square on the bias', 'Cut', 'Arrange'])
    await addByKeys(page, move);
  await page.locator('[data-place="0"]').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('t');
  await expect(page.locator('[data-place="1"]')).toHaveAccessibleName(
    /^Piece 2, rolled end for end, left to right, then a quarter/,
  );
  await page.keyboard.press('z');
  await expect(page.getByText('Every seam matches at the front.')).toBeVisible();
  for (const move of ['Weld', 'Draw out']) await addByKeys(page, move);
  await panel(page, /^1\. Stack/).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Length', { exact: true })).toBeFocused();
  await page.getByLabel('Length', { exact: true }).fill('400');
  await page.keyboard.press('Enter');
  await expect(verdict(page)).toContainText('This plan gives');
  await page.getByRole('link', { name: 'Blade' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /Dagger/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'The blade' })).toBeVisible();
  await expect(page.getByLabel('Edges')).toContainText('Two edges');
  await saved(page);
});

test('a wrong move made on purpose is found, seen and undone', async ({ page }) => {
  await openPiece(page, 'Tide Ladder');
  await panel(page, /^4\. Grooves/).click();
  await expect(page.getByText(/Layers lie \d+° to the face here/)).toBeVisible();
  await page.getByLabel('Depth', { exact: true }).fill('30');
  await expect(page.getByRole('alert')).toContainText('at most half of it deep');
  // Pressed at once: nothing may shift under the pointer while the plan is worked backward.
  await page.getByRole('button', { name: /deep$/ }).click();
  await expect(page.getByRole('alert')).toBeHidden();
  await expect(page.getByLabel('Depth', { exact: true })).toHaveValue('6.5 mm');
  await page.keyboard.press('z');
  await page.keyboard.press('z');
  await expect(page.getByLabel('Depth', { exact: true })).toHaveValue('4 mm');
  await expect(verdict(page)).toContainText('288 × 36 × 4.5 mm');
  // The next test opens what the server has.
  await saved(page);
});

test('an accordion shows its cuts, and steps are moved along the lane', async ({ page }) => {
  await beginPiece(page, 'Folded', { unit: 'mm', length: '200', width: '34', thickness: '6' });
  await page.getByRole('button', { name: /^A stack/ }).click();
  await page.getByLabel('Length', { exact: true }).fill('300');
  for (const move of ['Weld', 'Draw out', 'Accordion']) await addByKeys(page, move);
  await expect(page.getByRole('img', { name: /The bar from the side.*saw cuts/ })).toBeVisible();
  await expect(page.getByText(/^Mark V-cuts 90° wide/)).toBeVisible();
  await painted(page);
  await page.getByRole('button', { name: 'Move it one earlier' }).click();
  await expect(panel(page, /^3\. Accordion/)).toBeVisible();
  await page.keyboard.press('z');
  await expect(panel(page, /^4\. Accordion/)).toBeVisible();
});

test('the pieces on the shelf are told apart by their faces', async ({ page }) => {
  await page.goto(at('/'));
  await pictured(page);
  const faces = await Promise.all(
    (await page.locator('main img').all()).map(async (image) => {
      const url = await image.getAttribute('src');
      return (await (await page.request.get(at(url!))).body()).toString('base64');
    }),
  );
  expect(faces.length).toBeGreaterThanOrEqual(4);
  expect(new Set(faces).size).toBeGreaterThanOrEqual(4);
});

test('a list that opens under the pointer chooses nothing when a slow press is let go', async ({ page }) => {
  await openPiece(page, 'Quarry Quilt');
  await panel(page, /^1\. Arrange/).click();
  const strips = page.getByRole('combobox', { name: 'Strips' });
  const { x, y, width, height } = (await strips.boundingBox())!;
  await page.mouse.move(x + width / 2, y + height / 2);
  await page.mouse.down();
  await page.waitForTimeout(900);
  await page.mouse.up();
  await expect(page.getByRole('listbox')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(strips).toHaveText('Between and round the outside');
});
