import type { Billet } from '../billet/billet.ts';
import { facePlane } from '../billet/face.ts';
import type { Shop } from '../shop/shop.ts';
import { SIDE } from '../sighting/fitted.ts';
import type { Prediction } from '../sighting/sighting.ts';
import { tonesFrom } from '../sighting/tones.ts';
import { paint } from './paint.ts';
import { makePalette } from './palette.ts';

/** Whether its section has four sides: others cannot be laid out square. */
export const isFourSided = ({ outline }: Billet): boolean => outline.length === 4;

/** What is foreseen of a bar's end B, as a photograph is read against it. */
export function predictionOf(billet: Billet, shop: Shop, order: readonly string[]): Prediction {
  const plane = facePlane(billet, 'end B');
  const palette = makePalette(shop, 'etched', order);
  const { rgba } = paint({ billet, plane, widthPx: SIDE, heightPx: SIDE, palette });
  return { tones: tonesFrom(rgba, SIDE), widthMm: plane.widthMm, heightMm: plane.heightMm };
}
