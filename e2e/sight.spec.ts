import sharp from 'sharp';
import { endPhotograph, facePhotograph, toCorners } from './endPhotograph.ts';
import { expect, test } from './fixtures.ts';
import { accessible, addMove, at, beginPiece, noSidewaysScroll, painted } from './steps.ts';

test.use({ viewport: { width: 800, height: 1280 }, hasTouch: true });

test('an end is photographed, laid over the plan, taken over: the four-way shows what came; and taken back', async ({
  page,
}) => {
  const { file, ...where } = await endPhotograph();
  await page.goto(at('/'));
  await page.getByRole('link', { name: /Salt Marsh/ }).tap();
  await page.getByRole('link', { name: 'Bench', exact: true }).tap();
  const toMove = async (name: RegExp) => {
    await page.getByRole('button', { name: 'All moves' }).tap();
    await page.getByRole('navigation', { name: 'All moves' }).getByRole('button', { name }).tap();
  };
  await toMove(/^4\. Re-square/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Re-square on the bias');
  await painted(page);
  await page.locator('input[type=file]').setInputFiles(file);
  await page.getByRole('group', { name: 'It shows' }).getByRole('button', { name: 'End B' }).tap();
  await page.getByRole('button', { name: 'Lay it over the plan' }).tap();
  const dialog = page.getByRole('dialog', { name: 'What the photograph shows' });
  await expect(dialog.getByRole('group', { name: /^The edges of the section/ })).toBeVisible();
  // Lines that lie somewhere else: said, and nothing is taken.
  await dialog.getByRole('button', { name: 'Read it' }).tap();
  await expect(dialog.getByRole('alert')).toBeVisible({ timeout: 60_000 });
  await toCorners(page, where);
  await dialog.getByRole('button', { name: /^Corner 1,/ }).press('Shift+ArrowUp');
  await dialog.getByRole('button', { name: /^Corner 1,/ }).press('Shift+ArrowDown');
  await accessible(page);
  await noSidewaysScroll(page);
  // This pattern is its own mirror image: nothing is taken before it is said which end it is.
  await dialog.getByRole('button', { name: 'Not known' }).tap();
  await dialog.getByRole('button', { name: 'Read it' }).tap();
  const read = dialog.getByRole('status', { name: 'What was read' });
  await expect(read).toContainText('Which end it is cannot be told', { timeout: 60_000 });
  await expect(dialog.getByRole('button', { name: 'Take it over' })).toHaveCount(0);
  await dialog.getByRole('button', { name: 'It is end B' }).tap();
  await expect(read).toContainText('End B.', { timeout: 60_000 });
  await expect(read).toContainText(/run [2-4]\.\d° counter-clockwise of where they should/);
  await dialog.getByRole('button', { name: 'Outlines of the bands' }).tap();
  await accessible(page);
  await noSidewaysScroll(page);
  await dialog.getByRole('button', { name: 'Take it over' }).tap();
  await expect(page.getByText(/^Read of end B: the layers run/)).toBeVisible();
  // What can be made of it, as pictures; one of them by one press, and back.
  await page.getByRole('button', { name: 'What pays now' }).tap();
  const pays = page.getByRole('dialog', { name: 'What its pieces come to, laid together' });
  await expect(pays.getByRole('region', { name: 'As it is, laid as planned' })).toContainText(
    'No lines run to the middle',
    { timeout: 60_000 },
  );
  await accessible(page);
  await noSidewaysScroll(page);
  const matched = pays.getByRole('region', { name: 'Book-matched, with another corner in the middle' });
  await expect(matched).toContainText('Points miss the middle by');
  await matched.getByRole('button', { name: 'Go this way' }).tap();
  await expect(pays).toBeHidden();
  await page.getByRole('button', { name: 'What pays now' }).tap();
  await expect(pays.getByRole('region', { name: 'As it is, laid as planned' })).toContainText(
    'Points miss the middle by',
    { timeout: 60_000 },
  );
  await pays.getByRole('button', { name: 'Close' }).tap();
  // From here the plan goes on from what came.
  await toMove(/^7\. Arrange/);
  await painted(page);
  await toMove(/^4\. Re-square/);
  await page.getByRole('button', { name: 'Take the reading back' }).tap();
  await expect(page.getByRole('button', { name: 'Lay it over the plan' })).toBeVisible();
});

test('the finished face photographed: where along it everything lies, which way round is asked, taken over', async ({
  page,
}) => {
  const { file, ...where } = await facePhotograph(180);
  await page.goto(at('/'));
  await page.getByRole('link', { name: /Salt Marsh/ }).tap();
  await page.getByRole('link', { name: 'Bench', exact: true }).tap();
  await page.getByRole('button', { name: 'All moves' }).tap();
  await page
    .getByRole('navigation', { name: 'All moves' })
    .getByRole('button', { name: /^19\. / })
    .tap();
  // Before this the move of before is still there, and would take the photograph.
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Grind');
  await painted(page);
  await page.locator('input[type=file]').setInputFiles(file);
  await page.getByRole('group', { name: 'It shows' }).getByRole('button', { name: 'Top' }).tap();
  await page.getByRole('button', { name: 'Lay it over the plan' }).tap();
  const dialog = page.getByRole('dialog', { name: 'What the face shows' });
  await dialog.getByLabel('From end A, to').fill('180 mm');
  await dialog.getByLabel('From end A, to').blur();
  // Lines that lie somewhere else: said, and nothing is taken.
  await dialog.getByRole('button', { name: 'Read it' }).tap();
  await expect(dialog.getByRole('alert')).toBeVisible({ timeout: 60_000 });
  await toCorners(page, where);
  await dialog.getByRole('button', { name: 'Read it' }).tap();
  const read = dialog.getByRole('status', { name: 'What was read' });
  await expect(read).toContainText('Which end lies to the left cannot be told', { timeout: 60_000 });
  await dialog.getByRole('button', { name: 'End A lies to the left' }).tap();
  await expect(read).toContainText('End A lies to the left in the photograph.', { timeout: 60_000 });
  await expect(read).toContainText(/Its tiles end at \d+/);
  await dialog.getByRole('button', { name: 'Outlines of the bands' }).tap();
  await accessible(page);
  await noSidewaysScroll(page);
  await dialog.getByRole('button', { name: 'Take it over' }).tap();
  await expect(page.getByText(/^Read of the face: 0 mm from end A the picture lies/)).toBeVisible();
  await painted(page);
  await page.getByRole('button', { name: 'Take the reading back' }).tap();
  await expect(page.getByText(/^Read of the face/)).toHaveCount(0);
});

test('the simulated camera takes an end of a bar of the shelf, with a fault of one’s choice', async ({
  page,
}) => {
  await page.goto(at('/instruments'));
  const camera = page.getByRole('region', { name: 'Camera' });
  const choose = async (what: string, name: string | RegExp) => {
    await camera.getByLabel(what).click();
    await page.getByRole('option', { name }).click();
  };
  await choose('Piece', 'Salt Marsh');
  await choose('After the move', /^4\. Re-square/);
  await choose('It shows', /^End A/);
  await camera.getByRole('slider', { name: 'Pattern turned' }).press('ArrowRight');
  await accessible(page);
  await noSidewaysScroll(page);
  const taken = page.waitForEvent('download');
  await camera.getByRole('button', { name: 'Take the photograph' }).click();
  const file = await taken;
  expect(file.suggestedFilename()).toBe('salt-marsh-end-A.jpg');
  const { format, width } = await sharp(await file.path()).metadata();
  expect([format, width]).toEqual(['jpeg', 900]);
});

test('a bar that is there: its end photographed becomes its steels, and is cut and laid like any other', async ({
  page,
}) => {
  const { file, ...where } = await endPhotograph();
  await beginPiece(page, 'Old offcut', { unit: 'mm', length: '200', width: '30', thickness: '6' });
  await page.getByRole('button', { name: /^A bar that is there/ }).click();
  await page.getByLabel('Photograph of its end').setInputFiles(file);
  const dialog = page.getByRole('dialog', { name: 'The end of a bar that is there' });
  await toCorners(page, where);
  await dialog.getByRole('button', { name: 'Read it' }).tap();
  await expect(dialog.getByRole('img', { name: 'The end in its steels, seen on end B' })).toBeVisible({
    timeout: 30_000,
  });
  await expect(dialog.getByText(/^6\d % .*, 3\d % /)).toBeVisible();
  await accessible(page);
  await noSidewaysScroll(page);
  await dialog.getByRole('button', { name: 'So it is' }).tap();
  await expect(dialog).toBeHidden();
  await painted(page);
  await addMove(page, 'Cut');
  await addMove(page, 'Arrange');
  await painted(page);
  await expect(
    page.getByRole('region', { name: 'Seams' }).or(page.getByText('Next corner to the middle')),
  ).toBeVisible();
});
