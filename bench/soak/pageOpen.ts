import { setTimeout as wait } from 'node:timers/promises';
import { chromium } from '@playwright/test';
import { line } from '../tools.ts';
import type { Instance } from './instance.ts';

/** Restarts the database again and again under a page in which somebody types; the page goes on and keeps everything. */
export async function pageOpen(instance: Instance, times: number): Promise<void> {
  await instance.start();
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium-headless-shell',
    args: ['--no-sandbox'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const broken: string[] = [];
  page.on('pageerror', (error) => broken.push(error.message));
  await page.goto(instance.url);
  await page.getByRole('link', { name: /Tide Ladder/ }).click();
  await page
    .getByRole('button', { name: /^1\. Stack/ })
    .first()
    .click();
  const layers = page.getByLabel('Layers in all');
  let away = 0;
  for (let i = 0; i < times; i++) {
    instance.signalDatabase(i % 2 === 0 ? 'SIGINT' : 'SIGKILL');
    await layers.fill(String(9 + 2 * (i % 5)));
    await wait(700);
    if (/kept here|Not saved/.test(await page.getByLabel('Saving').innerText())) away += 1;
    await page.getByLabel('Saving').getByText('Saved').waitFor({ timeout: 60_000 });
  }
  const last = String(9 + 2 * ((times - 1) % 5));
  await page.reload();
  await page
    .getByRole('button', { name: /^1\. Stack/ })
    .first()
    .click();
  const kept = await layers.inputValue();
  const runs = instance.runs;
  await browser.close();
  await instance.stop();
  line('restarts of the database with a page open', String(times));
  line('times that the page said so meanwhile', String(away));
  line('errors of the page, server still the same', `${broken.length}, ${runs ? 'yes' : 'no'}`);
  if (broken.length > 0 || kept !== last || !runs)
    throw new Error(`The page broke (${broken.join('; ')}), or has ${kept} where ${last} was typed`);
}
