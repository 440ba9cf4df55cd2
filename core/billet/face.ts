import { FACE_INSET_MM } from '../geometry/tolerances.ts';
import { contains } from '../geometry/outline.ts';
import type { Forged } from '../geometry/maps/forged.ts';
import { type Billet, sizeOf } from './billet.ts';

/** `lengthwise` and `level`: cut upright and level along the bar, the second seen from above. */
export const FACES = [
  'end B',
  'middle',
  'end A',
  'top',
  'bottom',
  'left',
  'right',
  'lengthwise',
  'level',
] as const;
export type FaceName = (typeof FACES)[number];

type Vector = readonly [number, number, number];

/** A flat window into a billet, seen from outside: `origin` is its lower left corner, `across` and `up` its unit directions. mm. */
export interface Plane {
  readonly origin: Vector;
  readonly across: Vector;
  readonly up: Vector;
  readonly widthMm: number;
  readonly heightMm: number;
  /** A surface over the window: how far above it (outward) the steel is asked at (0…1, 0…1), mm; null where there is none. */
  readonly surface?: (across: number, up: number) => number | null;
}

const X: Vector = [1, 0, 0];
const Y: Vector = [0, 1, 0];
const Z: Vector = [0, 0, 1];
const back = ([x, y, z]: Vector): Vector => [-x, -y, -z];

/**
 * A face as it is seen from outside the bar, or the section in the middle of it, across or lengthwise. End B shows the section as it is, end A mirrored left–right; the top and the
 * left side lie with end A to the left, the bottom too; the right side has end B to the left. `share` (0…1): where a cut lies, from
 * end A, the left or the bottom.
 */
export function facePlane(billet: Billet, face: FaceName, share = 0.5): Plane {
  const flat = flatPlane(billet, face, share);
  return billet.blank ? { ...flat, ...onBlank(billet, billet.blank.forged, face, flat) } : flat;
}

/** The long sides of a blank lie where its outline and its thickness put them. */
function onBlank(billet: Billet, forged: Forged, face: FaceName, flat: Plane): Pick<Plane, 'surface'> {
  const { lengthMm } = billet;
  const [x0, y0] = flat.origin;
  switch (face) {
    case 'top':
    case 'bottom':
      return {
        surface: (s, t) => {
          const thick = forged.thicknessAt(x0 + flat.up[0] * t * flat.heightMm, s * lengthMm);
          return thick > 0 ? thick / 2 - FACE_INSET_MM - Math.abs(y0) : null;
        },
      };
    case 'left':
      return { surface: (s) => x0 - FACE_INSET_MM - forged.sectionAt(s * lengthMm).lo };
    case 'right':
      return { surface: (s) => forged.sectionAt((1 - s) * lengthMm).hi - FACE_INSET_MM - x0 };
    default:
      return {};
  }
}

function flatPlane(billet: Billet, face: FaceName, share: number): Plane {
  const { widthMm: w, heightMm: h } = sizeOf(billet);
  const l = billet.lengthMm;
  const in_ = FACE_INSET_MM;
  switch (face) {
    case 'end B':
      return { origin: [-w / 2, -h / 2, l - in_], across: X, up: Y, widthMm: w, heightMm: h };
    case 'middle':
      return sectionPlane(billet, l * share);
    case 'end A':
      return { origin: [w / 2, -h / 2, in_], across: back(X), up: Y, widthMm: w, heightMm: h };
    case 'top':
      return { origin: [-w / 2, h / 2 - in_, 0], across: Z, up: X, widthMm: l, heightMm: w };
    case 'bottom':
      return { origin: [w / 2, -h / 2 + in_, 0], across: Z, up: back(X), widthMm: l, heightMm: w };
    case 'left':
      return { origin: [-w / 2 + in_, -h / 2, 0], across: Z, up: Y, widthMm: l, heightMm: h };
    case 'lengthwise':
      return { origin: [w * (share - 0.5), -h / 2, 0], across: Z, up: Y, widthMm: l, heightMm: h };
    case 'level':
      return { origin: [-w / 2, h * (share - 0.5), 0], across: Z, up: X, widthMm: l, heightMm: w };
    case 'right':
      return { origin: [w / 2 - in_, -h / 2, l], across: back(Z), up: Y, widthMm: l, heightMm: h };
  }
}

/** Part of a plane: so much of it from a corner `left`, `low` of its own, mm. */
export function partOf(plane: Plane, left: number, low: number, widthMm: number, heightMm: number): Plane {
  const [ox, oy, oz] = plane.origin;
  const [ax, ay, az] = plane.across;
  const [ux, uy, uz] = plane.up;
  const origin: Vector = [ox + ax * left + ux * low, oy + ay * left + uy * low, oz + az * left + uz * low];
  const { surface } = plane;
  return {
    ...plane,
    origin,
    widthMm,
    heightMm,
    ...(surface && {
      surface: (s: number, t: number) =>
        surface((left + s * widthMm) / plane.widthMm, (low + t * heightMm) / plane.heightMm),
    }),
  };
}

/** A part of a long plane as high as the whole and `aspect` times as wide, a share (0…1) of the way from one end to the other. */
export function closeUpOf(plane: Plane, at: number, aspect: number): Plane {
  const widthMm = Math.min(plane.widthMm, aspect * plane.heightMm);
  return partOf(plane, at * (plane.widthMm - widthMm), 0, widthMm, plane.heightMm);
}

/** A face for small pictures of long bars, no wider than `aspect` times its height: its middle, of a blank its tip. */
export const shortFace = (billet: Billet, face: FaceName, aspect: number, share?: number): Plane =>
  closeUpOf(facePlane(billet, face, share), billet.blank ? 1 : 0.5, aspect);

/** The face that tells most: the broad side where the picture runs along a flat bar, the end grain otherwise and under a jacket, inside a can the section. */
export function tellingFace(billet: Billet): FaceName {
  if (billet.can) return 'middle';
  if (billet.blank) return 'top';
  const { widthMm, heightMm } = sizeOf(billet);
  return billet.field.variesAlongZ && !billet.jacket && widthMm > 1.2 * heightMm ? 'top' : 'end B';
}

/** The section at a station along the bar, seen as from end B. */
export function sectionPlane(billet: Billet, stationMm: number): Plane {
  const { widthMm: w, heightMm: h } = sizeOf(billet);
  return { origin: [-w / 2, -h / 2, stationMm], across: X, up: Y, widthMm: w, heightMm: h };
}

/** Whether a point is steel of this billet at all. */
export const holds = (billet: Billet, x: number, y: number, z: number): boolean =>
  z >= 0 &&
  z <= billet.lengthMm &&
  contains(billet.outline, x, y) &&
  (billet.blank?.forged.holds(x, y, z) ?? true);
