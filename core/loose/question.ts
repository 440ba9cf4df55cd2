import type { LoosePiece } from './pieces.ts';

/** A press on what lies together: after a quarter turn or as it lies, to a height. mm */
export interface SeamPress {
  readonly turned: boolean;
  readonly toMm: number;
}

/** All that decides how the seams of loose pieces close. */
export interface SeamQuestion {
  readonly pieces: readonly LoosePiece[];
  /** Strength of each against the mean. */
  readonly strengths: readonly number[];
  readonly exponent: number;
  readonly friction: number;
  readonly biteMm: number | 'held';
  readonly gapMm: number;
  readonly cornerMm: number;
  /** One of them is larger than the others by so much, each way. */
  readonly larger: { readonly piece: number; readonly byMm: number } | null;
  /** Whether what is pressed together sticks for good. */
  readonly welds: boolean;
  readonly presses: readonly SeamPress[];
}

/** Pieces at most: with more the elements are too many. */
export const MOST_PIECES = 40;
/** Goes up when the same question is answered otherwise. */
const VERSION = 2;

/** All that an answer depends on, word for word. */
export const seamKey = (question: SeamQuestion): string => `seams ${VERSION} ${JSON.stringify(question)}`;
