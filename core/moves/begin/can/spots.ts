import type { Billet } from '../../../billet/billet.ts';
import type { InsertSpot, StandingBar } from '../../../billet/fields/canned.ts';
import { PowderMap } from '../../../billet/fields/powders.ts';
import { type Can, barsOf, roomOf } from '../../../canister/can.ts';
import {
  type Insert,
  bodyOf,
  bowShare,
  isBall,
  isBent,
  isOffcut,
  isRound,
  isToothed,
  lengthsOf,
  teethOn,
} from '../../../canister/inserts.ts';
import { standingBar } from '../../../canister/standing.ts';
import { allPlaced, layOut } from '../../../canister/layout.ts';
import { type LyingOffcut, offcutsAt } from '../../../canister/offcuts.ts';
import { seeded } from '../../../canister/packing.ts';
import { isRectangle, outlineSize, rectangle } from '../../../geometry/outline.ts';
import { without } from '../../../geometry/regions.ts';
import { fillingsOf } from '../../../picture/picture.ts';
import { type Shop, materialCode } from '../../../shop/shop.ts';

const UNCHANGED = [1, 1, 1] as const;

/** The bar that an offcut was sawn off, anywhere along it: the same place each time. */
function sawnOff(
  { field, outline, lengthMm }: Billet,
  { turn }: LyingOffcut,
  insert: Insert,
  nth: number,
): StandingBar {
  const { widthMm, heightMm } = outlineSize(outline);
  const random = seeded(7919 * (nth + 1) + Math.round(100 * insert.sizeMm));
  const r = Math.min(insert.sizeMm, lengthMm) / 2;
  return {
    field,
    widthMm,
    heightMm,
    lengthMm,
    ...(!isRectangle(outline) && { outline }),
    lump: { turn, atMm: r + random() * (lengthMm - 2 * r) },
  };
}

/** The spots of the field: one a ball, one each length of a long insert. */
export function spotsOf(p: Can, bars: readonly Billet[], shop: Shop): InsertSpot[] {
  const room = roomOf(p);
  const met = new Map<Insert, number>();
  const taken = new Map(barsOf(p, bars).map((own, i) => [p.inserts[i], own]));
  const offcuts = new Map(
    layOut(p.inserts, room).flatMap((middles, i) => {
      const insert = p.inserts[i];
      return isOffcut(insert) ? [[insert, offcutsAt(middles, insert.sizeMm, room)] as const] : [];
    }),
  );
  return allPlaced(p.inserts, room).flatMap(({ insert, x, y, z, ...half }): InsertSpot[] => {
    const nth = met.get(insert) ?? 0;
    met.set(insert, nth + 1);
    const own = taken.get(insert) ?? [];
    const bar = own.length > 0 ? own[nth % own.length] : undefined;
    const offcut = offcuts.get(insert)?.[nth];
    const standing = bar && (offcut ? sawnOff(bar, offcut, insert, nth) : standingBar(bar, room.depthMm));
    const { halfX, halfY } = offcut
      ? { halfX: offcut.farthestMm, halfY: offcut.farthestMm }
      : standing
        ? { halfX: standing.widthMm / 2, halfY: standing.heightMm / 2 }
        : half;
    const base = {
      x,
      y,
      halfX,
      halfY,
      round: isRound(insert),
      ball: isBall(insert),
      code: standing ? 0 : materialCode(shop, insert.material),
      ...(standing && { bar: standing }),
      ...(offcut && { facets: offcut.facets }),
    };
    if (isBall(insert)) return [{ ...base, z: z + p.capMm }];
    if (isBent(insert)) {
      const wire = { body: bodyOf(insert, room, 0)!, scale: UNCHANGED, fromMm: 0 };
      const [halfAcross, halfUp] = [room.widthMm / 2, room.heightMm / 2];
      return [{ ...base, z: z + p.capMm, halfX: halfAcross, halfY: halfUp, halfZ: insert.sizeMm / 2, wire }];
    }
    const bowed = bowShare(insert) * (nth % 2 === 0 ? 1 : -1);
    return lengthsOf(insert, room.depthMm).map(({ middle, half }): InsertSpot => {
      const body = bodyOf(insert, room, 2 * half);
      const { count, share } = teethOn(insert, 2 * half);
      const teeth = { share, fromMm: p.capMm + middle - half, perMm: count / (2 * half) };
      return {
        ...base,
        ...(bowed !== 0 && { bowed }),
        ...(bowed !== 0 &&
          insert.bowed === 'along' && {
            bowedAlong: { fromMm: p.capMm + middle - half, perMm: 1 / (2 * half) },
          }),
        ...(isToothed(insert) && { teeth }),
        z: p.capMm + middle,
        ...((body || half < room.depthMm / 2 - 1e-9) && { halfZ: half }),
        ...(body && { wire: { body, scale: UNCHANGED, fromMm: half } }),
      };
    });
  });
}

/** Which powder lies where, and the wall of a room that is not square; nothing where one powder fills a box. */
export function powdersOf(p: Can, shop: Shop): PowderMap | undefined {
  const room = roomOf(p);
  const fillings = p.picture ? fillingsOf(p.picture) : [];
  if (fillings.length === 0 && !room.outline) return undefined;
  const [w, h] = [room.widthMm / 2, room.heightMm / 2];
  const beyond = room.outline
    ? [{ code: materialCode(shop, p.wall), region: without([rectangle(3 * w, 3 * h)], [room.outline]) }]
    : [];
  return new PowderMap(
    [...fillings.map(({ powder, region }) => ({ code: materialCode(shop, powder), region })), ...beyond],
    materialCode(shop, p.powder),
    w,
    h,
  );
}
