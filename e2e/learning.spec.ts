import { readFileSync } from 'node:fs';
import { expect, test } from './fixtures.ts';
import { accessible, at, noSidewaysScroll, openPiece, painted, watchTroubles } from './steps.ts';

// What records teach is read when a piece's small picture is made.
test.use({ pictures: true });
watchTroubles();

/** A plan is run forward a few hundred times, beside everything else that a busy machine does. */
const PATIENCE = { timeout: 90_000 };

test('what a year of records taught is asked, taken with one press, and offered to a piece that is planned already', async ({
  page,
}) => {
  await page.goto(at('/shop/learned'));
  const numbers = page.getByRole('region', { name: 'The shop’s numbers, from its own records' });
  await expect(numbers).toBeVisible(PATIENCE);
  await expect(
    numbers.getByRole('row', { name: /^Scale, each heat Brasa Chica 1\.00 % 1\.[12]\d %/ }),
  ).toBeVisible();
  await expect(
    page.getByText(/Re-squares with “No. 6 reinforcing bar” came out \d\.\d° too far/),
  ).toBeVisible();
  await expect(page.getByRole('region', { name: 'Were the promises kept?' })).toContainText(
    /of 100 lay inside/,
  );
  // Of bars of several thicknesses each by itself, and whole pieces against what was promised of them.
  await expect(numbers.getByRole('row', { name: /from 30 mm thick 1\.00 %/ })).toBeVisible();
  const kept = page.getByRole('region', { name: 'Were the promises kept?' });
  await expect(kept).toContainText(
    /\d+ of \d+ came as long, and \d+ of \d+ took the hours, as their plans promised/,
    PATIENCE,
  );
  await expect(kept.getByText('Others are still being looked at')).toBeHidden(PATIENCE);
  await expect(kept.getByRole('row', { name: /^Dunlin .* mm to .* mm/ })).toBeVisible();
  await accessible(page);
  await noSidewaysScroll(page);

  // Everything behind a number: formula, source, every measurement and its piece.
  await page
    .getByRole('button', { name: 'Ask about Scale, each heat, Brasa Chica', exact: true })
    .press('Enter');
  const behind = page.getByRole('dialog', { name: 'Scale, each heat: Brasa Chica' });
  await expect(behind).toContainText('from one weighing to the next');
  await expect(behind).toContainText('common practice, no source');
  await expect(behind.getByRole('row', { name: /Whimbrel/ }).first()).toBeVisible();
  await expect(
    behind.getByRole('img', { name: /^Scale, each heat over time: \d+ measurements/ }),
  ).toBeVisible();
  await accessible(page);
  await page.keyboard.press('Escape');

  const proposed = page.getByRole('region', { name: 'Proposed' });
  const take = proposed.getByRole('button', { name: /^Take it: Scale, each heat 1\.\d+ %, not 1\.00 %/ });
  await take.press('Enter');
  await expect(take).toBeHidden();
  const left = await proposed.getByRole('button', { name: /^Let it be/ }).count();
  await proposed
    .getByRole('button', { name: /^Let it be/ })
    .first()
    .press('Enter');
  await expect(proposed.getByRole('button', { name: /^Let it be/ })).toHaveCount(left - 1);
  await page.goto(at('/shop'));
  await expect(page.getByLabel('Scale each heat')).toHaveValue(/1[.,][34]\d? %|1[.,]\d+ %/);

  // It follows the maker to the fire.
  await openPiece(page, 'Salt Marsh');
  await page.goto(`${page.url()}/bench?move=s4`);
  await expect(page.getByRole('note').filter({ hasText: 'Re-squares with' })).toBeVisible();
  await accessible(page);

  // A piece keeps its own numbers, and offers the newer.
  await openPiece(page, 'Salt Marsh');
  await page.getByRole('link', { name: 'Shop', exact: true }).click();
  await expect(page.getByLabel('Scale each heat')).toHaveValue('1 %');
  await page.getByRole('button', { name: /^Take all \d/ }).click();
  await expect(page.getByLabel('Scale each heat')).not.toHaveValue('1 %');
  await expect(page.getByRole('button', { name: /^Take all \d/ })).toBeHidden();

  await page.setViewportSize({ width: 800, height: 1280 });
  await page.goto(at('/shop/learned'));
  await expect(numbers).toBeVisible(PATIENCE);
  await noSidewaysScroll(page);
});

