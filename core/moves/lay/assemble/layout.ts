import type { Placed } from '../../contract/move.ts';
import {
  ALL_ORIENTATIONS,
  AS_IT_LIES,
  ORIENTATION_NAMES,
  type Orientation,
  ROLLED_LEFT_RIGHT,
  ROLLED_TOP_BOTTOM,
  TURNED_180,
  orientationName,
} from '../../../geometry/orientation.ts';

export const PRESETS = ['alike', 'turned', 'mirrored', 'brick'] as const;
export type Preset = (typeof PRESETS)[number];

/** How the places are shared among lanes: one after the other, as a chessboard, or the first on both sides of the others. */
export const FILLS = ['in turn', 'chequer', 'either side'] as const;
export type GridFill = (typeof FILLS)[number];

export const orientationNames = ORIENTATION_NAMES;

/** Quarter turns round a block of four, so that each piece's same corner meets the middle: rows from the top. */
const PINWHEEL = [
  [3, 2],
  [0, 1],
];

function orientationIn(preset: Preset, column: number, row: number): Orientation {
  if (preset === 'alike' || preset === 'brick') return AS_IT_LIES;
  if (preset === 'turned') return ALL_ORIENTATIONS[PINWHEEL[row % 2][column % 2]];
  const mirrored = [
    [AS_IT_LIES, ROLLED_LEFT_RIGHT],
    [ROLLED_TOP_BOTTOM, TURNED_180],
  ];
  return mirrored[row % 2][column % 2];
}

export interface Layout {
  columns: number;
  rows: number;
  preset: Preset;
  /** Lanes whose pieces are laid; none where they are the lane's own. */
  from?: readonly string[] | undefined;
  fill?: GridFill | undefined;
}

/** Whose piece lies in a place: the middle columns of `either side`, as many as there are other lanes, are theirs. */
function laneAt(
  { columns, from = [], fill = 'in turn' }: Layout,
  column: number,
  row: number,
): string | undefined {
  if (fill === 'in turn') return from[(row * columns + column) % from.length];
  if (fill === 'chequer') return from[(column + row) % from.length];
  const others = from.length - 1;
  const left = Math.ceil((columns - others) / 2);
  return from[column < left || column >= left + others ? 0 : column - left + 1];
}

/** A preset written out, place by place, rows from the top, each lane's pieces in the order of their numbers. */
export function presetPlaces(layout: Layout): Placed[] {
  const { columns, rows, preset, from = [] } = layout;
  const next = new Map<string | undefined, number>();
  return Array.from({ length: columns * rows }, (_, i) => {
    const column = i % columns;
    const row = Math.floor(i / columns);
    const lane = from.length === 0 ? undefined : laneAt(layout, column, row);
    const piece = (next.get(lane) ?? 0) + 1;
    next.set(lane, piece);
    const orientation = orientationName(orientationIn(preset, column, row));
    return lane === undefined ? { piece, orientation } : { lane, piece, orientation };
  });
}
