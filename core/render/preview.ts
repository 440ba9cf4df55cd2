import { shortFace, tellingFace } from '../billet/face.ts';
import type { Billet } from '../billet/billet.ts';
import type { Shop } from '../shop/shop.ts';
import { type Painted, paint } from './paint.ts';
import { makePalette } from './palette.ts';

/** Pictures of pieces side by side, clear between them. */
export function sideBySide(pictures: readonly Painted[], gapPx: number): Painted {
  const widthPx = pictures.reduce((sum, p) => sum + p.widthPx, gapPx * (pictures.length - 1));
  const heightPx = Math.max(...pictures.map((p) => p.heightPx));
  const rgba = new Uint8ClampedArray(4 * widthPx * heightPx);
  let left = 0;
  for (const p of pictures) {
    const top = Math.floor((heightPx - p.heightPx) / 2);
    for (let row = 0; row < p.heightPx; row++)
      rgba.set(
        p.rgba.subarray(4 * row * p.widthPx, 4 * (row + 1) * p.widthPx),
        4 * ((top + row) * widthPx + left),
      );
    left += p.widthPx + gapPx;
  }
  return { widthPx, heightPx, rgba };
}

/** A small picture of a bar: its telling face as etched, of a long one the middle, within so many dots. */
export function previewOf(
  billet: Billet,
  shop: Shop,
  order: readonly string[],
  most: { readonly widthPx: number; readonly heightPx: number },
  face = tellingFace(billet),
): Painted {
  const plane = shortFace(billet, face, most.widthPx / (0.8 * most.heightPx));
  const perMm = Math.min(most.widthPx / plane.widthMm, most.heightPx / plane.heightMm);
  return paint({
    billet,
    plane,
    widthPx: Math.max(2, Math.round(plane.widthMm * perMm)),
    heightPx: Math.max(2, Math.round(plane.heightMm * perMm)),
    palette: makePalette(shop, 'etched', order, 'as they etch'),
  });
}
