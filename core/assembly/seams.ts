import { type Billet, pieceName } from '../billet/billet.ts';
import { BLOCK, makePoints } from '../billet/fields/field.ts';
import { orientationNamed } from '../geometry/orientation.ts';
import { type AssembleParameters, type Laid, laidPieces, stripSizes } from '../moves/lay/assemble/laid.ts';
import { partsOf } from './parts.ts';

/** Where two places of an assembly meet. Places are counted row by row from the top left. */
export interface Seam {
  readonly first: number;
  readonly second: number;
  /** Upright: second lies right of first. Level: second lies below first. */
  readonly way: 'upright' | 'level';
}

export function seamsOf(columns: number, rows: number): Seam[] {
  const seams: Seam[] = [];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const first = row * columns + column;
      if (column + 1 < columns) seams.push({ first, second: first + 1, way: 'upright' });
      if (row + 1 < rows) seams.push({ first, second: first + columns, way: 'level' });
    }
  return seams;
}

/** Stations along the parent bar of the faces that a piece shows in front and at the back, mm. */
export function shownStations({ billet, place }: Laid): { front: number; back: number } {
  const { fromMm, toMm } = billet.piece ?? { fromMm: 0, toMm: billet.lengthMm };
  return orientationNamed(place.orientation).rolled
    ? { front: fromMm, back: toMm }
    : { front: toMm, back: fromMm };
}

export interface SeamFigures extends Seam {
  readonly names: readonly [string, string];
  /** Distance along the parent bar between the two faces in front, and at the back, mm; null between bars of two lanes. */
  readonly frontMm: number | null;
  readonly backMm: number | null;
  /** Share of the seam (0…1) where the materials differ, in front and at the back. */
  readonly frontMismatch: number;
  readonly backMismatch: number;
  /** The maker says that the pictures are not meant to meet here. */
  readonly meantToClash: boolean;
}

/** Points asked along a seam. */
const SEAM_POINTS = 480;
/** mm. How far off the seam, and how far inside the ends, the two sides are asked. */
const OFF_SEAM_MM = 1e-5;

const sameBar = (a: Billet, b: Billet): boolean => a.piece?.lane === b.piece?.lane;

/** What is on each side of every seam of a laid assembly: stations, and how far the pictures disagree at both ends. */
export function seamFigures(
  before: readonly Billet[],
  p: AssembleParameters,
  assembled: Billet,
): SeamFigures[] {
  const laid = laidPieces(before, p);
  const { uprightMm, levelMm } = stripSizes(p);
  const parts = partsOf(laid, p);
  return seamsOf(p.columns, p.rows).map((seam) => {
    const [a, b] = [laid[seam.first], laid[seam.second]];
    const one = sameBar(a.billet, b.billet);
    const [sa, sb] = [shownStations(a), shownStations(b)];
    const part = parts[seam.first];
    const [left, bottom] = [part.x - part.widthMm / 2, part.y - part.heightMm / 2];
    const line: Line =
      seam.way === 'upright'
        ? { at: left + part.widthMm, gap: uprightMm, from: bottom, span: part.heightMm }
        : { at: bottom, gap: -levelMm, from: left, span: part.widthMm };
    const differ = (z: number) => mismatch(assembled, seam.way, line, z);
    return {
      ...seam,
      names: [pieceName(a.billet), pieceName(b.billet)],
      frontMm: one ? Math.abs(sa.front - sb.front) : null,
      backMm: one ? Math.abs(sa.back - sb.back) : null,
      frontMismatch: differ(assembled.lengthMm - OFF_SEAM_MM),
      backMismatch: differ(OFF_SEAM_MM),
      meantToClash: p.clash?.some(([a, b]) => a === seam.first && b === seam.second) ?? false,
    };
  });
}

interface Line {
  /** Where the first side ends, and how far on the second begins. */
  at: number;
  gap: number;
  from: number;
  span: number;
}

function mismatch(billet: Billet, way: Seam['way'], line: Line, z: number): number {
  const sides = [line.at, line.at + line.gap].map((at, k) => {
    // Upright seams run left to right, level ones top to bottom.
    const off = (way === 'upright' ? OFF_SEAM_MM : -OFF_SEAM_MM) * (k === 0 ? -1 : 1);
    return askAlong(billet, way, at + off, line, z);
  });
  let differ = 0;
  for (let i = 0; i < SEAM_POINTS; i++) if (sides[0][i] !== sides[1][i]) differ++;
  return differ / SEAM_POINTS;
}

function askAlong(billet: Billet, way: Seam['way'], at: number, line: Line, z: number): Uint8Array {
  const points = makePoints();
  const codes = new Uint8Array(BLOCK);
  for (let i = 0; i < SEAM_POINTS; i++) {
    const along = line.from + ((i + 0.5) / SEAM_POINTS) * line.span;
    points.x[i] = way === 'upright' ? at : along;
    points.y[i] = way === 'upright' ? along : at;
    points.z[i] = z;
  }
  points.count = SEAM_POINTS;
  billet.field.sample(points, codes);
  return codes;
}
