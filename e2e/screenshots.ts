import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Page, chromium } from '@playwright/test';
import { endPhotograph, toCorners } from './endPhotograph.ts';
import { serve } from '../server/serve.ts';
import { temporaryCluster } from '../bin/cluster.ts';

/** Makes docs/screenshots anew from the demo pieces: all, or those that are named. Needs built pages (npm run build). */
const wanted = process.argv.slice(2);
const OUT = join(dirname(fileURLToPath(import.meta.url)), '..', 'docs', 'screenshots');
const DESK = { width: 1280, height: 800 };
const TABLET = { width: 800, height: 1280 };

/** Waits until every picture of steel is sharp, and stays so. */
async function settled(page: Page): Promise<void> {
  const sharp = () =>
    page.waitForFunction(() => {
      const canvases = [
        ...document.querySelectorAll<HTMLCanvasElement>(
          'canvas:not(.konvajs-content canvas, [role="dialog"] canvas)',
        ),
      ];
      const waits = document.querySelector('.MuiSkeleton-root') !== null;
      return !waits && canvases.every((canvas) => canvas.dataset.painted === 'sharp');
    });
  await page.waitForTimeout(800);
  await sharp();
  await page.waitForTimeout(1200);
  await sharp();
}

const panel = (page: Page, name: RegExp) =>
  page.getByRole('navigation', { name: /^Moves of/ }).getByRole('button', { name });

