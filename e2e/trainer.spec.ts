import { expect, test } from './fixtures.ts';
import { accessible, at, noSidewaysScroll, painted, watchTroubles } from './steps.ts';

watchTroubles();

test('an exercise is answered by keyboard, explained at once, and what was missed comes back', async ({
  page,
}) => {
  await page.goto(at('/'));
  await page.getByRole('link', { name: 'Train the eye' }).click();
  await expect(page.getByRole('heading', { name: 'Reading end grain' })).toBeVisible();
  const answers = page.getByRole('main').getByRole('listitem').getByRole('button');
  await expect(answers.first()).toBeVisible();
  await painted(page);
  await accessible(page);
  await noSidewaysScroll(page);
  // Until one is missed: every answer says at once whether it was right, and why.
  for (let i = 0; i < 12; i++) {
    await answers.last().focus();
    await page.keyboard.press('Enter');
    const told = page.getByRole('status');
    await expect(told).toContainText(/^(Right\.|Not so\.)/);
    await expect(
      answers.filter({ has: page.locator('xpath=self::*[contains(@aria-label, ": right")]') }),
    ).toHaveCount(1);
    if ((await told.textContent())!.startsWith('Not so')) break;
    await page.keyboard.press('Enter');
    await expect(told).toBeHidden();
    await expect(answers.first()).toBeVisible();
  }
  await expect(page.getByText(/missed (one comes|ones come) back/)).toBeVisible();
  await accessible(page);
  await page.reload();
  await expect(page.getByText(/missed (one comes|ones come) back/)).toBeVisible();
  await page.getByRole('button', { name: 'hard' }).click();
  await page.getByRole('combobox', { name: 'Practise' }).click();
  await page.getByRole('option', { name: 'Which cut gives this face?' }).click();
  await expect(page.getByText(/sawn into four tiles/)).toBeVisible();
});
