import { expect, test } from './fixtures.ts';
import {
  accessible,
  addMove,
  beginPiece,
  noSidewaysScroll,
  openPiece,
  painted,
  panel,
  saved,
  verdict,
  watchTroubles,
} from './steps.ts';

watchTroubles();

const place = (page: Parameters<typeof panel>[0], i: number) => page.locator(`[data-place="${i}"]`);

test('pieces are turned, rolled and swapped by key, by press and by dragging; a wrong one is found', async ({
  page,
}) => {
  await openPiece(page, 'Salt Marsh');
  await panel(page, /^7\. Arrange/).click();
  await expect(page.getByText('Every seam matches at the front.')).toBeVisible();
  await place(page, 0).click();
  await page.keyboard.press('t');
  await expect(place(page, 0)).toHaveAccessibleName('Piece 1, turned a quarter counter-clockwise');
  await expect(page.getByText(/^Worst seam at the front/)).toBeVisible();
  await page.keyboard.press('r');
  await expect(page.getByText('end A in front').first()).toBeVisible();
  await page.keyboard.press('z');
  await page.keyboard.press('z');
  await expect(page.getByText('Every seam matches at the front.')).toBeVisible();
  // Swapped by key: s, then an arrow.
  await place(page, 0).click();
  await page.keyboard.press('s');
  await page.keyboard.press('ArrowRight');
  await expect(place(page, 0)).toHaveAccessibleName(/^Piece 2/);
  await page.keyboard.press('z');
  // Swapped by dragging.
  const [from, to] = [await place(page, 0).boundingBox(), await place(page, 1).boundingBox()];
  await page.mouse.move(from!.x + 40, from!.y + 60);
  await page.mouse.down();
  await page.mouse.move(from!.x + 80, from!.y + 90, { steps: 4 });
  await page.mouse.move(to!.x + to!.width / 2, to!.y + to!.height / 2, { steps: 8 });
  await page.mouse.up();
  await expect(place(page, 0)).toHaveAccessibleName(/^Piece 2/);
  // In a book-matched row, exchanging 1 and 3 parts mates; the best match brings them together again.
  await page.getByRole('button', { name: /^Book-matched row/ }).click();
  await expect(page.getByRole('button', { name: 'Best match' })).toBeDisabled();
  await place(page, 0).click();
  await page.getByRole('button', { name: 'Swap (S)' }).click();
  await place(page, 2).click();
  await expect(place(page, 0)).toHaveAccessibleName(/^Piece 3/);
  await page.getByRole('button', { name: 'Best match' }).click();
  await expect(page.getByRole('button', { name: 'Best match' })).toBeDisabled();
});

test('two bars are joined in a nine-piece block with bright strips, tiled, and a chopper laid on it', async ({
  page,
}) => {
  await beginPiece(page, 'From nothing', { unit: 'mm', length: '260', width: '60', thickness: '6' });
  await page.getByRole('button', { name: /^A stack/ }).click();
  await page.getByLabel('Length', { exact: true }).fill('400');
  for (const move of ['Weld', 'Draw out', 'Cut']) await addMove(page, move);
  await page.getByLabel('Equal pieces').fill('5');
  await page.getByRole('button', { name: 'Another bar' }).click();
  await page.getByRole('button', { name: /^A bought bar/ }).click();
  await page.getByLabel('Length', { exact: true }).fill('600');
  const side = (await panel(page, /^3\. Draw/)
    .first()
    .getAttribute('aria-label'))!.match(/× ([\d.]+) mm/)![1];
  await page.getByLabel('Width', { exact: true }).fill(side);
  await page.getByLabel('Layer 1 thickness').fill(side);
  await addMove(page, 'Cut');
  await page.getByRole('button', { name: 'Another bar' }).click();
  await page.getByRole('button', { name: /^Pieces of other bars/ }).click();
  await expect(page.getByLabel('Pieces across')).toHaveValue('3');
  await page.getByLabel('Strips').click();
  await page.getByRole('option', { name: 'Between and round the outside' }).click();
  await painted(page);
  await expect(place(page, 8)).toHaveAccessibleName(/^Piece P5/);
  for (const move of ['Weld', 'Draw out', 'Cut and flip']) await addMove(page, move);
  await page.getByLabel('Angle to the bar').fill('90');
  await page.getByRole('button', { name: 'Tile 2, rolled over' }).click();
  await expect(page.getByRole('button', { name: 'Tile 2, turned in the plane' })).toBeVisible();
  await page.keyboard.press('z');
  for (const move of ['Weld', 'Draw out']) await addMove(page, move);
  await page.getByLabel('Draw to a').click();
  await page.getByRole('option', { name: 'Flat bar' }).click();
  await page.getByLabel('Width', { exact: true }).fill('60');
  await page.getByLabel('Thickness', { exact: true }).fill('6');
  await page.getByRole('button', { name: /^Set them$/ }).click();
  await expect(verdict(page)).toContainText(/to spare|exactly/);
  await saved(page);
  await page.getByRole('link', { name: 'Blade' }).click();
  await page.getByRole('button', { name: /Wide chopper/ }).click();
  await expect(page.getByRole('img', { name: 'right side of the blade, ground' })).toBeVisible();
  await expect(page.getByText(/It fits/)).toBeVisible();
  await page.getByLabel('Blade length').fill('1990');
  await expect(page.getByText(/short at the tip/)).toBeVisible();
  await saved(page);
});

