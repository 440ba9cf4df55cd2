import { type Billet, pieceName } from '../../../billet/billet.ts';
import { type Can, barsOf, fillOf, outsideOf, roomOf, withBars } from '../../../canister/can.ts';
import {
  type Insert,
  bodyOf,
  bowShare,
  isBall,
  isFlat,
  isLump,
  isToothed,
  isWire,
  lengthsOf,
  teethOn,
  thicknessOf,
} from '../../../canister/inserts.ts';
import { allPlaced } from '../../../canister/layout.ts';
import { isLooseCan } from '../../../canister/standing.ts';
import { wireLength } from '../../../geometry/bodies.ts';
import { outlineSize } from '../../../geometry/outline.ts';
import type { CanAction } from '../../../instruct/canAction.ts';
import { materialById } from '../../../materials/material.ts';
import type { Shop } from '../../../shop/shop.ts';

/** mm. Powder is tapped down in lifts of about this height (common practice, no source). */
const LIFT_MM = 30;

export const liftsOf = (p: Can): number => Math.max(2, Math.ceil(roomOf(p).depthMm / LIFT_MM));

/** mm. A bar that is longer than the room by less goes in as it is. */
export const LONGER_MM = 0.05;

/** How inserts of a kind are set in: where they lie, or by number and weight where they fall. */
function insertDoes(
  insert: Insert,
  { count, kg }: { count: number; kg: number },
  p: Can,
  bars: readonly Billet[],
  shop: Shop,
): CanAction {
  const material = nameOf(insert.material, shop);
  const sizesMm = isFlat(insert) ? [insert.sizeMm, thicknessOf(insert)] : [insert.sizeMm];
  const what = insert.shape;
  if (isBall(insert))
    return {
      do: 'strew in',
      what,
      material,
      sizesMm,
      count: isLump(insert) ? null : count,
      poured: pouredHow(insert, p),
      kg,
      ...(bars.length > 0 && { from: bars.map(pieceName) }),
    };
  const room = roomOf(p);
  const lengths = lengthsOf(insert, room.depthMm);
  const placed = allPlaced(p.inserts, room).filter((q) => q.insert === insert);
  if (what === 'bent rod')
    return {
      do: 'bend in',
      material,
      thickMm: insert.sizeMm,
      longMm: wireLength(bodyOf(insert, room, 0)!),
      middlesMm: placed.map(({ z }) => z),
      kg,
    };
  if (insert.shape === 'bar')
    return {
      do: 'stand in',
      longMm: room.depthMm,
      kg,
      bars: placed.slice(0, bars.length).map(({ x, y }, i) => {
        const { outline, lengthMm } = bars[i];
        const { widthMm, heightMm } = outlineSize(outline);
        return {
          name: pieceName(bars[i]),
          sizeMm: [widthMm, heightMm],
          middleMm: [x + room.widthMm / 2, y + room.heightMm / 2],
          isCut: lengthMm > room.depthMm + LONGER_MM,
          isCan: isLooseCan(bars[i]),
        };
      }),
    };
  return {
    do: 'set in',
    what,
    material,
    sizesMm,
    ...(isWire(insert) && {
      wire: { thickMm: insert.wireMm!, pitchMm: insert.pitchMm!, strands: insert.strands ?? 1 },
    }),
    ...(bowShare(insert) > 0 && { bowMm: insert.bowMm!, bowed: insert.bowed ?? 'across' }),
    ...(isToothed(insert) && {
      teeth: { deepMm: insert.toothMm!, count: teethOn(insert, 2 * lengths[0].half).count },
    }),
    middlesMm: placed.map(({ x, y }) => [x + room.widthMm / 2, y + room.heightMm / 2]),
    lengths:
      2 * lengths[0].half < room.depthMm
        ? { count: lengths.length, eachMm: 2 * lengths[0].half, gapMm: insert.gapMm ?? 0 }
        : null,
    kg,
  };
}

/** How balls that lie as they fell were poured. */
function pouredHow(insert: Insert, p: Can): { lifts: number; withOthers: boolean } | null {
  const { poured } = insert;
  if (poured === undefined || insert.lay !== 'placed') return null;
  const alike = p.inserts.filter((i) => i.lay === 'placed' && i.poured === poured);
  return { lifts: Math.max(1, poured), withOthers: poured > 0 && alike.length > 1 };
}

const nameOf = (id: string, shop: Shop): string => materialById(shop.materials, id)?.name ?? id;

/** What is done to make a can, in order: built, what is set, stood and strewn in, filled, weighed, capped. `bars`: the pieces of other lanes that it takes. */
export function canDoes(bars: readonly Billet[], given: Can, shop: Shop): CanAction[] {
  const p = withBars(given, bars);
  const fill = fillOf(p, shop.materials, bars);
  const taken = barsOf(p, bars);
  const { widthMm, heightMm } = outlineSize(outsideOf(p).outline);
  const form = fill.powders.length > 1 ? p.picture?.form : undefined;
  return [
    {
      do: 'build can',
      shape: p.shape,
      material: nameOf(p.wall, shop),
      wallMm: p.wallMm,
      outsideMm: [widthMm, heightMm],
      longMm: p.lengthMm,
      capMm: p.capMm,
      release: p.release,
      handle: p.handle,
    },
    ...p.inserts.map((insert, k) => insertDoes(insert, fill.inserts[k], p, taken[k], shop)),
    ...(form ? [{ do: 'set form', wallMm: form.wallMm, leftIn: form.leftIn } as const] : []),
    ...fill.powders
      .filter(({ kg }) => kg > 0)
      .map(
        ({ powder, kg }) =>
          ({ do: 'powder', material: nameOf(powder, shop), kg, readyKg: kg * (1 + p.spill) }) as const,
      ),
    {
      do: 'fill',
      lifts: liftsOf(p),
      liftMm: roomOf(p).depthMm / liftsOf(p),
      how: p.filling,
      drawUp: form !== undefined && !form.leftIn,
    },
    { do: 'weigh can', fullKg: fill.fullKg },
    { do: 'cap', pinhole: p.vent === 'none' ? null : { mm: p.ventMm, where: p.vent } },
  ];
}
