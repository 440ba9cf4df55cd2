import { plainNumber } from '../units/quantities.ts';
import { sizeOf } from '../billet/billet.ts';
import { heightForRatio, pictureRatio } from '../geometry/tiling.ts';
import { type LaneResult, type StepResult } from './evaluate.ts';

/** New numbers for one step of the plan. */
export interface StepChange {
  readonly stepId: string;
  readonly set: Readonly<Record<string, unknown>>;
}

/** One way to give the picture the wanted length-to-width ratio. */
export interface TileAdvice {
  readonly what: 'height' | 'angle' | 'tile thickness' | 'final thickness';
  /** mm, or degrees for the angle; null where no such number does it. */
  readonly value: number | null;
  /** What to change; empty where the plan has no step that holds this number. */
  readonly changes: readonly StepChange[];
}

export interface TileStretchNow {
  /** Length over width of one end-grain picture on the finished bar. */
  readonly ratio: number;
  readonly advice: readonly TileAdvice[];
}

const radians = (deg: number): number => (deg * Math.PI) / 180;
const LEAST_ANGLE_DEG = 20;

/** The flat bar that a tiled billet is drawn to later in its lane, if it is. */
function flatDrawAfter(lane: LaneResult, tile: StepResult): StepResult | undefined {
  return lane.steps
    .slice(lane.steps.indexOf(tile) + 1)
    .findLast((s) => s.step.kind === 'draw' && s.step.parameters.shape === 'flat');
}

/** How the tiles' picture is stretched, and what would give it the length-to-width ratio `wanted`. */
export function tileAdvice(lane: LaneResult, tile: StepResult, wanted: number): TileStretchNow | null {
  const [bar] = tile.before;
  if (!bar || !tile.after?.[0] || tile.step.kind !== 'tile') return null;
  const p = tile.step.parameters;
  const { widthMm, heightMm } = sizeOf(bar);
  const drawn = flatDrawAfter(lane, tile);
  const end = drawn?.after?.[0] ? sizeOf(drawn.after[0]) : sizeOf(tile.after[0]);
  const angleRad = radians(p.angleDeg);
  const stretch = {
    heightMm,
    widthMm,
    thicknessMm: p.thicknessMm,
    angleRad,
    toThicknessMm: end.heightMm,
    toWidthMm: end.widthMm,
  };
  const ratio = pictureRatio(stretch);
  const height = heightForRatio(wanted, stretch);
  const sine = (Math.sin(angleRad) * ratio) / wanted;
  const angleDeg = sine <= 1 ? (Math.asin(sine) * 180) / Math.PI : null;
  const before = lane.steps.slice(0, lane.steps.indexOf(tile)).findLast((s) => s.step.kind === 'draw');
  const own = (set: Record<string, unknown>): StepChange[] => [{ stepId: tile.step.id, set }];
  return {
    ratio,
    advice: [
      {
        what: 'height',
        value: height,
        changes: before
          ? [
              {
                stepId: before.step.id,
                set: { shape: 'flat', sideMm: undefined, widthMm, thicknessMm: height },
              },
            ]
          : [],
      },
      {
        what: 'angle',
        value: angleDeg !== null && angleDeg >= LEAST_ANGLE_DEG ? angleDeg : null,
        changes: own({ angleDeg }),
      },
      {
        what: 'tile thickness',
        value: (p.thicknessMm * wanted) / ratio,
        changes: own({ thicknessMm: (p.thicknessMm * wanted) / ratio }),
      },
      {
        what: 'final thickness',
        value: (end.heightMm * ratio) / wanted,
        changes: drawn
          ? [{ stepId: drawn.step.id, set: { thicknessMm: (end.heightMm * ratio) / wanted } }]
          : [],
      },
    ],
  };
}

/** How many times as long as wide a picture may be wanted. */
export const WANTED_STRETCH = plainNumber('Wanted, long by wide', 0.1, 20);
