import { type AxisMap, type Field, type Points, SAME_PLACE, afterMap, makePoints } from './field.ts';
import { type Body, bodyGauge, signedDistance } from '../../geometry/bodies.ts';
import { type Facets, type Turn, facetsGauge } from '../../geometry/offcut.ts';
import { type Outline, isSeenFromAxis, outlineSize } from '../../geometry/outline.ts';
import { SpotIndex } from './spotIndex.ts';
import type { PowderMap } from './powders.ts';
import { askSources, borrowTray, returnTray } from './tray.ts';

/** A bar of another lane that stands in the can: its field, and its sizes as it was made. mm. */
export interface StandingBar {
  readonly field: Field;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly lengthMm: number;
  /** Its section where that is not its box. */
  readonly outline?: Outline;
  /** Of an offcut: how it lies, and where along the bar its middle was. */
  readonly lump?: { readonly turn: Turn; readonly atMm: number };
}

/** A bent wire as it was put in, by how much the room has shrunk since, and where its own z begins below the middle. mm */
export interface BentWire {
  readonly body: Body;
  readonly scale: readonly [x: number, y: number, z: number];
  readonly fromMm: number;
}

/** What comes again along an insert: where the first begins, and how many to a mm. */
export interface Stretch {
  readonly fromMm: number;
  readonly perMm: number;
}

/** Teeth on the right edge: how deep, as a share of the width. */
export interface Teeth extends Stretch {
  readonly share: number;
}

/** An insert as it lies: middle, half sizes across and up, code; balls and cut lengths have their own place along z. mm. */
export interface InsertSpot {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly halfX: number;
  readonly halfY: number;
  readonly round: boolean;
  readonly ball: boolean;
  readonly code: number;
  /** Half the length of one that does not run all along. */
  readonly halfZ?: number;
  readonly bar?: StandingBar;
  /** The share of half its height by which its middle stands above, or below 0 beneath, and its edges the other way. */
  readonly bowed?: number;
  /** Bowed along, not across: where it begins, and one over its length. */
  readonly bowedAlong?: Stretch;
  /** Of an offcut: its faces about its middle; its half sizes are how far it reaches. */
  readonly facets?: Facets;
  readonly teeth?: Teeth;
  readonly wire?: BentWire;
}

export interface CannedParts {
  readonly halfWidthMm: number;
  readonly halfHeightMm: number;
  /** Where the room begins and ends along z: outside are the caps. */
  readonly fromMm: number;
  readonly toMm: number;
  readonly wallCode: number;
  readonly powderCode: number;
  readonly spots: readonly InsertSpot[];
  /** How much larger than itself an insert reaches, so that together they keep their volume where they flatten on each other; 1 where nothing touches. */
  readonly reach: number;
  /** Where powder is not all of one kind, and where the room is not square: asked in the room as it was filled. */
  readonly powders?: PowderMap | undefined;
  /** By how much the room has shrunk across and up since it was filled. */
  readonly scaleX?: number;
  readonly scaleY?: number;
  /** Which can this is, however it was pressed, drawn and cut since. */
  readonly origin?: object;
}

/** A place in a can as it was filled: mm from the axis. */
export interface CanPlace {
  readonly origin: object;
  readonly x: number;
  readonly y: number;
}

/** While one point is being traced back: what the can it came from says. It never leaves this module. */
let traced: { place: CanPlace | null } | null = null;
const single = { points: makePoints(1), out: new Uint8Array(1) };

/** Where in a can, as it was filled, the steel at a point of a billet comes from; null where it does not come from a can's room. */
export function canPlaceOf(field: Field, x: number, y: number, z: number): CanPlace | null {
  const { points, out } = single;
  [points.x[0], points.y[0], points.z[0], points.count] = [x, y, z, 1];
  traced = { place: null };
  field.sample(points, out);
  const { place } = traced;
  traced = null;
  return place;
}

/** How far a point is out of an insert's middle: 1 on its own skin (Minkowski gauge of its shape). */
export function gauge(s: InsertSpot, x: number, y: number, z: number): number {
  if (s.wire) return wireGauge(s, s.wire, x, y, z);
  if (s.facets) return facetsGauge(s.facets, x - s.x, y - s.y, z - s.z);
  const u = Math.abs(x - s.x) / s.halfX / (s.teeth && x > s.x ? leftOver(s.teeth, z) : 1);
  const v = s.bowed ? bowedGauge(s, s.bowed, x, y, z) : Math.abs(y - s.y) / s.halfY;
  const along = s.halfZ === undefined ? 0 : Math.abs(z - s.z) / s.halfZ;
  if (s.bar?.outline && !s.bar.lump) {
    const { outline, widthMm, heightMm } = s.bar;
    const [px, py] = [(((x - s.x) / s.halfX) * widthMm) / 2, (((y - s.y) / s.halfY) * heightMm) / 2];
    return Math.max(outlineGauge(outline, px, py), along);
  }
  if (!s.round) return Math.max(u, v, along);
  const w = s.ball ? (z - s.z) / s.halfX : 0;
  return Math.max(Math.sqrt(u * u + v * v + w * w), along);
}

const seen = new WeakMap<Outline, boolean>();

/** How far out a point is of an outline: 1 on it, along the ray to the point where all of it is seen from the middle, by its distance where it winds about that. */
function outlineGauge(outline: Outline, x: number, y: number): number {
  const isSeen = seen.get(outline) ?? isSeenFromAxis(outline);
  seen.set(outline, isSeen);
  if (!isSeen) {
    const { widthMm, heightMm } = outlineSize(outline);
    return 1 + (2 * signedDistance(outline, x, y)) / Math.min(widthMm, heightMm);
  }
  for (let i = 0; i < outline.length; i++) {
    const [ax, ay] = outline[i];
    const [bx, by] = outline[(i + 1) % outline.length];
    if (ax * y - ay * x < 0 || x * by - y * bx < 0) continue;
    const [nx, ny] = [by - ay, ax - bx];
    return (x * nx + y * ny) / (ax * nx + ay * ny);
  }
  return 0;
}

