import { boundingBox } from '../geometry/outline.ts';
import type { Billet } from './billet.ts';
import { type Points, makePoints } from './fields/field.ts';

const LINES = 24;
const STEPS = 40;
const MOST_POINTS = LINES * STEPS;

/** How often the material changes per mm along lines of one direction, in the middle of the bar. */
function changesPerMm(bar: Billet, axis: 'x' | 'y' | 'z', stepMm: number): number {
  const box = boundingBox(bar.outline);
  const points: Points = makePoints(MOST_POINTS);
  const codes = new Uint8Array(MOST_POINTS);
  const reach = (STEPS / 2) * stepMm;
  for (let line = 0; line < LINES; line++)
    for (let k = 0; k < STEPS; k++) {
      const i = line * STEPS + k;
      const along = -reach + k * stepMm;
      const u = ((line * 0.618034) % 1) - 0.5;
      const v = ((line * 0.754878) % 1) - 0.5;
      points.x[i] = axis === 'x' ? along : 0.8 * u * (box.maxX - box.minX);
      points.y[i] = axis === 'y' ? along : 0.8 * v * (box.maxY - box.minY);
      points.z[i] = bar.lengthMm / 2 + (axis === 'z' ? along : 0.3 * u * bar.lengthMm);
    }
  points.count = MOST_POINTS;
  bar.field.sample(points, codes);
  let changes = 0;
  for (let i = 0; i < MOST_POINTS; i++) if (i % STEPS > 0 && codes[i] !== codes[i - 1]) changes++;
  return changes / (LINES * STEPS * stepMm);
}

/**
 * Degrees between the layers' normal and the top face's normal, on the mean over the middle of the bar: 0 where layers lie
 * parallel to the face, 90 where they stand on edge. From how often the material changes along each axis.
 */
export function layerTilt(bar: Billet): number {
  const box = boundingBox(bar.outline);
  const stepMm = (0.8 * Math.min(box.maxX - box.minX, box.maxY - box.minY, bar.lengthMm)) / STEPS;
  const up = changesPerMm(bar, 'y', stepMm);
  const beside = Math.hypot(
    changesPerMm(bar, 'x', stepMm),
    bar.field.variesAlongZ ? changesPerMm(bar, 'z', stepMm) : 0,
  );
  if (up === 0 && beside === 0) return 0;
  return (Math.atan2(beside, up) * 180) / Math.PI;
}
