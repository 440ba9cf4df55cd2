import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Page, chromium } from '@playwright/test';
import { temporaryCluster } from '../bin/cluster.ts';
import { serve } from '../server/serve.ts';

export interface Repaint {
  rough: number[];
  sharp: number[];
}

const CHANGES = 8;

/** How long a newcomer waits: shelf and piece, ms from the press; the longest task that held the page meanwhile. */
export interface Opening {
  shelfList: number;
  shelfPictures: number;
  pieceFirst: number;
  pieceSharp: number;
  longestTask: number;
}

const OPENINGS = 5;
/** How long the shelf is looked at before a piece is pressed. */
const LOOKED_MS = 2000;

/** Opens the shelf, and from it a piece, again and again; the middle of each time. Needs built pages. */
export const measureOpening = (): Promise<Opening> =>
  withPage(async (page, address) => {
    await page.addInitScript(() => {
      const tasks: number[] = [];
      Object.assign(window, { tasks });
      new PerformanceObserver((list) => tasks.push(...list.getEntries().map((e) => e.duration))).observe({
        type: 'longtask',
        buffered: true,
      });
    });
    await page.goto(address);
    // The shelf's pictures are made once, in the background.
    await page.waitForFunction(
      () =>
        document.querySelectorAll('main li').length > 0 &&
        !document.body.innerText.includes('its picture is being made'),
      undefined,
      { timeout: 180_000, polling: 500 },
    );
    const all: Opening[] = [];
    for (let i = 0; i < OPENINGS; i++) {
      await page.goto(address);
      const shelfList = await since(page, () => document.querySelectorAll('main li').length > 0);
      const shelfPictures = await since(page, () => {
        const images = [...document.querySelectorAll<HTMLImageElement>('main img')];
        const seen = images.filter((image) => image.getBoundingClientRect().top < innerHeight);
        return seen.length > 0 && seen.every((image) => image.complete && image.naturalWidth > 0);
      });
      await page.waitForTimeout(LOOKED_MS);
      await page.evaluate(() => performance.mark('pressed'));
      await page.getByRole('link', { name: /Salt Marsh/ }).click({ noWaitAfter: true });
      const pieceFirst = await since(page, () => document.querySelector('canvas[data-painted]') !== null);
      const pieceSharp = await since(page, () => {
        const all = [...document.querySelectorAll<HTMLCanvasElement>('canvas')];
        return all.length > 3 && all.every((canvas) => canvas.dataset.painted === 'sharp');
      });
      const tasks = await page.evaluate(() => (window as unknown as { tasks: number[] }).tasks);
      all.push({ shelfList, shelfPictures, pieceFirst, pieceSharp, longestTask: Math.max(0, ...tasks) });
    }
    const middle = (of: keyof Opening) => all.map((o) => o[of]).sort((x, y) => x - y)[OPENINGS >> 1];
    return {
      shelfList: middle('shelfList'),
      shelfPictures: middle('shelfPictures'),
      pieceFirst: middle('pieceFirst'),
      pieceSharp: middle('pieceSharp'),
      longestTask: middle('longestTask'),
    };
  });

/** ms from the page's beginning, or from the last press, until something holds, looked at in every frame. */
async function since(page: Page, holds: () => boolean): Promise<number> {
  await page.waitForFunction(holds, undefined, { polling: 'raf' });
  return page.evaluate(
    () => performance.now() - (performance.getEntriesByName('pressed').at(-1)?.startTime ?? 0),
  );
}

async function withPage<T>(measure: (page: Page, address: string) => Promise<T>): Promise<T> {
  const cluster = await temporaryCluster();
  const serving = await serve({
    databaseUrl: cluster.url,
    port: 0,
    demo: true,
    logFile: join(tmpdir(), `retablo-bench-${process.pid}`, 'server.log'),
  });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium-headless-shell',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    return await measure(page, `http://127.0.0.1:${serving.port}/`);
  } finally {
    await browser.close();
    await serving.stop();
    await cluster.stop();
  }
}

/** Changes a number in the real page and times the selected panel's rough and sharp pictures, ms. Needs built pages. */
export const measureRepaint = (): Promise<Repaint> =>
  withPage(async (page, address) => {
    await page.goto(address);
    await page.getByRole('link', { name: /Salt Marsh/ }).click();
    await page.locator('[data-step=s12]').click();
    await page.getByRole('button', { name: 'Before and after' }).click();
    await page.getByLabel('Strip thickness').focus();
    await page.waitForTimeout(3000);
    const times: Repaint = { rough: [], sharp: [] };
    for (let i = 0; i < CHANGES; i++) {
      const [rough, sharp] = await page.evaluate(changeAndWatch, String(1 + i * 0.25));
      times.rough.push(rough);
      times.sharp.push(sharp);
      await page.waitForTimeout(1200);
    }
    return times;
  });

/** In the page: types a value the way a hand does, and waits for the large picture to be hung rough, then sharp. */
function changeAndWatch(value: string): Promise<[number, number]> {
  const input = document.querySelector<HTMLInputElement>('input[aria-label="Strip thickness"]')!;
  const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-label^="After"]')!;
  return new Promise((resolve) => {
    const from = performance.now();
    let rough = 0;
    const watcher = new MutationObserver(() => {
      if (canvas.dataset.painted === 'rough' && rough === 0) rough = performance.now() - from;
      if (canvas.dataset.painted === 'sharp' && rough > 0) {
        watcher.disconnect();
        resolve([rough, performance.now() - from]);
      }
    });
    watcher.observe(canvas, { attributes: true, attributeFilter: ['data-painted'] });
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(input, value);
    input.dispatchEvent(new Event('input', { bubbles: true }));
  });
}
