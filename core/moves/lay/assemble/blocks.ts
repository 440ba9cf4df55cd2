import { type Loss, pieceName, sizeOf } from '../../../billet/billet.ts';
import { GridField, type GridCell } from '../../../billet/fields/grid.ts';
import { SunburstField } from '../../../billet/fields/laid.ts';
import { SolidField } from '../../../billet/fields/layers.ts';
import type { Field } from '../../../billet/fields/field.ts';
import { AS_IT_LIES, orientationNamed } from '../../../geometry/orientation.ts';
import type { Point2 } from '../../../geometry/outline.ts';
import { wedgeOf } from '../../../geometry/shapes.ts';
import { type LoosePiece, laidAt } from '../../../loose/pieces.ts';
import { scaleVolumes } from '../../../materials/volumes.ts';
import { type Shop, materialCode } from '../../../shop/shop.ts';
import { type Bought } from '../../contract/move.ts';
import { type Laid, type P, gridSizes, stripSizes } from './laid.ts';
import { areWedges, pointedBase } from './wedges.ts';

/** Lines of pieces (by index) and strips (−1) one way, with edges centred on 0. */
interface Lines {
  edges: number[];
  of: number[];
}

function linesOf(sizes: number[], between: number, frame: number): Lines {
  const of: number[] = [];
  const widths: number[] = [];
  const put = (index: number, mm: number) => {
    if (mm <= 0) return;
    of.push(index);
    widths.push(mm);
  };
  put(-1, frame);
  sizes.forEach((size, i) => {
    if (i > 0) put(-1, between);
    put(i, size);
  });
  put(-1, frame);
  let at = -widths.reduce((sum, w) => sum + w, 0) / 2;
  return { of, edges: [at, ...widths.map((w) => (at += w))] };
}

/** What an assembly comes to: its field, size, what lies where, and what the saw and grinder took (bricks only). */
interface Block {
  field: Field;
  pieces: LoosePiece[];
  widthMm: number;
  heightMm: number;
  lost: Loss[];
}

export function gridBlock(laid: Laid[], p: P, shop: Shop): Block {
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const { uprightMm, levelMm, frameMm } = stripSizes(p);
  const across = linesOf(widths, uprightMm, frameMm);
  const up = linesOf([...heights].reverse(), levelMm, frameMm);
  const strip = p.strips && new SolidField(materialCode(shop, p.strips.material));
  const cells = up.of.flatMap((line) =>
    across.of.map((column): GridCell => {
      if (column < 0 || line < 0) return { field: strip!, orientation: AS_IT_LIES, lengthMm: 0 };
      const { billet, place } = laid[(p.rows - 1 - line) * p.columns + column];
      return {
        field: billet.field,
        orientation: orientationNamed(place.orientation),
        lengthMm: billet.lengthMm,
      };
    }),
  );
  const pieceAt = (line: number, column: number): string =>
    pieceName(laid[(p.rows - 1 - line) * p.columns + column].billet);
  return {
    field: GridField.of(across.edges, up.edges, cells),
    pieces: amongStrips(across, up, ([x, width], [y, height], line, column) => [
      laidAt(pieceAt(line, column), [x, y], [width, height]),
    ]),
    ...spanOf(across, up),
    lost: [],
  };
}

/** A line from where to how far. mm */
type Reach = readonly [fromMm: number, lengthMm: number];

/** Pieces and the strips among them: upright ones from bottom to top, level ones from upright to upright. */
function amongStrips(
  across: Lines,
  up: Lines,
  at: (x: Reach, y: Reach, line: number, column: number) => LoosePiece[],
): LoosePiece[] {
  const reach = ({ edges }: Lines, i: number): Reach => [edges[i], edges[i + 1] - edges[i]];
  const [low, high] = [up.edges[0], up.edges.at(-1)! - up.edges[0]];
  let strips = 0;
  const strip = (x: number, y: number, wide: number, tall: number) =>
    laidAt(`strip ${++strips}`, [x, y], [wide, tall], true);
  return across.of.flatMap((column, i) => {
    const [x, wide] = reach(across, i);
    if (column < 0) return [strip(x, low, wide, high)];
    return up.of.flatMap((line, j) => {
      const [y, tall] = reach(up, j);
      return line < 0 ? [strip(x, y, wide, tall)] : at([x, wide], [y, tall], line, column);
    });
  });
}

