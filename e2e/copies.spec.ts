import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { expect, test } from './fixtures.ts';
import { accessible, at, noSidewaysScroll } from './steps.ts';

const PIECE = 'Hailstorm';

/** A copy in which one piece has another id: of another shop, say. */
function asOfAnotherShop(zip: Uint8Array): Uint8Array {
  const parts = unzipSync(zip);
  const manifest = JSON.parse(strFromU8(parts['manifest.json'])) as {
    pieces: { id: string; name: string }[];
    files: { path: string; bytes: number; sha256: string }[];
  };
  const { id } = manifest.pieces.find((p) => p.name === PIECE)!;
  const other = (text: string) => text.replaceAll(id, 'aaaaaaaa-aaaa-4aaa-8aaa-aaaaaaaaaaaa');
  const moved = Object.fromEntries(
    Object.entries(parts).map(([path, content]) => [
      other(path),
      path.endsWith('.json') ? strToU8(other(strFromU8(content))) : content,
    ]),
  );
  const files = manifest.files.map(({ path }) => {
    const content = moved[other(path)];
    return {
      path: other(path),
      bytes: content.length,
      sha256: createHash('sha256').update(content).digest('hex'),
    };
  });
  const pieces = manifest.pieces.map((p) => ({ ...p, id: other(p.id) }));
  return zipSync({ ...moved, 'manifest.json': strToU8(JSON.stringify({ ...manifest, pieces, files })) });
}

test('everything leaves in one file, and a copy is looked into before anything of it is taken in', async ({
  page,
}) => {
  await page.goto(at('/shop/copies'));
  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save everything to a file' }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toMatch(/^retablo-\d{4}-\d\d-\d\d\.zip$/);
  const zip = readFileSync(await download.path());

  const chooser = page.getByLabel('Look into such a file');
  const give = (buffer: Uint8Array) =>
    chooser.setInputFiles({ name: 'copy.zip', mimeType: 'application/zip', buffer: Buffer.from(buffer) });
  await give(zip.subarray(0, 4000));
  await expect(page.getByRole('alert')).toContainText('no copy file, or not a whole one');
  await give(zip);
  const inside = page.getByRole('region', { name: /^In the copy of/ });
  await expect(inside.getByRole('row', { name: PIECE })).toContainText('The same');
  await expect(inside.getByRole('button', { name: 'Nothing to take in' })).toBeDisabled();
  await accessible(page);
  await noSidewaysScroll(page);
  await inside.getByRole('button', { name: 'Close it' }).click();

  await give(asOfAnotherShop(zip));
  await expect(inside.getByRole('row').nth(1)).toContainText('Not here yet');
  await inside.getByRole('button', { name: 'Take in this one' }).click();
  await expect(page.getByText('Taken in: 1 new.')).toBeVisible();
  await page.goto(at('/'));
  await expect(page.getByRole('heading', { name: PIECE })).toHaveCount(2);
});
