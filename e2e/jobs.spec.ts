import { type Page, expect, test } from './fixtures.ts';
import { at, painted, saved, verdict, watchTroubles } from './steps.ts';

watchTroubles();

/** A maker at work: what is pressed and what is typed is counted. */
class Maker {
  presses = 0;
  numbers = 0;
  private readonly page: Page;
  constructor(page: Page) {
    this.page = page;
  }

  async press(
    name: string | RegExp,
    of = this.page.getByRole('button', { name, exact: true }),
  ): Promise<void> {
    await of.first().click();
    this.presses++;
  }

  async type(label: string, text: string): Promise<void> {
    await this.page.getByLabel(label, { exact: true }).fill(text);
    this.numbers++;
  }

  async begin(
    name: string,
    sizes: readonly [length: string, width: string, thickness: string],
  ): Promise<void> {
    await this.page.goto(at('/'));
    await this.press('Begin a new piece');
    await this.page.getByLabel('Name').fill(name);
    await this.press('A bar');
    await this.press('inches');
    await this.type('Finished length', sizes[0]);
    await this.type('Finished width', sizes[1]);
    await this.type('Finished thickness', sizes[2]);
    await this.press('Begin');
  }

  async add(...moves: string[]): Promise<void> {
    for (const move of moves) {
      await this.press('Add a move');
      const item = this.page.getByRole('menuitem');
      await this.press(move, item.filter({ has: this.page.getByText(move, { exact: true }) }));
    }
  }

  async choose(label: string, option: string): Promise<void> {
    await this.press(label, this.page.getByLabel(label));
    await this.press(option, this.page.getByRole('option', { name: option }));
  }
}

/** Limits for the trial jobs, each from an empty shelf. */
const MOST = { presses: 40, numbers: 25 };

/** 23 presses, 8 numbers. */
test('halves ripped from two bars, cut to links, laid by turns and welded', async ({ page }) => {
  const maker = new Maker(page);
  await maker.begin('Links', ['10"', '1 1/4', '1/4']);
  await maker.press(/^A stack/, page.getByRole('button', { name: /^A stack/ }));
  await maker.type('Length', '8');
  await maker.type('Width', '1 1/2');
  await maker.add('Weld', 'Draw out', 'Rip lengthwise', 'Cut');
  await maker.type('Equal pieces', '2');
  await expect(page.getByRole('region', { name: 'Move 5: Cut' })).toContainText(
    'what was 1 becomes 1, 2; what was 2 becomes 3, 4',
  );
  await maker.press('Same again');
  await maker.press('Another bar');
  await maker.press(/^Pieces of other bars/, page.getByRole('button', { name: /^Pieces of other bars/ }));
  await maker.add('Weld', 'Draw out');
  await maker.choose('Draw to a', 'Flat bar');
  await maker.type('Width', '1 1/4');
  await maker.type('Thickness', '1/4');
  await maker.press(/^Set (it|them)$/, page.getByRole('button', { name: /^Set (it|them)$/ }));
  await expect(verdict(page)).toContainText(/to spare|exactly/);
  await saved(page);
  await painted(page);
  expect(maker.presses).toBeLessThanOrEqual(MOST.presses);
  expect(maker.numbers).toBeLessThanOrEqual(MOST.numbers);
});
