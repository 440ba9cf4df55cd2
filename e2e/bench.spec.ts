import { type Page, expect, test } from './fixtures.ts';
import { accessible, at, downloaded, noSidewaysScroll, openPiece, painted, panel, verdict } from './steps.ts';

/** The tablet on the shelf, upright, touched with a gloved finger. */
test.use({ viewport: { width: 800, height: 1280 }, hasTouch: true });

async function toBench(page: Page, piece: string): Promise<void> {
  await page.goto(at('/'));
  await page.getByRole('link', { name: new RegExp(piece) }).tap();
  await page.getByRole('link', { name: 'Bench', exact: true }).tap();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
}

async function toMove(page: Page, name: RegExp): Promise<void> {
  await page.getByRole('button', { name: 'All moves' }).tap();
  await page.getByRole('navigation', { name: 'All moves' }).getByRole('button', { name }).tap();
}

/** Writes a size with the large keys. */
async function write(page: Page, label: string, keys: readonly string[]): Promise<void> {
  await page.getByLabel(label, { exact: true }).tap();
  const pad = page.getByRole('group', { name: 'Keys' });
  for (const key of keys) await pad.getByRole('button', { name: key, exact: true }).tap();
  await pad.getByRole('button', { name: 'Enter' }).tap();
}

const finished = (page: Page) => page.getByRole('status', { name: 'Finished bar' });

/** Nothing that a glove presses is smaller than 56 px, and nothing scrolls sideways. */
async function isForGloves(page: Page): Promise<void> {
  const small = await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('button, a, summary, label:has(input), [role="checkbox"]')]
      .map((e) => [e.getAttribute('aria-label') ?? e.textContent, e.getBoundingClientRect()] as const)
      .filter(([, { width, height }]) => width > 0 && (width < 55.5 || height < 55.5))
      .map(([name, { width, height }]) => `${name} ${width} × ${height}`),
  );
  expect(small).toEqual([]);
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
}

for (const [width, height] of [
  [800, 1280],
  [1280, 800],
])
  test(`by the fire everything is accessible, at 7 : 1, and large enough for gloves, at ${width} × ${height}`, async ({
    page,
  }) => {
    await page.setViewportSize({ width, height });
    const judged = async () => {
      await accessible(page, { 'color-contrast-enhanced': { enabled: true } });
      await isForGloves(page);
    };
    await toBench(page, 'Slack Tide');
    await painted(page);
    await judged();
    await page.getByLabel('Length', { exact: true }).tap();
    await judged();
    await page.getByRole('group', { name: 'Keys' }).getByRole('button', { name: 'Close' }).tap();
    for (const group of ['Ends show', 'Cut back', 'Scrap it']) {
      await page.getByRole('button', { name: group }).tap();
      await judged();
    }
    await toMove(page, /^5\. Cut, done/);
    await judged();
    await page.getByRole('button', { name: 'All moves' }).tap();
    await judged();
    await page.goto(page.url().replace(/bench.*/, 'log'));
    await expect(page.getByRole('list', { name: 'Log' }).getByRole('listitem').first()).toBeVisible();
    await painted(page);
    await accessible(page);
    await noSidewaysScroll(page);
  });

test('looked back at the desk: what was planned and what came, as CSV too, and on paper', async ({
  page,
}) => {
  await openPiece(page, 'Slack Tide');
  await page.getByRole('button', { name: 'as planned' }).tap();
  const planned = await verdict(page).innerText();
  await page.getByRole('button', { name: 'as it stands' }).tap();
  await expect(verdict(page)).not.toHaveText(planned);
  await panel(page, /^9\. Draw out.*done/).tap();
  await expect(page.getByRole('status', { name: 'At the bench' })).toContainText('End B split along a seam');
  await page.getByRole('link', { name: 'Log' }).tap();
  const { name, content } = await downloaded(page, () =>
    page.getByRole('button', { name: 'Save the log as CSV' }).tap(),
  );
  expect(name).toBe('slack-tide-log.csv');
  expect(content.toString()).toContain('Draw out,what came,1,length,');
  await page.getByRole('link', { name: 'Print' }).tap();
  await expect(page.getByText(/^Came: 3 heats; .*cut back 6 mm at end B/)).toBeVisible();
});

