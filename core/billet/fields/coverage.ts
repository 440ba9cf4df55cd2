import type { Coverage } from './field.ts';

/** Buckets in which the layer at a height is looked for. */
const BUCKETS = 512;
/** Of the dot's longer way: heights that grow by less across it count as level. */
const LEVEL = 1e-3;

/**
 * A stack's codes summed up over its height, once and twice: how much each takes of any stretch, and of a square dot that lies
 * aslant, is a difference of sums. Past its ends a stack goes on as at them.
 */
export class LayerCoverage implements Coverage {
  readonly codes: readonly number[];
  readonly leastMm: number;
  private readonly starts: Float64Array;
  /** Of each layer, its place among `codes`. */
  private readonly kinds: Uint8Array;
  /** Per code and layer boundary: of the heights below it what the code takes, and the sum of that over the heights. */
  private readonly once: Float64Array[];
  private readonly twice: Float64Array[];
  private readonly first: Int32Array;
  private readonly perMm: number;
  private readonly ends: Float64Array;

  constructor(bottom: number, tops: readonly number[], codes: ArrayLike<number>) {
    this.codes = [...new Set(Array.from(codes))];
    this.starts = Float64Array.of(bottom, ...tops);
    this.kinds = Uint8Array.from(codes, (code) => this.codes.indexOf(code));
    this.leastMm = Math.min(...tops.map((top, k) => top - this.starts[k]));
    this.once = this.codes.map(() => new Float64Array(tops.length + 1));
    this.twice = this.codes.map(() => new Float64Array(tops.length + 1));
    for (let k = 0; k < tops.length; k++) {
      const thick = this.starts[k + 1] - this.starts[k];
      this.codes.forEach((_, c) => {
        const own = this.kinds[k] === c ? 1 : 0;
        this.once[c][k + 1] = this.once[c][k] + own * thick;
        this.twice[c][k + 1] = this.twice[c][k] + this.once[c][k] * thick + (own * thick * thick) / 2;
      });
    }
    this.ends = Float64Array.from(tops);
    this.ends[tops.length - 1] = Infinity;
    this.perMm = BUCKETS / (this.starts[tops.length] - bottom);
    this.first = new Int32Array(BUCKETS);
    for (let b = 0, k = 0; b < BUCKETS; b++) {
      while (this.ends[k] <= bottom + b / this.perMm) k++;
      this.first[b] = k;
    }
  }

  private layerAt(height: number): number {
    const bucket = ((height - this.starts[0]) * this.perMm) | 0;
    let k = this.first[bucket < 0 ? 0 : bucket >= BUCKETS ? BUCKETS - 1 : bucket];
    while (height > this.ends[k]) k++;
    return k;
  }

  /** What a code takes of the heights below one, and the same summed up. */
  private below(c: number, layer: number, height: number): number {
    const past = height - this.starts[layer];
    return this.once[c][layer] + (this.kinds[layer] === c ? past : 0);
  }

  private summed(c: number, layer: number, height: number): number {
    const past = height - this.starts[layer];
    return this.twice[c][layer] + past * (this.once[c][layer] + (this.kinds[layer] === c ? past / 2 : 0));
  }

  inDot(height: number, across: number, up: number, out: Float64Array): void {
    const long = across > up ? across : up;
    const short = across > up ? up : across;
    const count = this.codes.length;
    const reach = (long + short) / 2;
    const [low, high] = [this.layerAt(height - reach), this.layerAt(height + reach)];
    if (low === high) {
      for (let c = 0; c < count; c++) out[c] = 0;
      out[this.kinds[low]] = 1;
      return;
    }
    // The last code takes what the others leave.
    let left = 1;
    if (short < LEVEL * long) {
      for (let c = 0; c + 1 < count; c++) {
        out[c] = (this.below(c, high, height + reach) - this.below(c, low, height - reach)) / (2 * reach);
        left -= out[c];
      }
    } else {
      const inner = (long - short) / 2;
      const [under, over] = [this.layerAt(height - inner), this.layerAt(height + inner)];
      const per = 1 / (long * short);
      for (let c = 0; c + 1 < count; c++) {
        out[c] =
          (this.summed(c, high, height + reach) -
            this.summed(c, over, height + inner) -
            this.summed(c, under, height - inner) +
            this.summed(c, low, height - reach)) *
          per;
        left -= out[c];
      }
    }
    out[count - 1] = left;
  }
}
