import { PNG } from 'pngjs';
import type { Billet } from '../../core/billet/billet.ts';
import { facePlane, middleOf, tellingFace } from '../../core/billet/face.ts';
import { paint } from '../../core/render/paint.ts';
import { makePalette } from '../../core/render/palette.ts';
import type { Shop } from '../../core/shop/shop.ts';

export interface FacePicture {
  readonly png: Buffer;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly face: string;
}

/** Wider faces are shown in part, this many times as wide as high. */
const MOST_ASPECT = 3;

/** The telling face of a billet as it is etched, `perMm` pixels to the millimetre. */
export function facePng(billet: Billet, shop: Shop, perMm: number): FacePicture {
  const face = tellingFace(billet);
  const plane = middleOf(facePlane(billet, face), MOST_ASPECT);
  const widthPx = Math.max(1, Math.round(plane.widthMm * perMm));
  const heightPx = Math.max(1, Math.round(plane.heightMm * perMm));
  const palette = makePalette(shop, 'etched', Object.keys(billet.volumes));
  const { rgba } = paint({ billet, plane, widthPx, heightPx, palette });
  const png = new PNG({ width: widthPx, height: heightPx });
  png.data = Buffer.from(rgba);
  // Without an alpha channel, on white: paper has none, and a PDF would keep it apart at some cost.
  const background = { red: 255, green: 255, blue: 255 };
  return {
    png: PNG.sync.write(png, { colorType: 2, bgColor: background }),
    widthMm: plane.widthMm,
    heightMm: plane.heightMm,
    face,
  };
}
