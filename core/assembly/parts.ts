import type { Part } from '../billet/cornerLine.ts';
import { type AssembleParameters, type Laid, gridSizes, stripSizes } from '../moves/lay/assemble/laid.ts';

/** Where each piece of a grid lies in the section of the block, rows from the top. A frame round them does not move them. */
export function partsOf(laid: readonly Laid[], p: AssembleParameters): Part[] {
  const { widths, heights } = gridSizes([...laid], p.columns, p.rows);
  const { uprightMm, levelMm } = stripSizes(p);
  const [xs, ys] = [middles(widths, uprightMm), middles(heights, levelMm)];
  return laid.map((l, i) => ({
    x: xs[i % p.columns],
    y: -ys[Math.floor(i / p.columns)],
    widthMm: l.widthMm,
    heightMm: l.heightMm,
  }));
}

/** Middles of lines with something between them, the whole centred on 0. */
function middles(sizes: readonly number[], between: number): number[] {
  let at = -(sizes.reduce((sum, s) => sum + s, 0) + between * (sizes.length - 1)) / 2;
  return sizes.map((size) => {
    const middle = at + size / 2;
    at += size + between;
    return middle;
  });
}
