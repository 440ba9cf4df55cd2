import type { PointMap } from '../../geometry/maps/pointMap.ts';
import { type AxisMap, type Field, type Points, SAME_PLACE, afterMap, leavesSection } from './field.ts';

/** A field seen through a reshaping of the solid. */
export class MappedField implements Field {
  readonly variesAlongZ: boolean;
  private readonly source: Field;
  private readonly map: PointMap;
  private readonly pre: AxisMap;

  constructor(source: Field, map: PointMap, pre: AxisMap = SAME_PLACE) {
    this.source = source;
    this.map = map;
    this.pre = pre;
    this.variesAlongZ = source.variesAlongZ || map.usesZ;
  }

  sample(points: Points, out: Uint8Array): void {
    const { x, y, z, count } = points;
    const { kx, ky, kz, tx, ty, tz } = this.pre;
    for (let i = 0; i < count; i++) {
      x[i] = x[i] * kx + tx;
      y[i] = y[i] * ky + ty;
      if (this.variesAlongZ) z[i] = z[i] * kz + tz;
    }
    this.map.backward(points);
    this.source.sample(points, out);
  }

  through(map: AxisMap): Field {
    if (!this.variesAlongZ && leavesSection(map)) return this;
    return new MappedField(this.source, this.map, afterMap(map, this.pre));
  }
}
