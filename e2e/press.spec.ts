import { expect, test } from './fixtures.ts';
import { accessible, noSidewaysScroll, openPiece, painted, panel, verdict, watchTroubles } from './steps.ts';

watchTroubles();

const worked = { timeout: 40_000 };

test('passes are worked out beside the page, seen one by one, and only what changed is worked out again', async ({
  page,
}) => {
  await openPiece(page, 'Ebb Bar');
  await panel(page, /^4\. Press/).click();
  // The page answers while the flow is worked out.
  await expect(page.getByText(/^Pass 6, 90°/)).toBeVisible(worked);
  await expect(verdict(page)).toContainText('This plan gives');
  await painted(page);
  const slider = page.getByRole('slider', { name: 'Pass' });
  await slider.focus();
  await page.keyboard.press('Home');
  await expect(page.getByRole('img', { name: 'The section before the first pass' })).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('img', { name: 'The section after pass 1' })).toBeVisible();
  await expect(page.getByText(/force at the end about/)).toBeVisible();
  await page.getByRole('button', { name: 'Push across the seams' }).click();
  await expect(page.getByText(/^Push square across the seams/)).toBeVisible();
  await expect(page.getByText(/^\d+ MPa$/)).toHaveCount(2);
  await page.getByRole('button', { name: 'Layers', exact: true }).click();
  await page.getByRole('button', { name: 'Beside the usual' }).click();
  await expect(page.getByText(/^They differ on [\d.]+ % of the section/)).toBeVisible();
  await page.getByRole('button', { name: 'Between the dies' }).click();

  // Opened again, nothing is worked out again: the database has it.
  const sent: string[] = [];
  page.on('request', (request) => {
    if (request.url().includes('/api/flows')) sent.push(request.method());
  });
  await page.reload();
  await panel(page, /^4\. Press/).click();
  await expect(page.getByText(/^Pass 6, 90°/)).toBeVisible(worked);
  expect(sent).toEqual(['POST']);

  // The last pass alone is changed: what follows waits, and is there again.
  await page.getByLabel('Pass 6, to').fill('34.5');
  await page.getByLabel('Pass 6, to').press('Enter');
  await expect(slider).toBeEnabled();
  await slider.focus();
  await expect(async () => {
    await page.keyboard.press('End');
    await expect(page.getByText(/^Pass 6, 90°: .* 34.5 mm high/)).toBeVisible({ timeout: 1000 });
  }).toPass(worked);
  await expect(verdict(page)).toContainText('This plan gives');
  // A stop that cannot be: said in words, and nothing is lost.
  await page.getByLabel('Take a ready sequence').click();
  await page.getByRole('option', { name: 'diamond: on its corners, then flat' }).click();
  await expect(page.getByLabel('Pass 3, turn')).toBeHidden();
  await expect(page.getByText(/^Pass 2, 0°/)).toBeVisible(worked);
  await page.getByLabel('Left', { exact: true }).click();
  await page.getByRole('option', { name: 'squared up, corners filled' }).click();
  await expect(page.getByText(/fills only \d+ % of its box/)).toBeVisible(worked);
});

test('the tipping is turned off, and what it costs is said', async ({ page }) => {
  await openPiece(page, 'Ebb Bar');
  await panel(page, /^4\. Press/).click();
  await expect(page.getByText(/^Pass 6, 90°/)).toBeVisible(worked);
  await page.getByRole('button', { name: 'Angle off' }).click();
  await expect(page.getByText(/misses its corner by .* Ground true by [\d.]+° on a .* shim/)).toBeVisible(
    worked,
  );
  await expect(page.getByRole('img', { name: 'The four-way turned off by 3°' })).toBeVisible();
  const slider = page.getByRole('slider', { name: 'Turned off by' });
  await slider.focus();
  await page.keyboard.press('Home');
  await expect(page.getByRole('img', { name: 'The section turned off by -8°' })).toBeVisible(worked);
  await painted(page);
});

