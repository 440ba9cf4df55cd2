import { readFileSync, writeFileSync } from 'node:fs';
import { type Page, expect, test } from './fixtures.ts';
import { accessible, at, downloaded, openPiece, saved, undoAll } from './steps.ts';

const files = (page: Page, item: RegExp | string) =>
  page
    .getByRole('button', { name: 'Files out' })
    .click()
    .then(() => page.getByRole('menuitem', { name: item }).click());

/** Hands a bar over: the file that is saved. */
async function handOver(page: Page, { by, to }: { by: string; to: string }): Promise<Buffer> {
  await files(page, /^A bar, handed over/);
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('combobox').click();
  await page.getByRole('option', { name: 'Star bar' }).click();
  await expect(dialog.getByRole('status')).toContainText(/Theirs comes to .+\d/);
  await dialog.getByLabel('Your name').fill(by);
  await dialog.getByLabel('Their name').fill(to);
  await accessible(page);
  const { name, content } = await downloaded(page, () =>
    dialog.getByRole('button', { name: 'Save the file for them' }).click(),
  );
  expect(name).toContain(to.toLowerCase());
  return content;
}

test('a bar is handed over to another maker, made there, read back, compared, and taken', async ({
  page,
}, info) => {
  await openPiece(page, 'Quarry Quilt');
  await saved(page);
  const mine = page.url();
  const file = info.outputPath('for-bo.retablo.json');
  const back = info.outputPath('back.retablo.json');
  writeFileSync(file, await handOver(page, { by: 'Ana', to: 'Bo' }));
  // It is a hand-over that names the revision it went from.
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByLabel('Name what is there now')).toHaveValue('handed over to Bo');

  // Bo opens it as a piece, changes a number of that bar, writes what came, and hands it back.
  await page.goto(at('/'));
  await page.getByLabel('Open a plan file').setInputFiles(file);
  await expect(page.getByLabel('Name of the piece')).toHaveValue('Quarry Quilt');
  const bar = page
    .getByRole('navigation', { name: 'Moves of Star bar' })
    .getByRole('button', { name: /^1\. / });
  await bar.click();
  const number = page.getByLabel('Layers in all');
  const was = await number.inputValue();
  await number.fill(String(Number.parseFloat(was) + 2));
  await number.blur();
  await saved(page);
  writeFileSync(back, await handOver(page, { by: 'Bo', to: 'Ana' }));

  await page.goto(mine);
  await files(page, 'Read back what another maker made…');
  const dialog = page.getByRole('dialog');
  await dialog
    .getByLabel('Choose the file')
    .setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{') });
  await expect(dialog.getByRole('alert')).toContainText('x.json is no file that a maker handed over');
  await dialog.getByLabel('Choose the file').setInputFiles(back);
  await expect(dialog.getByRole('heading', { name: 'What Bo changed' })).toBeVisible();
  await expect(
    dialog
      .getByRole('listitem')
      .filter({ hasText: /handed over.*by Bo/ })
      .first(),
  ).toBeVisible();
  await expect(dialog.getByText('Nothing differs')).toBeVisible();
  await expect(dialog.getByRole('alert')).toContainText('“Star bar” of Bo does not mate');
  await accessible(page);
  await dialog.getByRole('button', { name: 'Take their bar' }).click();
  await saved(page);
  await bar.click();
  await expect(number).toHaveValue(String(Number.parseFloat(was) + 2));
  expect(JSON.parse(readFileSync(back, 'utf8'))).toMatchObject({
    format: 'retablo-handover',
    by: 'Bo',
    to: 'Ana',
  });
  await undoAll(page);
});

test('who writes at a device goes with what is written', async ({ page }) => {
  await openPiece(page, 'Tide Ladder');
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await page.getByRole('button', { name: 'All moves' }).click();
  await page.getByLabel('Who writes here').fill('Ysolde');
  await page.keyboard.press('Escape');
  await page.getByLabel('Remark').fill('by hand');
  await page.getByLabel('Remark').blur();
  await page.goto(page.url().replace(/bench.*/, 'log'));
  await expect(page.getByRole('listitem').filter({ hasText: 'by hand' })).toContainText('Ysolde');
});
