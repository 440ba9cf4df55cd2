import type { ManifoldToplevel, Manifold, CrossSection } from 'manifold-3d/manifold';
import type { Point2 } from '../geometry/outline.ts';
import { type Region, boxOf, common, grown, islandsOf, joined, without } from '../geometry/regions.ts';
import type { Filling, FormSizes } from '../picture/picture.ts';

/** mm. The form slides in the can with so much room all round. */
const CLEARANCE_MM = 0.3;
/** mm. How high lip and bridges are. */
const LIP_HIGH_MM = 1.6;
/** mm. How far a base reaches beyond the wall on either side. */
const BASE_REACH_MM = 2;
/** mm. The handle's bar, and how high a finger goes under it. */
const HANDLE_MM = 4;
const FINGER_MM = 18;

/** Triangles of a closed solid: corners in mm, three numbers each, and three corners a triangle, seen from outside counter-clockwise. */
export interface SolidMesh {
  readonly corners: Float32Array;
  readonly triangles: Uint32Array;
}

export interface FormSolid {
  readonly mesh: SolidMesh;
  readonly volumeMm3: number;
  /** How many separate pieces it is printed in. */
  readonly pieces: number;
  readonly heightMm: number;
}

/** The wall between powders in section: along every outline, as thick as said, within the room. */
export function wallsOf(fillings: readonly Filling[], outline: Region, wallMm: number): Region {
  const room = grown(outline, -CLEARANCE_MM, 'sharp');
  return common(
    fillings.reduce<Region>((all, { region }) => {
      const band = without(grown(region, wallMm / 2), grown(region, -wallMm / 2));
      return joined(all, band);
    }, []),
    room,
  );
}

/** Straight bars between parts that do not hang together, each to its nearest that does: islands that would fall out. */
export function bridgesOf(walls: Region, widthMm: number): Region {
  const parts = islandsOf(walls).map((island) => island[0]);
  if (parts.length < 2 || widthMm <= 0) return [];
  const held = [parts[0]];
  const loose = parts.slice(1);
  let bridges: Region = [];
  while (loose.length > 0) {
    let best = { far: Infinity, part: 0, a: [0, 0] as Point2, b: [0, 0] as Point2 };
    loose.forEach((part, i) => {
      for (const a of part)
        for (const ring of held)
          for (const b of ring) {
            const far = Math.hypot(a[0] - b[0], a[1] - b[1]);
            if (far < best.far) best = { far, part: i, a, b };
          }
    });
    bridges = joined(bridges, [bar(best.a, best.b, widthMm)]);
    held.push(...loose.splice(best.part, 1));
  }
  return bridges;
}

/** A bar from one point to another, a little past both. */
function bar(a: Point2, b: Point2, widthMm: number): Point2[] {
  const long = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const [ux, uy] = [(b[0] - a[0]) / long, (b[1] - a[1]) / long];
  const [px, py] = [(-uy * widthMm) / 2, (ux * widthMm) / 2];
  const [ax, ay] = [a[0] - (ux * widthMm) / 2, a[1] - (uy * widthMm) / 2];
  const [bx, by] = [b[0] + (ux * widthMm) / 2, b[1] + (uy * widthMm) / 2];
  return [
    [ax - px, ay - py],
    [bx - px, by - py],
    [bx + px, by + py],
    [ax + px, ay + py],
  ];
}

/**
 * The printed form: walls along the outlines, without draft, as high as the room is deep, with lip, bridges, base and handle as
 * asked. One closed solid (or several that do not touch), joined by the library. Null where there is no wall at all.
 */
export function formSolid(
  library: ManifoldToplevel,
  fillings: readonly Filling[],
  outline: Region,
  depthMm: number,
  form: FormSizes,
): FormSolid | null {
  const walls = wallsOf(fillings, outline, form.wallMm);
  if (walls.length === 0) return null;
  const room = grown(outline, -CLEARANCE_MM, 'sharp');
  const made: (Manifold | CrossSection)[] = [];
  const upright = (region: Region, fromMm: number, toMm: number): Manifold[] => {
    if (region.length === 0 || toMm <= fromMm) return [];
    const section = new library.CrossSection(
      region.map((ring) => ring.map(([x, y]): [number, number] => [x, y])),
      'Positive',
    );
    const solid = section.extrude(toMm - fromMm);
    const there = solid.translate([0, 0, fromMm]);
    made.push(section, solid, there);
    return [there];
  };
  const lipFrom = Math.max(0, depthMm - LIP_HIGH_MM);
  const lip = form.lipMm > 0 ? common(grown(walls, form.lipMm), room) : [];
  const base = form.baseMm > 0 ? common(grown(walls, BASE_REACH_MM), room) : [];
  const bridges = bridgesOf(lip.length > 0 ? lip : walls, form.bridgeMm);
  const parts = [
    ...upright(walls, 0, depthMm),
    ...upright(lip, lipFrom, depthMm),
    ...upright(bridges, lipFrom, depthMm),
    ...upright(base, 0, Math.min(form.baseMm, depthMm)),
    ...(form.handle ? handle(walls, depthMm, upright) : []),
  ];
  const whole = library.Manifold.union(parts);
  const separate = whole.decompose();
  const { vertProperties, triVerts, numProp } = whole.getMesh();
  const corners = new Float32Array((vertProperties.length / numProp) * 3);
  for (let i = 0; i < corners.length / 3; i++)
    for (let k = 0; k < 3; k++) corners[3 * i + k] = vertProperties[i * numProp + k];
  const solid: FormSolid = {
    mesh: { corners, triangles: Uint32Array.from(triVerts) },
    volumeMm3: whole.volume(),
    pieces: separate.length,
    heightMm: whole.boundingBox().max[2],
  };
  // What the library holds is not collected for us.
  for (const thing of [...made, ...separate, whole]) thing.delete();
  return solid;
}

/** An arch over the largest part: two posts on the wall and a bar to pull by. */
function handle(
  walls: Region,
  depthMm: number,
  upright: (region: Region, fromMm: number, toMm: number) => Manifold[],
): Manifold[] {
  const largest = islandsOf(walls).reduce((a, b) => (spanOf(b) > spanOf(a) ? b : a))[0];
  const left = largest.reduce((a, p) => (p[0] < a[0] ? p : a));
  const right = largest.reduce((a, p) => (p[0] > a[0] ? p : a));
  const post = ([x, y]: Point2): Point2[] => {
    const h = HANDLE_MM / 2;
    return [
      [x - h, y - h],
      [x + h, y - h],
      [x + h, y + h],
      [x - h, y + h],
    ];
  };
  const top = depthMm + FINGER_MM;
  return [
    ...upright([post(left)], depthMm - LIP_HIGH_MM, top),
    ...upright([post(right)], depthMm - LIP_HIGH_MM, top),
    ...upright([bar(left, right, HANDLE_MM)], top - HANDLE_MM, top),
  ];
}

const spanOf = (island: Region): number => {
  const box = boxOf(island);
  return box ? box.maxX - box.minX : 0;
};
