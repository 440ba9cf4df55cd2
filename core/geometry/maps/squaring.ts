import { type Outline, outlineArea, outlineSize, rectangle, seenWhole } from '../outline.ts';
import { areaKept, cellAreas } from './areaKept.ts';
import { latest } from '../../remembered.ts';
import { bakedMap, mapFrom, nodesOn } from './baked.ts';
import type { PointMap } from './pointMap.ts';
import { Reach } from './rays.ts';

/** How quickly the filling of the corners fades towards the middle. */
const FADES = 4;

/** Cells of the grid to each half of the section. */
const CELLS = 18;
/** Corrections of their areas; each leaves a square of what was amiss. */
const ROUNDS = 6;

/**
 * A nearly square or flat section with worn corners, its corners filled: to the rectangle of the same proportions and the same
 * area (or `areaMm2`, where the section is to close further). The middle stays nearly where it is.
 */
export function squaring(
  outline: Outline,
  areaMm2 = outlineArea(outline),
): { map: PointMap; widthMm: number; heightMm: number } {
  const size = outlineSize(outline);
  const scale = Math.sqrt(areaMm2 / (size.widthMm * size.heightMm));
  const [widthMm, heightMm] = [size.widthMm * scale, size.heightMm * scale];
  return { map: shaping(outline, rectangle(widthMm, heightMm)), widthMm, heightMm };
}

/** Looking for a start evaluates a plan many times, and the sections in it stay the same: so many are kept. */
const kept = latest<PointMap>(12);

/** A section filled to another outline: the rim moved along every ray, then all of it so that every part keeps its share of the area. */
export function shaping(outline: Outline, target: Outline): PointMap {
  return kept(`${outline.join()}/${target.join()}`, () => shaped(seenWhole(outline) ?? outline, target));
}

function shaped(outline: Outline, target: Outline): PointMap {
  const [worn, wanted] = [new Reach(outline), new Reach(target)];
  const there = nodesOn(CELLS, (u, v, out) => wanted.fromSquare(u, v, out));
  const here = nodesOn(CELLS, (u, v, out) => {
    wanted.fromSquare(u, v, out);
    const far = Math.max(Math.abs(u), Math.abs(v));
    const moved = 1 + (far === 0 ? 0 : (worn.towards(u, v) / wanted.towards(u, v) - 1) * far ** FADES);
    [out[0], out[1]] = [out[0] * moved, out[1] * moved];
  });
  return bakedMap(
    mapFrom(CELLS, areaKept(here, cellAreas(there), outline, ROUNDS).xy),
    {
      toGrid: (x, y, out) => wanted.toSquare(x, y, out),
      fromGrid: (u, v, out) => wanted.fromSquare(u, v, out),
      nodes: mapFrom(CELLS, there.xy),
    },
    1,
    1,
  );
}