test('what was written in the blanks of the sheet is typed in at the desk, move by move', async ({
  page,
}) => {
  await openPiece(page, 'Salt Marsh');
  await page.getByRole('link', { name: 'Log' }).tap();
  await page.getByRole('button', { name: 'Type in from paper' }).tap();
  await page.getByLabel('It was done on').fill('2026-11-20');
  const third = page.getByRole('listitem', { name: 'Move 3, Draw out' });
  await third.getByLabel('Length').fill('180');
  await third.getByLabel('Heats').fill('3');
  await third.getByLabel('Remark').fill('Scaled heavily');
  await third.getByLabel('done').check();
  const fifth = page.getByRole('listitem', { name: 'Move 5, Cut' });
  await fifth.getByLabel('Length of 2').fill('57');
  await page.getByRole('button', { name: 'What was written' }).tap();
  const log = page.getByRole('list', { name: 'Log' });
  await expect(log.getByRole('listitem')).toHaveCount(2);
  await expect(log.getByRole('listitem').first()).toContainText('Scaled heavily');
  await expect(log.getByRole('listitem').first()).toContainText('Nov 20');
  await expect(page.getByText('Moves done').locator('..')).toContainText('1 of 19');
});

const changed = (page: Page) => page.getByRole('region', { name: 'What it changes' });

