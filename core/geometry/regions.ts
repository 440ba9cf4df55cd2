import {
  type PathsD,
  EndType,
  FillRule,
  JoinType,
  differenceD,
  inflatePathsD,
  intersectD,
  ramerDouglasPeuckerD,
  unionD,
} from 'clipper2-ts';
import { type Outline, type Point2, outlineArea } from './outline.ts';

/** A closed ring of corners; the last joins the first. */
export type Ring = readonly Point2[];

/** A part of the plane: outer rings counter-clockwise, holes clockwise, none crossing itself or another. */
export type Region = readonly Ring[];

export type Rule = 'nonzero' | 'evenodd';

/** Decimals kept of a millimetre while outlines are joined and cut. */
const DECIMALS = 5;
/** mm. How far a rounded corner may be off its arc. */
const ARC_MM = 0.005;
const RULES: Record<Rule, FillRule> = { nonzero: FillRule.NonZero, evenodd: FillRule.EvenOdd };

/** What the library rounds to, as whole numbers of it. */
const UNIT = 10 ** DECIMALS;

/**
 * A ring without corners where it turns straight back on itself, and without the same corner twice: they enclose nothing, and the
 * library can lose a real corner beside them. Reckoned in the whole numbers that the library works in.
 */
function withoutSpikes(ring: Ring): Ring {
  const kept: Point2[] = [];
  const back = (a: Point2, b: Point2, c: Point2): boolean => {
    const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
    return ux * vy === uy * vx && ux * vx + uy * vy <= 0;
  };
  const push = (p: Point2) => {
    while (kept.length > 1 && back(kept[kept.length - 2], kept[kept.length - 1], p)) kept.pop();
    const last = kept.at(-1);
    if (!last || last[0] !== p[0] || last[1] !== p[1]) kept.push(p);
  };
  for (const [x, y] of ring) push([Math.round(x * UNIT), Math.round(y * UNIT)]);
  // And over the joint of its end and its beginning.
  for (let turned = true; turned && kept.length > 2;) {
    const [first, second] = kept;
    const [before, last] = kept.slice(-2);
    turned = false;
    if (back(before, last, first) || (last[0] === first[0] && last[1] === first[1])) {
      kept.pop();
      turned = true;
    } else if (back(last, first, second)) {
      kept.shift();
      turned = true;
    }
  }
  return kept.map(([x, y]): Point2 => [x / UNIT, y / UNIT]);
}

const toPaths = (region: Region): PathsD =>
  region.map((ring) => withoutSpikes(ring).map(([x, y]) => ({ x, y })));
const toRegion = (paths: PathsD): Region =>
  paths.filter((path) => path.length > 2).map((path) => path.map(({ x, y }): Point2 => [x, y]));

/** Area, mm²; holes count against it. */
export const regionArea = (region: Region): number =>
  region.reduce((sum, ring) => sum + outlineArea(ring as Outline), 0);

/** Whether a place is in a join or cut of two regions, from whether it is in each. */
type Together = (inA: boolean, inB: boolean) => boolean;

/**
 * What the library makes of regions, held against what went in: where it lost something, corners are moved by a hair, which parts
 * what lay one upon the other.
 */
export function checked(
  a: Region,
  b: Region,
  rule: Rule,
  together: Together,
  work: (a: Region, b: Region) => PathsD,
): Region {
  const region = toRegion(work(a, b));
  const off = amiss(a, b, rule, together, region);
  if (off <= MOST_AMISS) return region;
  const other = toRegion(work(movedByAHair(a, 0), movedByAHair(b, 3)));
  return amiss(a, b, rule, together, other) < off ? other : region;
}

const movedByAHair = (rings: Region, from: number): Region =>
  rings.map((ring, r) =>
    ring.map(([x, y], i): Point2 => [x + HAIR * hair(i, r + from), y + HAIR * hair(r + from + 7, i)]),
  );

/** Share of what is covered that may differ, and how far a corner is moved for another try. */
const MOST_AMISS = 0.005;
const HAIR = 20 / UNIT;
const hair = (i: number, k: number): number => ((i * 0.618034 + k * 0.754878) % 1) - 0.5;
/** Level lines on which the two are compared. */
const COMPARED_LINES = 24;

