import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { evaluate, materialOrder, readPlanText, stepResult } from '../core/plan/index.ts';
import { faceShown, predictionOf } from '../core/render/foreseen.ts';
import { photographed } from '../core/sighting/camera.ts';
import { STILL } from '../core/sighting/warp.ts';

const TURNED = (3.5 * Math.PI) / 180;

function saltMarsh() {
  const read = readPlanText(readFileSync('server/demo/salt-marsh.json', 'utf8'));
  if (!read.ok) throw new Error('no plan');
  return evaluate(read.plan);
}

async function jpegOf(name: string, shot: Parameters<typeof photographed>[0]) {
  const { photo, corners } = photographed(shot);
  const raw = { width: photo.width, height: photo.height, channels: 4 } as const;
  const buffer = await sharp(Buffer.from(photo.rgba), { raw }).jpeg({ quality: 90 }).toBuffer();
  return { file: { name, mimeType: 'image/jpeg', buffer }, corners, side: photo.width };
}

/** End B of *Salt Marsh* re-squared as the simulated camera takes it: its pattern turned by 3.5°. */
export function endPhotograph() {
  const evaluation = saltMarsh();
  const [bar] = stepResult(evaluation, 's4')!.after!;
  const prediction = predictionOf(bar, evaluation.shop, materialOrder(evaluation));
  const fault = { ...STILL, turn: TURNED };
  return jpegOf('end-b.jpg', { ...prediction, end: 'B', rolledDeg: 24, fault });
}

/** The finished bar of *Salt Marsh* from above, from end A to so far along it, mm. */
export function facePhotograph(toMm: number) {
  const { goalLane, shop, ...rest } = saltMarsh();
  const [bar] = goalLane.ends;
  const shown = faceShown(bar, shop, materialOrder({ goalLane, shop, ...rest }), 0, toMm);
  return jpegOf('top.jpg', { ...shown, end: 'B', rolledDeg: 1, tippedDeg: [2, 1], sizePx: 1200 });
}

/** Drags the corners to where they are on the photograph. */
export async function toCorners(
  page: Page,
  { corners, side }: Pick<Awaited<ReturnType<typeof jpegOf>>, 'corners' | 'side'>,
): Promise<void> {
  const box = (await page.getByRole('group', { name: /^The edges of the section/ }).boundingBox())!;
  for (const [k, [x, y]] of corners.entries()) {
    const handle = (await page.getByRole('button', { name: new RegExp(`^Corner ${k + 1},`) }).boundingBox())!;
    await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + (x / side) * box.width + 3, box.y + (y / side) * box.height - 2, {
      steps: 4,
    });
    await page.mouse.up();
  }
}
