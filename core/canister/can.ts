import { z } from 'zod';
import type { Billet } from '../billet/billet.ts';
import { PowderMap } from '../billet/fields/powders.ts';
import { scattered } from '../billet/scatter.ts';
import {
  type Outline,
  boundingBox,
  moveOutline,
  outlineArea,
  outlineSize,
  rectangle,
  regularPolygon,
  scaleOutline,
} from '../geometry/outline.ts';
import { common, grown, regionArea, without } from '../geometry/regions.ts';
import { ROUND_SIDES } from '../geometry/tolerances.ts';
import { type Volumes, addVolumes, massKg, scaleVolumes, totalVolume } from '../materials/volumes.ts';
import { fillingsOf, pictureSchema } from '../picture/picture.ts';
import {
  MOST_SECTION_MM,
  choice,
  lengthMm,
  lengthOrNoneMm,
  materialId,
  share,
  weightKg,
} from '../units/quantities.ts';
import type { Material } from '../materials/material.ts';
import {
  type Insert,
  type RoomWithPicture,
  insertSchema,
  insertVolume,
  isBall,
  isOfLanes,
  isRound,
  halfSizes,
} from './inserts.ts';
import { layOut } from './layout.ts';

const corner = z.number({ error: 'An outline is made of numbers' }).min(-10).max(10);

/** A box of plate, what stands in it and the powder round that. Outer sizes, mm. */
/** How powder is made to settle. */
export const FILLINGS = {
  tapped: 'tapped down',
  shaken: 'shaken by a machine',
  poured: 'poured in alone',
} as const;
export type Filling = keyof typeof FILLINGS;

/** The share of solid that powder fills then (handbook, canister: poured 50–55 %, vibrated 60–65 %; tapped by hand: common practice, no source). */
export const USUAL_TAP: Readonly<Record<Filling, number>> = { tapped: 0.62, shaken: 0.63, poured: 0.53 };

export const canSchema = z.strictObject({
  /** Plates, a round tube (as wide as it is said), or plate and square rod bent round a drawn shape. */
  shape: choice('Can made as', {
    box: 'a box of plate',
    tube: 'a round tube',
    free: 'plate bent round an outline',
  }).default('box'),
  /** The inside of a free one: one unit wide, centred, counter-clockwise. */
  outline: z
    .array(z.tuple([corner, corner]))
    .min(3)
    .max(2000)
    .optional(),
  widthMm: lengthMm('Can width', MOST_SECTION_MM),
  heightMm: lengthMm('Can height', MOST_SECTION_MM),
  lengthMm: lengthMm('Can length', 2000),
  wall: materialId('Can of'),
  wallMm: lengthMm('Wall', 20, { fine: true }),
  capMm: lengthMm('Caps', 50, { fine: true }),
  release: choice('Release', { none: 'none', 'white coating': 'white coating', foil: 'stainless foil' }),
  vent: choice('Vent', { 'far end': 'far end', 'handle end': 'handle end', none: 'none' }),
  ventMm: lengthOrNoneMm('Vent, wide', 10, { fine: true }),
  powder: materialId('Powder'),
  /** Share of solid that the tapped powder fills. */
  tapDensity: share('Tap density', 0.3, 0.75),
  filling: choice('Filled', FILLINGS).default('tapped'),
  /** More powder made ready than fits, for the lid and what is spilt. */
  spill: share('For lid and spill', 0, 0.3),
  /** Powder that is on the shelf, kg by material, where it was said. */
  readyKg: z.record(z.string().max(40), weightKg('Powder on the shelf', 0, 1000)).optional(),
  /** What it is held by: a stub welded to the near end, or a bar of the shop's handles. */
  handle: choice('Held by', { stub: 'a stub', bar: 'a handle bar', none: 'tongs alone' }).default('stub'),
  picture: pictureSchema.optional(),
  inserts: z.array(insertSchema).max(12, 'A can takes at most 12 kinds of insert'),
});

export type Can = z.infer<typeof canSchema>;

/** The outline of the room, centred; null of a box, whose room is square or flat. */
function insideOutline(can: Can): Outline | null {
  if (can.shape === 'box') return null;
  const inside = Math.max(0, can.widthMm - 2 * can.wallMm);
  if (can.shape === 'tube') return regularPolygon(ROUND_SIDES, (Math.PI * inside ** 2) / 4);
  return scaleOutline(can.outline ?? rectangle(1, 1), inside, inside);
}

/** What has been worked out about a can's room, kept as long as the can is. */
const rooms = new WeakMap<Can, RoomWithPicture>();

/** The room inside, mm; nothing may be negative. */
export function roomOf(can: Can): RoomWithPicture {
  const known = rooms.get(can);
  if (known) return known;
  const outline = insideOutline(can);
  const box = outline && boundingBox(outline);
  const lines = can.picture
    ? fillingsOf(can.picture).flatMap(({ region }) => region as Outline[])
    : undefined;
  const room: RoomWithPicture = {
    widthMm: box ? box.maxX - box.minX : Math.max(0, can.widthMm - 2 * can.wallMm),
    heightMm: box ? box.maxY - box.minY : Math.max(0, can.heightMm - 2 * can.wallMm),
    depthMm: Math.max(0, can.lengthMm - 2 * can.capMm),
    ...(outline && { outline }),
    ...(lines && { lines }),
  };
  rooms.set(can, room);
  return room;
}