/** By how much of what two regions cover together a third covers something else, on some level lines: by winding numbers alone. */
function amiss(a: Region, b: Region, rule: Rule, together: Together, region: Region): number {
  const box = boxOf([...a, ...b]);
  if (!box) return 0;
  const lines = Array.from(
    { length: COMPARED_LINES },
    (_, k) => box.minY + ((k + 0.5 + 0.31 * hair(k, 3)) / COMPARED_LINES) * (box.maxY - box.minY),
  );
  const met = lines.map((): Met[] => []);
  [a, b, region].forEach((rings, of) => meet(rings, of, lines, met));
  const inside = (winding: number, of: number) =>
    of < 2 && rule === 'evenodd' ? winding % 2 !== 0 : winding !== 0;
  let [covered, differs] = [0, 0];
  for (const line of met) {
    line.sort((p, q) => p.x - q.x);
    const winding = [0, 0, 0];
    line.forEach(({ x, way, of }, i) => {
      const long = i > 0 ? x - line[i - 1].x : 0;
      const [inA, inB, now] = winding.map(inside);
      if (inA || together(inA, inB)) covered += long;
      if (together(inA, inB) !== now) differs += long;
      winding[of] += way;
    });
  }
  return covered > 0 ? differs / covered : 0;
}

/** Where an edge goes over a level line: up or down, and of which region. */
interface Met {
  readonly x: number;
  readonly way: 1 | -1;
  readonly of: number;
}

/** `lines` from low to high, evenly enough that those an edge spans lie side by side. */
function meet(rings: Region, of: number, lines: readonly number[], met: readonly Met[][]): void {
  for (const ring of rings)
    ring.forEach(([x0, y0], i) => {
      const [x1, y1] = ring[(i + 1) % ring.length];
      const [low, high] = y0 < y1 ? [y0, y1] : [y1, y0];
      for (let k = lines.findIndex((y) => y >= low); k >= 0 && lines[k] < high; k++)
        met[k].push({ x: x0 + ((lines[k] - y0) * (x1 - x0)) / (y1 - y0), way: y1 > y0 ? 1 : -1, of });
    });
}

/** What rings enclose by a fill rule, as a proper region: crossings parted, overlaps joined. */
export const tidied = (rings: Region, rule: Rule): Region =>
  checked(
    rings,
    [],
    rule,
    (inA) => inA,
    (a) => unionD(toPaths(a), [], RULES[rule], DECIMALS),
  );

export const joined = (a: Region, b: Region): Region =>
  checked(
    a,
    b,
    'nonzero',
    (inA, inB) => inA || inB,
    (p, q) => unionD(toPaths(p), toPaths(q), FillRule.NonZero, DECIMALS),
  );

/** What of `a` is not in `b`. */
export const without = (a: Region, b: Region): Region =>
  checked(
    a,
    b,
    'nonzero',
    (inA, inB) => inA && !inB,
    (p, q) => differenceD(toPaths(p), toPaths(q), FillRule.NonZero, DECIMALS),
  );

/** What is in both. */
export const common = (a: Region, b: Region): Region =>
  checked(
    a,
    b,
    'nonzero',
    (inA, inB) => inA && inB,
    (p, q) => intersectD(toPaths(p), toPaths(q), FillRule.NonZero, DECIMALS),
  );

/** Grown all round by so much (shrunk where negative), corners kept sharp or made round to `arcMm`. mm */
export const grown = (
  region: Region,
  mm: number,
  corners: 'round' | 'sharp' = 'round',
  arcMm = ARC_MM,
): Region =>
  mm === 0 || region.length === 0
    ? region
    : toRegion(
        inflatePathsD(
          toPaths(region),
          mm,
          corners === 'round' ? JoinType.Round : JoinType.Miter,
          EndType.Polygon,
          corners === 'round' ? 2 : 4,
          DECIMALS,
          arcMm,
        ),
      );

