import type { Coordinates, PointMap } from './pointMap.ts';

/**
 * A blank station by station, evenly spaced from its end A: where its section begins and ends across (edge and spine), how thick it
 * is at the spine and at the edge. mm; straight lines between the stations.
 */
export interface Stations {
  readonly everyMm: number;
  readonly lo: Float64Array;
  readonly hi: Float64Array;
  readonly spine: Float64Array;
  readonly edge: Float64Array;
  /** The share of the width, from the edge, that the bevel takes; of a blade with two edges of each half. */
  readonly bevel: number;
  readonly edges: 1 | 2;
}

/** The flat bar that it is forged from. A tip that is cut beforehand runs straight from the whole width to what is left at end B. mm */
export interface FlatBar {
  readonly widthMm: number;
  readonly thicknessMm: number;
  readonly cut: TipCut | null;
}

export interface TipCut {
  readonly alongMm: number;
  /** Off the side of the edge and off that of the spine, at end B. */
  readonly offEdgeMm: number;
  readonly offSpineMm: number;
}

/** Times that a step of Newton's method is taken at most; it is there long before. */
const ROUNDS = 60;

/** From the edge to a share q of the width: the section's area there, for a width of 1. */
function areaTo(q: number, te: number, ts: number, b: number): number {
  return q <= b ? te * q + ((ts - te) * q * q) / (2 * b) : (b * (te + ts)) / 2 + ts * (q - b);
}

/** The share of the width up to which so much of the section's area lies. */
function shareOf(g: number, te: number, ts: number, b: number): number {
  const bevelled = (b * (te + ts)) / 2;
  if (g > bevelled) return b + (g - bevelled) / ts;
  const k = (ts - te) / b;
  return g <= 0 ? 0 : (2 * g) / (te + Math.sqrt(Math.max(0, te * te + 2 * k * g)));
}

/**
 * A flat bar forged to a blank: every slice of the bar keeps its steel and lengthens evenly, its picture spreads across by the
 * areas from the edge and thins with the thickness there. Triangular, its determinant 1 everywhere; it folds nowhere
 * while width and thickness stay above 0. Forward: bar to blank.
 */
export class Forged implements PointMap {
  readonly usesZ = true;
  readonly stations: Stations;
  readonly bar: FlatBar;
  readonly lengthMm: number;
  /** How long the bar is that has just the steel for it, what is cut off its tip included. */
  readonly barLengthMm: number;
  readonly volumeMm3: number;
  readonly cutOffMm3: number;
  /** Up to each station, mm³; areas at the stations and half-way to the next, mm²: between them the area is a parabola. */
  private readonly upTo: Float64Array;
  private readonly there: Float64Array;
  private readonly between: Float64Array;

  constructor(stations: Stations, bar: FlatBar) {
    this.stations = stations;
    this.bar = bar;
    const last = stations.lo.length - 1;
    this.lengthMm = last * stations.everyMm;
    this.upTo = new Float64Array(last + 1);
    this.there = Float64Array.from({ length: last + 1 }, (_, i) => this.areaAt(i * stations.everyMm));
    this.between = Float64Array.from({ length: last }, (_, i) => this.areaAt((i + 0.5) * stations.everyMm));
    for (let i = 0; i < last; i++)
      this.upTo[i + 1] =
        this.upTo[i] + (stations.everyMm * (this.there[i] + 4 * this.between[i] + this.there[i + 1])) / 6;
    this.volumeMm3 = this.upTo[last];
    const { widthMm: w, thicknessMm: t, cut } = bar;
    this.cutOffMm3 = cut ? ((cut.offEdgeMm + cut.offSpineMm) * cut.alongMm * t) / 2 : 0;
    this.barLengthMm = (this.volumeMm3 + this.cutOffMm3) / (w * t);
  }

