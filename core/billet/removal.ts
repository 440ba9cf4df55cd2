import {
  type Outline,
  boundingBox,
  clipOutline,
  contains,
  isConvex,
  isRectangle,
  moveOutline,
  outlineArea,
  rectangle,
} from '../geometry/outline.ts';
import { grown } from '../geometry/regions.ts';
import {
  type Volumes,
  addVolumes,
  onlySteel,
  scaleVolumes,
  subtractVolumes,
  totalVolume,
  without,
} from '../materials/volumes.ts';
import { type Shop, codedMaterial } from '../shop/shop.ts';
import { type Billet, type CanState, type Jacket, type Removal, beadsLeft } from './billet.ts';
import { scattered } from './scatter.ts';
import { BLOCK, type Points, SAME_PLACE, countCodes } from './fields/field.ts';

/** Points asked to learn what a skin or an end is made of: scattered, for evenly spaced ones beat with the layers. Errs by some 2 % of the skin, itself a hundredth of the bar. */
const SKIN_POINTS = 256;

/** Splits `volumeMm3` taken from a billet by what `count` sampled points were made of; where all is of one steel nothing need be asked. */
function madeOf(
  { field, volumes }: Billet,
  shop: Shop,
  volumeMm3: number,
  fill: (points: Points) => number,
): Volumes {
  const only = onlySteel(volumes);
  if (only !== null) return { [only]: volumeMm3 };
  const counts = countCodes(field, fill);
  const total = [...counts.values()].reduce((sum, n) => sum + n, 0);
  if (total === 0) return {};
  return Object.fromEntries(
    [...counts].map(([code, n]) => [codedMaterial(shop, code).id, (volumeMm3 * n) / total]),
  );
}

/** Never takes more of a material than there is: sampled shares are estimates. */
function takeFrom(volumes: Volumes, wanted: Volumes): Volumes {
  const capped = Object.fromEntries(
    Object.entries(wanted).map(([id, v]) => [id, Math.min(v, volumes[id] ?? 0)]),
  );
  const short = totalVolume(wanted) - totalVolume(capped);
  if (short <= 0) return capped;
  const rest = subtractVolumes(volumes, capped);
  return addVolumes(capped, scaleVolumes(rest, short / totalVolume(rest)));
}

/** Keeps the part of the section inside `outline` (same place, not recentred yet), then centres it. */
export function cutTo(
  billet: Billet,
  outline: Outline,
  shop: Shop,
  fill: (points: Points) => number,
): Removal {
  const volumeMm3 = (outlineArea(billet.outline) - outlineArea(outline)) * billet.lengthMm;
  if (volumeMm3 <= 0) return { billet, lost: {} };
  const lost = takeFrom(billet.volumes, madeOf(billet, shop, volumeMm3, fill));
  const box = boundingBox(outline);
  const tx = (box.minX + box.maxX) / 2;
  const ty = (box.minY + box.maxY) / 2;
  const left: Billet = {
    ...billet,
    outline: moveOutline(outline, -tx, -ty),
    field: billet.field.through({ ...SAME_PLACE, tx, ty }),
    volumes: subtractVolumes(billet.volumes, lost),
  };
  const volumes = withoutGone(left, billet.volumes, shop);
  return {
    billet: volumes === left.volumes ? left : { ...left, volumes },
    lost: volumes === left.volumes ? lost : subtractVolumes(billet.volumes, volumes),
  };
}

/** Of a steel of which no more than this share is left it is asked whether any is: what was taken of it is an estimate. */
const LITTLE = 0.1;
/** Blocks of points in which it must be met. */
const LOOKED_FOR = 3;

/** Without steels that were taken but for a little, by the account, and of which the picture has none: the most of what is there stands for them. */
function withoutGone(billet: Billet, before: Volumes, shop: Shop): Volumes {
  const { volumes, outline, lengthMm, field } = billet;
  const little = Object.keys(volumes).filter((id) => volumes[id] > 0 && volumes[id] < LITTLE * before[id]);
  if (little.length === 0) return volumes;
  const box = boundingBox(outline);
  const met = new Set<string>();
  for (let block = 0; block < LOOKED_FOR; block++)
    for (const code of countCodes(field, (points) => {
      let count = 0;
      for (let i = block * BLOCK; i < (block + 1) * BLOCK; i++) {
        const x = box.minX + (box.maxX - box.minX) * scattered(i, 0);
        const y = box.minY + (box.maxY - box.minY) * scattered(i, 1);
        if (!contains(outline, x, y)) continue;
        points.x[count] = x;
        points.y[count] = y;
        points.z[count++] = lengthMm * scattered(i, 2);
      }
      return count;
    }).keys())
      if (code > 0) met.add(codedMaterial(shop, code).id);
  return without(
    volumes,
    little.filter((id) => !met.has(id)),
  );
}