export type LineCap = 'butt' | 'round' | 'square';
export type LineJoin = 'miter' | 'round' | 'bevel';

/** A drawn line of some width, as the region it covers; `tolerance` is how far round ends and joins may be off. */
export function strokeOf(
  line: Ring,
  closed: boolean,
  width: number,
  cap: LineCap,
  join: LineJoin,
  miterLimit: number,
  tolerance: number,
): Region {
  const ends = { butt: EndType.Butt, round: EndType.Round, square: EndType.Square };
  const joins = { miter: JoinType.Miter, round: JoinType.Round, bevel: JoinType.Bevel };
  // The library rounds to whole units after scaling: thin lines of small drawings are worked on enlarged.
  const scale = Math.max(1, 1 / Math.max(tolerance, 1e-9) / 1000);
  const path = line.map(([x, y]) => ({ x: x * scale, y: y * scale }));
  const paths = inflatePathsD(
    [path],
    (width / 2) * scale,
    joins[join],
    closed ? EndType.Joined : ends[cap],
    miterLimit,
    DECIMALS,
    tolerance * scale,
  );
  return toRegion(paths).map((ring) => ring.map(([x, y]): Point2 => [x / scale, y / scale]));
}

/** With corners left out that change the outline by less than `tolerance` (Ramer–Douglas–Peucker); tidied again. */
export function simplified(region: Region, tolerance: number): Region {
  const thin = toPaths(region).map((path) => thinned(path, tolerance));
  return tidied(toRegion(thin), 'nonzero');
}

/** A ring is cut at its two points furthest apart along it, so that both halves have ends that stay. */
function thinned(path: PathsD[number], tolerance: number): PathsD[number] {
  if (path.length < 5) return path;
  const far = path.reduce(
    (best, p, i) =>
      Math.hypot(p.x - path[0].x, p.y - path[0].y) >
      Math.hypot(path[best].x - path[0].x, path[best].y - path[0].y)
        ? i
        : best,
    0,
  );
  const first = ramerDouglasPeuckerD(path.slice(0, far + 1), tolerance);
  const second = ramerDouglasPeuckerD([...path.slice(far), path[0]], tolerance);
  return [...first.slice(0, -1), ...second.slice(0, -1)];
}

/** Rings below an area left out, holes too. */
export const withoutSpecks = (region: Region, leastArea: number): Region =>
  region.filter((ring) => Math.abs(outlineArea(ring as Outline)) >= leastArea);

export const mappedRegion = (region: Region, map: (p: Point2) => Point2): Region =>
  region.map((ring) => ring.map(map));

/** Corners in all rings. */
export const cornersOf = (region: Region): number => region.reduce((sum, ring) => sum + ring.length, 0);

/** Smallest box about it; null where there is nothing. */
export function boxOf(region: Region): { minX: number; minY: number; maxX: number; maxY: number } | null {
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (const ring of region)
    for (const [x, y] of ring) {
      box.minX = Math.min(box.minX, x);
      box.minY = Math.min(box.minY, y);
      box.maxX = Math.max(box.maxX, x);
      box.maxY = Math.max(box.maxY, y);
    }
  return box.minX <= box.maxX ? box : null;
}

/** Outer rings, each with the holes that lie in it. */
export function islandsOf(region: Region): Region[] {
  const outers = region.filter((ring) => outlineArea(ring as Outline) > 0);
  const islands = outers.map((ring) => [ring]);
  for (const hole of region) {
    if (outlineArea(hole as Outline) > 0) continue;
    // The smallest outer ring about a hole is its own.
    const holders = outers
      .map((ring, i) => ({ i, area: outlineArea(ring as Outline) }))
      .filter(({ i }) => insideRing(outers[i], hole[0]))
      .sort((a, b) => a.area - b.area);
    if (holders.length > 0) islands[holders[0].i].push(hole);
  }
  return islands;
}

function insideRing(ring: Ring, [x, y]: Point2): boolean {
  let inside = false;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [x0, y0] = ring[i];
    const [x1, y1] = ring[j];
    if (y0 > y !== y1 > y && x < x0 + ((y - y0) * (x1 - x0)) / (y1 - y0)) inside = !inside;
  }
  return inside;
}

