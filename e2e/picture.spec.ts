import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Page, expect, test } from './fixtures.ts';
import DxfParser from 'dxf-parser';
import { PNG } from 'pngjs';
import {
  accessible,
  addMove,
  beginPiece,
  downloaded,
  noSidewaysScroll,
  openPiece,
  painted,
  panel,
  saved,
  watchTroubles,
} from './steps.ts';

watchTroubles();

const HERON = join(dirname(fileURLToPath(import.meta.url)), 'files', 'heron.svg');

async function beginCan(page: Page, name: string): Promise<void> {
  await beginPiece(page, name, { unit: 'mm', length: '100', width: '30', thickness: '8' });
  await page.getByRole('button', { name: /^A canister/ }).click();
}

const openFile = async (page: Page, file: string | { name: string; mimeType: string; buffer: Buffer }) => {
  await page.getByLabel('Open an SVG, PNG or JPEG').setInputFiles(file);
};

/** A dark ring on white, as a photograph of a drawing. */
function ringPng(): Buffer {
  const png = new PNG({ width: 160, height: 120 });
  for (let y = 0; y < 120; y++)
    for (let x = 0; x < 160; x++) {
      const r = Math.hypot(x - 80, y - 60);
      const tone = r < 45 && r > 18 ? 20 : 245;
      png.data.set([tone, tone, tone, 255], 4 * (y * 160 + x));
    }
  return PNG.sync.write(png);
}

test('a drawing is filled in two powders, drawn on the finished bar, walked back, and its form printed', async ({
  page,
}) => {
  await beginCan(page, 'Small heron');
  await page.getByRole('button', { name: 'Open a drawing or photograph' }).click();
  await openFile(page, HERON);
  await expect(page.getByRole('img', { name: '1 tones as outlines' })).toBeVisible();
  await page.getByRole('button', { name: 'Put it into the can' }).click();
  await expect(page.getByText('Picture: heron')).toBeVisible();
  for (const what of ['15N20 powder goes in', '1084 powder goes in', 'Full weight'])
    await expect(page.getByRole('button', { name: new RegExp(`^${what} `) })).toBeVisible();
  await addMove(page, 'Press solid');
  await addMove(page, 'Crop the ends');
  await addMove(page, 'Take the jacket off');
  await addMove(page, 'Draw out');
  await page.getByLabel('Side', { exact: true }).fill('30');
  await page.getByRole('link', { name: 'Canister' }).click();
  await page.getByRole('button', { name: 'Form', exact: true }).click();
  await page.getByRole('button', { name: 'Draw it on the finished bar' }).click();
  await page.getByRole('button', { name: 'Walk it back' }).click();
  await expect(page.getByText(/^It comes out as wanted/)).toBeVisible({ timeout: 20_000 });
  // A change of plan is noticed, and mended by one press.
  await page.getByRole('link', { name: 'Plan', exact: true }).click();
  await panel(page, /Draw out/).click();
  await page.getByLabel('Side', { exact: true }).fill('26');
  await page.getByRole('link', { name: 'Canister' }).click();
  await page.getByRole('button', { name: 'Form', exact: true }).click();
  await expect(page.getByText(/has changed since the form was walked back/)).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Walk it back' }).click();
  await expect(page.getByText(/^It comes out as wanted/)).toBeVisible({ timeout: 20_000 });

  const stl = await downloaded(page, () => page.getByRole('button', { name: 'Print: STL' }).click());
  expect(stl.name).toBe('small-heron-form.stl');
  expect(stl.content.length).toBe(84 + 50 * stl.content.readUInt32LE(80));
  const threeMf = await downloaded(page, () => page.getByRole('button', { name: 'Print: 3MF' }).click());
  expect(threeMf.content.subarray(0, 2).toString()).toBe('PK');
  const dxf = await downloaded(page, () => page.getByRole('button', { name: 'Outlines: DXF' }).click());
  expect(new DxfParser().parseSync(dxf.content.toString())!.entities.length).toBeGreaterThan(2);
  const svg = await downloaded(page, () => page.getByRole('button', { name: 'Outlines: SVG' }).click());
  // Chromium itself measures the test square: 80 mm round.
  const around = await page.evaluate((text) => {
    const drawing = new DOMParser().parseFromString(text, 'image/svg+xml');
    const path = document.createElementNS('http://www.w3.org/2000/svg', 'path');
    path.setAttribute('d', drawing.querySelector('[id="test square 20 mm"] path')!.getAttribute('d')!);
    return path.getTotalLength();
  }, svg.content.toString());
  expect(around).toBeCloseTo(80, 2);
  await saved(page);
});

