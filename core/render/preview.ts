import { facePlane, middleOf, tellingFace } from '../billet/face.ts';
import type { Billet } from '../billet/billet.ts';
import type { Shop } from '../shop/shop.ts';
import { type Painted, paint } from './paint.ts';
import { makePalette } from './palette.ts';

/** A small picture of a bar: its telling face as etched, of a long one the middle, within so many dots. */
export function previewOf(
  billet: Billet,
  shop: Shop,
  order: readonly string[],
  most: { readonly widthPx: number; readonly heightPx: number },
): Painted {
  const plane = middleOf(facePlane(billet, tellingFace(billet)), most.widthPx / (0.8 * most.heightPx));
  const perMm = Math.min(most.widthPx / plane.widthMm, most.heightPx / plane.heightMm);
  return paint({
    billet,
    plane,
    widthPx: Math.max(2, Math.round(plane.widthMm * perMm)),
    heightPx: Math.max(2, Math.round(plane.heightMm * perMm)),
    palette: makePalette(shop, 'etched', order),
  });
}
