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
    await this.press('Begin empty');
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

/** The piece comes to what was asked for, and neither presses nor numbers were too many. */
async function reached(page: Page, maker: Maker): Promise<void> {
  await expect(verdict(page)).toContainText(/to spare|exactly/);
  await saved(page);
  await painted(page);
  expect(maker.presses).toBeLessThanOrEqual(MOST.presses);
  expect(maker.numbers).toBeLessThanOrEqual(MOST.numbers);
}

/** Sets what is short, and sees the piece reached and saved. */
async function finished(page: Page, maker: Maker): Promise<void> {
  await maker.press(/^Set (it|them)$/, page.getByRole('button', { name: /^Set (it|them)$/ }));
  await reached(page, maker);
}

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
  await finished(page, maker);
});

/** 39 presses, 9 numbers. */
test('a folded chain of four with strips, then six bars three each side of a centre', async ({ page }) => {
  const maker = new Maker(page);
  await maker.begin('Chain', ['10"', '1 1/4', '1/4']);
  await maker.press(/^A stack/, page.getByRole('button', { name: /^A stack/ }));
  await maker.type('Length', '12');
  await maker.add('Weld', 'Draw out', 'Cut', 'Arrange');
  await maker.press('Book-matched row of all 4');
  await maker.choose('Strips', 'Upright strips between');
  await maker.add('Weld', 'Draw out');
  await maker.type('Side', '3/4');
  await maker.add('Cut');
  await maker.type('Equal pieces', '6');
  await maker.press('Another bar');
  await maker.press(/^A stack/, page.getByRole('button', { name: /^A stack/ }));
  await maker.add('Weld', 'Draw out');
  await maker.type('Side', '3/4');
  await maker.press('Another bar');
  await maker.press(/^Pieces of other bars/, page.getByRole('button', { name: /^Pieces of other bars/ }));
  await maker.choose('Share the places', 'The first on both sides of the others');
  await maker.add('Weld', 'Draw out');
  await maker.choose('Draw to a', 'Flat bar');
  await maker.type('Width', '1 1/4');
  await maker.type('Thickness', '1/4');
  await finished(page, maker);
});

/** 29 presses, 7 numbers. */
test('a bow-tie to a sunburst with a thicker cross', async ({ page }) => {
  const maker = new Maker(page);
  await maker.begin('Sunburst', ['10"', '1 1/4', '1/4']);
  await maker.press(/^A stack/, page.getByRole('button', { name: /^A stack/ }));
  await maker.type('Length', '12');
  await maker.add('Weld', 'Draw out', 'Press a wedge');
  await maker.choose('Press it to', 'A bow-tie: two wedges, left and right');
  await maker.press(/^Draw to .* first$/, page.getByRole('button', { name: /^Draw to .* first$/ }));
  await maker.add('Rip lengthwise', 'Cut', 'Arrange');
  await maker.choose('Strips', 'Strips between, both ways');
  await maker.type('Strip thickness', '3/16');
  await maker.add('Weld', 'Draw out');
  await maker.choose('Draw to a', 'Flat bar');
  await maker.type('Width', '1 1/4');
  await maker.type('Thickness', '1/4');
  await finished(page, maker);
});

/** A can begun as the shop usually makes it. */
async function beginCan(page: Page, maker: Maker, name: string, sizes: readonly [string, string, string]) {
  await maker.begin(name, sizes);
  await maker.press(/^A canister/, page.getByRole('button', { name: /^A canister/ }));
}

/** 18 presses, 9 numbers. */
test('balls of two sizes, poured together', async ({ page }) => {
  const maker = new Maker(page);
  await beginCan(page, maker, 'Hail', ['10"', '1 1/4', '1/4']);
  await maker.press('Balls');
  await maker.type('Insert 1 diameter', '1/4');
  await maker.type('Insert 1 count', '120');
  await maker.press('Balls');
  await maker.type('Insert 2 diameter', '1/8');
  await maker.type('Insert 2 count', '120');
  await maker.press('Pour all balls together');
  await expect(page.getByText(/^One settled arrangement of many/).first()).toBeVisible({ timeout: 90_000 });
  await painted(page);
  await maker.add('Press solid', 'Crop the ends', 'Take the jacket off', 'Draw out');
  await maker.choose('Draw to a', 'Flat bar');
  await maker.type('Width', '1 1/4');
  await maker.type('Thickness', '1/4');
  await painted(page);
  await reached(page, maker);
});

/** A blade seen from the side. */
const BLADE = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 40"><path d="M0 0 H140 L190 8 L200 24 L160 38 L0 40 Z"/></svg>'; // prettier-ignore

/** 15 presses, 10 numbers. */
test('two beds of small balls between bent rim rods in a can built round a blade’s outline', async ({
  page,
}) => {
  const maker = new Maker(page);
  await beginCan(page, maker, 'Blade in a can', ['1/4', '6"', '1"']);
  await maker.choose('Can made as', 'plate bent round an outline');
  const chooser = page.waitForEvent('filechooser');
  await maker.press('Outline from an SVG drawing', page.getByText('Outline from an SVG drawing'));
  await (
    await chooser
  ).setFiles({ name: 'blade.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(BLADE) });
  await maker.type('Can width', '8');
  await maker.type('Can length', '5/8');
  await maker.type('Wall', '1/4');
  await maker.press('Bent rods');
  await maker.type('Insert 1 diameter', '3/16');
  await maker.type('Insert 1 count', '2');
  await maker.press('Balls');
  await maker.type('Insert 2 diameter', '1/8');
  await maker.choose('Insert 2 lies', 'in rows');
  await maker.type('Insert 2, bed to bed', '3/16');
  await maker.press('As many as go in', page.getByRole('button', { name: 'As many as go in' }).last());
  await painted(page);
  await expect(page.getByLabel('Insert 2 count')).toHaveValue('784');
  await maker.add('Press solid');
  await reached(page, maker);
});

/** 18 presses, 6 numbers. */
test('springs and saw blades in powder', async ({ page }) => {
  const maker = new Maker(page);
  await beginCan(page, maker, 'Springs', ['6"', '1 1/4', '1/4']);
  await maker.press('Saw blades');
  await maker.type('Insert 1 count', '2');
  await maker.press('Springs');
  await maker.press('As many as go in', page.getByRole('button', { name: 'As many as go in' }).last());
  await maker.add('Press solid', 'Crop the ends', 'Take the jacket off', 'Draw out');
  await maker.choose('Draw to a', 'Flat bar');
  await maker.type('Width', '1 1/4');
  await maker.type('Thickness', '1/4');
  await painted(page);
  await reached(page, maker);
});
