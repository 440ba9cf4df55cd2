import { type FlatBar, Forged, type Stations, type TipCut } from '../geometry/maps/forged.ts';
import type { ShapedSection } from '../instruct/forgeAction.ts';
import type { BladeShape } from './blade.ts';
import { outlineMm, spanAt, tangMm } from './ground.ts';

/** mm. Stations of a blank: between them its lines are straight. */
const EVERY_MM = 0.5;
/** A line that runs outward more steeply than this leaves a shoulder that no hammer makes in one: steel is put there. */
const STEEPEST = 1;
/** mm. No tip is forged more pointed than this. */
const BLUNT_MM = 3;
/** mm. The thinnest that an edge is forged. */
const THINNEST_MM = 0.2;

/** What is forged: the outline of the blade and so much over, thickness by thickness. mm */
export interface BlankAsked extends BladeShape {
  /** Forged at the spine at heel and tip and at the edge, what is left for grinding included. */
  readonly spineMm: number;
  readonly tipMm: number;
  readonly edgeMm: number;
  /** The bevel takes such a share of the width. */
  readonly bevelShare: number;
  /** Left all round the outline, to be ground. */
  readonly overMm: number;
  /** A block left as wide and thick as the bar between blade and tang. */
  readonly bolsterMm: number;
}

/** Where blade and tang begin in a blank, from its end A, and its size. mm */
export interface BlankPlaces {
  readonly heelMm: number;
  /** From the heel back to where the block begins and ends; nothing without one. */
  readonly bolster: { readonly fromMm: number; readonly toMm: number } | null;
}

/** How long a ramp is between two sections: at least as long as the step. */
const rampMm = (asked: BlankAsked, bar: { widthMm: number; thicknessMm: number }, widthMm: number): number =>
  Math.max(2, Math.abs(bar.thicknessMm - asked.spineMm), Math.abs(bar.widthMm - widthMm) / 2);

export function placesIn(
  asked: BlankAsked,
  bar: { widthMm: number; thicknessMm: number },
): BlankPlaces & { rampMm: number } {
  const heelMm = asked.tangLengthMm + asked.overMm;
  const heel = spanAt(outlineMm(asked), 0.5) ?? [0, asked.heightMm];
  const ramp = rampMm(asked, bar, heel[1] - heel[0]);
  return {
    heelMm,
    rampMm: ramp,
    bolster: asked.bolsterMm > 0 ? { fromMm: heelMm - ramp - asked.bolsterMm, toMm: heelMm - ramp } : null,
  };
}

/** How far the outline reaches past the heel towards the tip, mm: its own length, or more where it is drawn so. */
const reachMm = (asked: BladeShape): number => asked.lengthMm * Math.max(...asked.outline.map(([u]) => u));

/**
 * The blank of a blade, its middle line that of the bar, the edge towards x = −: the outline and so much over all round, no line out
 * of it steeper than 45°, the tip blunt; the tang as thick as the spine.
 */
export function stationsOf(asked: BlankAsked, bar: { widthMm: number; thicknessMm: number }): Stations {
  const { heelMm, bolster, rampMm: ramp } = placesIn(asked, bar);
  const lengthMm = heelMm + reachMm(asked) + asked.overMm;
  const cells = Math.max(2, Math.round(lengthMm / EVERY_MM));
  const everyMm = lengthMm / cells;
  const { lo, hi } = grownAcross(spansOf(asked, heelMm, everyMm, cells + 1), everyMm, asked.overMm);
  const [spine, edge] = [new Float64Array(cells + 1), new Float64Array(cells + 1)];
  for (let i = 0; i <= cells; i++) {
    const z = i * everyMm;
    const u = z - heelMm;
    if (bolster && z >= bolster.fromMm && z <= bolster.toMm)
      [lo[i], hi[i]] = [-bar.widthMm / 2, bar.widthMm / 2];
    const along = Math.min(1, Math.max(0, u / asked.lengthMm));
    const atSpine = asked.spineMm + (asked.tipMm - asked.spineMm) * along;
    const rising = bolster ? ramp : Math.max(2, asked.spineMm - asked.edgeMm);
    const intoBlade = Math.min(1, Math.max(0, 1 + u / rising));
    const block = bolster ? blockShare(z, bolster, ramp) : 0;
    const thick = (mm: number) => mm + block * (bar.thicknessMm - mm);
    const atEdge = asked.spineMm + (Math.min(asked.edgeMm, atSpine) - asked.spineMm) * intoBlade;
    spine[i] = thick(atSpine);
    edge[i] = Math.min(spine[i], thick(Math.max(THINNEST_MM, atEdge)));
  }
  noSteeperThan(lo, hi, everyMm);
  blunt(lo, hi);
  return { everyMm, lo, hi, spine, edge, bevel: asked.bevelShare, edges: asked.edges };
}

