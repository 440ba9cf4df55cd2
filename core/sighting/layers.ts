import { onEndB } from './steps.ts';
import { type Tones, sampled, slopes } from './tones.ts';
import { type Warp, warped } from './warp.ts';

/** The disc in the middle in which the layers are looked at, in half sides. */
const DISC = 0.6;
const STEPS = 61;
const H = 0.05;

/** Sizes of a section, mm. */
interface Section {
  readonly widthMm: number;
  readonly heightMm: number;
}

/**
 * By how much the layers in the middle run turned against the predicted ones, degrees, counter-clockwise seen on end B: the angle
 * between their normals, each counted by how strongly a layer shows there.
 */
export function layersTurned(
  warp: Warp,
  k: number,
  predicted: Tones,
  { widthMm, heightMm }: Section,
): number {
  const { dx, dy } = slopes(predicted);
  const back = (x: number, y: number) => onEndB(k, ...warped(warp, x, y));
  let [c, s] = [0, 0];
  for (let j = 0; j < STEPS; j++)
    for (let i = 0; i < STEPS; i++) {
      const [x, y] = [DISC * ((2 * i) / (STEPS - 1) - 1), DISC * ((2 * j) / (STEPS - 1) - 1)];
      if (Math.hypot(x, y) > DISC) continue;
      const [u, v] = back(x, y);
      const [gx, gy] = [sampled(dx, u, v) / widthMm, sampled(dy, u, v) / heightMm];
      // The same slope where it is seen: by the map's own slopes, laid over onto end B.
      const [right, left] = [back(x + H, y), back(x - H, y)];
      const [up, down] = [back(x, y + H), back(x, y - H)];
      const hx = (gx * widthMm * (right[0] - left[0]) + gy * heightMm * (right[1] - left[1])) / (2 * H);
      const hy = (gx * widthMm * (up[0] - down[0]) + gy * heightMm * (up[1] - down[1])) / (2 * H);
      const [ox, oy] = onEndB(k, hx, hy);
      const [px, py] = [ox / widthMm, oy / heightMm];
      const angle = 2 * (Math.atan2(py, px) - Math.atan2(gy, gx));
      const weight = gx * gx + gy * gy;
      c += weight * Math.cos(angle);
      s += weight * Math.sin(angle);
    }
  return (0.5 * Math.atan2(s, c) * 180) / Math.PI;
}