/** The outside of a wall of some thickness round an inside. */
export function walled(inside: Outline, wallMm: number): Outline {
  const [outside] = grown([inside], wallMm, 'sharp');
  return outside as Outline;
}

/** The can's section from outside, centred, and where its middle lies in the room's own coordinates. */
export function outsideOf(can: Can): { outline: Outline; tx: number; ty: number } {
  const { outline } = roomOf(can);
  return outline
    ? centred(walled(outline, can.wallMm))
    : { outline: rectangle(can.widthMm, can.heightMm), tx: 0, ty: 0 };
}

/** An outline moved to the axis, and from where. */
export function centred(outline: Outline): { outline: Outline; tx: number; ty: number } {
  const box = boundingBox(outline);
  const [tx, ty] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  return { outline: moveOutline(outline, -tx, -ty), tx, ty };
}

const roomArea = (room: RoomWithPicture): number =>
  room.outline ? outlineArea(room.outline) : room.widthMm * room.heightMm;

/** Of the pieces of other lanes that a can takes, those of each kind of insert. */
export function barsOf({ inserts }: Can, pieces: readonly Billet[]): (readonly Billet[])[] {
  let next = 0;
  return inserts.map((insert) =>
    isOfLanes(insert) ? pieces.slice(next, (next += insert.pieces?.length ?? 0)) : [],
  );
}

/** Bars of other lanes take their sizes from what those lanes give: the room that the largest needs, and how much of that is steel. */
export function withBars(can: Can, pieces: readonly Billet[]): Can {
  const taken = barsOf(can, pieces);
  let changed = false;
  const inserts = can.inserts.map((insert, i) => {
    const bars = taken[i];
    if (insert.shape !== 'bar' || bars.length === 0) return insert;
    const sizes = bars.map(({ outline }) => outlineSize(outline));
    const [sizeMm, thicknessMm] = [
      Math.max(...sizes.map((s) => s.widthMm)),
      Math.max(...sizes.map((s) => s.heightMm)),
    ];
    const count = insert.pieces!.length;
    const steel = bars.reduce((sum, { outline }) => sum + outlineArea(outline), 0);
    const fills = Math.min(1, steel / (bars.length * sizeMm * thicknessMm));
    if (
      insert.sizeMm === sizeMm &&
      insert.thicknessMm === thicknessMm &&
      insert.count === count &&
      (insert.fills ?? 1) === fills
    )
      return insert;
    changed = true;
    return { ...insert, sizeMm, thicknessMm, count, fills };
  });
  return changed ? { ...can, inserts } : can;
}

/** One powder of a can: how much of the section it fills, and how much of the room beside the inserts. */
export interface PowderShare {
  readonly powder: string;
  /** Of the section as drawn, inserts not taken off, mm². */
  readonly areaMm2: number;
  readonly mm3: number;
}

/** Points of an insert's section that are asked which powder it stands in. */
const STANDS_IN = 48;

/** How the room beside the inserts is shared among the powders: areas exactly, what inserts displace by points. */
function powderShares(can: Can): PowderShare[] {
  const known = shares.get(can);
  if (known) return known;
  const fresh = reckonShares(can);
  shares.set(can, fresh);
  return fresh;
}

const shares = new WeakMap<Can, PowderShare[]>();

function reckonShares(can: Can): PowderShare[] {
  const room = roomOf(can);
  const whole = roomArea(room);
  const outline = [room.outline ?? rectangle(room.widthMm, room.heightMm)];
  const fillings = can.picture ? fillingsOf(can.picture) : [];
  const names = [...new Set([can.powder, ...fillings.map((f) => f.powder)])];
  const areas = new Map(names.map((name) => [name, 0]));
  // Later fillings lie over earlier ones.
  fillings.forEach(({ powder, region }, i) => {
    const seen = fillings
      .slice(i + 1)
      .reduce((left, later) => without(left, later.region), common(region, outline));
    areas.set(powder, areas.get(powder)! + regionArea(seen));
  });
  const drawn = [...areas.values()].reduce((a, b) => a + b, 0);
  areas.set(can.powder, areas.get(can.powder)! + Math.max(0, whole - drawn));
  const displaced = new Map(names.map((name) => [name, 0]));
  const map = new PowderMap(
    fillings.map(({ powder, region }) => ({ code: names.indexOf(powder), region })),
    names.indexOf(can.powder),
    room.widthMm / 2,
    room.heightMm / 2,
  );
  const places = layOut(can.inserts, room);
  for (const [i, insert] of can.inserts.entries()) {
    const [a, b] = halfSizes(insert);
    const each = insertVolume(insert, room);
    for (const { x, y } of places[i]) {
      if (names.length === 1) {
        displaced.set(can.powder, displaced.get(can.powder)! + each);
        continue;
      }
      for (let k = 0; k < STANDS_IN; k++) {
        const [u, v] = inSection(insert, k);
        const name = names[map.codeAt(x + u * a, y + v * b)];
        displaced.set(name, displaced.get(name)! + each / STANDS_IN);
      }
    }
  }
  return names.map((powder) => ({
    powder,
    areaMm2: areas.get(powder)!,
    mm3: Math.max(0, areas.get(powder)! * room.depthMm - displaced.get(powder)!),
  }));
}