test('how sure a plan is stands beside its goal, with what the doubt comes from; a surer way is taken with one press and taken back', async ({
  page,
}) => {
  await openPiece(page, 'Tide Ladder');
  await painted(page);
  const chip = page.getByRole('button', { name: /^Reaches it \d+ times? in 100/ });
  await expect(chip).toBeVisible(PATIENCE);
  const reached = async () => Number(/\d+/.exec((await chip.getAttribute('aria-label'))!)![0]);
  const before = await reached();
  expect(before).toBeLessThan(95);
  const move = page.getByRole('region', { name: 'How it may come' });
  await expect(move).toContainText(/Length.*mm/);
  await chip.press('Enter');
  const sure = page.getByRole('dialog', { name: 'How sure it is' });
  await expect(sure.getByRole('row', { name: /^Length .* mm/ })).toBeVisible();
  await expect(sure).toContainText(new RegExp(`${before} times? in 100`));
  await expect(sure).toContainText('Scale, each heat');
  await expect(sure.getByRole('row', { name: /^Steel in it \d/ })).toBeVisible();
  const way = sure.getByRole('button', { name: /^Take it: .*Start with/ });
  await expect(way).toBeVisible(PATIENCE);
  await expect(sure.getByText('Looking for ways …')).toBeHidden(PATIENCE);
  await accessible(page);
  await way.press('Enter');
  await expect(sure).toBeHidden();
  // The old answer does not stand there as the present one.
  await expect(page.getByRole('button', { name: 'How sure is it' })).toBeVisible();
  await expect(chip).toBeVisible(PATIENCE);
  expect(await reached()).toBeGreaterThan(before);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(chip).toHaveAccessibleName(
    new RegExp(`^Reaches it ${before} times? in 100: how sure`),
    PATIENCE,
  );
  expect(await reached()).toBe(before);
});

test('what a piece takes is priced to quote from, and saved as CSV; in inches and pounds', async ({
  page,
}) => {
  await openPiece(page, 'Quarry Quilt');
  await page.getByRole('link', { name: 'Stock', exact: true }).click();
  const costs = page.getByRole('region', { name: 'What it takes, to quote from' });
  await expect(costs.getByRole('row', { name: /^Work \d+\.\d h \d+\.\d\d €$/ })).toBeVisible();
  await expect(costs.getByRole('row', { name: /^1095 .*(lb|oz) –$/ })).toBeVisible();
  await expect(costs.getByRole('row', { name: /^Together/ })).toContainText('€');
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    costs.getByRole('button', { name: 'Save it as CSV' }).click(),
  ]);
  expect(saved.suggestedFilename()).toMatch(/costs\.csv$/);
  const rows = readFileSync((await saved.path())!, 'utf8').split('\r\n');
  expect(rows[0]).toBe('what,amount,unit,price €');
  expect(rows.at(-1)).toMatch(/^together,,,\d+\.\d\d$/);
});

test('at the bench what cools and what lies in the bath is written down with one press, and the shop learns of it', async ({
  page,
}) => {
  await page.clock.install({ time: new Date('2026-11-02T09:00:00Z') });
  await openPiece(page, 'Tide Ladder');
  const bench = `${page.url()}/bench?move=`;
  await page.goto(`${bench}s3`);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await page.goto(`${bench}s5`);
  // What is cut next came off the dies two moves before: nothing is said of it until the move between is done too.
  const cooling = page.getByRole('region', { name: 'Cooling' });
  await expect(cooling).toBeHidden();
  await page.goto(`${bench}s4`);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Crop the ends');
  await expect(cooling).toContainText(/it can be held after about \d+ min/);
  await accessible(page);
  await page.clock.fastForward(37 * 60_000);
  await expect(cooling).toContainText('Out of the fire for 37 min');
  await cooling.getByRole('button', { name: 'It can be held now' }).press('Enter');
  await expect(cooling).toBeHidden();
  await page.goto(`${bench.replace('/bench?move=', '')}/log`);
  await expect(page.getByText('could be held after 37 min')).toBeVisible();

  await openPiece(page, 'Lantern');
  const etch = `${page.url()}/bench?move=b21`;
  await page.goto(etch);
  for (const dip of [1, 2]) {
    await page.getByRole('button', { name: 'Timer', exact: true }).click();
    await page.getByRole('button', { name: /^Etch ·/ }).click();
    await page.clock.fastForward(20 * 60_000);
    await page.getByRole('timer', { name: 'Etch' }).getByRole('button', { name: 'Stop' }).click();
    await expect(page.getByRole('timer'), `dip ${dip}`).toBeHidden();
  }
  // Done while the last dip is still timed: it counts too.
  await page.getByRole('button', { name: 'Timer', exact: true }).click();
  await page.getByRole('button', { name: /^Etch ·/ }).click();
  await page.clock.fastForward(20 * 60_000);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await page.goto(etch.replace('/bench?move=b21', '/log'));
  await expect(page.getByText(/6\d(\.\d)? min in the bath/)).toBeVisible();
});
