import { type Billet, sizeOf } from '../billet/billet.ts';
import { facePlane, partOf, sectionPlane } from '../billet/face.ts';
import { isRectangle } from '../geometry/outline.ts';
import { FACE_INSET_MM } from '../geometry/tolerances.ts';
import { upright } from '../moves/forge/lean.ts';
import { LOOKED_INTO } from '../records/record.ts';
import type { Shop } from '../shop/shop.ts';
import { type FaceForeseen, WIDE, reachMm } from '../sighting/along.ts';
import { SIDE } from '../sighting/fitted.ts';
import type { Foreseen, Prediction } from '../sighting/sighting.ts';
import { tonesFrom } from '../sighting/tones.ts';
import { paint } from './paint.ts';
import { makePalette } from './palette.ts';

/** Whether its section has four sides, two and two alike: others cannot be laid out square. */
export const isFourSided = (bar: Billet): boolean =>
  bar.outline.length === 4 && isRectangle(upright(bar).outline);

/** Shares of the length at which a bar is looked into lie at least so far inside its ends, mm. */
const INSIDE_MM = FACE_INSET_MM;

/** What is foreseen of a bar's section at a share of its length, seen on end B, as a photograph is read against it: laid out square, also where the bar leans. */
export function predictionOf(billet: Billet, shop: Shop, order: readonly string[], share = 1): Prediction {
  const straight = upright(billet);
  const { lengthMm } = straight;
  const plane = sectionPlane(straight, Math.max(INSIDE_MM, Math.min(lengthMm - INSIDE_MM, share * lengthMm)));
  const palette = makePalette(shop, 'etched', order);
  const { rgba } = paint({ billet: straight, plane, widthPx: SIDE, heightPx: SIDE, palette });
  return { tones: tonesFrom(rgba, SIDE), widthMm: plane.widthMm, heightMm: plane.heightMm };
}

/** What is foreseen of both ends, or of the middle as it is seen from either. One and the same where nothing changes along the bar. */
export function foreseenOf(
  billet: Billet,
  shop: Shop,
  order: readonly string[],
  where: 'ends' | 'middle' = 'ends',
): Foreseen {
  const at = (share: number) => predictionOf(billet, shop, order, share);
  const { endA, middle, endB } = LOOKED_INTO;
  const B = at(where === 'middle' ? middle : endB);
  return { A: where === 'middle' || !billet.field.variesAlongZ ? B : at(endA), B };
}

/** The upper face of a flat bar as it is foreseen, from so far before a stretch to so far behind it, as a photograph is read against it. mm */
export function faceForeseen(
  bar: Billet,
  shop: Shop,
  order: readonly string[],
  fromMm: number,
  toMm: number,
): FaceForeseen {
  const plane = facePlane(bar, 'top');
  const reach = reachMm(toMm - fromMm);
  const [from, to] = [Math.max(0, fromMm - reach), Math.min(bar.lengthMm, toMm + reach)];
  const perMm = WIDE / plane.heightMm;
  const long = Math.max(1, Math.round((to - from) * perMm));
  const palette = makePalette(shop, 'etched', order);
  const part = partOf(plane, from, 0, long / perMm, plane.heightMm);
  const { rgba } = paint({ billet: bar, plane: part, widthPx: long, heightPx: WIDE, palette });
  const data = Float32Array.from({ length: long * WIDE }, (_, k) => rgba[4 * k] / 255);
  return { strip: { long, wide: WIDE, data }, fromMm: from, perMm };
}

/** A photograph shows a face well for so many times its width. */
const WELL = 6;

/** How much of a bar's upper face one photograph shows well, from end A on. mm */
export const stretchOf = (bar: Billet): number => Math.min(bar.lengthMm, WELL * sizeOf(bar).widthMm);

/** A stretch of the upper face of a flat bar as the simulated camera takes it. mm */
export function faceShown(
  bar: Billet,
  shop: Shop,
  order: readonly string[],
  fromMm: number,
  toMm: number,
): Prediction {
  const plane = facePlane(bar, 'top');
  const part = partOf(plane, fromMm, 0, toMm - fromMm, plane.heightMm);
  const palette = makePalette(shop, 'etched', order);
  const { rgba } = paint({ billet: bar, plane: part, widthPx: SIDE, heightPx: SIDE, palette });
  return { tones: tonesFrom(rgba, SIDE), widthMm: toMm - fromMm, heightMm: plane.heightMm };
}
