import type { Outline } from '../geometry/outline.ts';
import { contains, outlineArea } from '../geometry/outline.ts';
import { type Room, lineInside, nearestOn } from './room.ts';

/** A round insert in the can: centre and radius, mm. In a section (rods) z is 0. */
export interface Round {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly r: number;
  /** Runs the whole depth, as a rod does: nothing passes above or below it. */
  readonly long?: boolean;
}

export interface Packing {
  readonly rounds: readonly Round[];
  /** How far the two that overlap most do so, as a share of the smaller radius; near 0 where all fit. */
  readonly overlap: number;
}

/** Rounds of settling: the pull grows weak over the first, only overlaps are pushed apart in the last. */
const SETTLING = 1600;
const LOOSENING = 3000;
/** Shakes while it settles, and how far each throws, of the mean radius. */
const SHAKES = 60;
const SHAKE = 0.5;
/** Fall in one round, of the mean radius. */
const FALL = 0.06;
/** Share of a radius that two may overlap and still count as touching. */
export const TOUCHING = 2e-3;

/** A small seeded generator (mulberry32): the same seed pours the same way. */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Everything that moves, and what stands fixed after it, in flat arrays, with cells to find neighbours by. */
class Heap {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly z: Float64Array;
  readonly r: Float64Array;
  private readonly moving: number;
  private readonly room: Room;
  private readonly long: readonly Round[];
  private readonly cell: number;
  /** Cells across, up and along; the first in each cell, and after each the next in the same. */
  private readonly across: number;
  private readonly up: number;
  private readonly first: Int32Array;
  private readonly next: Int32Array;
  private readonly cellOf: Int32Array;
  /** In a room that is not square: for each radius the line that middles may not pass. */
  private readonly fences = new Map<number, Outline | null>();

  constructor(
    moving: readonly number[],
    fixed: readonly Round[],
    room: Room,
    random: () => number,
    aboveMm = 0,
    lying: readonly Round[] = [],
  ) {
    const short = fixed.filter((f) => !f.long);
    this.long = fixed.filter((f) => f.long);
    const n = moving.length + short.length;
    this.moving = moving.length;
    this.room = room;
    [this.x, this.y, this.z, this.r] = [0, 1, 2, 3].map(() => new Float64Array(n)) as [
      Float64Array,
      Float64Array,
      Float64Array,
      Float64Array,
    ];
    if (room.outline) for (const r of new Set(moving)) this.fences.set(r, lineInside(room, r));
    moving.forEach((r, i) => {
      this.r[i] = r;
      this.x[i] = (random() - 0.5) * Math.max(0, room.widthMm - 2 * r);
      this.y[i] = (random() - 0.5) * Math.max(0, room.heightMm - 2 * r);
      this.z[i] =
        room.depthMm === undefined ? 0 : aboveMm + r + random() * Math.max(0, room.depthMm - aboveMm - 2 * r);
    });
    lying.forEach((b, i) => ([this.x[i], this.y[i], this.z[i]] = [b.x, b.y, b.z]));
    short.forEach((f, k) => {
      const i = moving.length + k;
      [this.x[i], this.y[i], this.z[i], this.r[i]] = [f.x, f.y, f.z, f.r];
    });
    this.cell = 2 * Math.max(...this.r, 1e-6);
    const cells = (mm: number) => Math.max(1, Math.ceil(mm / this.cell)) + 2;
    this.across = cells(room.widthMm);
    this.up = cells(room.heightMm);
    // One empty cell more on every side, so that neighbours need no bounds.
    this.first = new Int32Array(this.across * this.up * (cells(room.depthMm ?? 0) + 1));
    this.next = new Int32Array(n);
    this.cellOf = new Int32Array(n);
  }

  /** Down is towards the near end in a can that stands, towards the bottom in a section. */
  fall(mm: number): void {
    const down = this.room.depthMm === undefined ? this.y : this.z;
    for (let i = 0; i < this.moving; i++) down[i] -= mm;
    this.keepIn();
  }

  shake(mm: number, random: () => number): void {
    for (let i = 0; i < this.moving; i++) {
      this.x[i] += (random() - 0.5) * 2 * mm;
      this.y[i] += (random() - 0.5) * 2 * mm;
      if (this.room.depthMm !== undefined) this.z[i] += (random() - 0.5) * 2 * mm;
    }
    this.keepIn();
  }