/** What the teeth leave of the half width at a place along. */
function leftOver({ share, fromMm, perMm }: Teeth, z: number): number {
  const at = (z - fromMm) * perMm;
  return 1 - 2 * share * Math.abs(2 * (at - Math.floor(at)) - 1);
}

/** Its middle follows a parabola: a shear, which keeps its area. */
function bowedGauge(s: InsertSpot, bowed: number, x: number, y: number, z: number): number {
  const { bowedAlong } = s;
  const share = bowedAlong ? 2 * (z - bowedAlong.fromMm) * bowedAlong.perMm - 1 : (x - s.x) / s.halfX;
  const u = Math.min(1, Math.abs(share));
  const out = (y - s.y) / s.halfY - bowed * (1 - 2 * u * u);
  return Math.abs(out) / (1 - Math.abs(bowed));
}

/** Its middle line goes along with the room; the wire grows thicker by what its line grows shorter. */
function wireGauge(
  s: InsertSpot,
  { body, scale, fromMm }: BentWire,
  x: number,
  y: number,
  z: number,
): number {
  const [kx, ky, kz] = scale;
  if (s.halfZ !== undefined && Math.abs(z - s.z) > WIRE_REACH * s.halfZ) return Infinity;
  const g = bodyGauge(body, (x - s.x) / kx, (y - s.y) / ky, (z - s.z) / kz + fromMm);
  return g * Math.sqrt(kx * ky * kz);
}

/** How much further than itself a wire may reach that is pressed flat. */
const WIRE_REACH = 2;

/** Of a point that lies in no standing bar. */
const NO_BAR = 255;

/**
 * A can cut anywhere: wall and caps round powder, and in it inserts. Of inserts that would run into each other each point is
 * given to the one that it is deepest in, so that they flatten against one another.
 */
export class CannedField implements Field {
  readonly variesAlongZ = true;
  private readonly parts: CannedParts;
  private readonly pre: AxisMap;
  private readonly index: SpotIndex;
  private readonly bars: readonly Field[];

  constructor(parts: CannedParts, pre: AxisMap = SAME_PLACE, index?: SpotIndex) {
    this.parts = parts;
    this.pre = pre;
    this.bars = [...new Set(parts.spots.flatMap((s) => (s.bar ? [s.bar.field] : [])))];
    const { spots, reach, halfWidthMm, halfHeightMm, fromMm, toMm } = parts;
    this.index = index ?? new SpotIndex(spots, reach, halfWidthMm, halfHeightMm, fromMm, toMm);
  }

  sample(points: Points, out: Uint8Array): void {
    const { x, y, z, count } = points;
    const { kx, ky, kz, tx, ty, tz } = this.pre;
    const { halfWidthMm: w, halfHeightMm: h, fromMm, toMm, wallCode, powderCode, spots, reach } = this.parts;
    const { index } = this;
    const { powders, scaleX = 1, scaleY = 1, origin } = this.parts;
    const tray = this.bars.length > 0 ? borrowTray() : null;
    for (let i = 0; i < count; i++) {
      const px = x[i] * kx + tx;
      const py = y[i] * ky + ty;
      const pz = z[i] * kz + tz;
      if (tray) tray.sourceOfPoint[i] = NO_BAR;
      if (px <= -w || px >= w || py <= -h || py >= h || pz <= fromMm || pz >= toMm) {
        out[i] = wallCode;
        continue;
      }
      if (traced && origin) traced.place = { origin, x: px / scaleX, y: py / scaleY };
      const at = index.cellAt(px, py, pz);
      let best = reach;
      let spot: InsertSpot | null = null;
      for (let k = index.starts[at]; k < index.starts[at + 1]; k++) {
        const s = spots[index.lists[k]];
        const g = gauge(s, px, py, pz);
        if (g < best) {
          best = g;
          spot = s;
        }
      }
      if (!spot) out[i] = powders ? powders.codeAt(px / scaleX, py / scaleY) : powderCode;
      else if (!spot.bar || !tray) out[i] = spot.code;
      else {
        const { bar } = spot;
        tray.sourceOfPoint[i] = this.bars.indexOf(bar.field);
        if (bar.lump) {
          const d = [px - spot.x, py - spot.y, pz - spot.z];
          const [u, v, w] = bar.lump.turn.map((row) => row[0] * d[0] + row[1] * d[1] + row[2] * d[2]);
          // What reaches beyond the bar, where lumps flatten on each other, is like its skin.
          const within = (at: number, most: number) => Math.max(-most, Math.min(most, at));
          const out = bar.outline ? Math.max(1, outlineGauge(bar.outline, u, v)) : 1;
          x[i] = within(u / out, bar.widthMm / 2);
          y[i] = within(v / out, bar.heightMm / 2);
          z[i] = within(bar.lump.atMm + w - bar.lengthMm / 2, bar.lengthMm / 2) + bar.lengthMm / 2;
          continue;
        }
        x[i] = (((px - spot.x) / spot.halfX) * bar.widthMm) / 2;
        y[i] = (((py - spot.y) / spot.halfY) * bar.heightMm) / 2;
        z[i] = ((pz - fromMm) / (toMm - fromMm)) * bar.lengthMm;
      }
    }
    if (!tray) return;
    askSources(points, tray, this.bars, out);
    returnTray(tray);
  }

  through(map: AxisMap): Field {
    return new CannedField(this.parts, afterMap(map, this.pre), this.index);
  }
}