/** Most places at which crossings are pointed out. */
const MOST_CROSSINGS = 20;

/** Where rings cross themselves or each other, the first few places; touching in a corner does not count. */
export function crossings(rings: Region): Point2[] {
  const edges = rings.flatMap((ring, r) =>
    ring.map((p, i) => ({ p, q: ring[(i + 1) % ring.length], r, i, n: ring.length })),
  );
  const box = boxOf(rings);
  if (!box) return [];
  const size = Math.max(box.maxX - box.minX, box.maxY - box.minY, 1e-9);
  const cell = size / Math.max(1, Math.min(256, Math.ceil(Math.sqrt(edges.length))));
  const cells = new Map<number, number[]>();
  const found: Point2[] = [];
  const seen = new Set<number>();
  const step = (v: number, least: number) => Math.floor((v - least) / cell);
  for (const [k, e] of edges.entries()) {
    const [x0, x1] = [Math.min(e.p[0], e.q[0]), Math.max(e.p[0], e.q[0])];
    const [y0, y1] = [Math.min(e.p[1], e.q[1]), Math.max(e.p[1], e.q[1])];
    for (let cx = step(x0, box.minX); cx <= step(x1, box.minX); cx++)
      for (let cy = step(y0, box.minY); cy <= step(y1, box.minY); cy++) {
        const key = cx * 1024 + cy;
        const list = cells.get(key) ?? [];
        for (const m of list) {
          const o = edges[m];
          const neighbours = o.r === e.r && (Math.abs(o.i - e.i) === 1 || Math.abs(o.i - e.i) === e.n - 1);
          const at = neighbours || seen.has(m * edges.length + k) ? null : crossing(e.p, e.q, o.p, o.q);
          if (!at) continue;
          seen.add(m * edges.length + k);
          found.push(at);
          if (found.length >= MOST_CROSSINGS) return found;
        }
        list.push(k);
        cells.set(key, list);
      }
  }
  return found;
}

/** Pairs of edges that are tried before it is taken that too many cross. */
const MOST_TRIED = 20_000_000;

/** Whether edges of rings cross in more than so many places; also where that would take too long to tell. */
export function crossMoreThan(rings: Region, most: number): boolean {
  const edges = rings
    .flatMap((ring) => ring.map((p, i) => ({ p, q: ring[(i + 1) % ring.length] })))
    .map(({ p, q }) => ({
      p,
      q,
      left: Math.min(p[0], q[0]),
      right: Math.max(p[0], q[0]),
      low: Math.min(p[1], q[1]),
      high: Math.max(p[1], q[1]),
    }))
    .sort((a, b) => a.left - b.left);
  let open: typeof edges = [];
  let [found, tried] = [0, 0];
  for (const e of edges) {
    open = open.filter((o) => o.right >= e.left);
    tried += open.length;
    for (const o of open) if (o.low <= e.high && o.high >= e.low && crossing(o.p, o.q, e.p, e.q)) found += 1;
    if (found > most || tried > MOST_TRIED) return true;
    open.push(e);
  }
  return false;
}

/** Where two edges cross, well inside both. */
function crossing(a: Point2, b: Point2, c: Point2, d: Point2): Point2 | null {
  const [rx, ry] = [b[0] - a[0], b[1] - a[1]];
  const [sx, sy] = [d[0] - c[0], d[1] - c[1]];
  const area = rx * sy - ry * sx;
  if (Math.abs(area) < 1e-12 * (Math.hypot(rx, ry) * Math.hypot(sx, sy) + 1e-300)) return null;
  const t = ((c[0] - a[0]) * sy - (c[1] - a[1]) * sx) / area;
  const u = ((c[0] - a[0]) * ry - (c[1] - a[1]) * rx) / area;
  const inside = (v: number) => v > 1e-9 && v < 1 - 1e-9;
  return inside(t) && inside(u) ? [a[0] + t * rx, a[1] + t * ry] : null;
}
