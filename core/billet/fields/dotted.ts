import { type AxisMap, type Field, type Points, SAME_PLACE, afterMap } from './field.ts';

/** Dots about a place that are looked at, each way. */
const ROUND = 4;

/** What a dot counts for, by how far a place lies past the second of four: cubic B-spline. */
function weights(t: number, into: Float64Array): void {
  const [s, t2, t3] = [1 - t, t * t, t * t * t];
  into[0] = (s * s * s) / 6;
  into[1] = (3 * t3 - 6 * t2 + 4) / 6;
  into[2] = (-3 * t3 + 3 * t2 + 3 * t + 1) / 6;
  into[3] = t3 / 6;
}

/** Scratch; it never leaves this module. */
const [across, down] = [new Float64Array(ROUND), new Float64Array(ROUND)];
const votes = new Float64Array(256);

/** A section that is known as dots, the same all along. Where they are unlike the steel of most of what lies near counts, so that edges run smoothly. */
export class DottedField implements Field {
  readonly variesAlongZ = false;
  private readonly side: number;
  private readonly codes: Uint8Array;
  private readonly widthMm: number;
  private readonly heightMm: number;
  private readonly pre: AxisMap;
  /** Of each dot whether all that is looked at from it is of one steel. */
  private readonly plain: Uint8Array;

  /** `codes`: rows from above, `side` of `side` dots, over a section of that size, mm. */
  constructor(
    side: number,
    codes: Uint8Array,
    widthMm: number,
    heightMm: number,
    pre: AxisMap = SAME_PLACE,
    plain = plainOf(side, codes),
  ) {
    this.side = side;
    this.codes = codes;
    this.widthMm = widthMm;
    this.heightMm = heightMm;
    this.pre = pre;
    this.plain = plain;
  }

  sample({ x, y, count }: Points, out: Uint8Array): void {
    const { side, codes, pre, plain } = this;
    const [perX, perY] = [side / this.widthMm, side / this.heightMm];
    const most = side - 1;
    for (let k = 0; k < count; k++) {
      const fx = Math.min(most, Math.max(0, (x[k] * pre.kx + pre.tx) * perX + side / 2 - 0.5));
      const fy = Math.min(most, Math.max(0, side / 2 - 0.5 - (y[k] * pre.ky + pre.ty) * perY));
      const [i, j] = [Math.floor(fx), Math.floor(fy)];
      out[k] = plain[j * side + i] === 1 ? codes[j * side + i] : this.voted(i, j, fx - i, fy - j);
    }
  }

  private voted(i: number, j: number, u: number, v: number): number {
    const { side, codes } = this;
    weights(u, across);
    weights(v, down);
    let best = codes[j * side + i];
    votes.fill(0);
    for (let b = 0; b < ROUND; b++)
      for (let a = 0; a < ROUND; a++) {
        const code = codes[within(j + b - 1, side) * side + within(i + a - 1, side)];
        votes[code] += across[a] * down[b];
        if (votes[code] > votes[best]) best = code;
      }
    return best;
  }

  through(map: AxisMap): Field {
    const { side, codes, widthMm, heightMm, plain } = this;
    return new DottedField(side, codes, widthMm, heightMm, afterMap(map, this.pre), plain);
  }
}

const within = (k: number, side: number): number => Math.min(side - 1, Math.max(0, k));

function plainOf(side: number, codes: Uint8Array): Uint8Array {
  return codes.map((code, at) => {
    const [i, j] = [at % side, Math.floor(at / side)];
    for (let b = -1; b < ROUND - 1; b++)
      for (let a = -1; a < ROUND - 1; a++)
        if (codes[within(j + b, side) * side + within(i + a, side)] !== code) return 0;
    return 1;
  });
}