  private keepIn(): void {
    const { widthMm, heightMm, depthMm } = this.room;
    const within = (v: number, low: number, high: number) =>
      high < low ? (low + high) / 2 : v < low ? low : v > high ? high : v;
    for (let i = 0; i < this.moving; i++) {
      const r = this.r[i];
      this.x[i] = within(this.x[i], r - widthMm / 2, widthMm / 2 - r);
      this.y[i] = within(this.y[i], r - heightMm / 2, heightMm / 2 - r);
      const fence = this.fences.get(r);
      if (fence && !contains(fence, this.x[i], this.y[i]))
        [this.x[i], this.y[i]] = nearestOn(fence, this.x[i], this.y[i]);
      if (depthMm !== undefined) this.z[i] = within(this.z[i], r, depthMm - r);
    }
  }

  private sort(): void {
    const { first, next, cellOf, across, up, cell, room } = this;
    first.fill(-1);
    const step = (v: number, most: number) => Math.min(most - 2, Math.max(1, 1 + Math.floor(v / cell)));
    const along = first.length / (across * up);
    for (let i = 0; i < this.x.length; i++) {
      const ix = step(this.x[i] + room.widthMm / 2, across);
      const iy = step(this.y[i] + room.heightMm / 2, up);
      const iz = step(this.z[i], along);
      const at = ix + across * (iy + up * iz);
      cellOf[i] = at;
      next[i] = first[at];
      first[at] = i;
    }
  }

  /** Pushes every overlapping pair apart by what it overlaps; the largest overlap there was, as a share. */
  pushApart(): number {
    this.sort();
    const { first, next, cellOf, across, up } = this;
    let worst = 0;
    const layers = this.room.depthMm === undefined ? [0] : [-1, 0, 1];
    for (let i = 0; i < this.moving; i++)
      for (const dz of layers)
        for (let dy = -1; dy <= 1; dy++) {
          const row = cellOf[i] + across * (dy + up * dz);
          for (let at = row - 1; at <= row + 1; at++)
            for (let j = first[at]; j >= 0; j = next[j])
              if (j > i) worst = Math.max(worst, this.pushPair(i, j));
        }
    for (let i = 0; i < this.moving; i++)
      for (const rod of this.long) worst = Math.max(worst, this.pushOff(i, rod));
    this.keepIn();
    return worst;
  }

  private pushPair(i: number, j: number): number {
    const { x, y, z, r } = this;
    const dx = x[j] - x[i];
    const dy = y[j] - y[i];
    const dz = z[j] - z[i];
    const reach = r[i] + r[j];
    const square = dx * dx + dy * dy + dz * dz;
    if (square >= reach * reach) return 0;
    const apart = Math.sqrt(square);
    const overlap = reach - apart;
    const share = overlap / Math.min(r[i], r[j]);
    // Two on the same spot are parted along x; what stands fixed does not give way.
    const [nx, ny, nz] = apart > 1e-9 ? [dx / apart, dy / apart, dz / apart] : [1, 0, 0];
    const both = j < this.moving;
    // By their weights: pushed alike, small ones would lift the large and sink under them.
    const mine = both ? (overlap * r[j] ** 3) / (r[i] ** 3 + r[j] ** 3) : overlap;
    x[i] -= nx * mine;
    y[i] -= ny * mine;
    z[i] -= nz * mine;
    if (both) {
      const its = overlap - mine;
      x[j] += nx * its;
      y[j] += ny * its;
      z[j] += nz * its;
    }
    return share;
  }

  /** Pushes one away from a rod that runs the whole depth, across it. */
  private pushOff(i: number, rod: Round): number {
    const reach = this.r[i] + rod.r;
    const dx = this.x[i] - rod.x;
    const dy = this.y[i] - rod.y;
    const square = dx * dx + dy * dy;
    if (square >= reach * reach) return 0;
    const apart = Math.sqrt(square);
    const overlap = reach - apart;
    this.x[i] += apart > 1e-9 ? (dx / apart) * overlap : overlap;
    this.y[i] += apart > 1e-9 ? (dy / apart) * overlap : 0;
    return overlap / Math.min(this.r[i], rod.r);
  }

  rounds(): Round[] {
    return Array.from({ length: this.moving }, (_, i) => ({
      x: this.x[i],
      y: this.y[i],
      z: this.z[i],
      r: this.r[i],
    }));
  }
}

/**
 * Pours rounds of these radii (mm) into a room, among others that stand fixed, and shakes them down: one settled arrangement
 * of many, the same for the same seed. Soft rounds that fall, are shaken ever more weakly, and push each other apart.
 */
