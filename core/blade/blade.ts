import { z } from 'zod';
import { choice, lengthMm, lengthOrNoneMm, signedMm } from '../units/quantities.ts';

/** How far an outline may reach past its own length and height, as shares of them. */
export const OUTLINE_SPAN = [-0.5, 1.5] as const;
const along = z.number().min(OUTLINE_SPAN[0]).max(OUTLINE_SPAN[1]);
const point = z.tuple([along, along]);

/** A blade to be cut from the finished bar. Lengths mm. */
export const bladeSchema = z.strictObject({
  name: z.string().min(1, 'The outline needs a name').max(80),
  /** Outline of the blade, closed: heel to tip 0…1 along, edge to spine 0…1 across, without the tang. */
  outline: z
    .array(point)
    .min(3, 'An outline needs at least three points')
    .max(200, 'An outline may hold at most 200 points'),
  lengthMm: lengthMm('Blade length', 2000),
  heightMm: lengthMm('Blade height', 500),
  tangLengthMm: lengthOrNoneMm('Tang length', 1000),
  tangHeightMm: lengthMm('Tang height', 500),
  spineMm: lengthMm('Thick at the heel', 50, { fine: true }),
  tipMm: lengthMm('Thick at the tip', 50, { fine: true }),
  edgeMm: lengthOrNoneMm('Thick at the edge', 20, { fine: true }),
  bevel: choice('Bevel', {
    full: 'Full, flat to the spine',
    flat: 'Flat, part of the way up',
    convex: 'Convex',
  }),
  /** How far the bevel reaches up from the edge; a full bevel goes to the spine. */
  bevelMm: lengthMm('Bevel height', 500),
  edges: z.union([z.literal(1), z.literal(2)]),
  /** Where the heel stands along the bar, from end A, and how far the blade is moved across. */
  heelMm: lengthOrNoneMm('Heel from end A', 10_000),
  acrossMm: signedMm('Moved across'),
});

export type Blade = z.infer<typeof bladeSchema>;

/** Of a blade what is seen from its side. */
export type BladeShape = Pick<
  Blade,
  'outline' | 'lengthMm' | 'heightMm' | 'tangLengthMm' | 'tangHeightMm' | 'edges'
>;
type Point = readonly [number, number];

/** Points of a cubic Bézier, its first point left out. */
function bezier(a: Point, b: Point, c: Point, d: Point, steps = 9): [number, number][] {
  return Array.from({ length: steps }, (_, i) => {
    const t = (i + 1) / steps;
    const s = 1 - t;
    const at = (k: 0 | 1) => s ** 3 * a[k] + 3 * s * s * t * b[k] + 3 * s * t * t * c[k] + t ** 3 * d[k];
    return [at(0), at(1)];
  });
}

export interface Profile {
  readonly name: string;
  readonly outline: [number, number][];
  readonly edges: 1 | 2;
  /** Blade height over its length. */
  readonly aspect: number;
}

/** Outlines to begin from: heel to tip 0…1, edge 0 to spine 1. */
export const PROFILES: readonly Profile[] = [
  {
    name: 'Long kitchen',
    aspect: 0.19,
    edges: 1,
    outline: [
      [0, 1],
      [0, 0.04],
      ...bezier([0, 0.04], [0.25, 0], [0.55, -0.01], [0.74, 0.07], 8),
      ...bezier([0.74, 0.07], [0.87, 0.13], [0.95, 0.33], [1, 0.62], 8),
      ...bezier([1, 0.62], [0.9, 0.86], [0.7, 0.97], [0.4, 1], 6),
    ],
  },
  {
    name: 'Short hunter',
    aspect: 0.27,
    edges: 1,
    outline: [
      [0, 0.92],
      [0, 0.06],
      ...bezier([0, 0.06], [0.2, -0.02], [0.5, -0.02], [0.7, 0.1], 7),
      ...bezier([0.7, 0.1], [0.87, 0.22], [0.96, 0.5], [1, 0.86], 7),
      ...bezier([1, 0.86], [0.8, 1.02], [0.5, 1.02], [0.25, 0.94], 6),
    ],
  },
  {
    name: 'Wide chopper',
    aspect: 0.36,
    edges: 1,
    outline: [
      [0, 1],
      [0, 0.02],
      ...bezier([0, 0.02], [0.35, -0.02], [0.7, 0], [0.9, 0.07], 8),
      ...bezier([0.9, 0.07], [0.97, 0.11], [1, 0.2], [1, 0.34], 5),
      ...bezier([1, 0.34], [0.99, 0.65], [0.94, 0.9], [0.8, 1], 5),
    ],
  },
  {
    name: 'Dagger',
    aspect: 0.16,
    edges: 2,
    outline: [
      [0, 0.97],
      [0, 0.03],
      ...bezier([0, 0.03], [0.3, 0.04], [0.62, 0.14], [1, 0.5], 9),
      ...bezier([1, 0.5], [0.62, 0.86], [0.3, 0.96], [0, 0.97], 9).slice(0, -1),
    ],
  },
];