/** The strips as they must be cut: upright ones from bottom to top, level ones from upright to upright (right across between bricks). */
export function stripsOf(laid: Laid[], p: P, shop: Shop): Bought[] {
  if (!p.strips) return [];
  const { material } = p.strips;
  if (areWedges(laid.map((l) => l.billet))) {
    const { thicknessMm } = p.strips;
    const lengthMm = Math.min(...laid.map((l) => l.billet.lengthMm));
    const out = pointedBase(wedgeOf(laid[0].billet.outline)!) / 2 + apartMm(p);
    return crossStrips(out, thicknessMm).map(({ longMm, count }) => ({
      what: 'strip',
      material,
      widthMm: longMm,
      thicknessMm,
      lengthMm,
      count,
    }));
  }
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const { uprightMm, levelMm, frameMm } = stripSizes(p);
  const brick = p.layout === 'brick';
  const wide = widths.reduce((sum, mm) => sum + mm, 0) - shop.kerfMm;
  const across = brick ? linesOf([wide], 0, frameMm) : linesOf(widths, uprightMm, frameMm);
  const up = linesOf([...heights].reverse(), levelMm, frameMm);
  const lengthMm = Math.min(...laid.map((l) => l.billet.lengthMm));
  const sizes = ({ edges, of }: Lines, strips: boolean) =>
    of.flatMap((index, i) => (index < 0 === strips ? [edges[i + 1] - edges[i]] : []));
  const strip = (a: number, b: number): Bought => ({
    what: 'strip',
    material,
    widthMm: Math.max(a, b),
    thicknessMm: Math.min(a, b),
    lengthMm,
    count: 1,
  });
  const high = up.edges.at(-1)! - up.edges[0];
  return [
    ...sizes(across, true).map((mm) => strip(high, mm)),
    ...sizes(up, true).flatMap((mm) => sizes(across, false).map((span) => strip(span, mm))),
  ];
}

const spanOf = (across: Lines, up: Lines) => ({
  widthMm: across.edges.at(-1)! - across.edges[0],
  heightMm: up.edges.at(-1)! - up.edges[0],
});

const cellOf = (l: Laid): GridCell => ({
  field: l.billet.field,
  orientation: orientationNamed(l.place.orientation),
  lengthMm: l.billet.lengthMm,
});

/** A solid as a one-cell grid shifted so that its middle stands at its place. */
const shifted = (field: Field, dx: number): Field =>
  field.through({ kx: 1, ky: 1, kz: 1, tx: dx, ty: 0, tz: 0 });

/**
 * Bricks: every other row is shifted by half a piece; what sticks out is sawn off and set in at the other end. Those rows lose
 * a kerf, and the others are ground as much narrower.
 */
export function brickBlock(laid: Laid[], p: P, shop: Shop): Block {
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const { levelMm, frameMm } = stripSizes(p);
  const kerf = shop.kerfMm;
  const width = widths.reduce((sum, w) => sum + w, 0) - kerf;
  const lost: Loss[] = [];
  const names = (r: number) => laid.slice(r * p.columns, (r + 1) * p.columns).map((l) => pieceName(l.billet));
  const rows = heights.map((heightMm, r): Field => {
    const row = laid.slice(r * p.columns, (r + 1) * p.columns);
    const last = row[row.length - 1];
    const share = kerf / last.widthMm;
    const even = r % 2 === 0;
    lost.push({ cause: even ? 'grinding' : 'kerf', volumes: scaleVolumes(last.billet.volumes, share) });
    const edgesY = [-heightMm / 2, heightMm / 2];
    if (even) return GridField.of(centred(row.map((l) => l.widthMm)), edgesY, row.map(cellOf));
    const half = (last.widthMm - kerf) / 2;
    const cut = (dx: number): GridCell => {
      const cell = cellOf(last);
      const lying = GridField.of([-last.widthMm / 2, last.widthMm / 2], edgesY, [cell]);
      return { field: shifted(lying, dx), orientation: AS_IT_LIES, lengthMm: cell.lengthMm };
    };
    const whole = row.slice(0, -1);
    const edgesX = centred([half, ...whole.map((l) => l.widthMm), half]);
    return GridField.of(edgesX, edgesY, [
      cut((half + kerf) / 2),
      ...whole.map(cellOf),
      cut(-(half + kerf) / 2),
    ]);
  });
  const strip = p.strips && new SolidField(materialCode(shop, p.strips.material));
  const across = linesOf([width], 0, frameMm);
  const up = linesOf([...heights].reverse(), levelMm, frameMm);
  const lengthMm = laid[0].billet.lengthMm;
  const cells = up.of.flatMap((line) =>
    across.of.map((column): GridCell => ({
      field: line < 0 || column < 0 ? strip! : rows[p.rows - 1 - line],
      orientation: AS_IT_LIES,
      lengthMm,
    })),
  );
  const pieces = amongStrips(across, up, ([left], [y, tall], line) => {
    const r = p.rows - 1 - line;
    const own = names(r);
    const last = laid[(r + 1) * p.columns - 1].widthMm;
    const whole = laid.slice(r * p.columns, (r + 1) * p.columns).map((l) => l.widthMm);
    const half = (last - kerf) / 2;
    // Of an even row a kerf is ground off, half at each end.
    const ground = whole.map(
      (mm, i) => mm - (i === 0 ? kerf / 2 : 0) - (i === own.length - 1 ? kerf / 2 : 0),
    );
    const row: (readonly [string, number])[] =
      r % 2 === 0
        ? own.map((name, i) => [name, ground[i]])
        : [
            [`${own.at(-1)} right`, half],
            ...own.slice(0, -1).map((name, i) => [name, whole[i]] as const),
            [`${own.at(-1)} left`, half],
          ];
    let x = left;
    return row.map(([name, mm]) => {
      const piece = laidAt(name, [x, y], [mm, tall]);
      x += mm;
      return piece;
    });
  });
  return { field: GridField.of(across.edges, up.edges, cells), pieces, ...spanOf(across, up), lost };
}

