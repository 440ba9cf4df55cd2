import { type Page, PASSPHRASE, expect, test } from './fixtures.ts';
import { accessible, at, noSidewaysScroll, openPiece, painted, panel, saved } from './steps.ts';

const UPRIGHT = { width: 800, height: 1280 };
test.use({ inShop: true });

/** A tablet in the shop's network: over plain HTTP, by a name that no browser trusts. */
async function tablet(page: Page, served: { shopPort: number | null }) {
  const context = await page.context().browser()!.newContext({ viewport: UPRIGHT, hasTouch: true });
  const here = await context.newPage();
  await here.goto(`http://forge.test:${served.shopPort}/`);
  expect(await here.evaluate(() => isSecureContext)).toBe(false);
  return here;
}

async function letIn(here: Page, name: string): Promise<void> {
  await here.getByLabel('Passphrase').fill(PASSPHRASE.toUpperCase().replaceAll('-', ' '));
  await here.getByLabel('Name of this device').fill(name);
  await here.getByRole('button', { name: 'Let it in' }).tap();
  await expect(here.getByRole('list').getByRole('link').first()).toBeVisible();
}

const device = (page: Page, name: string) => page.getByRole('row').filter({ hasText: name });

test('a tablet is let in by the passphrase, for the bench; the desk sees what it writes; it is made more, and shut out', async ({
  page,
  served,
}) => {
  await page.goto(at('/shop/devices'));
  await expect(page.getByRole('img', { name: /forge\.test:\d+\/ as a code to scan/ })).toBeVisible();
  await accessible(page);
  await noSidewaysScroll(page);

  const here = await tablet(page, served);
  await expect(here).toHaveURL(/\/door$/);
  await accessible(here);
  await noSidewaysScroll(here);
  await here.getByLabel('Passphrase').fill('aaaa-aaaa-aaaa');
  await here.getByLabel('Name of this device').fill('tablet at the press');
  await here.getByRole('button', { name: 'Let it in' }).tap();
  await expect(here.getByRole('alert')).toHaveText('That is not the passphrase.');
  await expect(here.getByLabel('Name of this device')).toHaveValue('tablet at the press');
  await letIn(here, 'tablet at the press');
  await expect(here.getByRole('button', { name: 'Begin a new piece' })).toBeHidden();
  await noSidewaysScroll(here);

  // What it writes is at the desk within two seconds.
  await openPiece(page, 'Tide Ladder');
  await here.getByRole('link', { name: /Tide Ladder/ }).tap();
  await expect(here).toHaveURL(/\/bench/);
  await painted(here);
  await page.getByRole('link', { name: 'Log', exact: true }).click();
  await here.getByLabel('Remark').fill('scale came off in plates');
  await here.getByLabel('Remark').blur();
  await expect(page.getByText('scale came off in plates')).toBeVisible({ timeout: 2000 });

  // Its plans it cannot change, and no other room opens.
  const piece = here.url().replace(/\/bench.*/, '');
  await here.goto(piece);
  await expect(here).toHaveURL(/\/bench/);
  await here.goto(new URL('/shop/devices', here.url()).href);
  await expect(here).toHaveURL(/forge\.test:\d+\/$/);

  // Made more at the desk, it plans as the desk does.
  await page.goto(at('/shop/devices'));
  await device(page, 'tablet at the press').getByRole('button', { name: 'Everything' }).click();
  await here.goto(piece);
  await panel(here, /Draw out/)
    .first()
    .tap();
  await here.getByLabel('Name of the piece').fill('Planned at the press');
  await here.getByLabel('Name of the piece').press('Enter');
  await saved(here);

  // Shut out, it says so; what it writes then waits on it and is sent once it is let in again.
  await here.getByRole('link', { name: 'Bench', exact: true }).tap();
  await device(page, 'tablet at the press').getByRole('button', { name: /^Shut/ }).click();
  await page.getByRole('button', { name: 'Shut it out' }).click();
  await expect(device(page, 'tablet at the press')).toBeHidden();
  await here.getByLabel('Remark').fill('written too late');
  await here.getByLabel('Remark').blur();
  await expect(here.getByRole('dialog')).toContainText('not let in any more');
  await here.getByRole('link', { name: 'Let it in again' }).tap();
  await letIn(here, 'tablet, again');
  await page.goto(piece.replace(/http:\/\/[^/]+/, at('')) + '/log');
  await expect(page.getByText('written too late')).toBeVisible();
});

test('over plain HTTP a second page of a piece takes nothing over from the first', async ({
  page,
  served,
}) => {
  const here = await tablet(page, served);
  await letIn(here, 'at the desk');
  await page.goto(at('/shop/devices'));
  await device(page, 'at the desk').getByRole('button', { name: 'Everything' }).click();
  await here.reload();
  await here.getByRole('link', { name: /Tide Ladder/ }).tap();
  await expect(here.getByLabel('Name of the piece')).toHaveValue('Tide Ladder');
  await here.route('**/api/projects/*', (route) =>
    route.request().method() === 'PUT' ? route.abort() : route.continue(),
  );
  await here.getByLabel('Name of the piece').fill('Not sent yet');
  await here.getByLabel('Name of the piece').press('Enter');
  await expect(here.getByLabel('Saving')).not.toContainText('Saved');
  const second = await here.context().newPage();
  await second.goto(here.url());
  await expect(second.getByLabel('Name of the piece')).toHaveValue('Tide Ladder');
  // Once the first is gone, the next goes on from what it left.
  await here.close();
  await second.reload();
  await expect(second.getByLabel('Name of the piece')).toHaveValue('Not sent yet');
  await saved(second);
});
