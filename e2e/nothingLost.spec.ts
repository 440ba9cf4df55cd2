import type { BrowserContext, Page, Route } from '@playwright/test';
import { expect, test } from './fixtures.ts';
import { accessible, at, deaf, openPiece, panel, saved } from './steps.ts';

const layers = (page: Page) => page.getByLabel('Layers in all');
const idOf = (page: Page): string => page.url().split('/').at(-1)!;

/** What the server has: its revision, and the layers of the last bar’s stack. */
async function kept(page: Page, id: string): Promise<{ revision: number; layers: number }> {
  const { plan, revision } = await (await page.request.get(at(`/api/projects/${id}`))).json();
  return { revision, layers: plan.lanes.at(-1).steps[0].parameters.layers };
}

/** Opens a piece at its first stack. */
async function atTheStack(page: Page): Promise<string> {
  await openPiece(page, 'Tide Ladder');
  await panel(page, /^1\. Stack/).click();
  await expect(layers(page)).toBeVisible();
  return idOf(page);
}

/** Saves of any page of a browser, as long as `does` says what becomes of them. */
const onSave = (context: BrowserContext, does: (route: Route) => Promise<unknown>) =>
  context.route('**/api/projects/*', (route) =>
    route.request().method() === 'PUT' ? does(route) : route.continue(),
  );

test('an edit made while the server is away is kept over the shelf and a closed tab, shown, and sent when it is back', async ({
  page,
  context,
}) => {
  const id = await atTheStack(page);
  const before = await kept(page, id);
  await onSave(context, (route) => route.abort());
  await layers(page).fill('17');
  await expect(page.getByLabel('Saving')).toContainText('kept here');
  await page.getByRole('link', { name: 'Retablo: back to the shelf' }).click();
  await expect(page.getByRole('alert')).toContainText(
    'Kept in this browser until the server answers: Tide Ladder',
  );
  expect(await kept(page, id)).toEqual(before);
  await page.close();
  const later = await context.newPage();
  await later.goto(at('/'));
  await context.unrouteAll({ behavior: 'ignoreErrors' });
  await expect.poll(() => kept(later, id)).toEqual({ revision: before.revision + 1, layers: 17 });
  await expect(later.getByRole('alert')).toBeHidden();
  await later.goto(at(`/pieces/${id}`));
  await panel(later, /^1\. Stack/).click();
  await expect(layers(later)).toHaveValue('17');
});

test('a second edit while a save is under way, and the tab closed: both are there, and nobody is told of a conflict with himself', async ({
  page,
  context,
}) => {
  const id = await atTheStack(page);
  // The server takes the save, and its answer is long in coming.
  await onSave(context, async (route) => {
    const response = await route.fetch();
    await new Promise((resolve) => setTimeout(resolve, 4000));
    await route.fulfill({ response }).catch(() => undefined);
  });
  await layers(page).fill('15');
  await expect.poll(async () => (await kept(page, id)).layers).toBe(15);
  await layers(page).fill('19');
  await page.waitForTimeout(100);
  await page.close();
  await context.unrouteAll({ behavior: 'ignoreErrors' });
  const later = await context.newPage();
  await later.goto(at(`/pieces/${id}`));
  await panel(later, /^1\. Stack/).click();
  await expect(layers(later)).toHaveValue('19');
  await saved(later);
  await expect(later.getByRole('dialog')).toBeHidden();
  expect((await kept(later, id)).layers).toBe(19);
});

test('a large plan edited and closed at once is there again', async ({ page, context }) => {
  const id = await atTheStack(page);
  const { plan } = await (await page.request.get(at(`/api/projects/${id}`))).json();
  const more = Array.from({ length: 50 }, (_, n) => ({
    id: `more${n}`,
    name: `More ${n}`,
    steps: plan.lanes[0].steps.map((s: { id: string }) => ({ ...s, id: `${s.id}-${n}` })),
  }));
  const large = { ...plan, notes: 'x'.repeat(20_000), lanes: [...more, ...plan.lanes] };
  expect(JSON.stringify(large).length).toBeGreaterThan(64 * 1024);
  const { id: largeId } = await (
    await page.request.post(at('/api/projects'), { data: { plan: large } })
  ).json();
  await page.goto(at(`/pieces/${largeId}`));
  await panel(page, /^1\. Stack/)
    .last()
    .click();
  await layers(page).fill('21');
  await page.waitForTimeout(300);
  await page.close();
  const later = await context.newPage();
  await later.goto(at('/'));
  await expect.poll(async () => (await kept(later, largeId)).layers).toBe(21);
});

test('a save whose answer was lost is sent again, and is one revision', async ({ page, context }) => {
  const id = await atTheStack(page);
  const before = await kept(page, id);
  let lost = 0;
  await onSave(context, async (route) => {
    await route.fetch();
    lost++;
    await route.abort();
  });
  await layers(page).fill('11');
  await expect(page.getByLabel('Saving')).toContainText('does not answer');
  expect(lost).toBeGreaterThan(0);
  await context.unrouteAll({ behavior: 'ignoreErrors' });
  await saved(page);
  expect(await kept(page, id)).toEqual({ revision: before.revision + 1, layers: 11 });
});

