import { BLOCK } from '../billet/fields/field.ts';
import type { Billet } from '../billet/billet.ts';
import type { Plane } from '../billet/face.ts';
import { Asker } from './asker.ts';
import { R2 } from './scattering.ts';

/** The material code at the middle of every pixel, rows from the top. */
export function sampleCodes(billet: Billet, plane: Plane, widthPx: number, heightPx: number): Uint8Array {
  const codes = new Uint8Array(widthPx * heightPx);
  const asker = new Asker(billet, plane);
  const { us, vs } = asker;
  let row = 0;
  let column = 0;
  const perPx = 1 / widthPx;
  for (let done = 0; done < codes.length; done += BLOCK) {
    const count = Math.min(BLOCK, codes.length - done);
    for (let i = 0; i < count;) {
      const end = Math.min(count, i + widthPx - column);
      vs.fill(1 - (row + 0.5) / heightPx, i, end);
      for (; i < end; i++) us[i] = (0.5 + column++) * perPx;
      if (column < widthPx) continue;
      column = 0;
      row++;
    }
    asker.ask(count);
    codes.set(count === BLOCK ? asker.codes : asker.codes.subarray(0, count), done);
  }
  return codes;
}

/** Share of the plane that each code covers, by `count` evenly scattered points (a lattice would beat with the layers). */
export function codeShares(billet: Billet, plane: Plane, count = 100_000): Map<number, number> {
  const shares = new Map<number, number>();
  const asker = new Asker(billet, plane);
  for (let done = 0; done < count; done += BLOCK) {
    const n = Math.min(BLOCK, count - done);
    for (let i = 0; i < n; i++) {
      asker.us[i] = (0.5 + (done + i) * R2[0]) % 1;
      asker.vs[i] = (0.5 + (done + i) * R2[1]) % 1;
    }
    asker.ask(n);
    for (let i = 0; i < n; i++) shares.set(asker.codes[i], (shares.get(asker.codes[i]) ?? 0) + 1 / count);
  }
  return shares;
}
