import { z } from 'zod';
import { FACES } from '../billet/face.ts';
import type { Point2 } from '../geometry/outline.ts';
import { type Region, cornersOf, joined, mappedRegion } from '../geometry/regions.ts';
import {
  MOST_SECTION_MM,
  angleDeg,
  count,
  lengthMm,
  lengthOrNoneMm,
  materialId,
  signedMm,
} from '../units/quantities.ts';
import { MOST_CORNERS } from './drawing.ts';

const coordinate = z.number({ error: 'An outline is made of numbers' }).min(-1000).max(1000);
const regionSchema = z.array(
  z.array(z.tuple([coordinate, coordinate])).min(3, 'An outline has at least three corners'),
);

/** What one powder fills of a picture. */
const fillingSchema = z.strictObject({ powder: materialId('Powder of the picture'), region: regionSchema });

export type Filling = z.infer<typeof fillingSchema>;

/** Where a picture stands: in the can's section, or on a face of the finished bar. mm and degrees. */
export const placingSchema = z.strictObject({
  on: z.enum(['can', ...FACES]),
  x: signedMm('Picture, across', 10_000, { fine: true }),
  y: signedMm('Picture, up', MOST_SECTION_MM, { fine: true }),
  widthMm: lengthMm('Picture, wide', 2000, { fine: true }),
  turnDeg: angleDeg('Picture, turned', -180, 180),
  mirrored: z.boolean(),
  columns: count('Pictures across', 1, 12),
  rows: count('Pictures up', 1, 12),
});

export type Placing = z.infer<typeof placingSchema>;

/** A printed form between powders: its sizes, mm. */
export const formSchema = z.strictObject({
  wallMm: lengthMm('Form wall', 5, { fine: true }),
  lipMm: lengthOrNoneMm('Lip', 20, { fine: true }),
  bridgeMm: lengthOrNoneMm('Bridges', 20, { fine: true }),
  baseMm: lengthOrNoneMm('Base', 20, { fine: true }),
  handle: z.boolean(),
  leftIn: z.boolean(),
  /** Powder narrower than this does not fill. */
  leastMm: lengthMm('Powder, least width', 20, { fine: true }),
});

export type FormSizes = z.infer<typeof formSchema>;

export const FIRST_FORM: FormSizes = {
  wallMm: 0.6,
  lipMm: 3,
  bridgeMm: 3,
  baseMm: 0,
  handle: true,
  leftIn: false,
  leastMm: 2,
};

/**
 * A picture in two to four powders: the can's own, and one for each filling. `drawn` is one unit wide, centred, y up. Where it
 * is placed on the finished face, `walked` is what that comes to in the can's section, mm, kept from when it was walked back.
 */
export const pictureSchema = z
  .strictObject({
    name: z.string().max(120),
    drawn: z.array(fillingSchema).min(1, 'A picture has at least one filling').max(4, 'At most 4 fillings'),
    place: placingSchema,
    walked: z.array(fillingSchema).max(4).nullable(),
    form: formSchema,
  })
  .refine(
    (p) =>
      [...p.drawn, ...(p.walked ?? [])].reduce((sum, f) => sum + cornersOf(f.region), 0) <= 4 * MOST_CORNERS,
    { error: `A picture may have at most ${MOST_CORNERS} corners`, path: ['drawn'] },
  );

export type Picture = z.infer<typeof pictureSchema>;

/** A drawing put in its place: scaled, mirrored, turned, repeated. mm. */
export function placed(drawn: readonly Filling[], place: Placing): Filling[] {
  const { x, y, widthMm, turnDeg, mirrored, columns, rows } = place;
  const [cos, sin] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
  const aspect = aspectOf(drawn);
  const copies: Point2[] = [];
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) copies.push([i - (columns - 1) / 2, (j - (rows - 1) / 2) * aspect]);
  const put =
    (dx: number, dy: number) =>
    ([u, v]: Point2): Point2 => {
      const [px, py] = [((mirrored ? -u : u) + dx) * widthMm, (v + dy) * widthMm];
      return [x + px * cos - py * sin, y + px * sin + py * cos];
    };
  return drawn.map(({ powder, region }) => ({
    powder,
    region: unfrozen(
      copies
        .map(([dx, dy]) => turned(mappedRegion(region, put(dx, dy)), mirrored))
        .reduce((a, b) => joined(a, b)),
    ),
  }));
}

/** A mirrored ring runs the other way: turned back, outer rings stay counter-clockwise. */
const turned = (region: Region, mirrored: boolean): Region =>
  mirrored ? region.map((ring) => [...ring].reverse()) : region;

const unfrozen = (region: Region): Filling['region'] => region.map((ring) => ring.map(([x, y]) => [x, y]));

/** Height over width of a drawing one unit wide. */
export function aspectOf(drawn: readonly Filling[]): number {
  let most = 0;
  for (const { region } of drawn)
    for (const ring of region) for (const [, y] of ring) most = Math.max(most, Math.abs(y));
  return 2 * most;
}

const known = new WeakMap<Picture, Filling[]>();

/** What fills the can's section; nothing while a picture on the finished face was not walked back yet. */
export function fillingsOf(picture: Picture): readonly Filling[] {
  if (picture.place.on !== 'can') return picture.walked ?? [];
  const there = known.get(picture);
  if (there) return there;
  const fresh = placed(picture.drawn, picture.place);
  known.set(picture, fresh);
  return fresh;
}
