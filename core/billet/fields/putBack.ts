import { type AxisMap, type Field, type Points, SAME_PLACE, afterMap } from './field.ts';

interface Box {
  readonly minX: number;
  readonly maxX: number;
  readonly minY: number;
  readonly maxY: number;
}

/** A section one piece of which was moved: within `box`, where it now lies, stands what was `by` further back. mm */
export class PutBackField implements Field {
  readonly variesAlongZ: boolean;
  private readonly source: Field;
  private readonly box: Box;
  private readonly by: readonly [x: number, y: number];
  private readonly pre: AxisMap;

  constructor(source: Field, box: Box, by: readonly [number, number], pre: AxisMap = SAME_PLACE) {
    this.source = source;
    this.box = box;
    this.by = by;
    this.pre = pre;
    this.variesAlongZ = source.variesAlongZ;
  }

  sample(points: Points, out: Uint8Array): void {
    const { x, y, z, count } = points;
    const { kx, ky, kz, tx, ty, tz } = this.pre;
    const { minX, maxX, minY, maxY } = this.box;
    for (let i = 0; i < count; i++) {
      const [px, py] = [x[i] * kx + tx, y[i] * ky + ty];
      const within = px > minX && px < maxX && py > minY && py < maxY;
      x[i] = within ? px - this.by[0] : px;
      y[i] = within ? py - this.by[1] : py;
      z[i] = z[i] * kz + tz;
    }
    this.source.sample(points, out);
  }

  through(map: AxisMap): Field {
    return new PutBackField(this.source, this.box, this.by, afterMap(map, this.pre));
  }
}
