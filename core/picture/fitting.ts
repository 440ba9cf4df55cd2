import type { Point2 } from '../geometry/outline.ts';
import {
  type Region,
  boxOf,
  common,
  grown,
  islandsOf,
  joined,
  regionArea,
  without,
  withoutSpecks,
} from '../geometry/regions.ts';
import { type Filling, type Picture, type Placing, aspectOf } from './picture.ts';

/** Share of the room that a picture is fitted into: powder all round it. */
const FITS = 0.84;

/** Where a picture stands in the middle of a room and fits it. */
export function fitted(
  { drawn, place }: Pick<Picture, 'drawn' | 'place'>,
  room: { widthMm: number; heightMm: number },
): Placing {
  const turn = (place.turnDeg * Math.PI) / 180;
  const [w, h] = [place.columns, place.rows * aspectOf(drawn)];
  const across = Math.abs(w * Math.cos(turn)) + Math.abs(h * Math.sin(turn));
  const up = Math.abs(w * Math.sin(turn)) + Math.abs(h * Math.cos(turn));
  const widthMm = FITS * Math.min(room.widthMm / across, room.heightMm / up);
  return { ...place, x: 0, y: 0, widthMm: Math.round(widthMm * 100) / 100 };
}

/** A part of a picture too thin to be filled (or seen): where its middle is, and what it covers. mm */
export interface ThinPlace {
  /** The powder; null of the ground. */
  readonly powder: string | null;
  readonly at: Point2;
  readonly areaMm2: number;
  readonly region: Region;
}

/** Of the square of half the least width: what an opening takes off a plain corner is less, and no thin place. */
const MORE_THAN_A_CORNER = 0.8;

/** Of the least width: arcs need be no finer to tell what is thin. */
const COARSE = 1 / 40;

const opened = (region: Region, leastMm: number): Region =>
  grown(grown(region, -leastMm / 2, 'round', leastMm * COARSE), leastMm / 2, 'round', leastMm * COARSE);

/** What of a region a disc of the least width cannot reach, corners aside. */
function thinOf(region: Region, powder: string | null, leastMm: number): ThinPlace[] {
  const least = MORE_THAN_A_CORNER * (leastMm / 2) ** 2;
  // Slivers along every curve, which the opening's straight pieces leave, are no thin places.
  const left = withoutSpecks(without(region, opened(region, leastMm)), least / 4);
  return islandsOf(left)
    .map((part) => ({ part, areaMm2: regionArea(part) }))
    .filter(({ areaMm2 }) => areaMm2 > least)
    .map(({ part, areaMm2 }) => {
      const box = boxOf(part)!;
      return { powder, areaMm2, region: part, at: [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2] };
    });
}

/** What the powders leave of a section to the ground. */
const groundOf = (fillings: readonly Filling[], outline: Region): Region =>
  fillings.reduce((left, f) => without(left, f.region), outline);

const found = new WeakMap<readonly Filling[], Map<string, ThinPlace[]>>();

/** Where a powder, or the ground between, is thinner than `leastMm` within an outline. */
export function thinPlaces(fillings: readonly Filling[], outline: Region, leastMm: number): ThinPlace[] {
  const key = JSON.stringify([leastMm, outline]);
  const known = found.get(fillings)?.get(key);
  if (known) return known;
  const places = [
    ...fillings.flatMap(({ powder, region }) => thinOf(common(region, outline), powder, leastMm)),
    ...thinOf(groundOf(fillings, outline), null, leastMm),
  ];
  found.set(fillings, new Map(found.get(fillings)).set(key, places));
  return places;
}

const plain = (region: Region): Filling['region'] =>
  region.map((ring) => ring.map(([x, y]): [number, number] => [x, y]));

/** Thin places of the powders made as wide as the least; neighbours give way. */
export function thickened(fillings: readonly Filling[], leastMm: number): Filling[] {
  const wide = fillings.map(({ powder, region }) => {
    const thin = thinOf(region, powder, leastMm).reduce<Region>((all, t) => joined(all, t.region), []);
    // What is thin is grown by half the least all round: at worst it becomes a little wider than it must.
    return thin.length > 0 ? joined(region, grown(thin, leastMm / 2)) : region;
  });
  return fillings.map(({ powder }, i) => ({
    powder,
    region: plain(wide.reduce((left, other, k) => (k > i ? without(left, other) : left), wide[i])),
  }));
}

/** Thin places of the powders left out, islands thinner than the least with them. */
export const droppedThin = (fillings: readonly Filling[], leastMm: number): Filling[] =>
  fillings
    .map(({ powder, region }) => ({
      powder,
      region: plain(
        thinOf(region, powder, leastMm).reduce<Region>(
          (left, t) => without(left, grown(t.region, 1e-3)),
          region,
        ),
      ),
    }))
    .filter(({ region }) => region.length > 0);