/** From where to where blade and tang reach at every station, from the blank's middle line; empty past their ends. */
function spansOf(asked: BlankAsked, heelMm: number, everyMm: number, count: number): Spans {
  const [lo, hi] = [new Float64Array(count).fill(Infinity), new Float64Array(count).fill(-Infinity)];
  const outlines = [outlineMm(asked), tangMm(asked)];
  const last = reachMm(asked);
  const middle = asked.heightMm / 2;
  for (let i = 0; i < count; i++) {
    const u = i * everyMm - heelMm;
    if (u < -asked.tangLengthMm - everyMm || u > last + everyMm) continue;
    // A hair inside both ends, so that these are there.
    const inside = Math.min(last - 1e-3, Math.max(1e-3 - asked.tangLengthMm, u));
    for (const outline of outlines) {
      const span = spanAt(outline, inside);
      if (!span) continue;
      lo[i] = Math.min(lo[i], span[0] - middle);
      hi[i] = Math.max(hi[i], span[1] - middle);
    }
  }
  return { lo, hi };
}

interface Spans {
  readonly lo: Float64Array;
  readonly hi: Float64Array;
}

/** So much more all round, as a disc rolled along the outline leaves it. */
function grownAcross({ lo, hi }: Spans, everyMm: number, overMm: number): Spans {
  const reach = Math.ceil(overMm / everyMm);
  const grown = { lo: lo.slice(), hi: hi.slice() };
  for (let i = 0; i < lo.length; i++)
    for (let j = Math.max(0, i - reach); j <= Math.min(lo.length - 1, i + reach); j++) {
      const more = Math.sqrt(Math.max(0, overMm * overMm - ((i - j) * everyMm) ** 2));
      grown.lo[i] = Math.min(grown.lo[i], lo[j] - more);
      grown.hi[i] = Math.max(grown.hi[i], hi[j] + more);
    }
  return grown;
}

/** How much of the block's size a section has: all of it in it, less on both ramps. */
function blockShare(z: number, { fromMm, toMm }: { fromMm: number; toMm: number }, ramp: number): number {
  const away = z < fromMm ? fromMm - z : z > toMm ? z - toMm : 0;
  return Math.max(0, 1 - away / ramp);
}

/** Puts steel where the outline would run outward more steeply. */
function noSteeperThan(lo: Float64Array, hi: Float64Array, everyMm: number): void {
  const most = STEEPEST * everyMm;
  const last = lo.length - 1;
  for (let i = 1; i <= last; i++) {
    hi[i] = Math.max(hi[i], hi[i - 1] - most);
    lo[i] = Math.min(lo[i], lo[i - 1] + most);
  }
  for (let i = last - 1; i >= 0; i--) {
    hi[i] = Math.max(hi[i], hi[i + 1] - most);
    lo[i] = Math.min(lo[i], lo[i + 1] + most);
  }
}

function blunt(lo: Float64Array, hi: Float64Array): void {
  for (let i = 0; i < lo.length; i++) {
    const short = BLUNT_MM - (hi[i] - lo[i]);
    if (!(short > 0)) continue;
    lo[i] -= short / 2;
    hi[i] += short / 2;
  }
}

export const TIP_SIDES = {
  'as it is': 'Left square',
  spine: 'Cut off on the side of the spine',
  edge: 'Cut off on the side of the edge',
  both: 'Cut off on both sides',
} as const;

export type TipSide = keyof typeof TIP_SIDES;

