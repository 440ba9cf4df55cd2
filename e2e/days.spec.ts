import { expect, test } from './fixtures.ts';
import { accessible, at, downloaded, noSidewaysScroll, openPiece } from './steps.ts';

test('what is left of the pieces is laid into the days: chosen, with more hands, by another clock, as a calendar', async ({
  page,
}) => {
  await openPiece(page, 'Slack Tide');
  await page.getByRole('link', { name: 'Log', exact: true }).click();
  await page.getByRole('link', { name: 'When the rest can be done' }).click();
  const from = page.getByLabel('Laid from');
  // 2026-12-07 is a Monday.
  await from.fill('2026-12-07T08:00');
  const monday = page.getByRole('region', { name: 'Monday, December 7' });
  await expect(monday.getByRole('row').filter({ hasText: 'Weld, 2 heats' }).first()).toContainText(
    'Slack Tide',
  );
  await expect(page.getByRole('region', { name: 'What can be finished' })).toContainText('By 17:00');
  await accessible(page);
  for (const size of [
    { width: 800, height: 1280 },
    { width: 1280, height: 800 },
  ]) {
    await page.setViewportSize(size);
    await noSidewaysScroll(page);
  }

  // A second piece, a second pair of hands.
  await page.getByRole('checkbox', { name: /Salt Marsh/ }).check();
  await expect(monday.getByRole('row').filter({ hasText: 'Salt Marsh' }).first()).toBeVisible();
  await expect(monday.getByRole('row').filter({ hasText: 'maker 2' })).toHaveCount(0);
  await page.getByLabel('Makers').fill('2');
  await page.getByLabel('Makers').blur();
  await expect(monday.getByRole('row').filter({ hasText: 'maker 2' }).first()).toBeVisible();

  const { name, content } = await downloaded(page, () =>
    page.getByRole('button', { name: 'Save as a calendar (.ics)' }).click(),
  );
  expect(name).toBe('days.ics');
  const text = content.toString();
  expect(text).toMatch(/^BEGIN:VCALENDAR\r\n/);
  // By the shop's own clock, whatever the zone.
  expect(text).toMatch(/DTSTART:20261207T08\d{4}\r\n/);
  expect(text).toContain('SUMMARY:Slack Tide: Weld');
  expect(text.match(/BEGIN:VEVENT/g)).toHaveLength(new Set(text.match(/UID:[^\r]+/g)).size);

  // Hours are the shop's: they are kept. A date that is half typed says so and loses nothing.
  await page.getByLabel('From', { exact: true }).fill('18');
  await expect(page.getByText('The shop shuts before it opens')).toBeVisible();
  await page.getByLabel('From', { exact: true }).fill('9');
  await expect(monday.getByRole('row').filter({ hasText: 'Weld, 2 heats' }).first()).toContainText(/^09:/);
  await from.fill('');
  await expect(page.getByText('A date and a time, please.')).toBeVisible();
  await page.waitForTimeout(1000);
  await page.reload();
  await expect(page.getByLabel('From', { exact: true })).toHaveValue(/^9/);
  await expect(page.getByLabel('Makers')).toHaveValue('2');
  await expect(page.getByRole('checkbox', { name: /Salt Marsh/ })).toBeChecked();

  await page.goto(at('/days'));
  await page.getByRole('checkbox', { name: /Slack Tide/ }).uncheck();
  await expect(page.getByText('Curlew: nothing is left to do.')).toBeVisible();
  await page.getByRole('checkbox', { name: /Curlew/ }).uncheck();
  await expect(page.getByText('Choose the pieces whose work is to be laid')).toBeVisible();
});

test('what came, of all pieces, is found by its words and leads to its piece', async ({ page }) => {
  await page.goto(at('/shop/log'));
  const log = page.getByRole('list', { name: 'Log of all pieces' });
  await expect(log.getByRole('listitem').first()).toBeVisible();
  const off = page.getByRole('region', { name: 'How far off it came, of all pieces' });
  await expect(off.getByRole('row', { name: /^Draw out length/ })).toContainText('−');
  await accessible(page);
  const all = await log.getByRole('listitem').count();
  await page.getByRole('searchbox').fill('curlew weld');
  await expect.poll(() => log.getByRole('listitem').count()).toBeLessThan(all);
  expect(await log.getByRole('listitem').count()).toBeGreaterThan(0);
  for (const text of await log.getByRole('listitem').allInnerTexts()) expect(text).toMatch(/Curlew/);
  await page.getByRole('searchbox').fill('no such words');
  await expect(page.getByText('Nothing was written that says so.')).toBeVisible();
  await page.getByRole('searchbox').fill('slack weld');
  await log.getByRole('link', { name: 'Slack Tide' }).first().click();
  await expect(
    page
      .getByRole('region', { name: 'Log' })
      .or(page.getByRole('list', { name: 'Log' }))
      .first(),
  ).toBeVisible();
});