function centred(widths: number[]): number[] {
  let at = -widths.reduce((sum, w) => sum + w, 0) / 2;
  return [at, ...widths.map((w) => (at += w))];
}

/** How far a strip between wedges keeps their points from the middle, mm. */
export const apartMm = (p: P): number => (p.strips?.thicknessMm ?? 0) / Math.SQRT2;

/** The strips of a sunburst: one right across from corner to corner, two from its sides to the others. */
function crossStrips(halfMm: number, t: number): { longMm: number; count: number }[] {
  return [
    { longMm: 2 * Math.SQRT2 * halfMm, count: 1 },
    { longMm: Math.SQRT2 * halfMm - t / 2, count: 2 },
  ];
}

/** Four wedges with their points to the middle, strips between them where wanted, whose ends are ground square with the corners. */
export function sunburstBlock(laid: Laid[], p: P, shop: Shop): Block {
  const { widthMm: base } = sizeOf(laid[0].billet);
  const parts = laid.map(({ billet, place }) => ({
    field: billet.field,
    lengthMm: billet.lengthMm,
    mirrored: orientationNamed(place.orientation).rolled,
  }));
  const [h, d] = [base / 2, apartMm(p)];
  const out = h + d;
  /** Of the wedge on the right, turned round from side to side. */
  const right: Point2[] = [
    [d, 0],
    [out, -h],
    [out, h],
  ];
  const quarter = (n: number, [x, y]: Point2): Point2 => (n === 0 ? [x, y] : quarter(n - 1, [-y, x]));
  const pieces: LoosePiece[] = laid.map(({ billet }, i) => ({
    name: pieceName(billet),
    outline: right.map((point) => quarter(i, point)),
  }));
  const widthMm = 2 * out;
  if (!p.strips) return { field: new SunburstField(parts, h), pieces, widthMm, heightMm: widthMm, lost: [] };
  const { material, thicknessMm: t } = p.strips;
  const whole: LoosePiece = {
    name: 'strip 1',
    outline: [
      [-h, -out],
      [out, h],
      [h, out],
      [-out, -h],
    ],
    bought: true,
  };
  // From the side of the whole one to the upper left, and the same turned half round.
  const upper: LoosePiece = {
    name: 'strip 2',
    outline: [
      [0, d],
      [-h, out],
      [-out, h],
      [-d, 0],
    ],
    bought: true,
  };
  const lower: LoosePiece = {
    ...upper,
    name: 'strip 3',
    outline: upper.outline.map((point) => quarter(2, point)),
  };
  return {
    field: new SunburstField(parts, h, { field: new SolidField(materialCode(shop, material)), apartMm: d }),
    pieces: [...pieces, whole, upper, lower],
    widthMm,
    heightMm: widthMm,
    lost: [{ cause: 'grinding', volumes: { [material]: t * t * laid[0].billet.lengthMm } }],
  };
}
