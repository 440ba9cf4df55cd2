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
const OUT = '/tmp/shots';
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


const step = (page: Page, name: RegExp) =>
  page.getByRole('navigation', { name: /^Moves of/ }).getByRole('button', { name }).click();
const SHOTS: Record<string, (page: Page) => Promise<void>> = {
  blank: async (page) => {
    await page.getByRole('link', { name: /Lantern/ }).click();
    await step(page, /Forge to shape/);
  },
  onit: async (page) => {
    await page.getByRole('link', { name: /Lantern/ }).click();
    await step(page, /Forge to shape/);
    await page.getByRole('button', { name: 'Blade on it' }).click();
  },
  treat: async (page) => {
    await page.getByRole('link', { name: /Lantern/ }).click();
    await step(page, /^6\. In the kiln/);
  },
  willdo: async (page) => {
    await page.getByRole('link', { name: /Lantern/ }).click();
    await step(page, /Etch/);
    await page.getByRole('button', { name: 'Will it do?' }).click();
  },
  lblade: async (page) => {
    await page.getByRole('link', { name: /Lantern/ }).click();
    await page.getByRole('link', { name: 'Blade' }).click();
  },
  bench: async (page) => {
    await page.setViewportSize({ width: 800, height: 1280 });
    await page.getByRole('link', { name: /Lantern/ }).click();
    await page.getByRole('link', { name: 'Bench', exact: true }).click();
    await page.getByRole('button', { name: 'All moves' }).click();
    await page.getByRole('button', { name: /Forge to shape/ }).click();
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
