import { LayerCoverage } from './coverage.ts';
import { type AxisMap, type Coverage, type Field, type Points, type Stack, leavesSection } from './field.ts';

const BUCKETS = 256;

/** Flat layers across y. `tops` are the upper sides of the layers in mm, ascending; `codes` their materials, bottom first. */
export class LayersField implements Field, Stack {
  readonly variesAlongZ = false;
  private readonly tops: Float64Array;
  private readonly codes: Uint8Array;
  private readonly bottom: number;
  private readonly bucketsPerMm: number;
  /** The first layer that may lie in each bucket; made when first asked for. */
  private firstInBucket: Uint16Array | null = null;
  /** Layers per mm where all are of one thickness, otherwise 0. */
  private readonly layersPerMm: number;

  constructor(bottomMm: number, topsMm: ArrayLike<number>, codes: ArrayLike<number>) {
    this.bottom = bottomMm;
    this.tops = Float64Array.from(topsMm);
    this.codes = Uint8Array.from(codes);
    const height = this.tops[this.tops.length - 1] - bottomMm;
    this.bucketsPerMm = BUCKETS / height;
    const perMm = this.codes.length / height;
    const even = this.tops.every((top, i) => Math.abs((top - bottomMm) * perMm - i - 1) < 1e-9);
    this.layersPerMm = even ? perMm : 0;
    this.tops[this.tops.length - 1] = Infinity;
  }

  sample(points: Points, out: Uint8Array): void {
    if (this.layersPerMm > 0) this.sampleEven(points, out);
    else this.sampleUneven(points, out);
    const { trace } = points;
    if (!trace) return;
    for (let i = 0; i < points.count; i++) {
      trace.stack[i] = this;
      trace.height[i] = points.y[i];
    }
  }

  countAt(height: number): number {
    const { tops, bottom } = this;
    const last = tops.length - 1;
    let [low, high] = [0, last];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (height > tops[middle]) low = middle + 1;
      else high = middle;
    }
    const from = low === 0 ? bottom : tops[low - 1];
    return low + (height - from) / ((low === last ? this.end : tops[low]) - from);
  }

  /** Where the stack ends, mm. */
  private get end(): number {
    return this.bottom + BUCKETS / this.bucketsPerMm;
  }

  private covered: LayerCoverage | null = null;
  get coverage(): Coverage {
    return (this.covered ??= new LayerCoverage(
      this.bottom,
      [...this.tops.subarray(0, this.tops.length - 1), this.end],
      this.codes,
    ));
  }

  private sampleEven({ y, count }: Points, out: Uint8Array): void {
    const { codes, layersPerMm } = this;
    const start = -this.bottom * layersPerMm;
    const last = codes.length - 1;
    for (let i = 0; i < count; i++) {
      let layer = (y[i] * layersPerMm + start) | 0;
      if (layer < 0) layer = 0;
      else if (layer > last) layer = last;
      out[i] = codes[layer];
    }
  }

  private bucketed(): Uint16Array {
    const { tops, bottom, bucketsPerMm } = this;
    const first = new Uint16Array(BUCKETS);
    let layer = 0;
    for (let b = 0; b < BUCKETS; b++) {
      while (tops[layer] <= bottom + b / bucketsPerMm) layer++;
      first[b] = layer;
    }
    return first;
  }

  private sampleUneven(points: Points, out: Uint8Array): void {
    const { tops, codes, bottom, bucketsPerMm } = this;
    const firstInBucket = (this.firstInBucket ??= this.bucketed());
    const ys = points.y;
    for (let i = 0; i < points.count; i++) {
      const y = ys[i];
      const bucket = ((y - bottom) * bucketsPerMm) | 0;
      let layer = firstInBucket[bucket < 0 ? 0 : bucket >= BUCKETS ? BUCKETS - 1 : bucket];
      while (y > tops[layer]) layer++;
      out[i] = codes[layer];
    }
  }

  through(map: AxisMap): Field {
    if (leavesSection(map)) return this;
    const own = (y: number) => (y - map.ty) / map.ky;
    const height = BUCKETS / this.bucketsPerMm;
    const tops = Array.from(this.tops, (top) => own(top === Infinity ? this.bottom + height : top));
    return new LayersField(own(this.bottom), tops, this.codes);
  }
}

/** One material throughout. */
export class SolidField implements Field {
  readonly variesAlongZ = false;
  readonly solid: number;
  constructor(code: number) {
    this.solid = code;
  }
  sample(points: Points, out: Uint8Array): void {
    out.fill(this.solid, 0, points.count);
  }
  through(): Field {
    return this;
  }
}