test('changed in two places: the one not chosen is kept as a revision, and undo leads back to it', async ({
  page,
  context,
}) => {
  const id = await atTheStack(page);
  const other = await context.newPage();
  await deaf(other);
  await atTheStack(other);
  await layers(page).fill('15');
  await saved(page);
  await layers(other).fill('9');
  const dialog = other.getByRole('dialog');
  await expect(dialog).toContainText('was changed in another window');
  await expect(dialog).toContainText('Stack, step 1: Layers in all 9 here, 15 there');
  await dialog.getByRole('button', { name: 'Take the other' }).click();
  await expect(layers(other)).toHaveValue('15');
  await saved(other);
  const { revision } = await kept(other, id);
  await other.keyboard.press('Escape');
  await other.getByRole('button', { name: 'Undo (Z)' }).click();
  await expect(layers(other)).toHaveValue('9');
  await expect.poll(() => kept(other, id)).toEqual({ revision: revision + 1, layers: 9 });
});

test('a change of a piece that was removed meanwhile becomes a piece of its own', async ({
  page,
  context,
}) => {
  const id = await atTheStack(page);
  await onSave(context, (route) => route.abort());
  await layers(page).fill('27');
  await expect(page.getByLabel('Saving')).toContainText('kept here');
  await page.getByRole('link', { name: 'Retablo: back to the shelf' }).click();
  expect((await page.request.delete(at(`/api/projects/${id}`))).status()).toBe(204);
  await context.unrouteAll({ behavior: 'ignoreErrors' });
  const alert = page.getByRole('alert').filter({ hasText: 'the server does not take it' });
  await alert.getByRole('link', { name: 'Tide Ladder' }).click();
  await page.getByRole('button', { name: 'Keep it as a new piece' }).click();
  await panel(page, /^1\. Stack/).click();
  await expect(layers(page)).toHaveValue('27');
  expect(idOf(page)).not.toBe(id);
  await page.goto(at('/'));
  await expect(page.getByRole('link', { name: /Tide Ladder/ })).toBeVisible();
  await expect(page.getByRole('alert')).toBeHidden();
});

test('told of a conflict after the piece was left, the change waits, and opening it asks', async ({
  page,
  context,
}) => {
  const id = await atTheStack(page);
  await onSave(context, (route) => route.abort());
  await layers(page).fill('23');
  await expect(page.getByLabel('Saving')).toContainText('kept here');
  await page.getByRole('link', { name: 'Retablo: back to the shelf' }).click();
  const { plan, revision } = await (await page.request.get(at(`/api/projects/${id}`))).json();
  const theirs = { expectedRevision: revision, plan: { ...plan, notes: 'changed elsewhere' } };
  expect((await page.request.put(at(`/api/projects/${id}`), { data: theirs })).status()).toBe(200);
  await context.unrouteAll({ behavior: 'ignoreErrors' });
  const alert = page.getByRole('alert').filter({ hasText: 'the server does not take it' });
  await expect(alert).toContainText('changed elsewhere');
  await alert.getByRole('link', { name: 'Tide Ladder' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('was changed in another window');
  await dialog.getByRole('button', { name: 'Keep mine' }).click();
  await saved(page);
  expect(await kept(page, id)).toEqual({ revision: revision + 2, layers: 23 });
});

test('a piece that cannot be opened is renamed, saved to a file, taken back to what it was, and removed', async ({
  page,
  context,
}) => {
  const id = await atTheStack(page);
  await layers(page).fill('17');
  await saved(page);
  // One more change is in this browser alone.
  await onSave(context, (route) => route.abort());
  await layers(page).fill('21');
  await expect(page.getByLabel('Saving')).toContainText('kept here');
  await page.getByRole('link', { name: 'Retablo: back to the shelf' }).click();
  await expect(page.getByRole('alert')).toContainText('Kept in this browser');
  const refuse = (route: Route) =>
    route.request().method() === 'GET'
      ? route.fulfill({
          status: 400,
          json: {
            error: { code: 'bad plan', message: 'goal: must be a group of fields' },
            problems: [{ path: 'goal', message: 'must be a group of fields' }],
          },
        })
      : route.fallback();
  await page.route(`**/api/projects/${id}`, refuse);
  await page.goto(at(`/pieces/${id}`));
  await expect(page.getByRole('alert')).toContainText('goal: must be a group of fields');
  await page.getByLabel('Another name').fill('Ladder of old');
  await page.getByRole('button', { name: 'Rename it' }).click();
  await expect(page.getByRole('status')).toContainText('It is called “Ladder of old” now.');
  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save its plan to a file' }).click();
  expect((await downloading).suggestedFilename()).toBe('ladder-of-old.retablo.json');
  await accessible(page);
  // The oldest of what is kept: as it was before the edit.
  const earlier = page.getByText('Take back how it was:').locator('..').getByRole('button');
  await expect(earlier).toHaveCount(2);
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await context.unrouteAll({ behavior: 'ignoreErrors' });
  await earlier.last().click();
  await panel(page, /^1\. Stack/).click();
  await expect(layers(page)).not.toHaveValue('17');
  // What waited is no longer in the way, and not lost: the first, 17, the other name, 21, and the first again.
  const { revisions } = await (await page.request.get(at(`/api/projects/${id}/revisions`))).json();
  expect(revisions).toHaveLength(5);
  const then = await page.request.get(at(`/api/projects/${id}/revisions/${revisions[1].revision}`));
  expect((await then.json()).plan.lanes.at(-1).steps[0].parameters.layers).toBe(21);

  await page.route(`**/api/projects/${id}`, refuse);
  await page.reload();
  await page.getByRole('button', { name: 'Remove it…' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByRole('link', { name: /Night Heron/ })).toBeVisible();
  await expect(page.getByRole('link', { name: /Tide Ladder|Ladder of old/ })).toHaveCount(0);
});
