import type { Billet } from '../billet/billet.ts';
import { facePlane } from '../billet/face.ts';
import { isRectangle } from '../geometry/outline.ts';
import { upright } from '../moves/forge/lean.ts';
import type { Shop } from '../shop/shop.ts';
import { SIDE } from '../sighting/fitted.ts';
import type { Prediction } from '../sighting/sighting.ts';
import { tonesFrom } from '../sighting/tones.ts';
import { paint } from './paint.ts';
import { makePalette } from './palette.ts';

/** Whether its section has four sides, two and two alike: others cannot be laid out square. */
export const isFourSided = (bar: Billet): boolean =>
  bar.outline.length === 4 && isRectangle(upright(bar).outline);

/** What is foreseen of a bar's end B, as a photograph is read against it: laid out square, also where the bar leans. */
export function predictionOf(billet: Billet, shop: Shop, order: readonly string[]): Prediction {
  const straight = upright(billet);
  const plane = facePlane(straight, 'end B');
  const palette = makePalette(shop, 'etched', order);
  const { rgba } = paint({ billet: straight, plane, widthPx: SIDE, heightPx: SIDE, palette });
  return { tones: tonesFrom(rgba, SIDE), widthMm: plane.widthMm, heightMm: plane.heightMm };
}