test('bars are renamed, duplicated, moved and taken out', async ({ page }) => {
  await openPiece(page, 'Rain Barrel');
  await page.getByRole('button', { name: 'More about Left-hand rod' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate this bar' }).click();
  await expect(page.getByRole('button', { name: 'Show Left-hand rod (again)' })).toBeVisible();
  await page.getByLabel('Name of bar Left-hand rod (again)').fill('Spare rod');
  await page.getByLabel('Name of bar Left-hand rod (again)').press('Enter');
  await page.getByRole('button', { name: 'More about Spare rod' }).click();
  await page.getByRole('menuitem', { name: 'Move up' }).click();
  await page.getByRole('button', { name: 'More about Spare rod' }).click();
  await page.getByRole('menuitem', { name: 'Take this bar out' }).click();
  await expect(page.getByRole('button', { name: 'Show Spare rod' })).toBeHidden();
  await page.getByRole('button', { name: 'Show Right-hand rod' }).click();
  await expect(page.getByRole('heading', { name: 'Grind', exact: true })).toBeVisible();
  await page
    .getByRole('navigation', { name: 'Moves of Right-hand rod' })
    .getByRole('button', { name: /Cut/ })
    .click();
  await expect(page.getByText('How the pieces will lie')).toBeVisible();
  await saved(page);
});

test('advice on the stretch of the tiles is applied with one press', async ({ page }) => {
  await openPiece(page, 'Salt Marsh');
  await panel(page, /Cut and flip/).click();
  await page.getByLabel('Wanted, long by wide').fill('2');
  const ratio = page.getByText(/times as long as wide/);
  await page.getByRole('button', { name: 'Do it' }).nth(2).click();
  await expect(ratio).toContainText('2.00');
  await page.keyboard.press('z');
  await expect(ratio).not.toContainText('2.00');
});

test('a twisted bar is refused until it is round, and mended by the remedy', async ({ page }) => {
  await beginPiece(page, 'Twisted', { unit: 'mm', length: '300', width: '30', thickness: '5' });
  await page.getByRole('button', { name: /^A stack/ }).click();
  for (const move of ['Weld', 'Draw out', 'Twist']) await addMove(page, move);
  await expect(page.getByRole('alert')).toContainText('round the bar before twisting');
  await page.getByRole('button', { name: 'Round it first' }).click();
  await expect(page.getByRole('alert')).toBeHidden();
  await painted(page);
  await panel(page, /^5\. Twist/).click();
  await expect(page.getByText(/twist end B 3 turns counter-clockwise/)).toBeVisible();
  await page.getByLabel('Whole turns').fill('60');
  await expect(page.getByText(/^Mind\. The skin shears/)).toBeVisible();
  await painted(page);
});

test('an outline is read from a drawing, and what is no drawing is refused', async ({ page }) => {
  await openPiece(page, 'Tide Ladder');
  await page.getByRole('link', { name: 'Blade' }).click();
  const file = page.locator('input[type=file]');
  await file.setInputFiles({
    name: 'leaf.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg"><script>document.title="taken"</script><path d="M0 0 Q 50 40 100 0 Q 50 -10 0 0Z"/></svg>',
    ),
  });
  await expect(page.getByLabel('Profile')).toContainText('leaf');
  expect(await page.title()).not.toBe('taken');
  await file.setInputFiles({
    name: 'notes.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from('not a drawing'),
  });
  await expect(page.getByText('notes.svg: This is not an SVG drawing.')).toBeVisible();
  await expect(page.getByLabel('Profile')).toContainText('leaf');
  const editor = page.getByRole('application');
  await editor.focus();
  await page.keyboard.press('n');
  await expect(page.getByText(/point 1 of 72/)).toBeVisible();
  await page.keyboard.press('Delete');
  await page.keyboard.press('n');
  await expect(page.getByText(/point 1 of 71/)).toBeVisible();
});

test('what the ends show leads on: ways beside each other, and one press grinds the bar true', async ({
  page,
}) => {
  await beginPiece(page, 'Turned', { unit: 'mm', length: '100', width: '30', thickness: '30' });
  await page.getByRole('button', { name: /^A stack/ }).click();
  for (const move of ['Weld', 'Draw out', 'Re-square on the bias', 'What the ends show'])
    await addMove(page, move);
  await expect(page.getByText(/Enter how far the picture stands turned/)).toBeVisible();
  await page.getByLabel('Turned, end A').fill('4');
  await page.getByLabel('Turned, end A').press('Enter');
  const best = page.getByRole('region', { name: /by the picture/ });
  await expect(page.getByRole('region', { name: 'Live with it, book-matched' })).toContainText(
    /Points miss the middle by \d/,
  );
  await expect(best).toContainText(/% of the steel gone/);
  await painted(page);
  await best.getByRole('button', { name: 'Go this way' }).click();
  await expect(page.getByLabel('Pattern turned by')).toHaveValue('4°');
  await expect(panel(page, /^6\. Grind true/)).toBeVisible();
  await noSidewaysScroll(page);
});

test('parts of a bar that changes along its length are all shown', async ({ page }) => {
  await beginPiece(page, 'Spiral', { unit: 'mm', length: '100', width: '20', thickness: '20' });
  await page.getByRole('button', { name: /^A stack/ }).click();
  for (const move of ['Weld', 'Draw out', 'Knock the corners', 'Twist', 'Cut']) await addMove(page, move);
  await painted(page);
  for (const part of [1, 2, 3, 4])
    await expect(page.getByRole('img', { name: `Part ${part} · end B` })).toBeVisible();
  await noSidewaysScroll(page);
});

test('a piece that slid off is put back, and the four-way is welded and drawn with it', async ({ page }) => {
  await openPiece(page, 'Salt Marsh');
  await panel(page, /^7\. Arrange/).click();
  await page.getByRole('button', { name: 'Put a move after this one' }).click();
  await page
    .getByRole('menuitem')
    .filter({ has: page.getByText('Put a piece back', { exact: true }) })
    .click();
  await expect(panel(page, /^8\. Put a piece back/)).toHaveAttribute('aria-current', 'step');
  await page.getByLabel('Piece that slid off').click();
  await page.getByRole('option', { name: 'piece 2' }).click();
  await page.getByLabel('Off each face').fill('20');
  await expect(page.getByRole('alert')).toContainText('goes too deep: at most 6.05 mm');
  await page.getByRole('button', { name: 'Only 6.05 mm' }).click();
  await page.getByLabel('Off each face').fill('0.5');
  await expect(page.getByText('Its outer faces stand 1 mm behind the others then')).toBeVisible();
  await expect(
    page.getByText(/Take out piece 2, .* pushed home to the left and to the bottom/),
  ).toBeVisible();
  await painted(page);
  await accessible(page);
  await panel(page, /^10\. Draw out/).click();
  await expect(panel(page, /^10\. Draw out, 25 × 25 mm/)).toBeVisible();
  await expect(page.getByText('A hollow side can fold over on itself')).toBeVisible();
});
