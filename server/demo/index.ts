import { readFileSync, readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { shopSchema } from '../../core/shop/shop.ts';
import type { ProjectStore } from '../projects.ts';
import type { ShopStore } from '../shopStore.ts';
import { YEAR_PIECES, loadYear } from './year.ts';
import { takePhotographs } from './photographs.ts';

const here = dirname(fileURLToPath(import.meta.url));

export const demoFiles = (): string[] =>
  readdirSync(here)
    .filter((file) => file.endsWith('.json'))
    .sort()
    .map((file) => join(here, file));

/** Of the made-up shop. */
const PRICES = { currency: '€', hourPrice: 42, abrasivePrice: 6.5 };

/** The two made-up set-ups of the demo shop. */
const SETUPS = [
  { name: 'Brasa Chica', ...PRICES },
  {
    name: 'Brasa Chica, power hammer',
    press: { kind: 'power hammer' as const, ratingKN: 400, dieLengthMm: 110, ramMmPerS: 400, friction: 0.3 },
    biteMm: 45,
    reductionPerPass: 0.2,
  },
];

/** What lies on the demo shop's rack. */
const RACK = [
  { material: '1084', widthMm: 45, thicknessMm: 4.5, lengthMm: 720, count: 1 },
  { material: '1084', widthMm: 40, thicknessMm: 6, lengthMm: 1000, count: 2 },
  { material: '15n20', widthMm: 45, thicknessMm: 2, lengthMm: 430, count: 2 },
  { material: '15n20', widthMm: 40, thicknessMm: 3, lengthMm: 1000, count: 1 },
  { material: '80crv2', widthMm: 48, thicknessMm: 5, lengthMm: 300, count: 1 },
];

/** A demo piece as the made-up shop plans it. */
function inTheShop(text: string): unknown {
  const plan = JSON.parse(text) as { shop: { forge?: object } };
  const forge = { ...plan.shop.forge, gasPricePerKg: 2.8 };
  return { ...plan, shop: { ...plan.shop, ...PRICES, forge, name: SETUPS[0].name } };
}

/** How many pieces the demo puts on the shelf. */
export const demoCount = (): number => demoFiles().length + YEAR_PIECES;

/** Puts the made-up demo pieces on an empty shelf, and what their shop has. */
export async function loadDemo(store: ProjectStore, shop: ShopStore): Promise<number> {
  if (!(await store.isEmpty())) return 0;
  await loadYear(store, new Date());
  const files = demoFiles();
  for (const file of files) await takePhotographs(await store.create(inTheShop(readFileSync(file, 'utf8'))));
  for (const setup of SETUPS) await shop.keepSetup(shopSchema.parse(setup));
  for (const bar of RACK) await shop.putOnRack(bar);
  return demoCount();
}
