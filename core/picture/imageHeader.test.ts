import { describe, expect, it } from 'vitest';
import { imageHeader } from './imageHeader.ts';

describe('what a picture file says of itself', () => {
  const png = (w: number, h: number): Uint8Array => {
    const bytes = new Uint8Array(60);
    bytes.set([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52]);
    new DataView(bytes.buffer).setUint32(16, w);
    new DataView(bytes.buffer).setUint32(20, h);
    bytes.set([0x49, 0x45, 0x4e, 0x44], 52);
    return bytes;
  };
  it('is its size', () => {
    expect(imageHeader(png(640, 480))).toEqual({
      ok: true,
      header: { type: 'png', widthPx: 640, heightPx: 480 },
    });
    // SOI, APP0 of 16 bytes, SOF0 of a picture 300 × 200 (ITU-T T.81).
    const jpeg = Uint8Array.from([
      0xff,
      0xd8,
      0xff,
      0xe0,
      0,
      16,
      ...new Array<number>(14).fill(0),
      0xff,
      0xc0,
      0,
      17,
      8,
      0,
      200,
      1,
      44,
      3,
      ...new Array<number>(20).fill(0),
    ]);
    expect(imageHeader(jpeg)).toEqual({ ok: true, header: { type: 'jpeg', widthPx: 300, heightPx: 200 } });
  });

  it.each([
    ['a bomb', png(60_000, 60_000), /million/],
    ['a dot', png(1, 1), /too small/],
    ['half a file', png(640, 480).subarray(0, 40), /cut short/],
    ['a JPEG cut short', Uint8Array.from([0xff, 0xd8, 0xff, 0xe0, 0, 16, 0, 0]), /cut short/],
    ['another kind', new TextEncoder().encode('GIF89a and so on'), /no PNG or JPEG/],
    ['too many bytes', new Uint8Array(12_000_001), /too large/],
  ])('of %s is refused', (_name, bytes, reason) => {
    const answer = imageHeader(bytes);
    expect(answer.ok ? '' : answer.message).toMatch(reason);
  });
});
