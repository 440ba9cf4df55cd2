import { type Along, type FaceForeseen, offAt } from './along.ts';
import { type Four, through, toCorners } from './homography.ts';
import { type Photo, colourAt } from './photo.ts';
import type { Prediction } from './sighting.ts';
import { oriented } from './steps.ts';
import { sampled } from './tones.ts';
import { type Warp, warpedAll } from './warp.ts';

/** Dots of a square picture, four bytes each. */
export type Dots = Uint8ClampedArray<ArrayBuffer>;

/** What lies between four corners laid out, `wide` by `high` dots, in its own colours. */
export function flattened(photo: Photo, corners: Four, wide: number, high = wide): Dots {
  const h = toCorners(corners);
  const made = new Uint8ClampedArray(4 * wide * high);
  for (let j = 0, at = 0; j < high; j++)
    for (let i = 0; i < wide; i++, at += 4) {
      const [px, py] = through(h, [(2 * i + 1) / wide - 1, 1 - (2 * j + 1) / high]);
      const colour = colourAt(photo, px, py);
      if (colour) made.set([...colour, 255], at);
    }
  return made;
}

/** What was foreseen, as it lies in that photograph by a warp: with the one that was read, where they are alike, it was read right. */
export function foreseenThere({ tones }: Prediction, orientation: number, warp: Warp, n: number): Dots {
  const lying = oriented(tones, orientation);
  const places = warpedAll(warp, n);
  const made = new Uint8ClampedArray(4 * n * n);
  for (let k = 0; k < n * n; k++) {
    const tone = 255 * sampled(lying, places[2 * k], places[2 * k + 1]);
    made.set([tone, tone, tone, 255], 4 * k);
  }
  return made;
}

/** What was foreseen of a stretch of a face, so many dots long and high: where it was read to lie, or as it was planned. */
export function faceThere(
  { strip, fromMm, perMm }: FaceForeseen,
  along: Along,
  as: 'read' | 'planned',
  long: number,
  high: number,
): Dots {
  const made = new Uint8ClampedArray(4 * long * high);
  const between = (at: number, most: number): readonly [number, number] => {
    const k = Math.max(0, Math.min(most - 2, Math.floor(at)));
    return [k, Math.max(0, Math.min(1, at - k))];
  };
  for (let i = 0; i < long; i++) {
    const mm = along.fromMm + ((i + 0.5) / long) * (along.toMm - along.fromMm);
    const off = as === 'read' ? offAt(along, mm) : 0;
    const [column, u] = between((mm + off - fromMm) * perMm - 0.5, strip.long);
    for (let j = 0; j < high; j++) {
      const [row, v] = between(((j + 0.5) / high) * strip.wide - 0.5, strip.wide);
      const at = row * strip.long + column;
      const above = (1 - u) * strip.data[at] + u * strip.data[at + 1];
      const below = (1 - u) * strip.data[at + strip.long] + u * strip.data[at + strip.long + 1];
      const tone = 255 * ((1 - v) * above + v * below);
      made.set([tone, tone, tone, 255], 4 * (j * long + i));
    }
  }
  return made;
}

/** Round a dot it is looked so far for the tones on both sides of a line; less unlike than this there is none. */
const ROUND = 3;
const LEAST_TONES = 40;

/** Outlines of the bands of a grey picture, `n` dots wide: clear but where two tones meet, halfway between them. */
export function outlinesOf(
  grey: Dots,
  colour: readonly [number, number, number],
  n = Math.round(Math.sqrt(grey.length / 4)),
): Dots {
  const high = grey.length / 4 / n;
  const side = new Int8Array(n * high);
  for (let j = 0; j < high; j++)
    for (let i = 0; i < n; i++) {
      let [least, most] = [255, 0];
      for (let v = Math.max(0, j - ROUND); v <= Math.min(high - 1, j + ROUND); v++)
        for (let u = Math.max(0, i - ROUND); u <= Math.min(n - 1, i + ROUND); u++) {
          const tone = grey[4 * (v * n + u)];
          if (tone < least) least = tone;
          if (tone > most) most = tone;
        }
      if (most - least >= LEAST_TONES) side[j * n + i] = 2 * grey[4 * (j * n + i)] > least + most ? 1 : -1;
    }
  const made = new Uint8ClampedArray(grey.length);
  for (let k = 0; k < n * high; k++) {
    const right = k % n < n - 1 && side[k] * side[k + 1] < 0;
    const below = k + n < n * high && side[k] * side[k + n] < 0;
    const beside = [k, ...(right ? [k + 1] : []), ...(below ? [k + n] : [])];
    if (right || below) for (const at of beside) made.set([...colour, 255], 4 * at);
  }
  return made;
}