/** A blade of a profile that suits a bar of this size. Sizes mm. */
export function bladeFrom(
  profile: Profile,
  barLengthMm: number,
  barWidthMm: number,
  barThicknessMm: number,
): Blade {
  const tangLengthMm = Math.round(Math.min(110, 0.28 * barLengthMm));
  const room = Math.max(20, barLengthMm - tangLengthMm - 6);
  const lengthMm = Math.round(Math.min(room, (0.92 * barWidthMm) / profile.aspect));
  const heightMm = Math.round(Math.min(0.95 * barWidthMm, lengthMm * profile.aspect * 1.4));
  return {
    name: profile.name,
    outline: profile.outline.map(([u, v]) => [u, v]),
    lengthMm,
    heightMm,
    tangLengthMm,
    tangHeightMm: Math.max(6, Math.round(heightMm * 0.35)),
    spineMm: Math.max(1, Math.round((barThicknessMm - 0.6) * 10) / 10),
    tipMm: Math.max(0.8, Math.round(barThicknessMm * 4) / 10),
    edgeMm: 0.3,
    bevel: 'full',
    bevelMm: Math.round(heightMm * 0.6),
    edges: profile.edges,
    heelMm: tangLengthMm + 3,
    acrossMm: 0,
  };
}

/** What a maker asks of a blade before there is any bar. mm. */
/** A blade so high for its length is made to chop; and how thick its edge must then be before it is sharpened, mm (common practice, no source). */
export const CHOPS = { aspect: 0.3, edgeMm: 0.7 } as const;

export const isForChopping = ({
  heightMm,
  lengthMm,
  edges,
}: Pick<Blade, 'heightMm' | 'lengthMm' | 'edges'>): boolean =>
  edges === 1 && heightMm / lengthMm >= CHOPS.aspect;

export interface BladeWish {
  readonly lengthMm: number;
  readonly widestMm: number;
  readonly spineMm: number;
  readonly tangLengthMm: number;
}

/** mm. Left past both ends, past edge and spine, and on each side, to be ground away (common practice, no source). */
export const ROUND_BLADE_MM = { ends: 3, widths: 1, sides: 0.5 } as const;

/** The blade wished for, and the finished bar that it is cut from. */
export function bladeWished(
  profile: Profile,
  { lengthMm, widestMm, spineMm, tangLengthMm }: BladeWish,
): { blade: Blade; bar: { lengthMm: number; widthMm: number; thicknessMm: number } } {
  const { ends, widths, sides } = ROUND_BLADE_MM;
  const bar = {
    lengthMm: lengthMm + tangLengthMm + 2 * ends,
    widthMm: widestMm + 2 * widths,
    thicknessMm: spineMm + 2 * sides,
  };
  const blade: Blade = {
    ...bladeFrom(profile, bar.lengthMm, bar.widthMm, bar.thicknessMm),
    lengthMm,
    heightMm: widestMm,
    tangLengthMm,
    tangHeightMm: Math.max(6, Math.round(widestMm * 0.35)),
    spineMm,
    bevelMm: Math.round(widestMm * 0.6),
    heelMm: tangLengthMm + ends,
  };
  const edgeMm = isForChopping(blade) ? Math.max(blade.edgeMm, CHOPS.edgeMm) : blade.edgeMm;
  return { blade: { ...blade, edgeMm }, bar };
}
