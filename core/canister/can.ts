import { z } from 'zod';
import { type Volumes, addVolumes, massKg } from '../materials/volumes.ts';
import { MOST_SECTION_MM, lengthMm, lengthOrNoneMm, materialId } from '../steps/fields.ts';
import type { Material } from '../materials/material.ts';
import { insertSchema, insertVolume, placesOf } from './inserts.ts';
import type { Room } from './packing.ts';

const share = (label: string, low: number, high: number) =>
  z
    .number({ error: `${label} must be a number` })
    .min(low, `${label} must be at least ${low}`)
    .max(high, `${label} may be at most ${high}`);

/** A box of plate, what stands in it and the powder round that. Outer sizes, mm. */
export const canSchema = z.strictObject({
  widthMm: lengthMm('Can width', MOST_SECTION_MM),
  heightMm: lengthMm('Can height', MOST_SECTION_MM),
  lengthMm: lengthMm('Can length', 2000),
  wall: materialId('Can'),
  wallMm: lengthMm('Wall', 20),
  capMm: lengthMm('Cap', 50),
  release: z.enum(['none', 'white coating', 'foil']),
  vent: z.enum(['far end', 'handle end', 'none']),
  ventMm: lengthOrNoneMm('Vent', 10),
  powder: materialId('Powder'),
  /** Share of solid that the tapped powder fills. */
  tapDensity: share('Tap density', 0.3, 0.75),
  /** More powder made ready than fits, for the lid and what is spilt. */
  spill: share('Spill', 0, 0.3),
  inserts: z.array(insertSchema).max(12, 'A can takes at most 12 kinds of insert'),
});

export type Can = z.infer<typeof canSchema>;

/** The room inside, mm; nothing may be negative. */
export const roomOf = (can: Can): Required<Room> => ({
  widthMm: Math.max(0, can.widthMm - 2 * can.wallMm),
  heightMm: Math.max(0, can.heightMm - 2 * can.wallMm),
  depthMm: Math.max(0, can.lengthMm - 2 * can.capMm),
});

/** What a can holds, by volume mm³ (of solid, and with its pores) and by weight kg. */
export interface Fill {
  readonly roomMm3: number;
  readonly wallMm3: number;
  readonly inserts: readonly { readonly count: number; readonly mm3: number; readonly kg: number }[];
  /** Solid steel in the powder, and the pores between its grains. */
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

/** φ and the weights: inserts of true volume, powder at tap density in all the room that is left (handbook, canister). */
export function fillOf(can: Can, materials: readonly Material[]): Fill {
  const room = roomOf(can);
  const roomMm3 = room.widthMm * room.heightMm * room.depthMm;
  const wallMm3 = can.widthMm * can.heightMm * can.lengthMm - roomMm3;
  const inserts = can.inserts.map((insert) => {
    const count = placesOf(insert, room).length;
    const mm3 = count * insertVolume(insert, room.depthMm);
    return { count, mm3, kg: massKg({ [insert.material]: mm3 }, materials) };
  });
  const insertMm3 = inserts.reduce((sum, i) => sum + i.mm3, 0);
  const left = Math.max(0, roomMm3 - insertMm3);
  const powderMm3 = left * can.tapDensity;
  const powderKg = massKg({ [can.powder]: powderMm3 }, materials);
  const volumes = addVolumes(
    { [can.wall]: wallMm3 },
    { [can.powder]: powderMm3 },
    ...can.inserts.map((insert, i) => ({ [insert.material]: inserts[i].mm3 })),
  );
  return {
    roomMm3,
    wallMm3,
    inserts,
    powderMm3,
    poresMm3: left - powderMm3,
    powderKg,
    powderReadyKg: powderKg * (1 + can.spill),
    fillFactor: roomMm3 > 0 ? (insertMm3 + powderMm3) / roomMm3 : 0,
    volumes,
    fullKg: massKg(volumes, materials),
  };
}