test('a photograph is traced, with its thresholds, and files that are no pictures are refused', async ({
  page,
}) => {
  await beginCan(page, 'Ring');
  await page.getByRole('button', { name: 'Open a drawing or photograph' }).click();
  const refused = async (name: string, mimeType: string, buffer: Buffer, reason: RegExp) => {
    await openFile(page, { name, mimeType, buffer });
    await expect(page.getByRole('alert')).toContainText(reason);
    await expect(page.getByRole('button', { name: 'Put it into the can' })).toBeDisabled();
  };
  const ring = ringPng();
  const bomb = Buffer.from(ring);
  bomb.writeUInt32BE(60_000, 16);
  bomb.writeUInt32BE(60_000, 20);
  const damaged = Buffer.from(ring);
  damaged.fill(0x55, 60, damaged.length - 20);
  await refused('bomb.png', 'image/png', bomb, /at most 16 million/);
  await refused('half.png', 'image/png', ring.subarray(0, ring.length / 2), /cut short/);
  await refused('damaged.png', 'image/png', damaged, /damaged/);
  await refused(
    'note.png',
    'image/png',
    Buffer.from('not a picture at all, but long enough'),
    /no PNG or JPEG/,
  );
  await refused(
    'evil.svg',
    'image/svg+xml',
    Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>document.title="owned"</script></svg>'),
    /script/,
  );
  await refused(
    'far.svg',
    'image/svg+xml',
    Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><image href="http://example.org/x.png"/></svg>'),
    /elsewhere/,
  );
  await refused(
    'laughs.svg',
    'image/svg+xml',
    Buffer.from('<!DOCTYPE svg [<!ENTITY a "ha">]><svg xmlns="http://www.w3.org/2000/svg"/>'),
    /entities/,
  );
  expect(await page.title()).toContain('Ring');

  await openFile(page, { name: 'ring.png', mimeType: 'image/png', buffer: ring });
  await expect(page.getByRole('alert')).toBeHidden();
  await expect(page.getByRole('img', { name: 'The picture as it was opened' })).toBeVisible();
  await expect(page.getByRole('img', { name: '1 tones as outlines' })).toBeVisible();
  // So dark a threshold finds nothing; back again it does.
  const threshold = page.getByRole('slider', { name: 'Threshold' });
  await threshold.focus();
  await page.keyboard.press('Home');
  await expect(page.getByRole('alert')).toContainText('raise it');
  await page.keyboard.press('End');
  await expect(page.getByRole('alert')).toBeHidden();
  await page.getByRole('button', { name: 'Put it into the can' }).click();
  await expect(page.getByText('Picture: ring')).toBeVisible();
  await saved(page);
});

test('inserts are chosen, nudged, copied and taken out by key in the section', async ({ page }) => {
  await openPiece(page, 'Hailstorm');
  await page.getByRole('link', { name: 'Canister' }).click();
  await painted(page);
  const section = page.getByRole('application', { name: /^Inserts/ });
  await section.focus();
  await page.keyboard.press('n');
  await expect(page.getByRole('button', { name: 'Take out', exact: true })).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByLabel('Insert 1 lies')).toHaveText('as poured or moved');
  const count = page.getByLabel('Insert 1 count');
  const before = Number(await count.inputValue());
  await page.keyboard.press('c');
  await expect(count).toHaveValue(String(before + 1));
  await page.keyboard.press('Delete');
  await expect(count).toHaveValue(String(before));
  // Or by numbers; what is typed there is for the field alone.
  await section.focus();
  await page.keyboard.press('n');
  const across = page.getByLabel('Place across');
  await across.click();
  await across.fill('-3.25');
  await across.press('Delete');
  await across.press('Enter');
  await expect(across).toHaveValue(/3[.,]25/);
  await expect(count).toHaveValue(String(before));
  await page.getByRole('slider', { name: 'From loose to solid' }).focus();
  await page.keyboard.press('End');
  await expect(page.getByText(/^100 % solid/)).toBeVisible();
});

for (const [width, height] of [
  [1280, 800],
  [800, 1280],
])
  test(`the canister’s own screen is accessible and fits at ${width} × ${height}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await openPiece(page, 'Night Heron');
    await page.getByRole('link', { name: 'Canister' }).click();
    for (const view of ['Section', 'From the side', 'Form']) {
      await page.getByRole('button', { name: view, exact: true }).click();
      await painted(page);
      if (view === 'Form')
        await expect(page.getByText(/^It comes out as wanted/)).toBeVisible({ timeout: 20_000 });
      await accessible(page);
      await noSidewaysScroll(page);
    }
    await page.getByRole('link', { name: 'Print' }).click();
    await page.getByRole('button', { name: 'Filling sheets' }).click();
    await expect(page.getByRole('heading', { name: 'Night Heron: filling Heron' })).toBeVisible();
    await noSidewaysScroll(page);
  });
