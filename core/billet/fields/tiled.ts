import { type AxisMap, type Field, type Points, SAME_PLACE, afterMap } from './field.ts';

/** How a tile lies in the row, against the tile as it was sawn with its face towards end B up. */
export const TILE_LAYS = [
  'as it lies',
  'rolled over',
  'turned in the plane',
  'turned about its length',
] as const;
export type TileLay = (typeof TILE_LAYS)[number];

/** Signs that take (x, depth, along) of the laid tile to those of the tile as it lies: half turns about x, y and z. */
const SIGNS: Record<TileLay, readonly [number, number, number]> = {
  'as it lies': [1, 1, 1],
  'rolled over': [1, -1, -1],
  'turned in the plane': [-1, 1, -1],
  'turned about its length': [-1, -1, 1],
};

export interface TileRow {
  angleRad: number;
  /** Length of a tile's cut face, mm. */
  faceMm: number;
  /** Tile thickness, mm. */
  thicknessMm: number;
  lays: readonly TileLay[];
  /** For each tile in the row, where its middle stood along the bar, mm from end A. */
  stationsMm: readonly number[];
  /**
   * Legs of an accordion cut from a bar this high, mm: the first leans with its top towards end A, for the first V opens at the top,
   * and every other one the other way, so they meet in upright planes. Legs stay as they were cut; where a root bends into the next,
   * the skin of the bar is taken to be drawn round the bend.
   */
  accordionOfMm?: number;
}

/**
 * Slanted (or straight) slabs of a bar laid face up, edge to edge along z (handbook, geometry, "Cut-and-flip tiles").
 * The sound part begins at z = 0: the first slanted end has been cropped.
 */
export class TiledField implements Field {
  readonly variesAlongZ = true;
  private readonly source: Field;
  readonly row: TileRow;
  private readonly pre: AxisMap;
  private readonly signs: Float64Array;

  constructor(source: Field, row: TileRow, pre: AxisMap = SAME_PLACE) {
    this.source = source;
    this.row = row;
    this.pre = pre;
    this.signs = Float64Array.from(row.lays.flatMap((lay) => SIGNS[lay]));
  }

  sample(points: Points, out: Uint8Array): void {
    const { x, y, z, count } = points;
    const { pre, signs } = this;
    const { angleRad, faceMm, thicknessMm, stationsMm, accordionOfMm } = this.row;
    const sin = Math.sin(angleRad);
    const cos = Math.cos(angleRad);
    const folded = accordionOfMm !== undefined;
    const cot = folded ? 0 : cos / sin;
    const skin = folded ? accordionOfMm / 2 : Infinity;
    const croppedMm = (thicknessMm / 2) * cot;
    const lastTile = stationsMm.length - 1;
    const { variesAlongZ } = this.source;
    const marked = points.trace?.tile;
    for (let i = 0; i < count; i++) {
      const depth = y[i] * pre.ky + pre.ty;
      const along = z[i] * pre.kz + pre.tz + croppedMm;
      let tile = Math.floor((along + depth * cot) / faceMm);
      tile = tile < 0 ? 0 : tile > lastTile ? lastTile : tile;
      if (marked?.[i] === 0) marked[i] = tile + 1;
      const d = depth * signs[3 * tile + 1];
      // Along the cut face, upward in the bar: a tile as it lies has the bar's top edge towards end A.
      const up = -(along - (tile + 0.5) * faceMm) * signs[3 * tile + 2];
      x[i] = (x[i] * pre.kx + pre.tx) * signs[3 * tile];
      const slant = folded && tile % 2 === 0 ? -cos : cos;
      const high = up * sin - d * slant;
      y[i] = high > skin ? skin : high < -skin ? -skin : high;
      if (variesAlongZ) z[i] = stationsMm[tile] + up * slant + d * sin;
    }
    this.source.sample(points, out);
  }

  through(map: AxisMap): Field {
    return new TiledField(this.source, this.row, afterMap(map, this.pre));
  }
}