  /** The section at a distance from end A. mm */
  sectionAt(z: number): { lo: number; hi: number; spine: number; edge: number } {
    const s = this.stations;
    const at = Math.min(s.lo.length - 1, Math.max(0, z / s.everyMm));
    const i = Math.min(s.lo.length - 2, Math.floor(at));
    const mix = (a: Float64Array) => a[i] + (at - i) * (a[i + 1] - a[i]);
    return { lo: mix(s.lo), hi: mix(s.hi), spine: mix(s.spine), edge: mix(s.edge) };
  }

  areaAt(z: number): number {
    const { lo, hi, spine, edge } = this.sectionAt(z);
    return (hi - lo) * areaTo(1, edge, spine, this.stations.bevel);
  }

  /** How thick it is at a place of its outline, mm; 0 beside it. */
  thicknessAt(x: number, z: number): number {
    if (z < 0 || z > this.lengthMm) return 0;
    const { lo, hi, spine, edge } = this.sectionAt(z);
    const q = (x - lo) / (hi - lo);
    return q < 0 || q > 1 ? 0 : edge + (spine - edge) * Math.min(1, this.fromEdge(q) / this.stations.bevel);
  }

  /** Whether a place lies in the steel. */
  holds(x: number, y: number, z: number): boolean {
    return 2 * Math.abs(y) <= this.thicknessAt(x, z);
  }

  /** How much longer the steel there has become. */
  lengtheningAt(z: number): number {
    const [lo, hi] = this.barSpan(this.barPlace(z));
    return ((hi - lo) * this.bar.thicknessMm) / this.areaAt(z);
  }

  /** Of two edges each is measured from its own: the shape of either half is the same. */
  private fromEdge(q: number): number {
    return this.stations.edges === 2 ? 1 - Math.abs(2 * q - 1) : q;
  }

  private areaShare(q: number, te: number, ts: number): number {
    const b = this.stations.bevel;
    if (this.stations.edges === 1) return areaTo(q, te, ts, b) / areaTo(1, te, ts, b);
    const half = areaTo(this.fromEdge(q), te, ts, b) / areaTo(1, te, ts, b) / 2;
    return q <= 0.5 ? half : 1 - half;
  }

  private widthShare(share: number, te: number, ts: number): number {
    const b = this.stations.bevel;
    const whole = areaTo(1, te, ts, b);
    if (this.stations.edges === 1) return shareOf(share * whole, te, ts, b);
    const half = shareOf(2 * Math.min(share, 1 - share) * whole, te, ts, b) / 2;
    return share <= 0.5 ? half : 1 - half;
  }

  /** The bar's width at a distance from its end A, from the side of the edge to that of the spine. */
  barSpan(z: number): [number, number] {
    const { widthMm: w, cut } = this.bar;
    const share = cut ? Math.max(0, 1 - (this.barLengthMm - z) / cut.alongMm) : 0;
    return [-w / 2 + share * (cut?.offEdgeMm ?? 0), w / 2 - share * (cut?.offSpineMm ?? 0)];
  }

  /** Where in the bar a slice of the blank was. mm from end A */
  barPlace(z: number): number {
    return this.barWith(this.volumeTo(z));
  }

  /** Where in the blank a slice of the bar comes to lie. mm from end A */
  blankPlace(barZ: number): number {
    return this.blankWith(this.barVolumeTo(barZ));
  }

  private volumeTo(z: number): number {
    const { everyMm } = this.stations;
    const last = this.upTo.length - 1;
    const at = z / everyMm;
    const i = Math.min(last - 1, Math.max(0, Math.floor(at)));
    const s = at - i;
    if (s < 0) return this.there[0] * z;
    if (s > 1) return this.volumeMm3 + this.there[last] * (z - this.lengthMm);
    return this.upTo[i] + this.inCell(i, s);
  }

  private inCell(i: number, s: number): number {
    const [a, m, b] = [this.there[i], this.between[i], this.there[i + 1]];
    return (
      this.stations.everyMm * s * (a + s * ((-3 * a + 4 * m - b) / 2 + (s * (2 * a - 4 * m + 2 * b)) / 3))
    );
  }

