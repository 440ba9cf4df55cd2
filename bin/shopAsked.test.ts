import { fileURLToPath } from 'node:url';
import { expect, it } from 'vitest';
import { askedShop } from './shopAsked.ts';

const THIS = fileURLToPath(import.meta.url);

it('reads what is asked of the shop’s network', () => {
  expect(askedShop([])).toBeNull();
  expect(askedShop(['--shop'])).toEqual({ names: [], certificate: null });
  expect(askedShop(['--shop', '--name', 'Forge.local', '--name', 'forge'])).toEqual({
    names: ['forge.local', 'forge'],
    certificate: null,
  });
});

it.each([
  [['--shp'], /Unknown option '--shp'[^]*Usage: bin\/start/],
  [['shop'], /Unexpected argument 'shop'/],
  [['--name', 'forge'], /go with --shop/],
  [
    ['--shop', '--name', 'my forge'],
    /--name must be a machine’s name such as forge\.local; it is “my forge”/,
  ],
  [['--shop', '--cert', THIS], /--cert and --key go together/],
  [['--shop', '--cert', THIS, '--key', 'none.pem'], /none\.pem/],
  [['--shop', '--cert', THIS, '--key', THIS], /must be PEM files/],
])('says what is wrong with %j', (args, words) => {
  expect(() => askedShop(args)).toThrow(words);
});
