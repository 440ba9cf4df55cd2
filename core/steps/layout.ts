import {
  ALL_ORIENTATIONS,
  AS_IT_LIES,
  ORIENTATION_NAMES,
  type Orientation,
  ROLLED_LEFT_RIGHT,
  ROLLED_TOP_BOTTOM,
  TURNED_180,
  orientationName,
  type OrientationName,
} from '../geometry/orientation.ts';

export const PRESETS = ['alike', 'turned', 'mirrored'] as const;
export type Preset = (typeof PRESETS)[number];

/** What lies in one place of an assembly: a piece by its number, and how it lies. */
export interface Placed {
  piece: number;
  orientation: OrientationName;
}

export const orientationNames = ORIENTATION_NAMES;

/** Quarter turns round a block of four, so that each piece's same corner meets the middle: rows from the top. */
const PINWHEEL = [
  [3, 2],
  [0, 1],
];

function orientationIn(preset: Preset, column: number, row: number): Orientation {
  if (preset === 'alike') return AS_IT_LIES;
  if (preset === 'turned') return ALL_ORIENTATIONS[PINWHEEL[row % 2][column % 2]];
  const mirrored = [
    [AS_IT_LIES, ROLLED_LEFT_RIGHT],
    [ROLLED_TOP_BOTTOM, TURNED_180],
  ];
  return mirrored[row % 2][column % 2];
}

/** A preset written out, place by place, rows from the top, pieces in the order of their numbers. */
export function presetPlaces(preset: Preset, columns: number, rows: number): Placed[] {
  return Array.from({ length: columns * rows }, (_, i) => ({
    piece: i + 1,
    orientation: orientationName(orientationIn(preset, i % columns, Math.floor(i / columns))),
  }));
}
