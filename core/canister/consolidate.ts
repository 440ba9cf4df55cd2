import { type Outline, outlineArea, outlineSize, scaleOutline } from '../geometry/outline.ts';
import { walled } from './can.ts';

/** A can before it is pressed: outer and inner sizes, and the share of the room that is steel. mm. */
export interface PressedCan {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly lengthMm: number;
  readonly wallMm: number;
  readonly capMm: number;
  readonly fillFactor: number;
  /** Where the room is not square or flat: its outline. */
  readonly inside?: Outline | undefined;
}

/** How it is pressed: first so much end to end, then on the sides. */
export interface CanPressing {
  readonly endMm: number;
  readonly sides: 'two ways' | 'one way';
}

/** The same with so much taken in each pass. */
export interface CanPressingInPasses extends CanPressing {
  readonly passMm: number;
}

/** A solid can: outer and inner sizes, wall and cap as they became, and by how much the picture shrank. mm. */
export interface SolidCan {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly lengthMm: number;
  readonly insideWidthMm: number;
  readonly insideHeightMm: number;
  readonly depthMm: number;
  readonly wallXMm: number;
  readonly wallYMm: number;
  readonly capMm: number;
  /** The picture's scale across and up. */
  readonly scaleX: number;
  readonly scaleY: number;
  readonly inside?: Outline | undefined;
}

/** Most that can be taken end to end: all the room's emptiness and no more. mm. */
export const mostEndMm = ({ lengthMm, capMm, fillFactor }: PressedCan): number =>
  (lengthMm - 2 * capMm) * (1 - fillFactor);

/**
 * A can pressed solid, by volumes alone (handbook, canister): what the first press end to end does not take out of the length
 * comes out of the section; pressed both ways the picture scales by the root of it, one way by all of it. Wall and caps keep
 * their volume; the wall stays of one thickness all round. `share` (0…1) is how far on the way: of the emptiness so much is
 * closed, the length first.
 */
export function solidCan(can: PressedCan, pressing: CanPressing, share = 1): SolidCan {
  const [w, h] = [can.widthMm - 2 * can.wallMm, can.heightMm - 2 * can.wallMm];
  const depth = can.lengthMm - 2 * can.capMm;
  const closed = share * (1 - can.fillFactor);
  const depthMm = depth - Math.min(pressing.endMm, mostEndMm(can), depth * closed);
  const area = ((1 - closed) * depth) / depthMm;
  const [scaleX, scaleY] = pressing.sides === 'two ways' ? [Math.sqrt(area), Math.sqrt(area)] : [1, area];
  const lengthened = depth / depthMm;
  const outside = can.inside ? outlineArea(walled(can.inside, can.wallMm)) : can.widthMm * can.heightMm;
  const section = can.inside
    ? freeSection(
        scaleOutline(can.inside, scaleX, scaleY),
        (outside - outlineArea(can.inside)) * lengthened,
        can.wallMm,
      )
    : boxSection(w * scaleX, h * scaleY, (outside - w * h) * lengthened);
  const capMm = (can.capMm * outside) / section.outsideMm2;
  return {
    ...section,
    lengthMm: depthMm + 2 * capMm,
    depthMm,
    wallXMm: section.wallMm,
    wallYMm: section.wallMm,
    capMm,
    scaleX,
    scaleY,
  };
}

interface Section {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly insideWidthMm: number;
  readonly insideHeightMm: number;
  readonly wallMm: number;
  readonly outsideMm2: number;
  readonly inside?: Outline;
}

/** (w + 2a)(h + 2a) = wh + wall: the thickness a all round that holds the wall's area. */
function boxSection(insideWidthMm: number, insideHeightMm: number, wallMm2: number): Section {
  const half = insideWidthMm + insideHeightMm;
  const wallMm = (-half + Math.sqrt(half * half + 4 * wallMm2)) / 4;
  const [widthMm, heightMm] = [insideWidthMm + 2 * wallMm, insideHeightMm + 2 * wallMm];
  return { widthMm, heightMm, insideWidthMm, insideHeightMm, wallMm, outsideMm2: widthMm * heightMm };
}

/** The same round any outline, by halving. */
function freeSection(inside: Outline, wallMm2: number, firstMm: number): Section {
  const own = outlineArea(inside);
  let [low, high] = [0, 4 * firstMm];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (outlineArea(walled(inside, middle)) - own < wallMm2) low = middle;
    else high = middle;
  }
  const outside = walled(inside, low);
  const [{ widthMm, heightMm }, room] = [outlineSize(outside), outlineSize(inside)];
  return {
    widthMm,
    heightMm,
    insideWidthMm: room.widthMm,
    insideHeightMm: room.heightMm,
    wallMm: low,
    outsideMm2: outlineArea(outside),
    inside,
  };
}

/** One pass of the press: which side is down, and the stop block's height. mm. */
export interface CanPass {
  readonly side: 'width' | 'height';
  readonly stopMm: number;
}

/** Passes of at most so much each, the sides in turn, down to the solid size. */
export function passesTo(
  can: PressedCan,
  solid: SolidCan,
  sides: CanPressing['sides'],
  passMm: number,
): CanPass[] {
  const passes: CanPass[] = [];
  const now = { width: can.widthMm, height: can.heightMm };
  const goal = { width: solid.widthMm, height: solid.heightMm };
  const most = Math.ceil(Math.max(can.widthMm, can.heightMm) / passMm) * 2 + 2;
  const order: CanPass['side'][] = sides === 'two ways' ? ['height', 'width'] : ['height'];
  for (let i = 0; i < most && order.some((s) => now[s] > goal[s] + 1e-6); i++) {
    const side = order[i % order.length];
    if (now[side] <= goal[side] + 1e-6) continue;
    now[side] = Math.max(goal[side], now[side] - passMm);
    passes.push({ side, stopMm: now[side] });
  }
  return passes;
}

/** Length over the least thickness. */
export const slenderness = ({ lengthMm, widthMm, heightMm }: PressedCan): number =>
  lengthMm / Math.min(widthMm, heightMm);

/** Shorter than this many times its least thickness a can's caps are its broad sides (common practice, no source). */
const FLAT = 0.5;
export const isFlat = (can: PressedCan): boolean => slenderness(can) < FLAT;

/** Stops from cap to cap of a flat can that is pressed so alone, in even passes of at most so much; none of any other. mm */
export function flatStops(can: PressedCan, solid: SolidCan, passMm: number): number[] {
  const [from, to] = [can.lengthMm, solid.lengthMm];
  if (!isFlat(can) || solid.widthMm < can.widthMm - 1e-6) return [];
  const passes = Math.max(1, Math.ceil((from - to) / passMm - 1e-9));
  return Array.from({ length: passes }, (_, i) => from + ((to - from) * (i + 1)) / passes);
}