/** Shares of the greatest section: from where it is less the tip begins. */
const TIP_FROM = 0.75;

/**
 * A tip cut beforehand so that the steel lengthens there about as much as in the blade: straight from where the blade begins to
 * taper to what the last slice wants.
 */
export function tipCutFor(stations: Stations, bar: Omit<FlatBar, 'cut'>, side: TipSide): TipCut | null {
  if (side === 'as it is') return null;
  const plain = new Forged(stations, { ...bar, cut: null });
  const z = (share: number) => share * plain.lengthMm;
  const many = 400;
  const areas = Array.from({ length: many + 1 }, (_, i) => plain.areaAt(z(i / many)));
  const inBlade = areas.slice(many / 2);
  const most = Math.max(...inBlade);
  const from = areas.findLastIndex((a) => a >= TIP_FROM * most);
  if (from < 0 || from >= many) return null;
  const begins = z(from / many);
  const last = areas[many];
  const lengthening = (bar.widthMm * bar.thicknessMm) / areas[from];
  const leavesMm = Math.min(
    0.9 * bar.widthMm,
    Math.max(0.08 * bar.widthMm, (lengthening * last) / bar.thicknessMm),
  );
  const volume = plain.volumeMm3 - plain.barPlace(begins) * bar.widthMm * bar.thicknessMm;
  const alongMm = (2 * volume) / (bar.thicknessMm * (bar.widthMm + leavesMm));
  if (alongMm >= plain.barLengthMm) return null;
  const off = bar.widthMm - leavesMm;
  return {
    alongMm,
    offEdgeMm: side === 'edge' ? off : side === 'both' ? off / 2 : 0,
    offSpineMm: side === 'spine' ? off : side === 'both' ? off / 2 : 0,
  };
}

/** Times as thick before as after: less tells nothing of spread. */
const LEAST_THINNED = 1.02;

/** What spread a width calls for: S of w = W·(T/t)^S, t the mean thickness; null where it is hardly thinned. */
export function spreadNeeded(forged: Forged, z: number): number | null {
  const { lo, hi } = forged.sectionAt(z);
  const mean = forged.areaAt(z) / (hi - lo);
  if (forged.bar.thicknessMm < LEAST_THINNED * mean) return null;
  return Math.log((hi - lo) / forged.bar.widthMm) / Math.log(forged.bar.thicknessMm / mean);
}

/** mm. Between the sections that are said the lines are straight within this: across, and in thickness. */
const SAID_WITHIN = { across: 0.3, thick: 0.1 } as const;

/** As few sections as tell a blank, some of them at places that were asked for: between them it is straight. */
export function saidSections(forged: Forged, atMm: readonly number[]): ShapedSection[] {
  const { stations: s } = forged;
  const last = s.lo.length - 1;
  const fixed = [0, ...atMm.map((mm) => Math.round(mm / s.everyMm)), last];
  const chosen = new Set(fixed);
  const miss = (line: Float64Array, a: number, b: number, i: number, within: number) =>
    Math.abs(line[i] - (line[a] + ((i - a) / (b - a)) * (line[b] - line[a]))) / within;
  const divide = (a: number, b: number): void => {
    let [worst, at] = [1, -1];
    for (let i = a + 1; i < b; i++) {
      const m = Math.max(
        miss(s.lo, a, b, i, SAID_WITHIN.across),
        miss(s.hi, a, b, i, SAID_WITHIN.across),
        miss(s.spine, a, b, i, SAID_WITHIN.thick),
        miss(s.edge, a, b, i, SAID_WITHIN.thick),
      );
      if (m > worst) [worst, at] = [m, i];
    }
    if (at < 0) return;
    chosen.add(at);
    divide(a, at);
    divide(at, b);
  };
  fixed.forEach((at, i) => i > 0 && divide(fixed[i - 1], at));
  return [...chosen]
    .sort((a, b) => a - b)
    .map((i) => ({
      atMm: i * s.everyMm,
      barMm: forged.barPlace(i * s.everyMm),
      toEdgeMm: -s.lo[i],
      toSpineMm: s.hi[i],
      spineMm: s.spine[i],
      edgeMm: s.edge[i],
    }));
}
