import { describe, expect, it } from 'vitest';
import type { Four } from '../sighting/homography.ts';
import { type Grey, greyAt } from './grey.ts';
import { isPlain, lyingAlong, repeatIn } from './repeat.ts';

/** Brighter to the right by 2, downward by 1. */
const photo = (() => {
  const [width, height] = [80, 40];
  const rgba = new Uint8Array(4 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) rgba.fill(2 * x + y, 4 * (y * width + x), 4 * (y * width + x) + 4);
  return { width, height, rgba };
})();
const WHOLE: Four = [
  [0, 0],
  [80, 0],
  [80, 40],
  [0, 40],
];

/** The tone at a share of the picture's width and height, as the photograph counts it. */
const toneAt = (picture: Grey, x: number, y: number) =>
  255 * greyAt(picture, x * picture.width - 0.5, y * picture.height - 0.5);

describe('one repeat of a picture', () => {
  it('is as wide and high as it was marked, its greys those within the corners', () => {
    const picture = repeatIn(photo, WHOLE);
    expect([picture.width, picture.height]).toEqual([256, 128]);
    expect(toneAt(picture, 0.25, 0.5)).toBeCloseTo(2 * 19.5 + 19.5, 0);
    expect(toneAt(picture, 0.75, 0.5)).toBeCloseTo(2 * 59.5 + 19.5, 0);
    expect(toneAt(picture, 0.5, 0.75)).toBeCloseTo(2 * 39.5 + 29.5, 0);
  });

  it('is turned where the blade runs upwards in it: what lay above lies to the right', () => {
    const picture = repeatIn(photo, lyingAlong(WHOLE, 'up'));
    expect([picture.width, picture.height]).toEqual([128, 256]);
    // To the right darker by 1 a dot of the photograph, downward brighter by 2.
    expect(toneAt(picture, 0.75, 0.5)).toBeCloseTo(2 * 39.5 + 9.5, 0);
    expect(toneAt(picture, 0.25, 0.5)).toBeCloseTo(2 * 39.5 + 29.5, 0);
    expect(toneAt(picture, 0.5, 0.75)).toBeCloseTo(2 * 59.5 + 19.5, 0);
    expect(lyingAlong(WHOLE, 'across')).toEqual(WHOLE);
  });

  it('of one tone is plain', () => {
    expect(isPlain(repeatIn(photo, WHOLE))).toBe(false);
    expect(isPlain(repeatIn({ ...photo, rgba: photo.rgba.map(() => 128) }, WHOLE))).toBe(true);
  });
});
