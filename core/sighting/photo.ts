import { type Four, through, toCorners } from './homography.ts';
import { type Tones, tonesOf } from './tones.ts';

/** A photograph, upright: sRGB, four bytes a dot, row by row from above. */
export interface Photo {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8Array | Uint8ClampedArray;
}

/** Half as many dots a side. */
function halvedPhoto({ width, height, rgba }: Photo): Photo {
  const [w, h] = [width >> 1, height >> 1];
  const made = new Uint8Array(4 * w * h);
  for (let j = 0; j < h; j++)
    for (let i = 0; i < w; i++)
      for (let c = 0; c < 4; c++) {
        const at = 4 * (2 * j * width + 2 * i) + c;
        made[4 * (j * w + i) + c] =
          (rgba[at] + rgba[at + 4] + rgba[at + 4 * width] + rgba[at + 4 * width + 4] + 2) >> 2;
      }
  return { width: w, height: h, rgba: made };
}

/** A side of the section spans at most so many dots: finer is only noise. */
const MOST_SIDE_PX = 900;

/** The photograph no finer than it is read, and by how much it was shrunk. */
export function shrunk(photo: Photo, corners: Four): { photo: Photo; by: number } {
  const sides = corners.map(([x, y], k) =>
    Math.hypot(corners[(k + 1) % 4][0] - x, corners[(k + 1) % 4][1] - y),
  );
  let [now, by] = [photo, 1];
  while (Math.max(...sides) / by > MOST_SIDE_PX && now.width > 2 && now.height > 2) {
    now = halvedPhoto(now);
    by *= 2;
  }
  return { photo: now, by };
}

/** Red, green and blue at a point, between the dots; null outside the picture. */
export function colourAt(
  { width, height, rgba }: Photo,
  x: number,
  y: number,
): [number, number, number] | null {
  const [fx, fy] = [x - 0.5, y - 0.5];
  if (fx < -0.5 || fy < -0.5 || fx > width - 0.5 || fy > height - 0.5) return null;
  const i = Math.min(width - 2, Math.max(0, Math.floor(fx)));
  const j = Math.min(height - 2, Math.max(0, Math.floor(fy)));
  const [u, v] = [Math.min(1, Math.max(0, fx - i)), Math.min(1, Math.max(0, fy - j))];
  const at = 4 * (j * width + i);
  const row = 4 * width;
  const one = (c: number) => {
    const above = rgba[at + c] + u * (rgba[at + 4 + c] - rgba[at + c]);
    const below = rgba[at + row + c] + u * (rgba[at + row + 4 + c] - rgba[at + row + c]);
    return above + v * (below - above);
  };
  return [one(0), one(1), one(2)];
}

/** The section as it lies between its corners, laid out square: its grey, and how much each dot counts. */
export interface Rectified {
  readonly grey: Tones;
  readonly weight: Tones;
}

/** A channel this bright is burnt out. */
const BURNT = 250;
/** The rim fades over this part of the half side. */
const RIM = 0.04;
/** Colours stray by so much of the brightness before they count half. */
const STRAYS = 0.07;

/** What is so dark has no colour to speak of. */
const DARK = 30;

const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1] ?? 0;

/** Lays the section out square; nothing is seen where it is burnt out or outside the picture, less where a colour is another. */
export function rectified(photo: Photo, corners: Four, n: number): Rectified {
  const h = toCorners(corners);
  const [grey, weight] = [tonesOf(n), tonesOf(n)];
  const [red, blue] = [new Float32Array(n * n), new Float32Array(n * n)];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const at = j * n + i;
      const [x, y] = [(2 * i + 1) / n - 1, 1 - (2 * j + 1) / n];
      const [px, py] = through(h, [x, y]);
      const colour = colourAt(photo, px, py);
      if (!colour) continue;
      const [r, g, b] = colour;
      grey.data[at] = (0.3 * r + 0.59 * g + 0.11 * b) / 255;
      // By how much it is redder and bluer than grey, so that dark steel is of no other colour than bright steel.
      const sum = r + g + b;
      red[at] = (r - sum / 3) / (sum + DARK);
      blue[at] = (b - sum / 3) / (sum + DARK);
      const rim = Math.min(1, (1 - Math.max(Math.abs(x), Math.abs(y))) / RIM);
      weight.data[at] = Math.max(r, g, b) >= BURNT ? 0 : rim;
    }
  const some = Array.from({ length: n * n }, (_, i) => i).filter((i) => i % 13 === 0 && weight.data[i] > 0);
  const [red0, blue0] = [median(some.map((i) => red[i])), median(some.map((i) => blue[i]))];
  for (let i = 0; i < n * n; i++)
    weight.data[i] /= (1 + (Math.hypot(red[i] - red0, blue[i] - blue0) / STRAYS) ** 2) ** 2;
  return { grey, weight };
}
