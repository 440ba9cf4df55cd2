import { type Page, expect, test } from './fixtures.ts';
import { openPiece, verdict, watchTroubles } from './steps.ts';

watchTroubles();
// With all that moves by itself, as most people have it.
test.use({ contextOptions: { reducedMotion: 'no-preference' } });

/**
 * Sum of what moved without being asked to, since the page was opened or this was last asked: the share of the screen that moved
 * times how far it did (W3C, Layout Instability; up to 0.1 is called good there, value from memory).
 */
const moved = (page: Page): Promise<number> =>
  page.evaluate(() => (window as unknown as { moved: number[] }).moved.splice(0).reduce((a, b) => a + b, 0));

/** A line of text that shifts by its own height comes to some 0.002. */
const STEADY = 0.001;

for (const piece of ['Salt Marsh', 'Night Heron'])
  test(`nothing moves under the pointer while answers come late: ${piece}`, async ({ page }) => {
    await page.addInitScript(() => {
      const moved: number[] = [];
      Object.assign(window, { moved });
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries() as (PerformanceEntry & {
          value: number;
          hadRecentInput: boolean;
        })[])
          if (!entry.hadRecentInput) moved.push(entry.value);
      }).observe({ type: 'layout-shift', buffered: true });
    });
    const slow = await page.context().newCDPSession(page);
    await slow.send('Emulation.setCPUThrottlingRate', { rate: 4 });
    await openPiece(page, piece);
    for (const view of ['', '/stock', '/kiln', '/shop']) {
      await page.goto(page.url().split('/').slice(0, 5).join('/') + view);
      await expect(verdict(page)).toContainText('This plan gives');
      await expect(page.getByLabel('Starting stack needed')).toBeVisible();
      await page.waitForLoadState('networkidle');
      expect(await moved(page), view || '/').toBeLessThan(STEADY);
    }
  });