test('how to press for something is searched for, and taken', async ({ page }) => {
  await openPiece(page, 'Ebb Bar');
  await panel(page, /^4\. Press/).click();
  await expect(page.getByText(/^Pass 6, 90°/)).toBeVisible(worked);
  // Few passes, so that the search is short.
  await page.getByLabel('Take a ready sequence').click();
  await page.getByRole('option', { name: 'past 45°, then flatten' }).click();
  await page.getByRole('button', { name: 'How must I press to get this?' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('in the end').click();
  await page.getByRole('option', { name: 'bows as deep as' }).click();
  await dialog.getByRole('button', { name: 'Search', exact: true }).click();
  await expect(dialog.getByText(/^Best so far: turn/)).toBeVisible(worked);
  await expect(
    dialog.getByText(/^Best found: turn .*°, stop .* off what is wanted, after \d+ tries/),
  ).toBeVisible({
    timeout: 80_000,
  });
  const turn = (await dialog.getByText(/^Best found/).innerText()).match(/turn ([-\d.]+)°/)![1];
  await dialog.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByLabel('Pass 1, turn')).toHaveValue(`${Number(turn)}°`);
});

test('a pass has dies of its own, and a reduction instead of a stop', async ({ page }) => {
  await openPiece(page, 'Ebb Bar');
  await panel(page, /^4\. Press/).click();
  await expect(page.getByText(/^Pass 6, 90°/)).toBeVisible(worked);
  await page.getByLabel('Take a ready sequence').click();
  await page.getByRole('option', { name: 'neck with fullers' }).click();
  await page.getByRole('button', { name: 'More of pass 1' }).click();
  await expect(page.getByLabel('Radius of the fuller')).toBeVisible();
  await expect(page.getByText(/^Pass 1, 0°/)).toBeVisible(worked);
  await page.getByLabel('Or take').fill('30');
  await page.getByLabel('Or take').press('Enter');
  await expect(page.getByLabel('Pass 1, by')).toHaveValue('30 %');
  await page.getByLabel('Dies of pass 1').click();
  await page.getByRole('option', { name: 'a wedge above, flat below' }).click();
  await expect(page.getByLabel('Radius of the tip')).toBeVisible();
  await expect(page.getByText(/fills only \d+ % of its box|Worked out between the dies/).first()).toBeVisible(
    worked,
  );
});

test('a re-square goes by the flow where it shows, and says where it does not', async ({ page }) => {
  await openPiece(page, 'Quarry Quilt');
  await panel(page, /^4\. Re-square/).click();
  const said = page.getByText(/Shown as such bars usually flow: worked out, this one differs on [\d.]+ %/);
  await expect(said).toBeVisible(worked);
  await page.getByRole('button', { name: 'Press', exact: true }).click();
  await expect(page.getByText(/Turned back as it lay/)).toBeVisible();
  await page.getByRole('button', { name: 'Beside the usual' }).click();
  await expect(page.getByText(/^They differ on [\d.]+ % of the section/)).toBeVisible();
  await page.getByRole('combobox', { name: 'The section flows' }).click();
  await page.getByRole('option', { name: 'worked out for this bar' }).click();
  await expect(page.getByText(/Worked out for this bar: it differs/)).toBeVisible(worked);
  await page.getByRole('combobox', { name: 'The section flows' }).click();
  await page.getByRole('option', { name: 'as such bars usually do' }).click();
  await expect(page.getByText(/Worked out for this bar: it differs/)).toBeHidden();
});

test('a move waits for the bar it is for; a bar is leaned by the flow, and how far is too far is said', async ({
  page,
}) => {
  await openPiece(page, 'Ebb Bar');
  await panel(page, /^4\. Press/).click();
  await expect(page.getByText(/^Pass 6, 90°/)).toBeVisible(worked);
  // The database answers late: until then the bar after the press is not known.
  let answer = () => {};
  const late = new Promise<void>((resolve) => (answer = resolve));
  await page.route('**/api/flows**', async (route) => {
    await late;
    await route.continue();
  });
  await page.getByLabel('Pass 6, to').fill('34.5');
  await page.getByLabel('Pass 6, to').press('Enter');
  await expect(page.getByText('Working out how the section flows …').first()).toBeVisible();
  await page.getByRole('button', { name: 'Add a move' }).click();
  const lean = page.getByRole('menuitem').filter({ has: page.getByText('Lean', { exact: true }) });
  await expect(page.getByText('then the next move can begin from it')).toBeVisible();
  await expect(lean).toBeDisabled();
  answer();
  await expect(lean).toBeEnabled(worked);
  await page.unrouteAll({ behavior: 'wait' });
  await lean.click();
  await expect(
    page.getByText(/Worked out for this bar: it differs from what such bars usually do on/),
  ).toBeVisible(worked);
  await expect(page.getByText(/The section leans 15.0° to the right/)).toBeVisible();
  const angle = page.getByLabel('Lean to the right');
  await angle.fill('50');
  await expect(page.getByText('Lean to the right may be at most 40°')).toBeVisible();
  await angle.fill('-12');
  await angle.press('Enter');
  await expect(page.getByText(/The section leans 12.0° to the left/)).toBeVisible(worked);
  await page.getByRole('button', { name: 'Press', exact: true }).click();
  await expect(page.getByText(/^Pass 2, /)).toBeVisible(worked);
  await page.getByRole('button', { name: 'Beside the usual' }).click();
  await expect(page.getByText(/^They differ on [\d.]+ % of the section/)).toBeVisible();
});

for (const [width, height] of [
  [1280, 800],
  [800, 1280],
])
  test(`the press view is accessible and fits at ${width} × ${height}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await openPiece(page, 'Ebb Bar');
    await panel(page, /^4\. Press/).click();
    await expect(page.getByText(/^Pass 6, 90°/)).toBeVisible(worked);
    await painted(page);
    await accessible(page);
    await noSidewaysScroll(page);
  });

test('a can is pressed solid by the flow of its section where that is asked for', async ({ page }) => {
  await openPiece(page, 'Night Heron');
  await panel(page, /^2\. Press solid/).click();
  await expect(page.getByText(/A prediction of first order/)).toBeVisible();
  await page.getByRole('combobox', { name: 'The powder closes' }).click();
  await page.getByRole('option', { name: 'as the section flows' }).click();
  await expect(page.getByText(/Working out how the section flows/).first()).toBeVisible();
  await expect(page.getByText(/Worked out between the dies/)).toBeVisible({
    timeout: 80_000,
  });
  await expect(verdict(page)).toContainText('This plan gives');
  // The form was walked back through the other reckoning: that is noticed.
  await page.getByRole('link', { name: 'Canister' }).click();
  await page.getByRole('button', { name: 'Form', exact: true }).click();
  await expect(
    page.getByText(/has changed since the form was walked back|leaves the steel of this can/),
  ).toBeVisible({ timeout: 80_000 });
});
