import { type Point2 } from '../geometry/outline.ts';
import { type Region, boxOf, cornersOf, mappedRegion, withoutSpecks } from '../geometry/regions.ts';

/** One tone of a drawing: where it is, y up. Tones do not overlap. */
export interface DrawnTone {
  /** 0 black … 1 white. */
  readonly tone: number;
  /** As the drawing names it, for the eye: #rrggbb. */
  readonly colour: string;
  readonly region: Region;
}

/** Outlines read from a file: one unit wide, centred, y up. */
export interface Drawing {
  readonly tones: readonly DrawnTone[];
  /** Height over width. */
  readonly aspect: number;
  /** Where outlines crossed themselves, the first `MOST_MENDED` of them, and were mended, in the same units. */
  readonly mended: readonly Point2[];
  /** What was left out, said to the maker. */
  readonly notes: readonly string[];
}

export type DrawingRead = { ok: true; drawing: Drawing } | { ok: false; message: string };

export const refused = (message: string): DrawingRead => ({ ok: false, message });

/** Corners in all outlines at most: enough for a very fine picture, little enough to stay quick. */
export const MOST_CORNERS = 20_000;

/** Places where outlines crossed themselves, kept at most. */
export const MOST_MENDED = 20;

/** Tones at most: a ground and three powders besides. */
export const MOST_TONES = 4;

/** Sets tones to unit width about their middle, keeping mended places with them. Refused where there is nothing, or too much. */
export function settled(
  tones: readonly DrawnTone[],
  mended: readonly Point2[],
  notes: readonly string[],
): DrawingRead {
  const box = boxOf(tones.flatMap((t) => [...t.region]));
  if (!box || !(box.maxX > box.minX && box.maxY > box.minY))
    return refused('There is no filled shape in this drawing.');
  const width = box.maxX - box.minX;
  const [cx, cy] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const place = ([x, y]: Point2): Point2 => [(x - cx) / width, (y - cy) / width];
  // What cannot be seen at any size only costs time.
  const least = 1e-7;
  const set = tones
    .map((t) => ({ ...t, region: withoutSpecks(mappedRegion(t.region, place), least) }))
    .filter((t) => t.region.length > 0);
  const corners = set.reduce((sum, t) => sum + cornersOf(t.region), 0);
  if (corners > MOST_CORNERS)
    return refused(
      `The outlines have ${corners} corners; at most ${MOST_CORNERS} are taken. Simplify the drawing first.`,
    );
  return {
    ok: true,
    drawing: { tones: set, aspect: (box.maxY - box.minY) / width, mended: mended.map(place), notes },
  };
}
