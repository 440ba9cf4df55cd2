import { PNG } from 'pngjs';
import type { Billet } from '../../core/billet/billet.ts';
import { shortFace, tellingFace } from '../../core/billet/face.ts';
import { paint } from '../../core/render/paint.ts';
import { makePalette } from '../../core/render/palette.ts';
import type { Shop } from '../../core/shop/shop.ts';

export interface FacePicture {
  readonly png: Buffer;
  /** As printed, mm. */
  readonly wideMm: number;
  readonly highMm: number;
  /** 1 where it is printed in true size. */
  readonly scale: number;
  readonly face: string;
}

/** Wider faces are shown in part, this many times as wide as high. */
const MOST_ASPECT = 3;
/** Of the printed picture: what a desk printer shows of a grey picture. */
const PX_PER_MM = 6;
const PER_PIXEL = 3;

/** The telling face of a billet as it is etched, its steels in the order of the plan, as on the screen; in true size where it fits into so much room, else made smaller. mm. */
export function facePng(
  billet: Billet,
  shop: Shop,
  order: readonly string[],
  mostWideMm: number,
  mostHighMm: number,
): FacePicture {
  const face = tellingFace(billet);
  const plane = shortFace(billet, face, MOST_ASPECT);
  const scale = Math.min(1, mostWideMm / plane.widthMm, mostHighMm / plane.heightMm);
  const [wideMm, highMm] = [plane.widthMm * scale, plane.heightMm * scale];
  const widthPx = Math.max(1, Math.round(wideMm * PX_PER_MM));
  const heightPx = Math.max(1, Math.round(highMm * PX_PER_MM));
  const palette = makePalette(shop, 'etched', order);
  const { rgba } = paint({ billet, plane, widthPx, heightPx, palette, perPixel: PER_PIXEL });
  const picture = new PNG({ width: widthPx, height: heightPx });
  picture.data = Buffer.from(rgba);
  // Without an alpha channel, on white: paper has none, and a PDF would keep it apart at some cost.
  const bgColor = { red: 255, green: 255, blue: 255 };
  return { png: PNG.sync.write(picture, { colorType: 2, bgColor }), wideMm, highMm, scale, face };
}
