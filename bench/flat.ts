import { resquareMap } from '../core/geometry/maps/usual.ts';

/**
 * The yardstick: 27 layers, re-square, three mirrored four-ways, re-square, three mirrored four-ways, written out by hand in
 * one loop over n × n points of the end face (half-sides, −1…1). Codes 1 and 2, bottom layer 1.
 */
export function flatFace(n: number, out: Uint8Array): void {
  const {
    cells,
    sources,
    grid: { at: places, per },
  } = resquareMap({ sideShare: 0.9, biteShare: 0.9, missDeg: 0 });
  const row = 2 * (2 * cells + 1);
  const half = cells / 2;
  const last = 2 * cells - 1;
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      let x = (2 * i + 1) / n - 1;
      let y = 1 - (2 * j + 1) / n;
      for (let round = 0; round < 2; round++) {
        // Mirrored: the piece as it lies is top left; the others are its images in the two seams.
        x = 1 - 2 * Math.abs(x);
        y = 2 * Math.abs(y) - 1;
        x = 1 - 2 * Math.abs(x);
        y = 2 * Math.abs(y) - 1;
        x = 1 - 2 * Math.abs(x);
        y = 2 * Math.abs(y) - 1;
        const x2 = x * x;
        const y2 = y * y;
        let ip = (cells + half * x * (1 + x2 * x2 * x2)) | 0;
        let iq = (cells + half * y * (1 + y2 * y2 * y2)) | 0;
        if (ip > last) ip = last;
        if (iq > last) iq = last;
        const fp = (x - places[ip]) * per[ip];
        const fq = (y - places[iq]) * per[iq];
        const at = iq * row + 2 * ip;
        const w11 = fp * fq;
        const w10 = fp - w11;
        const w01 = fq - w11;
        const w00 = 1 - fp - w01;
        const a =
          w00 * sources[at] + w10 * sources[at + 2] + w01 * sources[at + row] + w11 * sources[at + row + 2];
        const b =
          w00 * sources[at + 1] +
          w10 * sources[at + 3] +
          w01 * sources[at + row + 1] +
          w11 * sources[at + row + 3];
        x = (a + b) * Math.SQRT1_2;
        y = (b - a) * Math.SQRT1_2;
      }
      let layer = ((y + 1) * 13.5) | 0;
      if (layer > 26) layer = 26;
      out[j * n + i] = 1 + (layer & 1);
    }
}
