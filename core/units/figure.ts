import type { FigureId } from '../words/figures.ts';

/** Where the values of a figure go against time (or another run), for a small plot. */
export interface Curve {
  readonly across: string;
  readonly up: string;
  readonly lines: readonly {
    readonly name: string;
    readonly points: readonly (readonly [number, number])[];
  }[];
}

/** A figure that can be asked where it comes from. All texts are in the shop's units. */
export interface Figure {
  /** Which figure it is, whatever it is called. */
  readonly id: FigureId;
  /** What it is: “Soak”. */
  readonly what: string;
  /** What it comes to: “19 min”. */
  readonly value: string;
  /** The same as a bare number in its unit; of a span or several sizes the first. */
  readonly number: number;
  readonly unit: string;
  /** The formula, or the rule in words. */
  readonly formula: string;
  /** What was put in: symbol or name, and its value. */
  readonly inputs: readonly (readonly [name: string, value: string])[];
  /** The published source, or “common practice, no source”. */
  readonly source: string;
  /** Worked out when it is asked for. */
  readonly curve?: () => Curve;
}

export const COMMON_PRACTICE = 'common practice, no source';
/** For what follows from definitions alone. */
export const BY_GEOMETRY = 'follows from the sizes themselves';
