import { expect, test } from './fixtures.ts';
import {
  accessible,
  deaf,
  addMove,
  at,
  beginPiece,
  beginWith,
  noSidewaysScroll,
  openPiece,
  painted,
  pictured,
  panel,
  pictureAfter,
  saved,
  undoAll,
  verdict,
  watchTroubles,
} from './steps.ts';

const troubles = watchTroubles();

test('a bar is planned from nothing to a tiled flat bar, in inches', async ({ page }) => {
  await beginPiece(page, 'First bar', { unit: 'in', length: '12"', width: '1 7/16', thickness: '1/4' });
  await page.getByRole('button', { name: /^A stack/ }).click();
  await page.getByLabel('Length', { exact: true }).fill('3 * 2 + 1/2');
  await page.getByLabel('Width', { exact: true }).fill('1 1/2');
  await page.getByLabel('Layers in all').fill('13');
  for (const move of [
    'Weld',
    'Draw out',
    'Re-square on the bias',
    'Cut',
    'Arrange',
    'Weld',
    'Draw out',
    'Cut and flip',
    'Weld',
    'Draw out',
  ])
    await addMove(page, move);
  await page.getByLabel('Draw to a').click();
  await page.getByRole('option', { name: 'Flat bar' }).click();
  await page.getByLabel('Width', { exact: true }).fill('1 7/16');
  await page.getByLabel('Thickness', { exact: true }).fill('1/4');
  await expect(verdict(page)).toContainText('This plan gives');
  await expect(verdict(page)).toContainText('1 7/16 × 1/4"');
  await expect(page.getByLabel('Starting stack needed')).toContainText('Takes a stack');
  const set = page.getByRole('button', { name: 'Set it' });
  await set.click();
  await expect(verdict(page)).toContainText(/to spare|exactly/);
  await expect(set).toBeHidden();
  await painted(page);
  await expect(page.getByRole('img', { name: /^After “Draw out” · top/ })).toBeVisible();
  await noSidewaysScroll(page);

  // One deliberate mistake: the weld of the four-way is taken out. Everything after it says so, and undo mends it.
  await panel(page, /^7\. Weld/).click();
  await page.getByRole('button', { name: 'Take this move out' }).click();
  await expect(page.getByRole('alert').first()).toContainText('not welded yet');
  await expect(page.getByText('No finished bar yet')).toBeVisible();
  await page.getByRole('button', { name: 'Undo (Z)' }).click();
  await expect(verdict(page)).toContainText('This plan gives');
  await saved(page);

  await page.reload();
  await expect(verdict(page)).toContainText('1 7/16 × 1/4"');
});

test('a change is followed by everything after it', async ({ page }) => {
  await openPiece(page, 'Salt Marsh');
  await expect(verdict(page)).toContainText('360 × 38 × 5 mm');
  await panel(page, /^1\. Stack/).click();
  await painted(page);
  const before = await pictureAfter(page);
  await page.getByLabel('Layers in all').fill('21');
  await expect(verdict(page)).not.toContainText('360 × 38 × 5 mm');
  await expect.poll(() => pictureAfter(page)).not.toBe(before);
  await undoAll(page);
  await expect(verdict(page)).toContainText('360 × 38 × 5 mm');
});

test('wrong entries are answered in the field, and the plan keeps its last good number', async ({ page }) => {
  await openPiece(page, 'Salt Marsh');
  await panel(page, /^3\. Draw/).click();
  const side = page.getByLabel('Side', { exact: true });
  for (const [entry, answer] of [
    ['1 7/', 'stops after “/”'],
    ['', 'Side is empty'],
    ['-2', 'must be more than 0'],
    ['900 ft', 'may be at most'],
    ['wide', 'not a length unit'],
  ]) {
    await side.fill(entry);
    await expect(page.getByText(answer)).toBeVisible();
  }
  await expect(verdict(page)).toContainText('This plan gives');
  await side.press('Escape');
  await side.fill('300');
  await expect(page.getByRole('alert')).toContainText('cannot be drawn up');
  await page.getByRole('button', { name: /^Draw to/ }).click();
  await expect(verdict(page)).toContainText('This plan gives');
});

test('a second window that is only looked at follows what is changed in the first', async ({
  page,
  browser,
}) => {
  await openPiece(page, 'Tide Ladder');
  const other = await (await browser.newContext()).newPage();
  await other.goto(page.url());
  await panel(other, /^1\. Stack/).click();
  await panel(page, /^1\. Stack/).click();
  await page.getByLabel('Layers in all').fill('27');
  await saved(page);
  await expect(other.getByLabel('Layers in all')).toHaveValue('27');
  await other.getByLabel('Layers in all').fill('29');
  await saved(other);
  await expect(page.getByLabel('Layers in all')).toHaveValue('29');
});

