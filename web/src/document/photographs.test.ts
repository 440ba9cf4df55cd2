// @vitest-environment jsdom
import sharp from 'sharp';
import { expect, it } from 'vitest';
import { focalOf } from './photographs.ts';

const jpeg = async (exif: Record<string, Record<string, string>>) => {
  const background = { r: 90, g: 90, b: 90 };
  const picture = sharp({ create: { width: 60, height: 40, channels: 3, background } });
  const file = await picture.withExif(exif).jpeg().toBuffer();
  return { arrayBuffer: () => Promise.resolve(Uint8Array.from(file).buffer) } as unknown as Blob;
};

it('of what a camera writes the focal length is read, by the diagonal of a full frame', async () => {
  // 43.27 mm is the diagonal of 36 × 24 mm.
  expect(await focalOf(await jpeg({ IFD2: { FocalLengthIn35mmFilm: '52' } }))).toBeCloseTo(52 / 43.267, 3);
  expect(await focalOf(await jpeg({ IFD0: { Make: 'A camera' } }))).toBeUndefined();
  const none = { arrayBuffer: () => Promise.resolve(new ArrayBuffer(8)) } as unknown as Blob;
  expect(await focalOf(none)).toBeUndefined();
});