export type SideFace = 'top' | 'bottom' | 'left' | 'right';

const FACE_NORMALS: Record<SideFace, readonly [number, number]> = {
  top: [0, 1],
  bottom: [0, -1],
  left: [-1, 0],
  right: [1, 0],
};

/** Takes `depthMm` off one long face. The depth must leave some steel. */
export function grindFace(billet: Billet, face: SideFace, depthMm: number, shop: Shop): Removal {
  const [nx, ny] = FACE_NORMALS[face];
  const box = boundingBox(billet.outline);
  const reach = nx !== 0 ? (nx > 0 ? box.maxX : -box.minX) : ny > 0 ? box.maxY : -box.minY;
  const outline = clipOutline(billet.outline, nx, ny, reach - depthMm);
  const ground = billet.beads ? { ...billet, beads: beadsLeft(billet.beads, { [face]: depthMm }) } : billet;
  return cutTo(ground, outline, shop, (points) => {
    let count = 0;
    for (let i = 0; i < SKIN_POINTS; i++) {
      const inward = reach - depthMm * scattered(i, 0);
      const x = nx !== 0 ? nx * inward : box.minX + (box.maxX - box.minX) * scattered(i, 1);
      const y = ny !== 0 ? ny * inward : box.minY + (box.maxY - box.minY) * scattered(i, 1);
      if (!contains(billet.outline, x, y)) continue;
      points.x[count] = x;
      points.y[count] = y;
      points.z[count++] = billet.lengthMm * scattered(i, 2);
    }
    return count;
  });
}

/** What is left of a jacket when so much goes off the sides and off top and bottom, mm. */
const thinner = (jacket: Jacket | null, sideMm: number, topMm: number): Jacket | null =>
  jacket && (jacket.sideMm > sideMm || jacket.topMm > topMm)
    ? { ...jacket, sideMm: Math.max(0, jacket.sideMm - sideMm), topMm: Math.max(0, jacket.topMm - topMm) }
    : null;

/** Takes a skin of even depth all round, `share` (0…1) of the volume: scale. */
export function loseSkin(billet: Billet, share: number, shop: Shop): Removal {
  if (share <= 0) return { billet, lost: {} };
  const depthMm = skinDepth(billet.outline, share);
  const rim = billet.outline.map(([x, y], i) => {
    const [x1, y1] = billet.outline[(i + 1) % billet.outline.length];
    return { x, y, dx: x1 - x, dy: y1 - y, length: Math.hypot(x1 - x, y1 - y) };
  });
  const round = rim.reduce((sum, side) => sum + side.length, 0);
  const worn = { ...billet, jacket: thinner(billet.jacket, depthMm, depthMm) };
  return cutTo(worn, insetOutline(billet.outline, depthMm), shop, ({ x, y, z }) => {
    for (let i = 0; i < SKIN_POINTS; i++) {
      let along = scattered(i, 0) * round;
      let k = 0;
      while (along > rim[k].length && k < rim.length - 1) along -= rim[k++].length;
      const side = rim[k];
      const inward = (depthMm * scattered(i, 1)) / side.length;
      along /= side.length;
      x[i] = side.x + side.dx * along - side.dy * inward;
      y[i] = side.y + side.dy * along + side.dx * inward;
      z[i] = billet.lengthMm * scattered(i, 2);
    }
    return SKIN_POINTS;
  });
}

/** The largest part left of an outline that is not convex. */
function hollowInset(outline: Outline, depthMm: number): Outline {
  const rings = grown([outline], -depthMm, 'sharp') as Outline[];
  return rings.reduce((a, b) => (outlineArea(b) > outlineArea(a) ? b : a), rings[0] ?? outline);
}

