import { chromium } from '@playwright/test';
import { temporaryCluster } from '../bin/cluster.ts';
import { serve } from '../server/serve.ts';

export interface Repaint {
  rough: number[];
  sharp: number[];
}

const CHANGES = 8;

/** Changes a number in the real page and times the selected panel's rough and sharp pictures, ms. Needs built pages. */
export async function measureRepaint(): Promise<Repaint> {
  const cluster = await temporaryCluster();
  const serving = await serve({ databaseUrl: cluster.url, port: 0, demo: true, logFile: '/dev/null' });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`http://127.0.0.1:${serving.port}/`);
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
  } finally {
    await browser.close();
    await serving.stop();
    cluster.stop();
  }
}

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
