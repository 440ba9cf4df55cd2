import { type Four, through, toCorners } from '../sighting/homography.ts';
import { type Photo, colourAt } from '../sighting/photo.ts';
import { type Grey, grey, momentsOf } from './grey.ts';

/** Dots of the longer side of a repeat that is taken from a picture. */
const REPEAT_PX = 256;

/** Which way of a picture the blade runs. */
export type BladeRuns = 'across' | 'up';

/** Four corners so that left to right of what lies within them is along the blade: where it runs upwards, the lower left comes to lie above. */
export const lyingAlong = ([a, b, c, d]: Four, runs: BladeRuns): Four =>
  runs === 'up' ? [d, a, b, c] : [a, b, c, d];

/** What lies within four corners of a picture (clockwise from the upper left, dots), in greys: as wide and high as its sides are on the whole. */
export function repeatIn(photo: Photo, corners: Four): Grey {
  const side = (i: number, j: number): number =>
    Math.hypot(corners[i][0] - corners[j][0], corners[i][1] - corners[j][1]);
  const [wide, high] = [side(0, 1) + side(3, 2), side(0, 3) + side(1, 2)];
  const scale = REPEAT_PX / Math.max(wide, high, 1e-9);
  const picture = grey(Math.max(2, Math.round(wide * scale)), Math.max(2, Math.round(high * scale)));
  const { width, height, values } = picture;
  const from = toCorners(corners);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const [x, y] = through(from, [(2 * (column + 0.5)) / width - 1, 1 - (2 * (row + 0.5)) / height]);
      const [red, green, blue] = colourAt(photo, x, y) ?? [128, 128, 128];
      values[row * width + column] = (0.299 * red + 0.587 * green + 0.114 * blue) / 255;
    }
  return picture;
}

/** Of all tones: a picture that varies less shows nothing. */
const PLAIN = 0.01;

export const isPlain = ({ values }: Grey): boolean => momentsOf(values).deviation < PLAIN;