export function poured(
  radii: readonly number[],
  room: Room,
  fixed: readonly Round[],
  seed: number,
  aboveMm = 0,
): Packing {
  if (radii.length === 0) return { rounds: [], overlap: 0 };
  const random = seeded(seed);
  // Small ones last, as they would be swept in, would change nothing here: all fall together.
  const heap = new Heap(radii, fixed, room, random, aboveMm);
  const mean = radii.reduce((a, b) => a + b, 0) / radii.length;
  for (let i = 0; i < SETTLING; i++) {
    const left = 1 - i / SETTLING;
    if (i % Math.ceil(SETTLING / SHAKES) === 0) heap.shake(SHAKE * mean * left, random);
    heap.fall(FALL * mean * left);
    heap.pushApart();
  }
  let overlap = 1;
  for (let i = 0; i < LOOSENING && overlap > TOUCHING; i++) overlap = heap.pushApart();
  return { rounds: heap.rounds(), overlap };
}

/** So many balls of one size. mm */
export interface Kind {
  readonly radiusMm: number;
  readonly count: number;
}

/**
 * Balls of several sizes poured into a room: all together, or in so many lifts, in each of them one size after the other on what
 * lies there. The rounds of each kind, in the order of the kinds; the largest overlap that is left.
 */
export function pouredKinds(
  kinds: readonly Kind[],
  room: Room & { readonly depthMm: number },
  fixed: readonly Round[],
  seed: number,
  lifts: number,
): { readonly rounds: readonly (readonly Round[])[]; readonly overlap: number } {
  if (lifts <= 1) {
    const { rounds, overlap } = poured(
      kinds.flatMap(({ radiusMm, count }) => Array.from({ length: count }, () => radiusMm)),
      room,
      fixed,
      seed,
    );
    let next = 0;
    return { rounds: kinds.map(({ count }) => rounds.slice(next, (next += count))), overlap };
  }
  const settled: Round[][] = kinds.map(() => []);
  for (let lift = 0; lift < lifts; lift++)
    kinds.forEach(({ radiusMm, count }, k) => {
      const now = Math.round((count * (lift + 1)) / lifts) - Math.round((count * lift) / lifts);
      const there = settled.flat();
      // What comes now begins over what lies there, as far as the room goes.
      const top = there.reduce((most, b) => Math.max(most, b.z), 0);
      const above = Math.min(top, Math.max(0, room.depthMm - 4 * radiusMm));
      const radii = Array.from({ length: now }, () => radiusMm);
      settled[k].push(...poured(radii, room, [...fixed, ...there], seed + 31 * lift + k, above).rounds);
    });
  // What lay there before gave no way; now all of them make room for one another.
  const all = settled.flat();
  const heap = new Heap(
    all.map((b) => b.r),
    fixed,
    room,
    seeded(seed),
    0,
    all,
  );
  let overlap = 1;
  for (let i = 0; i < LOOSENING && overlap > TOUCHING; i++) overlap = heap.pushApart();
  const loosened = heap.rounds();
  let next = 0;
  return { rounds: settled.map(({ length }) => loosened.slice(next, (next += length))), overlap };
}

/** Of the room that equal balls fill, poured and shaken in a large box (handbook, canister: Scott 1960; Bernal & Mason 1960). */
const SHAKEN = 0.64;
/** Of a floor that balls cover at random in one layer (random close discs, E. L. Hinrichsen, J. Feder and T. Jøssang 1990; value from memory). */
const SHAKEN_FLAT = 0.82;
/** Of a diameter lost at the walls each way, in all and in one layer: from our own settling of rooms 1 to 13 diameters wide. */
const AT_WALLS = 0.35;
const AT_WALLS_FLAT = 0.25;
/** Diameters: a room lower than this takes one layer. */
const ONE_LAYER = 1.6;

/** About how many equal balls find room in a can, poured and shaken; right to some 8 % of what settles. */
export function pouredCount(
  room: Required<Pick<Room, 'widthMm' | 'heightMm' | 'depthMm'>> & Room,
  dMm: number,
): number {
  const sides = [room.widthMm, room.heightMm, room.depthMm].map((mm) => mm / dMm).sort((a, b) => b - a);
  if (sides[2] < 1) return 0;
  // A room that is not square holds as much less as its outline does of its box.
  const share = room.outline ? outlineArea(room.outline) / (room.widthMm * room.heightMm) : 1;
  if (sides[2] < ONE_LAYER)
    return Math.floor(
      (SHAKEN_FLAT * share * (sides[0] - AT_WALLS_FLAT) * (sides[1] - AT_WALLS_FLAT) * 4) / Math.PI,
    );
  return Math.floor(
    (SHAKEN * share * sides.reduce((product, side) => product * (side - AT_WALLS), 1) * 6) / Math.PI,
  );
}