/** An outline with every side moved in by `depthMm`. */
export function insetOutline(outline: Outline, depthMm: number): Outline {
  let inset = outline;
  if (isRectangle(outline)) {
    const box = boundingBox(outline);
    const [w, h] = [box.maxX - box.minX - 2 * depthMm, box.maxY - box.minY - 2 * depthMm];
    return moveOutline(rectangle(w, h), (box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2);
  }
  if (!isConvex(outline)) return hollowInset(outline, depthMm);
  outline.forEach(([x0, y0], i) => {
    const [x1, y1] = outline[(i + 1) % outline.length];
    const length = Math.hypot(x1 - x0, y1 - y0);
    const nx = (y1 - y0) / length;
    const ny = -(x1 - x0) / length;
    inset = clipOutline(inset, nx, ny, nx * x0 + ny * y0 - depthMm);
  });
  return inset;
}

/**
 * Depth of an even skin that holds `share` of a section, mm. While no side vanishes the area left is
 * A − P·d + d²·Σ tan(turn/2) over the corners' turns; Newton's method mends what is left where one does.
 */
function skinDepth(outline: Outline, share: number): number {
  const whole = outlineArea(outline);
  const wanted = whole * (1 - share);
  const { round, bend } = roundAndBend(outline);
  let depth =
    (2 * whole * share) / (round + Math.sqrt(Math.max(0, round * round - 4 * bend * whole * share)));
  for (let i = 0; i < 20; i++) {
    const here = outlineArea(insetOutline(outline, depth));
    if (Math.abs(here - wanted) < 1e-9 * whole) break;
    const slope = (outlineArea(insetOutline(outline, depth + 1e-6)) - here) / 1e-6;
    depth -= (here - wanted) / slope;
  }
  return depth;
}

/** Length all round, and the sum over the corners of tan(half the turn). */
function roundAndBend(outline: Outline): { round: number; bend: number } {
  let round = 0;
  let bend = 0;
  outline.forEach(([x0, y0], i) => {
    const [x1, y1] = outline[(i + 1) % outline.length];
    const [x2, y2] = outline[(i + 2) % outline.length];
    const [ax, ay, bx, by] = [x1 - x0, y1 - y0, x2 - x1, y2 - y1];
    round += Math.hypot(ax, ay);
    bend += Math.tan(Math.atan2(ax * by - ay * bx, ax * bx + ay * by) / 2);
  });
  return { round, bend };
}

/** Takes lengths off the ends (and what lies between `fromMm` and `toMm` stays). */
export function keepLength(billet: Billet, fromMm: number, toMm: number, shop: Shop): Removal {
  const kept = (toMm - fromMm) / billet.lengthMm;
  const lost = billet.field.variesAlongZ
    ? takeFrom(billet.volumes, lengthMadeOf(billet, fromMm, toMm, shop))
    : scaleVolumes(billet.volumes, 1 - kept);
  return {
    billet: {
      ...billet,
      lengthMm: toMm - fromMm,
      field: billet.field.through({ ...SAME_PLACE, tz: fromMm }),
      volumes: subtractVolumes(billet.volumes, lost),
      can: shorterCaps(billet, fromMm, billet.lengthMm - toMm),
      distorted: distortedWithin(billet, fromMm, toMm),
      ...(billet.beads && {
        beads: beadsLeft(billet.beads, { endA: fromMm, endB: billet.lengthMm - toMm }),
      }),
    },
    lost,
  };
}

/** What is left of distorted ends on the stretch that is kept. */
export function distortedWithin(
  { distorted, lengthMm }: Billet,
  fromMm: number,
  toMm: number,
): Billet['distorted'] {
  if (!distorted) return undefined;
  const left = (mm: number) => Math.min(1, Math.max(0, mm / (toMm - fromMm)));
  const endA = left(distorted.endA * lengthMm - fromMm);
  const endB = left(toMm - (1 - distorted.endB) * lengthMm);
  return endA > 1e-9 || endB > 1e-9 ? { endA, endB } : undefined;
}

/** What is left of a can's caps when so much comes off the ends; nothing once both are off. */
function shorterCaps({ can }: Billet, offAMm: number, offBMm: number): CanState | undefined {
  if (!can) return undefined;
  const [capAMm, capBMm] = [Math.max(0, can.capAMm - offAMm), Math.max(0, can.capBMm - offBMm)];
  return capAMm > 0 || capBMm > 0 || can.poresMm3 > 0 ? { ...can, capAMm, capBMm } : undefined;
}

/** What lies outside the stretch that is kept. */
function lengthMadeOf(billet: Billet, fromMm: number, toMm: number, shop: Shop): Volumes {
  const lostMm = billet.lengthMm - (toMm - fromMm);
  const box = boundingBox(billet.outline);
  return madeOf(billet, shop, outlineArea(billet.outline) * lostMm, (points) => {
    let count = 0;
    for (let i = 0; i < BLOCK; i++) {
      const x = box.minX + (box.maxX - box.minX) * scattered(i, 0);
      const y = box.minY + (box.maxY - box.minY) * scattered(i, 1);
      if (!contains(billet.outline, x, y)) continue;
      const along = lostMm * scattered(i, 2);
      points.x[count] = x;
      points.y[count] = y;
      points.z[count++] = along < fromMm ? along : along - fromMm + toMm;
    }
    return count;
  });
}