  private blankWith(volume: number): number {
    const { upTo } = this;
    const last = upTo.length - 1;
    let [low, high] = [0, last];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (upTo[middle] <= volume) low = middle;
      else high = middle;
    }
    const wanted = volume - upTo[low];
    const [a, m, b] = [this.there[low], this.between[low], this.there[low + 1]];
    const whole = upTo[low + 1] - upTo[low];
    let s = wanted / whole;
    for (let i = 0; i < ROUNDS; i++) {
      const area = a + s * (-3 * a + 4 * m - b + s * (2 * a - 4 * m + 2 * b));
      const step = (this.inCell(low, s) - wanted) / (area * this.stations.everyMm);
      s -= step;
      if (Math.abs(step) < 1e-14) break;
    }
    return (low + s) * this.stations.everyMm;
  }

  private barVolumeTo(z: number): number {
    const { widthMm: w, thicknessMm: t, cut } = this.bar;
    const past = cut ? Math.max(0, z - (this.barLengthMm - cut.alongMm)) : 0;
    const gone = cut ? ((cut.offEdgeMm + cut.offSpineMm) * past * past) / (2 * cut.alongMm) : 0;
    return t * (w * z - gone);
  }

  private barWith(volume: number): number {
    const { widthMm: w, thicknessMm: t, cut } = this.bar;
    const whole = volume / (w * t);
    if (!cut) return whole;
    const begins = this.barLengthMm - cut.alongMm;
    const past = volume / t - w * begins;
    if (past <= 0) return whole;
    // w·p − k·p²/2 = past, its lesser root.
    const k = (cut.offEdgeMm + cut.offSpineMm) / cut.alongMm;
    return begins + (2 * past) / (w + Math.sqrt(Math.max(0, w * w - 2 * k * past)));
  }

  forward({ x, y, z, count }: Coordinates): void {
    const { thicknessMm } = this.bar;
    for (let i = 0; i < count; i++) {
      const [from, to] = this.barSpan(z[i]);
      const at = this.blankPlace(z[i]);
      const { lo, hi, spine, edge } = this.sectionAt(at);
      const q = this.widthShare((x[i] - from) / (to - from), edge, spine);
      const thick = edge + (spine - edge) * Math.min(1, this.fromEdge(q) / this.stations.bevel);
      x[i] = lo + q * (hi - lo);
      y[i] *= thick / thicknessMm;
      z[i] = at;
    }
  }

  backward({ x, y, z, count }: Coordinates): void {
    const { thicknessMm, widthMm, cut } = this.bar;
    const { lo, hi, spine, edge, everyMm, bevel } = this.stations;
    const last = lo.length - 1;
    for (let i = 0; i < count; i++) {
      const at = z[i] / everyMm;
      const k = at <= 0 ? 0 : at >= last ? last - 1 : Math.floor(at);
      const f = at <= 0 ? 0 : at >= last ? 1 : at - k;
      const low = lo[k] + f * (lo[k + 1] - lo[k]);
      const wide = hi[k] + f * (hi[k + 1] - hi[k]) - low;
      const ts = spine[k] + f * (spine[k + 1] - spine[k]);
      const te = edge[k] + f * (edge[k + 1] - edge[k]);
      const q = Math.min(1, Math.max(0, (x[i] - low) / wide));
      const thick = te + (ts - te) * Math.min(1, this.fromEdge(q) / bevel);
      const was = this.barPlace(z[i]);
      const gone = cut ? Math.max(0, 1 - (this.barLengthMm - was) / cut.alongMm) : 0;
      const from = -widthMm / 2 + gone * (cut?.offEdgeMm ?? 0);
      const span = widthMm - gone * ((cut?.offEdgeMm ?? 0) + (cut?.offSpineMm ?? 0));
      x[i] = from + span * this.areaShare(q, te, ts);
      y[i] *= thicknessMm / thick;
      z[i] = was;
    }
  }
}
