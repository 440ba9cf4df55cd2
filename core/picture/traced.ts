import { z } from 'zod';
import { angleDeg, count, plainNumber, share } from '../units/quantities.ts';
import { blur2 } from 'd3-array';
import { contours } from 'd3-contour';
import { type Point2 } from '../geometry/outline.ts';
import { type Region, type Ring, simplified, tidied, without, withoutSpecks } from '../geometry/regions.ts';
import { type DrawingRead, type DrawnTone, MOST_TONES, refused, settled } from './drawing.ts';

/** A picture as dots: rows from the top, four bytes each. */
export interface Dots {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rgba: Uint8ClampedArray;
}

/** How a picture is turned into outlines. */
export interface Tracing {
  /** Where one tone ends and the next begins, 0 black … 1 white, ascending: one makes two tones, three make four. */
  readonly thresholds: readonly number[];
  /** Blurred by so many dots first. */
  readonly smoothPx: number;
  /** Spots and holes below so many dots in area are dropped. */
  readonly speckPx: number;
  /** Corners that change an outline by less than this are left out, dots. */
  readonly simplifyPx: number;
}

/** How a picture of dots is read, as a maker sets it by eye; the sides are left off by shares. */
export const tracingSchema = z.strictObject({
  tones: count('Tones', 2, MOST_TONES),
  threshold: share('Threshold', 0.05, 0.95),
  smoothPx: plainNumber('Smoothing', 0, 8, 'dots'),
  speckPx: plainNumber('Drop specks below', 0, 800, 'dots'),
  simplifyPx: plainNumber('Simplify', 0.1, 4, 'dots'),
  turnDeg: angleDeg('Turn', -180, 180),
  left: share('Crop, left', 0, 0.45),
  right: share('Crop, right', 0, 0.45),
  top: share('Crop, top', 0, 0.45),
  bottom: share('Crop, bottom', 0, 0.45),
});

/** Dots along the longer side that are traced: larger pictures are made smaller before. */
export const TRACED_PX = 700;

/** How light each dot is on white paper, 0…1 (Rec. 709 luminance). */
function lightness({ widthPx, heightPx, rgba }: Dots): Float64Array {
  const light = new Float64Array(widthPx * heightPx);
  for (let i = 0; i < light.length; i++) {
    const [r, g, b, a] = [rgba[4 * i], rgba[4 * i + 1], rgba[4 * i + 2], rgba[4 * i + 3] / 255];
    light[i] = (a * (0.2126 * r + 0.7152 * g + 0.0722 * b)) / 255 + (1 - a);
  }
  return light;
}

/** Where it is darker than a threshold: marching squares on the blurred dots (d3-contour), y up, dots. */
function darker(light: Float64Array, w: number, h: number, threshold: number): Region {
  // A rim of white closes outlines that run off the picture.
  const [gw, gh] = [w + 2, h + 2];
  const dark = new Array<number>(gw * gh).fill(-1);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) dark[(y + 1) * gw + x + 1] = threshold - light[y * w + x];
  const [{ coordinates }] = contours().size([gw, gh]).thresholds([0])(dark);
  const rings = coordinates.flatMap((polygon) =>
    polygon.map((ring): Ring =>
      ring.slice(0, -1).map(([x, y]): Point2 => [clamp(x - 1, w), h - clamp(y - 1, h)]),
    ),
  );
  return tidied(rings, 'evenodd');
}

const clamp = (v: number, most: number): number => Math.min(most, Math.max(0, v));

/** Outlines of the tones of a picture. The lightest tone is the ground and is not drawn. */
export function traced(dots: Dots, how: Tracing): DrawingRead {
  const { widthPx: w, heightPx: h } = dots;
  if (how.thresholds.length === 0) return refused('At least one threshold is needed.');
  const light = lightness(dots);
  if (how.smoothPx > 0) blur2({ data: light as unknown as number[], width: w, height: h }, how.smoothPx);
  const tones: DrawnTone[] = [];
  let below: Region = [];
  const edges = [0, ...how.thresholds];
  how.thresholds.forEach((threshold, i) => {
    const region = withoutSpecks(
      simplified(withoutSpecks(darker(light, w, h, threshold), how.speckPx), how.simplifyPx),
      how.speckPx,
    );
    const tone = (edges[i] + threshold) / 2;
    const grey = Math.round(255 * tone)
      .toString(16)
      .padStart(2, '0');
    const own = without(region, below);
    if (own.length > 0) tones.push({ tone, colour: `#${grey}${grey}${grey}`, region: own });
    below = region;
  });
  if (tones.length === 0) return refused('Nothing is darker than the threshold: raise it.');
  return settled(tones, [], []);
}