test('two windows: the second save is told, both plans are shown, mine can be kept as a copy', async ({
  page,
  context,
}) => {
  await beginPiece(page, 'Shared', { unit: 'mm', length: '300', width: '38', thickness: '5' });
  await page.getByRole('button', { name: /^A wish/ }).click();
  await beginWith(page, /^Look closer: Quarter star/);
  await saved(page);
  const other = await context.newPage();
  await deaf(other);
  await other.goto(page.url());
  await expect(verdict(other)).toContainText('This plan gives');
  await panel(page, /^1\. Stack/).click();
  await page.getByLabel('Layers in all').fill('15');
  await saved(page);
  await expect(page.getByLabel('Saving')).toContainText('Saved');
  await panel(other, /^1\. Stack/).click();
  await other.getByLabel('Layers in all').fill('9');
  const dialog = other.getByRole('dialog');
  await expect(dialog).toContainText('was changed in another window');
  await expect(dialog.getByRole('img')).toHaveCount(2);
  await dialog.getByRole('button', { name: /as a copy/ }).click();
  await expect(other.getByLabel('Name of the piece')).toHaveValue('Shared (mine)');
  await panel(other, /^1\. Stack/).click();
  await expect(other.getByLabel('Layers in all')).toHaveValue('9');
  await page.reload();
  await panel(page, /^1\. Stack/).click();
  await expect(page.getByLabel('Layers in all')).toHaveValue('15');
});

test('the panels are walked by keyboard, and the units switch without changing the plan', async ({
  page,
}) => {
  await openPiece(page, 'Tide Ladder');
  await panel(page, /^1\. Stack/).click();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('heading', { name: 'Draw out', exact: true })).toBeVisible();
  await page.keyboard.press('End');
  await expect(page.getByRole('heading', { name: 'Flatten and grind', exact: true })).toBeVisible();
  await page.keyboard.press('Home');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Length', { exact: true })).toBeFocused();
  await page.keyboard.press('Tab');
  await page.getByLabel('Name of the piece').focus();
  await page.getByLabel('Name of the piece').blur();
  const metric = await verdict(page).textContent();
  await page.getByRole('button', { name: 'Units' }).click();
  await page.getByRole('button', { name: 'inches, lb, °F' }).click();
  await expect(verdict(page)).toContainText('"');
  await page.getByRole('button', { name: 'mm, kg, °C' }).click();
  await expect(verdict(page)).toHaveText(metric ?? '');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog', { name: 'Units', includeHidden: true })).toHaveCount(0);
  // On a busy machine a key pressed right after the units' sheet is gone was once not heard.
  await expect(async () => {
    await panel(page, /^2\. Weld/).focus();
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toContainText('walk along the panels', { timeout: 3000 });
  }).toPass({ timeout: 30_000 });
});

test('the server gone, the change is kept and saved when it is back', async ({ page }) => {
  await beginPiece(page, 'Away', { unit: 'mm', length: '300', width: '38', thickness: '5' });
  await page.route('**/api/projects/*', (route) =>
    route.request().method() === 'PUT' ? route.abort() : route.continue(),
  );
  await page.getByRole('button', { name: /^A bought bar/ }).click();
  await expect(page.getByLabel('Saving')).toContainText('does not answer');
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await saved(page);
  troubles.length = 0;
});

test('what is asked for at a wrong address is said plainly', async ({ page }) => {
  await page.goto(at('/nowhere'));
  await expect(page.getByRole('alert')).toContainText('There is nothing here');
  await page.goto(at('/pieces/00000000-0000-4000-8000-000000000000'));
  await expect(page.getByRole('alert')).toContainText('cannot be opened');
  troubles.length = 0;
});

test('pieces are marked, copied and removed on the shelf', async ({ page }) => {
  await beginPiece(page, 'To be removed', { unit: 'mm', length: '300', width: '38', thickness: '5' });
  await page.goto(at('/'));
  const piece = page.getByRole('listitem').filter({ hasText: 'To be removed' });
  await piece.getByRole('button', { name: 'More about To be removed' }).click();
  await page.getByRole('menuitem', { name: 'Mark as done' }).click();
  await expect(piece).toContainText('done');
  await piece.getByRole('button', { name: 'More about To be removed' }).click();
  await page.getByRole('menuitem', { name: 'Remove…' }).click();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(piece).toBeVisible();
  await piece.getByRole('button', { name: 'More about To be removed' }).click();
  await page.getByRole('menuitem', { name: 'Remove…' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(piece).toBeHidden();
  await page.getByRole('button', { name: 'Removed', exact: true }).click();
  await expect(piece).toContainText('goes for good on');
  await piece.getByRole('button', { name: 'More about To be removed' }).click();
  await page.getByRole('menuitem', { name: 'Put it back on the shelf' }).click();
  await expect(piece).toBeHidden();
  await page.getByRole('button', { name: 'All', exact: true }).click();
  await expect(piece).toContainText('done');
});

for (const [width, height] of [
  [1280, 800],
  [800, 1280],
])
  test(`every screen is accessible and fits at ${width} × ${height}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await page.goto(at('/'));
    await pictured(page);
    await accessible(page);
    await noSidewaysScroll(page);
    await openPiece(page, 'Salt Marsh');
    for (const move of [/^1\. Stack/, /^4\. Re-square/, /^5\. Cut/, /^7\. Arrange/, /Cut and flip/]) {
      await panel(page, move).click();
      await painted(page);
      await accessible(page);
      await noSidewaysScroll(page);
    }
    await openPiece(page, 'Quarry Quilt');
    for (const move of [/^1\. Arrange/, /jacket off/]) {
      await panel(page, move).click();
      await painted(page);
      await accessible(page);
      await noSidewaysScroll(page);
    }
    await page.getByRole('link', { name: 'Blade' }).click();
    await expect(page.getByRole('heading', { name: 'The blade' })).toBeVisible();
    await accessible(page);
    await noSidewaysScroll(page);
  });
