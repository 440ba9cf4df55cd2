import { type Points, makePoints } from '../billet/fields/field.ts';
import { meshMap } from '../flow/sectionMap.ts';
import { type Outline } from '../geometry/outline.ts';
import { type Mesh, butterflyMesh } from '../flow/mesh.ts';
import { type PressOptions, type PressOutcome, type MeshedSection } from '../flow/pressing.ts';
import { PressSolver } from '../flow/press.ts';

export const PLAIN: PressOptions = {
  exponent: 0.15,
  friction: 0.5,
  axial: { by: 'height', spread: 0.4 },
  stepShare: 0.02,
  held: true,
};

export function sectionOf(outline: Outline, n = 12, rings = 4): MeshedSection {
  const mesh = butterflyMesh(outline, n, rings);
  return { mesh, startX: mesh.x, startY: mesh.y, lengthening: 1 };
}

export function turned({ mesh, ...rest }: MeshedSection, deg: number): MeshedSection {
  const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  const x = mesh.x.map((v, i) => v * c - mesh.y[i] * s);
  const y = mesh.x.map((v, i) => v * s + mesh.y[i] * c);
  return { ...rest, mesh: { ...mesh, x, y } };
}

function done(outcome: PressOutcome): PressOutcome & { ok: true } {
  if (!outcome.ok) throw new Error(outcome.why);
  return outcome;
}

export const press = (section: MeshedSection, toMm: number, some: Partial<PressOptions> = {}) =>
  done(new PressSolver(section, { ...PLAIN, ...some }).press(toMm));

/** Smallest of all elements' areas: above 0 where none is folded. */
export function leastElement({ x, y, quads }: Mesh): number {
  let least = Infinity;
  for (let e = 0; e < quads.length; e += 4)
    for (let k = 0; k < 4; k++) {
      const [a, b, c] = [quads[e + k], quads[e + ((k + 1) % 4)], quads[e + ((k + 2) % 4)]];
      least = Math.min(least, (x[b] - x[a]) * (y[c] - y[b]) - (x[c] - x[b]) * (y[b] - y[a]));
    }
  return least;
}

/** A square of 40 mm re-squared on the bias: turned by so much, pressed to so much. */
export const RESQUARE = [
  [45, 40],
  [90, 40],
  [90, 36],
  [90, 36],
  [90, 35],
  [90, 35],
] as const;

/** Where 441 points of a square of 40 mm are. */
export function placesAfter({ mesh, startX, startY }: MeshedSection): Points {
  const points = makePoints(441);
  for (let k = 0; k < 441; k++)
    [points.x[k], points.y[k]] = [-20 + 2 * (k % 21), -20 + 2 * Math.floor(k / 21)];
  points.count = 441;
  meshMap(mesh.quads, { x: startX, y: startY }, mesh).forward(points);
  return points;
}
