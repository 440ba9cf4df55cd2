import { MOVE_KINDS, MOVES, type MoveKind, moveOf } from '../core/moves/index.ts';
import { evaluate } from '../core/plan/index.ts';
import { READY, planOf } from '../core/tests/plans.ts';
import { entriesOf } from '../core/units/index.ts';
import { type Page, expect, test } from './fixtures.ts';
import { at, saved, watchTroubles } from './steps.ts';

watchTroubles();

/** What is typed, key by key: on its way it is “1”, “1 ”, “1 7” and “1 7/”; then what is no number yet, and nothing at all. */
const TYPED = ['1 7/8', '-', '.', ''];

/** Moves by a handful, so that no test takes long. */
const HANDFUL = 4;
const handfuls = Array.from({ length: Math.ceil(MOVE_KINDS.length / HANDFUL) }, (_, i) =>
  MOVE_KINDS.slice(i * HANDFUL, (i + 1) * HANDFUL),
);

/** Numbers a move's first proposal does not ask for: they count with another choice only. */
const AT_TIMES: Partial<Record<MoveKind, readonly string[]>> = {
  // Of a flat bar, of slanting grooves, of a bow-tie.
  draw: ['widthMm', 'thicknessMm'],
  grooves: ['slantDeg'],
  wedge: ['waistMm'],
  // Of edges welded shut.
  weld: ['beadMm'],
};

/** A piece that ends with a move, put on the shelf; its id. */
async function pieceWith(page: Page, kind: MoveKind, inches: boolean): Promise<string> {
  const ready = READY[kind].length > 0 ? evaluate(planOf(READY[kind])).lanes[0].ends : [];
  const { shop } = evaluate(planOf(READY.weld));
  const plan = planOf([...READY[kind], [kind, moveOf(kind).begin(ready, shop)]], {
    name: `Typing, ${kind}`,
    ...(inches ? { shop: { lengths: { unit: 'in', division: 32 }, masses: 'lb', temperatures: 'F' } } : {}),
  });
  const answer = await page.request.post(at('/api/projects'), { data: { plan } });
  expect(answer.status()).toBe(201);
  return ((await answer.json()) as { id: string }).id;
}

/** Types into every entry of what is on screen, key by key, with every half-way state; the page must stand and say what is wrong. */
async function typeIntoEverything(page: Page, where: string): Promise<number> {
  const fields = page.locator(`${where} input[data-entry]`);
  const count = await fields.count();
  for (let i = 0; i < count; i++) {
    const field = fields.nth(i);
    await field.scrollIntoViewIfNeeded();
    const before = await field.inputValue();
    const name = await field.getAttribute('aria-label');
    await field.click();
    for (const text of TYPED) {
      await field.press('ControlOrMeta+a');
      if (text === '') await field.press('Delete');
      else await field.pressSequentially(text);
      // The draft stays as it was typed, and where it cannot be taken the reason stands under it.
      await expect(field, `${name}, “${text}”`).toHaveValue(text);
      if (/[-/.]$/.test(text))
        await expect(field, `${name}, “${text}”`).toHaveAttribute('aria-invalid', 'true');
    }
    expect(await page.getByText('This page broke').count(), String(name)).toBe(0);
    await field.fill(before);
    await field.blur();
    await expect(field, `${name}, back`).toHaveAttribute('aria-invalid', 'false');
  }
  return count;
}

for (const [n, kinds] of handfuls.entries())
  test(`every number of a move is typed key by key, ${n + 1}: ${kinds.join(', ')}`, async ({ page }) => {
    for (const [k, kind] of kinds.entries()) {
      await page.goto(at(`/pieces/${await pieceWith(page, kind, (n + k) % 2 === 0)}`));
      await expect(page.getByRole('heading', { level: 2, name: MOVES[kind].title })).toBeVisible();
      const numbers = entriesOf(MOVES[kind].parameters).filter(
        ([key, entry]) =>
          entry.kind !== 'choice' && entry.kind !== 'material' && !AT_TIMES[kind]?.includes(key),
      );
      const typed = await typeIntoEverything(page, '[data-numbers]');
      expect(typed, kind).toBeGreaterThanOrEqual(numbers.length);
    }
  });

test('the shop, the blade, the kiln and the rack take every number key by key', async ({ page }) => {
  const id = await pieceWith(page, 'draw', false);
  await page.goto(at(`/pieces/${id}/shop`));
  await expect(page.getByRole('heading', { name: 'The shop for this piece' })).toBeVisible();
  expect(await typeIntoEverything(page, 'main')).toBeGreaterThan(20);
  await page.goto(at(`/pieces/${id}/blade`));
  await page.getByRole('button', { name: 'Long kitchen' }).click();
  expect(await typeIntoEverything(page, '[data-numbers]')).toBeGreaterThan(7);
  await page.goto(at(`/pieces/${id}/kiln`));
  await page.getByRole('button', { name: /^Harden/ }).click();
  await expect(page.getByLabel('Leg 2 held')).toBeVisible();
  expect(await typeIntoEverything(page, '[data-numbers]')).toBeGreaterThan(3);
  await saved(page);
  await page.goto(at('/shop/rack'));
  await expect(page.getByRole('button', { name: 'Put on the rack' })).toBeVisible();
  expect(await typeIntoEverything(page, 'main')).toBeGreaterThan(3);
});

test('300 typed by hand into the length of the dies, in millimetres, is 300', async ({ page }) => {
  await page.goto(at(`/pieces/${await pieceWith(page, 'draw', false)}/shop`));
  for (const [name, text] of [
    ['Dies, along the bar', '320'],
    ['Looked at from', '450'],
    ['Bite', '25'],
    ['Bars are sold in', '2000'],
  ]) {
    const field = page.getByLabel(name, { exact: true });
    await field.click();
    await field.pressSequentially(text);
    await field.blur();
    await expect(field).toHaveValue(`${text} mm`);
  }
  await saved(page);
});