test('a bar 4 % short after the second draw: the goal is lost, and rescued by thinner tiles; in 1/32"', async ({
  page,
}) => {
  await page.goto(at('/'));
  await page.getByRole('link', { name: /Salt Marsh/ }).tap();
  await page.getByRole('button', { name: 'Units' }).tap();
  await page.getByRole('button', { name: 'inches, lb, °F' }).tap();
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Bench', exact: true }).tap();
  await toMove(page, /^9\. Draw/);
  await isForGloves(page);
  // 8 1/2" were reckoned: 8 5/32" is 4 % less.
  await page.getByLabel('Length', { exact: true }).tap();
  await expect(page.getByText(/^reckoned 8 \d+\/32"$/)).toBeInViewport();
  await isForGloves(page);
  await write(page, 'Length', ['8', '1/8', '1/32']);
  await expect(page.getByLabel('Length', { exact: true })).toHaveValue(/^8 (5\/32|1\/8|3\/16)"$/);
  await expect(finished(page)).toContainText('does not hold');
  await changed(page).locator('summary').tap();
  await expect(changed(page)).toContainText('Saw square across');
  const tiles = changed(page).getByRole('button', { name: /^Cut the tiles [^,]*$/ });
  await tiles.tap();
  await expect(finished(page)).toContainText('the goal holds');
  await page.getByRole('button', { name: 'Done', exact: true }).tap();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Cut');
  // At the desk the plan shows what stands, and beside it what was planned.
  await page.getByRole('link', { name: 'To the plan' }).tap();
  await expect(page.getByRole('status', { name: 'Plan against goal' })).toContainText('to spare');
});

test('one of four pieces scrapped: three are left, and plain steel that is bought takes its place', async ({
  page,
}) => {
  await toBench(page, 'Salt Marsh');
  await toMove(page, /^5\. Cut/);
  await page.getByRole('button', { name: 'Piece 3' }).tap();
  await page.getByRole('button', { name: 'Scrap it' }).tap();
  await page.getByRole('button', { name: 'Piece 3: cracked' }).tap();
  await expect(page.getByRole('note').filter({ hasText: 'Scrapped: 3 (cracked). 3 left.' })).toBeVisible();
  await expect(finished(page)).toContainText('There is no finished bar as it stands');
  await isForGloves(page);
  await changed(page)
    .getByRole('button', { name: /^Lay plain 1084, 24 × 24 mm, in place of piece 3/ })
    .tap();
  await expect(finished(page)).toContainText('the goal holds');
  await toMove(page, /^8\. Arrange/);
  await expect(page.getByRole('list', { name: 'What to do' })).toContainText('Q1');
  // Taken back by one press, it is as it was.
  await toMove(page, /^6\. Cut/);
  await page.getByRole('button', { name: 'Undo' }).tap();
  await expect(page.getByRole('button', { name: 'Piece 3, scrapped' })).toHaveCount(0);
});

test('3° turned at one end and 6° at the other: the pieces no longer match, and the best match is reckoned anew', async ({
  page,
}) => {
  await toBench(page, 'Salt Marsh');
  await toMove(page, /^9\. Draw/);
  await page.getByRole('button', { name: 'Ends show' }).tap();
  await write(page, 'Turned, end A', ['3']);
  await write(page, 'Turned, end B', ['6']);
  await expect(page.getByLabel('Turned, end B')).toHaveValue('6°');
  await page.getByRole('link', { name: 'To the plan' }).tap();
  await page
    .getByRole('navigation', { name: /^Moves of/ })
    .getByRole('button', { name: /^12\. Arrange/ })
    .tap();
  const seams = page.getByRole('group', { name: 'Seams at which end' }).locator('..');
  await expect(seams).toContainText('36 %');
  // Neighbours of one bar still lie together: nothing matches better, and that is reckoned on what was measured.
  await expect(page.getByRole('button', { name: 'Best match' })).toBeDisabled();
});

test('three quarters of a can billet lost: what is left becomes a short knife', async ({ page }) => {
  await toBench(page, 'Hailstorm');
  await page.getByRole('button', { name: 'All moves' }).tap();
  const draws = page.getByRole('navigation', { name: 'All moves' }).getByRole('button', { name: /Draw/ });
  await draws.first().tap();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Draw out');
  const reckoned = await page
    .getByText(/^reckoned .* mm$/)
    .nth(2)
    .innerText();
  const quarter = String(Math.round(Number(/[\d.]+/.exec(reckoned)![0]) / 4));
  await write(page, 'Length', [...quarter]);
  // So far off, it is asked once.
  await page.getByRole('button', { name: 'It is right' }).tap();
  await changed(page)
    .getByRole('button', { name: /^Make it / })
    .tap();
  await expect(finished(page)).toContainText('the goal holds');
});

test('a caliper that types and presses Enter goes from size to size', async ({ page }) => {
  await toBench(page, 'Salt Marsh');
  await toMove(page, /^9\. Draw/);
  await page.getByLabel('Width', { exact: true }).tap();
  await page.keyboard.type('25.31\n24.80\n');
  await expect(page.getByLabel('Width', { exact: true })).toHaveValue('25.31 mm');
  await expect(page.getByLabel('Height', { exact: true })).toHaveValue('24.8 mm');
  await expect(page.getByLabel('Length', { exact: true })).toBeFocused();
  // What was typed is taken when another size is touched, and asked about where it is far off.
  await page.keyboard.type('150');
  await page.getByLabel('Weight', { exact: true }).tap();
  await expect(page.getByRole('alert')).toContainText('150 mm where');
  await page.getByRole('button', { name: 'Write it again' }).tap();
  // What cannot be read stays, and says why.
  await page.keyboard.type('12..4\n');
  await expect(page.getByRole('alert')).toBeVisible();
  await expect(page.getByLabel('Length', { exact: true })).toHaveValue('12..4');
});

test('a reading of the shop’s caliper goes into the size that is open', async ({ page, browser }) => {
  await toBench(page, 'Salt Marsh');
  await toMove(page, /^3\. Draw/);
  await page.getByLabel('Width', { exact: true }).tap();
  const shelf = await (await browser.newContext()).newPage();
  await shelf.goto(at('/instruments'));
  const caliper = shelf.getByRole('region', { name: 'Caliper' });
  await accessible(shelf);
  await caliper.getByRole('button', { name: 'Read 30 mm' }).click();
  await expect(caliper.getByRole('status')).toContainText('one page heard it');
  await expect(page.getByLabel('Width', { exact: true })).toHaveValue(/^(29\.9|30)(\d|\.0\d)? mm$/);
  // A weight is no width.
  await shelf.getByRole('button', { name: /^Read 1\.5 kg/ }).click();
  await page.getByRole('group', { name: 'Keys' }).getByRole('button', { name: 'Enter' }).tap();
  await expect(page.getByLabel('Height', { exact: true })).toBeFocused();
});

/** A photograph as a camera writes it. */
const photograph = async () => {
  const sharp = (await import('sharp')).default;
  const background = { r: 90, g: 90, b: 90 };
  return sharp({ create: { width: 900, height: 700, channels: 3, background } })
    .jpeg()
    .toBuffer();
};

test('the network goes away for five records and a photograph, and comes back; another tablet sees them all', async ({
  page,
  browser,
}) => {
  await toBench(page, 'Salt Marsh');
  await toMove(page, /^3\. Draw/);
  const other = await (
    await browser.newContext({ viewport: { width: 800, height: 1280 }, hasTouch: true })
  ).newPage();
  await other.goto(page.url());
  await page.route('**/api/**', (route) => route.abort());
  await page.getByRole('checkbox').first().tap();
  await page.getByRole('button', { name: /A heat done|Out of the fire/ }).tap();
  await write(page, 'Width', ['3', '0', '.', '2']);
  await write(page, 'Height', ['2', '9', '.', '8']);
  await expect(page.getByLabel('Width', { exact: true })).toHaveValue('30.2 mm');
  await page.getByLabel('Remark').fill('Scale came off in sheets');
  await page.getByLabel('Remark').blur();
  await page.locator('input[type=file]').setInputFiles({
    name: 'end.jpg',
    mimeType: 'image/jpeg',
    buffer: await photograph(),
  });
  await page.getByRole('group', { name: 'It shows' }).getByRole('button', { name: 'End B' }).tap();
  await expect(page.getByText(/to send$/)).toBeVisible();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await expect(page.getByText(/to send$/)).toHaveCount(0);
  await expect(other.getByLabel('Width', { exact: true })).toHaveValue('30.2 mm');
  await expect(other.getByLabel('Remark')).toHaveValue('Scale came off in sheets');
  const shown = other.getByRole('img', { name: 'End B', exact: true });
  await expect(shown).toBeVisible();
  await expect.poll(() => shown.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(360);
  // Two write at once: both see both.
  await write(other, 'Length', ['1', '9', '0']);
  await expect(page.getByLabel('Length', { exact: true })).toHaveValue('190 mm');
  // One is away and both write on the same record: of each what he wrote.
  const next = await page.getByRole('status', { name: 'Next' }).innerText();
  await page.route('**/api/**', (route) => route.abort());
  await page.getByRole('button', { name: 'Tick', exact: true }).tap();
  await write(other, 'Height', ['2', '9', '.', '6']);
  await expect(page.getByText(/to send$/)).toBeVisible();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await expect(page.getByLabel('Height', { exact: true })).toHaveValue('29.6 mm');
  for (const tablet of [page, other])
    await expect(tablet.getByRole('checkbox', { name: next })).toHaveAttribute('aria-checked', 'true');
  await expect(page.getByRole('status', { name: 'Next' })).not.toHaveText(next);
});

test('timers run by the clock: through a reload, and on two devices alike', async ({ page, context }) => {
  await page.clock.install({ time: new Date('2026-03-02T09:00:00Z') });
  await toBench(page, 'Salt Marsh');
  await toMove(page, /^3\. Draw/);
  await page.getByRole('button', { name: /Into the fire/ }).tap();
  const left = async (on: Page) => {
    const [, m, s] = /(\d+):(\d\d)/.exec(await on.getByRole('timer').innerText())!;
    return 60 * Number(m) + Number(s);
  };
  const whole = await left(page);
  await expect(page.getByText(/to send$/)).toHaveCount(0);
  await page.clock.fastForward(120_000);
  await expect.poll(() => left(page)).toBeLessThanOrEqual(whole - 119);
  await page.reload();
  await toMove(page, /^3\. Draw/);
  const reloaded = await left(page);
  expect(Math.abs(reloaded - (whole - 120))).toBeLessThan(8);
  const other = await context.newPage();
  await other.clock.install({ time: await page.evaluate(() => Date.now()) });
  await other.goto(page.url());
  expect(Math.abs((await left(other)) - (await left(page)))).toBeLessThan(8);
  await page.bringToFront();
  await page.clock.fastForward(whole * 1000);
  await expect(page.getByRole('timer')).toContainText('Hot through: take it out');
  await page.getByRole('button', { name: 'Out of the fire' }).tap();
  await expect(page.getByRole('status', { name: 'Heats' })).toHaveText('1 of 2 heats');
});

test('what happened at the dies is written with the large keys, in inches; half a pass is not taken', async ({
  page,
}) => {
  await toBench(page, 'Quarry Quilt');
  await toMove(page, /^3\. Draw/);
  await page.getByRole('button', { name: 'At the dies' }).tap();
  await isForGloves(page);
  const keys = page.getByRole('group', { name: 'Keys' });
  const passes = page.getByLabel('Passes', { exact: true });
  await passes.tap();
  await page.keyboard.type('2.5');
  await keys.getByRole('button', { name: 'Enter' }).tap();
  await expect(page.getByText(/Passes must be a whole number/)).toBeVisible();
  await keys.getByRole('button', { name: 'Take one back' }).tap();
  await keys.getByRole('button', { name: 'Take one back' }).tap();
  await keys.getByRole('button', { name: '3', exact: true }).tap();
  await keys.getByRole('button', { name: 'Enter' }).tap();
  // The next one is open: an inch and an eighth.
  for (const key of ['1', '1/8']) await keys.getByRole('button', { name: key, exact: true }).tap();
  await keys.getByRole('button', { name: 'Enter' }).tap();
  await page.goto(page.url().replace(/\/bench.*/, '/log'));
  await expect(page.getByText(/23 passes.*bites of 1 1\/8"/)).toBeVisible();
});

test('a leg of the kiln and the etch have timers of their own, beside that of the fire', async ({ page }) => {
  await openPiece(page, 'Salt Marsh');
  await page.getByRole('link', { name: 'Kiln', exact: true }).tap();
  await page.getByRole('button', { name: /^Harden/ }).tap();
  await page.clock.install({ time: new Date('2026-03-02T09:00:00Z') });
  await page.getByRole('link', { name: 'Bench', exact: true }).tap();
  await toMove(page, /^3\. Draw/);
  await page.getByRole('button', { name: /Into the fire/ }).tap();
  await page.getByRole('button', { name: 'Timer', exact: true }).tap();
  await isForGloves(page);
  await page
    .getByRole('group', { name: 'Timers' })
    .getByRole('button', { name: /, leg 1 ·/ })
    .first()
    .tap();
  const kiln = page.getByRole('timer', { name: /, leg 1$/ });
  await expect(kiln).toBeVisible();
  await expect(page.getByRole('timer', { name: 'In the fire' })).toBeVisible();
  await page.getByRole('button', { name: 'Out of the fire' }).tap();
  await expect(kiln).toBeVisible();
  await kiln.getByRole('button', { name: 'Stop' }).tap();
  await page.getByRole('button', { name: 'Timer', exact: true }).tap();
  await page.getByRole('button', { name: /^Etch ·/ }).tap();
  await page.clock.fastForward(601_000);
  await expect(page.getByRole('timer', { name: 'Etch' })).toContainText('Etch: time is up');
});

test('a move that is done is held fast at the desk until it is opened again', async ({ page }) => {
  await toBench(page, 'Salt Marsh');
  await page.getByRole('button', { name: 'Done', exact: true }).tap();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Weld');
  await page.getByRole('link', { name: 'To the plan' }).tap();
  const first = page
    .getByRole('navigation', { name: /^Moves of/ })
    .getByRole('button', { name: /^1\. Stack/ });
  await first.tap();
  await page.getByLabel('Length', { exact: true }).fill('120');
  await expect(page.getByText(/“Stack” is done at the bench: open it again there/)).toBeVisible();
  await page.getByRole('link', { name: 'Bench', exact: true }).tap();
  await toMove(page, /^1\. Stack, done/);
  await page.getByRole('button', { name: 'Open again' }).tap();
  await expect(page.getByRole('button', { name: 'Done', exact: true })).toBeVisible();
});
