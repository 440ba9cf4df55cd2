import { z } from 'zod';
import { type Billet, sizeOf } from '../../../billet/billet.ts';
import { SAME_PLACE } from '../../../billet/fields/field.ts';
import { CannedField, type Stretch } from '../../../billet/fields/canned.ts';
import { centred, walled } from '../../../canister/can.ts';
import {
  type PressedCan,
  type CanPressing,
  type CanPressingInPasses,
  flatStops,
  isFlat,
  passesTo,
  solidCan,
} from '../../../canister/consolidate.ts';
import { reachFor } from '../../../canister/flattened.ts';
import { standingBar } from '../../../canister/standing.ts';
import { outlineArea, rectangle } from '../../../geometry/outline.ts';
import { totalVolume } from '../../../materials/volumes.ts';
import { choice, heats, lengthMm, lengthOrNoneMm, weldingHeat } from '../../../units/quantities.ts';

/** End to end first, then the sides in small passes, at welding heat. mm, °C. */
export const consolidateParameters = z.strictObject({
  endMm: lengthOrNoneMm('First, end to end', 500, { fine: true }),
  sides: choice('Then pressed', {
    'two ways': 'on all four sides in turn',
    'one way': 'on top and bottom only',
  }),
  passMm: lengthMm('At most a pass', 30, { fine: true }),
  /** By volumes alone, or by the flow of the section between the dies. */
  reckoned: choice('The powder closes', {
    'by volumes': 'by volumes alone',
    'by flow': 'as the section flows',
  }).default('by volumes'),
  temperatureC: weldingHeat,
  heats,
});

export type ConsolidateParameters = z.infer<typeof consolidateParameters>;
/** A loose can as it stands before the press. */
export function pressedCan(bar: Billet): PressedCan {
  const { widthMm, heightMm } = sizeOf(bar);
  const { parts, wallMm, inside } = bar.can!.loose!;
  const section = inside ? outlineArea(inside) : 4 * parts.halfWidthMm * parts.halfHeightMm;
  const room = section * (parts.toMm - parts.fromMm);
  return {
    widthMm,
    heightMm,
    lengthMm: bar.lengthMm,
    wallMm,
    capMm: parts.fromMm,
    fillFactor: 1 - bar.can!.poresMm3 / room,
    inside,
  };
}

/** How many passes come of it, about, without listing them. */
export function passCount(bar: Billet, p: CanPressingInPasses): number {
  const before = pressedCan(bar);
  const solid = solidCan(before, p);
  const sides = Math.max(0, before.heightMm - solid.heightMm) + Math.max(0, before.widthMm - solid.widthMm);
  return (sides + (isFlat(before) ? before.lengthMm - solid.lengthMm : 0)) / p.passMm;
}

export const passesOf = (bar: Billet, p: CanPressingInPasses) => {
  const before = pressedCan(bar);
  const solid = solidCan(before, p);
  return {
    before,
    solid,
    passes: passesTo(before, solid, p.sides, p.passMm),
    flatMm: flatStops(before, solid, p.passMm),
  };
};

/** A wire that is pressed together is thicker than it was, and met so much further out. */
const WIRE_ROOM = 1.2;

/**
 * The same steel pressed `share` (0…1) of the way to solid: middles of inserts move with the room, inserts keep their size,
 * powder closes round them. Anything that knows better how the section flows takes the place of this one function.
 */
export function pressedTo(bar: Billet, p: CanPressing, share: number): Billet {
  const before = pressedCan(bar);
  const { parts, insertMm3 } = bar.can!.loose!;
  const solid = solidCan(before, p, share);
  const along = solid.depthMm / (parts.toMm - parts.fromMm);
  // A rod pressed end to end grows thicker by what it loses in length.
  const swell = Math.sqrt(1 / along);
  const moved = ({ fromMm, perMm }: Stretch): Stretch => ({
    fromMm: solid.capMm + (fromMm - parts.fromMm) * along,
    perMm: perMm / along,
  });
  const cans = new Map((bar.can!.loose!.cans ?? []).map(({ spot, can }) => [spot, can]));
  const spots = parts.spots.map((s, i) => ({
    ...s,
    x: s.x * solid.scaleX,
    y: s.y * solid.scaleY,
    z: solid.capMm + (s.z - parts.fromMm) * along,
    ...(!s.ball && { halfX: s.halfX * swell, halfY: s.halfY * swell }),
    ...(s.halfZ !== undefined && { halfZ: s.halfZ * along }),
    ...(s.teeth && { teeth: { ...s.teeth, ...moved(s.teeth) } }),
    ...(s.bowedAlong && { bowedAlong: moved(s.bowedAlong) }),
    ...(s.wire && {
      halfX: s.halfX * solid.scaleX * WIRE_ROOM,
      halfY: s.halfY * solid.scaleY * WIRE_ROOM,
      wire: { ...s.wire, scale: [solid.scaleX, solid.scaleY, along] as const },
    }),
    ...(cans.has(i) && pressedWithin(cans.get(i)!, solid.depthMm, p.sides, share)),
  }));
  const [halfX, halfY] = [solid.insideWidthMm / 2, solid.insideHeightMm / 2];
  const room = (solid.inside ? outlineArea(solid.inside) : 4 * halfX * halfY) * solid.depthMm;
  const [from, to] = [solid.capMm, solid.capMm + solid.depthMm];
  const reach = reachFor(spots, halfX, halfY, from, to, insertMm3 / (4 * halfX * halfY * solid.depthMm));
  const outside = solid.inside
    ? centred(walled(solid.inside, solid.wallXMm))
    : { outline: rectangle(solid.widthMm, solid.heightMm), tx: 0, ty: 0 };
  const poresMm3 = share < 1 ? Math.max(0, room * (1 - share) * emptiness(before, share)) : 0;
  return {
    ...bar,
    outline: outside.outline,
    lengthMm: (totalVolume(bar.volumes) + poresMm3) / outlineArea(outside.outline),
    field: new CannedField(
      {
        ...parts,
        halfWidthMm: halfX,
        halfHeightMm: halfY,
        fromMm: from,
        toMm: to,
        spots,
        reach,
        scaleX: solid.scaleX,
        scaleY: solid.scaleY,
      },
      { ...SAME_PLACE, tx: outside.tx, ty: outside.ty },
    ),
    loose: share < 1,
    jacket: bar.jacket && { ...bar.jacket, sideMm: solid.wallXMm, topMm: solid.wallYMm },
    can: { poresMm3, capAMm: solid.capMm, capBMm: solid.capMm, loose: null },
  };
}

/** A can that stands in another is pressed with it: as much of its own emptiness is closed, and it grows as short. */
function pressedWithin(can: Billet, depthMm: number, sides: CanPressing['sides'], share: number) {
  const endMm = Math.max(0, can.lengthMm - depthMm);
  const pressed = pressedTo(can, { endMm, sides }, share);
  const bar = standingBar(pressed, pressed.lengthMm);
  // Where its own powder does not close as far along, the section takes what is left.
  const fit = Math.sqrt(pressed.lengthMm / depthMm);
  return { bar, halfX: (fit * bar.widthMm) / 2, halfY: (fit * bar.heightMm) / 2 };
}

/** Emptiness that is left, per closed share, of the room as it then is. */
const emptiness = ({ fillFactor }: PressedCan, share: number): number =>
  (1 - fillFactor) / (1 - share * (1 - fillFactor));