/** Points spread over an insert's own section, −1…1; a ball has less of its steel near its rim. */
function inSection(insert: Insert, k: number): [number, number] {
  if (!isRound(insert)) return [2 * scattered(k, 0) - 1, 2 * scattered(k, 1) - 1];
  const inner = (k + 0.5) / STANDS_IN;
  // Of a disc the root of the share lies within; of a ball seen along its axis 1 − (1 − r²)^(3/2).
  const r = isBall(insert) ? Math.sqrt(1 - (1 - inner) ** (2 / 3)) : Math.sqrt(inner);
  const turn = k * Math.PI * (3 - Math.sqrt(5));
  return [r * Math.cos(turn), r * Math.sin(turn)];
}

/** What a can holds, by volume mm³ (of solid, and with its pores) and by weight kg. */
export interface CanFill {
  readonly roomMm3: number;
  readonly wallMm3: number;
  readonly inserts: readonly {
    readonly count: number;
    readonly mm3: number;
    readonly volumes: Volumes;
    readonly kg: number;
    /** Of cans that stand in it: the pores in their own powder. */
    readonly poresMm3: number;
  }[];
  /** Powder by powder: its part of the section, its solid steel, its weight. */
  readonly powders: readonly {
    readonly powder: string;
    readonly areaMm2: number;
    readonly solidMm3: number;
    readonly kg: number;
  }[];
  /** Solid steel in the powder, and the pores between its grains and in cans that stand in it. */
  readonly powderMm3: number;
  readonly poresMm3: number;
  readonly powderKg: number;
  /** With what is spilt. */
  readonly powderReadyKg: number;
  /** Share of the room that is steel, φ. */
  readonly fillFactor: number;
  readonly volumes: Volumes;
  readonly fullKg: number;
}

/** φ and the weights: inserts of true volume, powder at tap density in all the room that is left (handbook, canister). `bars` are the pieces of other lanes that stand in it. */
export function fillOf(can: Can, materials: readonly Material[], bars: readonly Billet[] = []): CanFill {
  const room = roomOf(can);
  const roomMm3 = roomArea(room) * room.depthMm;
  const wallMm3 = outlineArea(outsideOf(can).outline) * can.lengthMm - roomMm3;
  const taken = barsOf(can, bars);
  const places = layOut(can.inserts, room);
  const inserts = can.inserts.map((insert, i) => {
    const count = places[i].length;
    const mm3 = count * insertVolume(insert, room);
    // Bars go in as long as the room is deep; offcuts are of all their pieces.
    const made = addVolumes(
      ...taken[i]
        .slice(0, insert.shape === 'bar' ? count : undefined)
        .map((bar) => scaleVolumes(bar.volumes, insert.shape === 'bar' ? 1 / bar.lengthMm : 1)),
    );
    const poresMm3 =
      insert.shape === 'bar'
        ? taken[i]
            .slice(0, count)
            .reduce((sum, bar) => sum + ((bar.can?.poresMm3 ?? 0) * room.depthMm) / bar.lengthMm, 0)
        : 0;
    const volumes = isOfLanes(insert)
      ? totalVolume(made) > 0
        ? scaleVolumes(made, (mm3 - poresMm3) / totalVolume(made))
        : {}
      : { [insert.material]: mm3 };
    return { count, mm3, volumes, kg: massKg(volumes, materials), poresMm3 };
  });
  const insertMm3 = inserts.reduce((sum, i) => sum + i.mm3, 0);
  const left = Math.max(0, roomMm3 - insertMm3);
  const parts = powderShares(can);
  const shared = parts.reduce((sum, s) => sum + s.mm3, 0);
  const powders = parts.map(({ powder, areaMm2, mm3 }) => {
    const solidMm3 = shared > 0 ? (left * can.tapDensity * mm3) / shared : 0;
    return { powder, areaMm2, solidMm3, kg: massKg({ [powder]: solidMm3 }, materials) };
  });
  const powderMm3 = left * can.tapDensity;
  const poresMm3 = left - powderMm3 + inserts.reduce((sum, i) => sum + i.poresMm3, 0);
  const powderKg = powders.reduce((sum, p) => sum + p.kg, 0);
  const volumes = addVolumes(
    { [can.wall]: wallMm3 },
    ...powders.map(({ powder, solidMm3 }) => ({ [powder]: solidMm3 })),
    ...inserts.map((i) => i.volumes),
  );
  return {
    roomMm3,
    wallMm3,
    inserts,
    powders,
    powderMm3,
    poresMm3,
    powderKg,
    powderReadyKg: powderKg * (1 + can.spill),
    fillFactor: roomMm3 > 0 ? 1 - poresMm3 / roomMm3 : 0,
    volumes,
    fullKg: massKg(volumes, materials),
  };
}
