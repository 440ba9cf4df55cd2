import type { Billet } from '../billet/billet.ts';
import { type AxisMap, type Field, type Points, SAME_PLACE, afterMap } from '../billet/fields/field.ts';
import { rectangle } from '../geometry/outline.ts';
import { makeShop, materialCode } from '../shop/shop.ts';

export const shop = makeShop();
export const STEELS = shop.materials.slice(0, 6);
export const CODES = STEELS.map((m) => materialCode(shop, m.id));

/** Unlike itself however it is turned, rolled or shifted: patches of six steels with nothing regular about them. */
export class Mottled implements Field {
  readonly variesAlongZ = true;
  private readonly map: AxisMap;
  constructor(map: AxisMap = SAME_PLACE) {
    this.map = map;
  }
  sample({ x, y, z, count }: Points, out: Uint8Array): void {
    const { kx, ky, kz, tx, ty, tz } = this.map;
    for (let i = 0; i < count; i++) {
      const [u, v, w] = [x[i] * kx + tx, y[i] * ky + ty, z[i] * kz + tz];
      const patch = Math.sin(
        Math.floor(u / 5) * 12.9898 + Math.floor(v / 4) * 78.233 + Math.floor(w / 9) * 37.719,
      );
      out[i] = CODES[Math.floor((patch * 43758.5453 - Math.floor(patch * 43758.5453)) * CODES.length)];
    }
  }
  through(map: AxisMap): Field {
    return new Mottled(afterMap(map, this.map));
  }
}

export const bar = (
  widthMm: number,
  heightMm: number,
  lengthMm: number,
  some: Partial<Billet> = {},
): Billet => ({
  outline: rectangle(widthMm, heightMm),
  lengthMm,
  field: new Mottled(),
  volumes: Object.fromEntries(STEELS.map((m) => [m.id, (widthMm * heightMm * lengthMm) / STEELS.length])),
  loose: false,
  bandMm: 1,
  piece: null,
  jacket: null,
  ...some,
});
