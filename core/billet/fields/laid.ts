import { type AxisMap, type Field, type Points, SAME_PLACE, afterMap } from './field.ts';
import { askSources, borrowTray, returnTray } from './tray.ts';

/** A bar laid down from standing on its end: its axis z now points up, its height runs towards end A. Centred section. */
export class LaidDownField implements Field {
  readonly variesAlongZ = true;
  private readonly source: Field;
  private readonly sourceLengthMm: number;
  private readonly sourceHeightMm: number;
  private readonly pre: AxisMap;

  constructor(source: Field, sourceLengthMm: number, sourceHeightMm: number, pre: AxisMap = SAME_PLACE) {
    this.source = source;
    this.sourceLengthMm = sourceLengthMm;
    this.sourceHeightMm = sourceHeightMm;
    this.pre = pre;
  }

  sample(points: Points, out: Uint8Array): void {
    const { x, y, z, count } = points;
    const { kx, ky, kz, tx, ty, tz } = this.pre;
    for (let i = 0; i < count; i++) {
      const up = y[i] * ky + ty;
      const along = z[i] * kz + tz;
      x[i] = x[i] * kx + tx;
      y[i] = this.sourceHeightMm / 2 - along;
      z[i] = up + this.sourceLengthMm / 2;
    }
    this.source.sample(points, out);
  }

  through(map: AxisMap): Field {
    return new LaidDownField(this.source, this.sourceLengthMm, this.sourceHeightMm, afterMap(map, this.pre));
  }
}

interface Part {
  readonly field: Field;
  readonly lengthMm: number;
}

const SQUARE_JOINTS = { overMm: 0, heightMm: 1 };

/** Joints that slant: how far each reaches along, from the bottom to the top of the bar, mm. */
interface Slant {
  readonly overMm: number;
  readonly heightMm: number;
}

/** Bars end to end along z; where the joints slant they reach over each other, the earlier one on top. */
export class JoinedField implements Field {
  readonly variesAlongZ = true;
  private readonly parts: readonly Part[];
  private readonly starts: readonly number[];
  private readonly slant: Slant;
  private readonly pre: AxisMap;

  constructor(parts: readonly Part[], slant: Slant = SQUARE_JOINTS, pre: AxisMap = SAME_PLACE) {
    this.parts = parts;
    this.slant = slant;
    this.pre = pre;
    let start = 0;
    this.starts = parts.map(({ lengthMm }) => (start += lengthMm - slant.overMm) - (lengthMm - slant.overMm));
  }

  sample(points: Points, out: Uint8Array): void {
    const { x, y, z, count } = points;
    const { kx, ky, kz, tx, ty, tz } = this.pre;
    const { starts } = this;
    const { overMm, heightMm } = this.slant;
    const perMm = overMm / heightMm;
    const tray = borrowTray();
    for (let i = 0; i < count; i++) {
      const along = z[i] * kz + tz;
      x[i] = x[i] * kx + tx;
      y[i] = y[i] * ky + ty;
      const over = overMm / 2 + y[i] * perMm;
      let part = starts.length - 1;
      while (part > 0 && along < starts[part] + over) part--;
      z[i] = along - starts[part];
      tray.sourceOfPoint[i] = part;
    }
    askSources(
      points,
      tray,
      this.parts.map((p) => p.field),
      out,
    );
    returnTray(tray);
  }

  through(map: AxisMap): Field {
    return new JoinedField(this.parts, this.slant, afterMap(map, this.pre));
  }
}

/** Piece frames of a sunburst, counter-clockwise from the right: which way is outward, and which way is the piece's right. */
const OUTWARD = [
  [1, 0],
  [0, 1],
  [-1, 0],
  [0, -1],
] as const;

/** What lies between the wedges, and how far it keeps their points from the middle, mm. */
interface Between {
  readonly field: Field;
  readonly apartMm: number;
}

/** Four triangles with their apexes to the middle, making a square: right, top, left, bottom. Each stands apex down in its own frame. */
export class SunburstField implements Field {
  readonly variesAlongZ: boolean;
  private readonly parts: readonly (Part & { mirrored: boolean })[];
  /** Half the broad side, which is how deep each is. */
  private readonly halfMm: number;
  private readonly between: Between | null;
  private readonly pre: AxisMap;

  constructor(
    parts: readonly (Part & { mirrored: boolean })[],
    halfMm: number,
    between: Between | null = null,
    pre: AxisMap = SAME_PLACE,
  ) {
    this.parts = parts;
    this.halfMm = halfMm;
    this.between = between;
    this.pre = pre;
    this.variesAlongZ = parts.some((p) => p.field.variesAlongZ);
  }

  sample(points: Points, out: Uint8Array): void {
    const { x, y, z, count } = points;
    const { kx, ky, kz, tx, ty, tz } = this.pre;
    const apart = this.between?.apartMm ?? 0;
    const tray = borrowTray();
    for (let i = 0; i < count; i++) {
      const px = x[i] * kx + tx;
      const py = y[i] * ky + ty;
      const sector = Math.abs(px) >= Math.abs(py) ? (px >= 0 ? 0 : 2) : py >= 0 ? 1 : 3;
      const [ox, oy] = OUTWARD[sector];
      const { mirrored, lengthMm } = this.parts[sector];
      const side = px * oy - py * ox;
      const outward = px * ox + py * oy - apart;
      const along = z[i] * kz + tz;
      z[i] = mirrored ? lengthMm - along : along;
      if (apart > 0 && Math.abs(side) > outward) {
        [x[i], y[i]] = [px, py];
        tray.sourceOfPoint[i] = this.parts.length;
        continue;
      }
      x[i] = mirrored ? -side : side;
      y[i] = outward - this.halfMm / 2;
      tray.sourceOfPoint[i] = sector;
    }
    const fields = this.parts.map((p) => p.field);
    askSources(points, tray, this.between ? [...fields, this.between.field] : fields, out);
    returnTray(tray);
  }

  through(map: AxisMap): Field {
    return new SunburstField(this.parts, this.halfMm, this.between, afterMap(map, this.pre));
  }
}
