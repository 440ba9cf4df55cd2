import {
  type Orientation,
  ORIENTATION_NAMES,
  compose,
  orientationName,
  orientationNamed,
} from '../core/geometry/orientation.ts';
import { exerciseOf, kindOf } from '../core/trainer/index.ts';
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

/** Keys that take a piece from how it came off the saw to every other way: a roll, if any, and then quarters. */
function keysTo(name: (typeof ORIENTATION_NAMES)[number]): string[] {
  const done: Record<string, Orientation> = {
    t: { turns: 1, rolled: false },
    r: { turns: 0, rolled: true },
  };
  for (const keys of ['', 't', 'tt', 'ttt', 'r', 'rt', 'rtt', 'rttt']) {
    const end = [...keys].reduce((now, key) => compose(done[key], now), orientationNamed('as it lies'));
    if (orientationName(end) === name) return [...keys];
  }
  throw new Error(name);
}

test('four pieces are laid by key on the same Arrange as at the work, and judged by what they show', async ({
  page,
}) => {
  await page.goto(at('/trainer'));
  await page.getByRole('combobox', { name: 'Practise' }).click();
  await page.getByRole('option', { name: 'Lay the four yourself' }).click();
  const laid = page.getByRole('group', { name: 'The pieces as they lie, front end' });
  const first = laid.getByRole('button', { name: /^Piece 1,/ });
  await expect(first).toBeVisible();
  await painted(page);
  await accessible(page);
  await noSidewaysScroll(page);
  await page.setViewportSize({ width: 800, height: 1280 });
  await noSidewaysScroll(page);
  await page.setViewportSize({ width: 1280, height: 800 });
  const ready = page.getByRole('button', { name: 'So they lie' });
  // As they came off the saw they are never right.
  await expect(ready).toBeDisabled();
  const seed = await page.evaluate(
    () =>
      (JSON.parse(localStorage.getItem('retablo-training')!) as { state: { lastSeed: number } }).state
        .lastSeed,
  );
  const { places } = exerciseOf(kindOf('lay-them'), 1, seed + 1).lay!;
  const told = page.getByRole('status');
  for (const isWrong of [true, false]) {
    for (const [i, { orientation }] of places.entries()) {
      await laid.getByRole('button').nth(i).click();
      for (const key of keysTo(orientation)) await page.keyboard.press(key);
      if (isWrong && i === 0) await page.keyboard.press('t');
    }
    await ready.click();
    await expect(told).toContainText(isWrong ? 'Not so. It comes of piece 1' : 'Right. It comes of piece 1');
    await expect(page.getByRole('img', { name: 'As you laid them' })).toBeVisible();
    await expect(page.getByRole('heading', { name: 'How it came about' })).toBeVisible();
    if (!isWrong) break;
    // What was missed comes back as it was, as it came off the saw.
    await page.evaluate(() => {
      const kept = JSON.parse(localStorage.getItem('retablo-training')!) as {
        state: { missed: { card: { due: string } }[] };
      };
      for (const { card } of kept.state.missed) card.due = new Date(0).toISOString();
      localStorage.setItem('retablo-training', JSON.stringify(kept));
    });
    await page.reload();
    await expect(first).toHaveAccessibleName(/as it lay in the bar/);
  }
});
