/**
 * One coordinate taken through an even row of cells, each with a map of its own: cell = ⌊c·perMm + start⌋, then
 * c·table[2·cell] + table[2·cell + 1]. A row of one cell is a plain map.
 */
export interface Fold {
  readonly perMm: number;
  readonly start: number;
  readonly last: number;
  readonly table: Float64Array;
}

/** A plain map c·k + t. */
export const plainFold = (k: number, t: number): Fold => ({
  perMm: 0,
  start: 0,
  last: 0,
  table: Float64Array.of(k, t),
});

/** The fold, with a plain map c·k + t after it. */
export const foldThen = (fold: Fold, k: number, t: number): Fold => ({
  ...fold,
  table: fold.table.map((value, i) => (i % 2 === 0 ? value * k : value * k + t)),
});