/** What leads to each picture, from the shelf. */
const SHOTS: Record<string, (page: Page) => Promise<void>> = {
  shelf: async (page) => {
    await page.getByText('its picture is being made').first().waitFor({ state: 'hidden', timeout: 90_000 });
    await page.waitForFunction(() => !document.body.innerText.includes('its picture is being made'), null, {
      timeout: 90_000,
    });
  },
  plan: async (page) => {
    await page.getByRole('link', { name: /Quarry Quilt/ }).click();
    await page
      .getByRole('navigation', { name: 'Moves of Quilt' })
      .getByRole('button', { name: /^3\. Draw/ })
      .click();
    await page.getByRole('button', { name: /^Reaches it/ }).waitFor({ timeout: 60_000 });
  },
  wish: async (page) => {
    await page.getByRole('link', { name: /Night Heron/ }).click();
    await page.getByRole('link', { name: 'Another way' }).click();
    const found = page.getByRole('list', { name: 'Plans found' }).getByRole('listitem');
    await found.nth(20).waitFor({ timeout: 90_000 });
    await page.getByRole('button', { name: 'Stop looking' }).click();
  },
  trainer: async (page) => {
    await page.getByRole('link', { name: 'Train the eye' }).click();
    await page.getByRole('button', { name: 'usual' }).click();
    await page.getByRole('combobox', { name: 'Practise' }).click();
    await page.getByRole('option', { name: 'Lay the four yourself' }).click();
    const laid = page.getByRole('group', { name: 'The pieces as they lie, front end' });
    await laid.getByRole('button').nth(1).click();
    await page.keyboard.press('r');
  },
  arrange: async (page) => {
    await page.getByRole('link', { name: /Salt Marsh/ }).click();
    await panel(page, /^7\. Arrange/).click();
  },
  blade: async (page) => {
    await page.getByRole('link', { name: /Rain Barrel/ }).click();
    await page.getByRole('link', { name: 'Blade' }).click();
  },
  canister: async (page) => {
    await page.getByRole('link', { name: /Hailstorm/ }).click();
    await page.getByRole('link', { name: 'Canister' }).click();
  },
  form: async (page) => {
    await page.getByRole('link', { name: /Night Heron/ }).click();
    await page.getByRole('link', { name: 'Canister' }).click();
    await page.getByRole('button', { name: 'Form', exact: true }).click();
    await page.getByText(/^It comes out as wanted/).waitFor();
  },
  press: async (page) => {
    await page.getByRole('link', { name: /Ebb Bar/ }).click();
    await panel(page, /^4\. Press/).click();
    await page.getByText(/^Pass 6, 90°/).waitFor();
    await page.getByRole('slider', { name: 'Pass' }).focus();
    await page.keyboard.press('Home');
    await page.keyboard.press('ArrowRight');
    await page.getByRole('button', { name: 'Push across the seams' }).click();
  },
  stock: async (page) => {
    await page.getByRole('link', { name: /Salt Marsh/ }).click();
    await page.getByRole('link', { name: 'Stock' }).click();
  },
  kiln: async (page) => {
    await page.getByRole('link', { name: /Lantern/ }).click();
    await page.getByRole('link', { name: 'Kiln' }).click();
    await page.getByRole('button', { name: /^Harden/ }).click();
    await page.getByRole('button', { name: 'Run on the simulated kiln' }).click();
    await page.getByText(/· done/).waitFor();
  },
  days: async (page) => {
    await page.goto(`http://127.0.0.1:${serving.port}/days`);
    await page.getByLabel('Laid from').fill('2026-12-07T08:00');
    await page.getByRole('checkbox', { name: /Salt Marsh/ }).check();
    await page.getByRole('row').filter({ hasText: 'Salt Marsh' }).first().waitFor();
  },
  show: async (page) => {
    await page.getByRole('link', { name: /Salt Marsh/ }).click();
    await panel(page, /^7\. Arrange/).click();
    await page.getByRole('button', { name: 'Show me' }).click();
    const next = page.getByRole('dialog').getByRole('button', { name: 'Next', exact: true });
    for (let k = 0; k < 7; k++) await next.click();
    await page.waitForTimeout(5000);
  },
  print: async (page) => {
    await page.getByRole('link', { name: /Salt Marsh/ }).click();
    await page.getByRole('link', { name: 'Print' }).click();
    await page
      .getByText(/^Eight times in ten/)
      .first()
      .waitFor({ timeout: 60_000 });
    await page
      .getByRole('img', { name: /^How they will lie later/ })
      .first()
      .scrollIntoViewIfNeeded();
  },
  sight: async (page) => {
    const { file, ...where } = await endPhotograph();
    await page.setViewportSize(TABLET);
    await page.getByRole('link', { name: /Salt Marsh/ }).click();
    await page.getByRole('link', { name: 'Bench', exact: true }).click();
    await page.getByRole('button', { name: 'All moves' }).click();
    await page.getByRole('button', { name: /^4\. Re-square/ }).click();
    await settled(page);
    await page.locator('input[type=file]').setInputFiles(file);
    await page.getByRole('group', { name: 'It shows' }).getByRole('button', { name: 'End B' }).click();
    await page.getByRole('button', { name: 'Lay it over the plan' }).click();
    await page.getByRole('group', { name: /^The edges of the section/ }).waitFor();
    await toCorners(page, where);
    await page.getByRole('button', { name: 'Read it' }).click();
    await page.getByRole('status', { name: 'What was read' }).waitFor({ timeout: 90_000 });
    await page.getByRole('button', { name: 'Outlines of the bands' }).click();
  },
  bench: async (page) => {
    await page.setViewportSize(TABLET);
    await page.getByRole('link', { name: /Slack Tide/ }).click();
    await page.getByRole('link', { name: 'Bench', exact: true }).click();
    await page.getByRole('button', { name: /Into the fire/ }).click();
    await page.getByRole('checkbox').first().click();
    await page.evaluate(() => window.scrollTo(0, 0));
  },
  log: async (page) => {
    await page.getByRole('link', { name: /Slack Tide/ }).click();
    await page.getByRole('link', { name: 'Log' }).click();
  },
  learned: async (page) => {
    // Records are looked through together with the small pictures.
    await page
      .getByText('its picture is being made')
      .first()
      .waitFor({ state: 'detached', timeout: 180_000 });
    await page.goto(new URL('shop/learned', page.url()).href);
    await page.getByRole('region', { name: 'Proposed' }).waitFor({ timeout: 60_000 });
  },
  sure: async (page) => {
    await page
      .getByText('its picture is being made')
      .first()
      .waitFor({ state: 'detached', timeout: 180_000 });
    await page.getByRole('link', { name: /Salt Marsh/ }).click();
    await page.getByRole('button', { name: /^Reaches it/ }).click({ timeout: 60_000 });
    await page.getByText('Looking for ways …').waitFor({ state: 'detached', timeout: 60_000 });
  },
};

const cluster = await temporaryCluster();
const scratch = mkdtempSync(join(tmpdir(), 'retablo-screenshots-'));
const serving = await serve({
  databaseUrl: cluster.url,
  port: 0,
  demo: true,
  logFile: join(scratch, 'server.log'),
});
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
try {
  mkdirSync(OUT, { recursive: true });
  for (const [name, lead] of Object.entries(SHOTS)) {
    if (wanted.length > 0 && !wanted.includes(name)) continue;
    const page = await browser.newPage({ viewport: DESK });
    await page.goto(`http://127.0.0.1:${serving.port}/`);
    await page.getByRole('link', { name: /Salt Marsh/ }).waitFor();
    await lead(page);
    await settled(page);
    await page.screenshot({ path: join(OUT, `${name}.png`) });
    await page.close();
    console.log(`${name}.png`);
  }
} finally {
  await browser.close();
  await serving.stop();
  await cluster.stop();
  rmSync(scratch, { recursive: true });
}
