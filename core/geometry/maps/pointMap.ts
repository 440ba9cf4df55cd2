/** Points in mm, the first `count` of each array; maps work on them in place. */
export interface Coordinates {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly z: Float64Array;
  count: number;
}

/** A reshaping of the solid that keeps volume point by point. `forward` takes the steel before to the steel after. */
export interface PointMap {
  /** Whether it asks for z or changes it. */
  readonly usesZ: boolean;
  forward(points: Coordinates): void;
  backward(points: Coordinates): void;
}

/** Reshapings one after the other as one. */
export const inTurn = (maps: readonly PointMap[]): PointMap =>
  maps.length === 1
    ? maps[0]
    : {
        usesZ: maps.some((map) => map.usesZ),
        forward: (points) => {
          for (const map of maps) map.forward(points);
        },
        backward: (points) => {
          for (const map of maps.toReversed()) map.backward(points);
        },
      };

/** A map of the section alone, written for one point: [x, y] into `out`. */
export type SectionStep = (x: number, y: number, out: [number, number]) => void;

/** Makes a map from a step there and a step back, both of the section alone. */
export function sectionMap(there: SectionStep, back: SectionStep): PointMap {
  const each = (step: SectionStep) => (points: Coordinates) => {
    const { x, y, count } = points;
    const out: [number, number] = [0, 0];
    for (let i = 0; i < count; i++) {
      step(x[i], y[i], out);
      x[i] = out[0];
      y[i] = out[1];
    }
  };
  return { usesZ: false, forward: each(there), backward: each(back) };
}
