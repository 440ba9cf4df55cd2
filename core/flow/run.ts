import { type Outline, type Point2, rectangle } from '../geometry/outline.ts';
import { type PointMap, inTurn } from '../geometry/maps/pointMap.ts';
import { heatAcross } from '../heat/across.ts';
import { spreadCoefficient } from '../forging/spread.ts';
import type { DiePair } from './dies.ts';
import { type Crowd, type Mesh, butterflyMesh, meshArea, regridded, worstShape } from './mesh.ts';
import { spanOf } from './measures.ts';
import type { AxialLaw, MeshedSection, PressOutcome, PressReport } from './pressing.ts';
import { PressSolver } from './press.ts';
import { type Places, carried, meshMap } from './sectionMap.ts';

/**
 * One pass: turned counter-clockwise by so much first, then pressed from above and below to a height, or by a share of the
 * height it has. Dies, friction and bite are those of the whole spec where it has none of its own.
 */
export interface FlowPass {
  readonly turnDeg: number;
  readonly toMm: number;
  readonly share?: number | undefined;
  readonly dies?: DiePair | undefined;
  readonly friction?: number | undefined;
  readonly biteMm?: number | undefined;
  /** So long after the fire: the skin is then colder and harder than the middle. */
  readonly afterS?: number | undefined;
}

/** All that decides how a section flows; nothing else does. */
export interface FlowSpec {
  readonly outline: Outline;
  readonly passes: readonly FlowPass[];
  readonly exponent: number;
  readonly friction: number;
  /** Width of the dies along the bar, which decides how much of the steel displaced goes along it; or the ends are held, or free. */
  readonly biteMm: number | 'held' | 'free';
  /** Times what the spread relation says, as the shop finds it; 1 where nothing is said. */
  readonly spread?: number | undefined;
  readonly held: boolean;
  /** Strength against the mean; null where it is all alike. */
  readonly strength: Grid | null;
  /** The fire, and by how much of itself the strength grows for each kelvin colder; where some pass comes a while after it. */
  readonly heat?: { readonly fireC: number; readonly hardeningPerK: number } | undefined;
  /** Share of solid, where there is powder; null where all of it is solid. */
  readonly density?: Grid | null;
  /** Fewer elements and larger steps, where many flows are tried; or more and smaller ones, for what is worked out once for all. */
  readonly grid?: 'rough' | 'finest' | undefined;
}

/** Numbers over a section's box, row by row from below, so many each way. */
export interface Grid {
  readonly size: number;
  readonly values: readonly number[];
}

/** After a pass: where the nodes are, in the press's frame, and how it went. */
export interface FlowDone {
  readonly ok: true;
  /** Reshapings on the grids before this one, in turn. */
  readonly earlier: readonly { readonly from: Places; readonly to: Places }[];
  /** Where the nodes of this grid were laid; null for the first, which was laid on the section before all passes. */
  readonly laid: Places | null;
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly lengthening: number;
  readonly density: Float64Array | undefined;
  /** Of each element: the strain it has been through, and the greatest push it has seen across each of its planes, in units of the strength. */
  readonly strain: Float64Array;
  readonly pushes: Float64Array;
  readonly report: PressReport;
}

/** Why a pass cannot be, and how far the dies came before it could not. mm */
export interface FlowRefused {
  readonly ok: false;
  readonly why: string;
  readonly heightMm?: number | undefined;
}

export type FlowStage = FlowDone | FlowRefused;

/** Elements: a block of so many each way, so many rings about it; the share of the height a step takes. */
const GRIDS = {
  rough: { block: 10, rings: 3, step: 0.05 },
  fine: { block: 16, rings: 5, step: 0.025 },
  finest: { block: 26, rings: 8, step: 0.0125 },
};
/** An element worse shaped than this has a new grid laid over the section. */
const THIN = 0.12;
/** In one pass at most. */
const MOST_REGRIDS = 6;

const sizeFor = (spec: FlowSpec) => GRIDS[spec.grid ?? 'fine'];

const meshes = new WeakMap<Outline, Map<number, Mesh>>();

/** The mesh of a section as it is before the first pass. */
export function startMesh(spec: FlowSpec): Mesh {
  const { block, rings } = sizeFor(spec);
  const known = meshes.get(spec.outline) ?? new Map<number, Mesh>();
  meshes.set(spec.outline, known);
  if (!known.has(block))
    known.set(block, { ...butterflyMesh(spec.outline, block, rings), ...topology(block, rings) });
  return known.get(block)!;
}

const topologies = new Map<string, Pick<Mesh, 'quads' | 'rim'>>();

/** Which nodes belong together is the same for all sections: kept once, so that the systems of equations are analysed once. */
function topology(block: number, rings: number): Pick<Mesh, 'quads' | 'rim'> {
  const key = `${block}/${rings}`;
  const known = topologies.get(key);
  if (known) return known;
  const { quads, rim } = butterflyMesh(rectangle(1, 1), block, rings);
  topologies.set(key, { quads, rim });
  return { quads, rim };
}

/** What the first `passes` passes of a spec depend on, word for word: equal keys flow alike. */
export function keyOf(spec: FlowSpec, passes: number): string {
  const taken = spec.passes.slice(0, passes);
  // What every pass has of its own decides; the whole one's is nothing then.
  const own = {
    ...(taken.every((p) => p.biteMm !== undefined) && { biteMm: undefined }),
    ...(taken.every((p) => p.friction !== undefined) && { friction: undefined }),
  };
  return JSON.stringify({ ...spec, ...own, passes: taken });
}

function lookUp(
  outline: Outline,
  grid: Grid | null | undefined,
): ((x: number, y: number) => number) | undefined {
  if (!grid) return undefined;
  const [xs, ys] = [outline.map(([x]) => x), outline.map(([, y]) => y)];
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const { size, values } = grid;
  const cell = (v: number, low: number, high: number) =>
    Math.min(size - 1, Math.max(0, Math.floor(((v - low) / (high - low)) * size)));
  return (x, y) => values[cell(y, y0, y1) * size + cell(x, x0, x1)];
}

/** Of every element what a function of the place says at its middle. */
function perElement({ x, y, quads }: Mesh, of: (x: number, y: number) => number): Float64Array {
  return Float64Array.from({ length: quads.length / 4 }, (_, e) => {
    let [px, py] = [0, 0];
    for (let k = 0; k < 4; k++) {
      px += x[quads[4 * e + k]] / 4;
      py += y[quads[4 * e + k]] / 4;
    }
    return of(px, py);
  });
}

/** Strengths that differ by more times: where the section folds it is for that. */
const UNLIKE = 4;
const SMALLER = 'stop higher, or take less in each pass';
const WHY = {
  cancelled: 'it was stopped',
  'no equilibrium': `no balance of forces was found; ${SMALLER}`,
  folded: `the section folds over itself; ${SMALLER}`,
  thin: `the section folds over itself; ${SMALLER}`,
  unlike: `the softer steel is squeezed out between the harder and folds; ${SMALLER}, or let the two come nearer in strength: another heat, another steel`,
  'too wide': 'the section is too wide to go between the side stops; set them farther apart',
  filled:
    'the dies are filled before they are closed, and the steel has nowhere to go; stop higher, or take a shorter bite so that more of it goes along',
} as const;

function refused({ strength }: FlowSpec, { why, report }: PressOutcome & { ok: false }): FlowRefused {
  const { values } = strength ?? { values: [1] };
  const folds = why === 'folded' || why === 'thin' || why === 'no equilibrium';
  const unlike = folds && Math.max(...values) > UNLIKE * Math.min(...values);
  return { ok: false, why: WHY[unlike ? 'unlike' : why], heightMm: report.heightMm };
}

/** A section with the grid it lies on. */
interface Gridded {
  readonly section: MeshedSection;
  readonly earlier: FlowDone['earlier'];
  readonly laid: Places | null;
}

/**
 * Presses a section pass by pass. `known` gives stages that were worked out before; every fresh one is handed to `found`. The
 * last stage, or the first that failed.
 */
export function runFlow(
  spec: FlowSpec,
  known: (passes: number) => FlowStage | undefined,
  found: (passes: number, stage: FlowStage) => void,
  progress?: (pass: number, share: number) => void,
): FlowStage {
  const mesh = startMesh(spec);
  let last: FlowStage = { ok: false, why: 'there are no passes' };
  const filled = lookUp(spec.outline, spec.density);
  const start: MeshedSection = {
    mesh,
    startX: mesh.x,
    startY: mesh.y,
    lengthening: 1,
    areaMm2: filled ? undefined : meshArea(mesh),
    density: filled && perElement(mesh, filled),
  };
  let now: Gridded = { section: start, earlier: [], laid: null };
  for (const [i, pass] of spec.passes.entries()) {
    const there = known(i + 1);
    last = there ?? pressedOnce(spec, pass, now, progress && ((share) => progress(i, share)));
    if (!there) found(i + 1, last);
    if (!last.ok) return last;
    const began = startOf(spec, last);
    now = {
      section: {
        mesh: { ...mesh, x: last.x, y: last.y },
        startX: began.x,
        startY: began.y,
        lengthening: last.lengthening,
        areaMm2: filled ? undefined : meshArea(mesh) / last.lengthening,
        density: last.density,
        strain: last.strain,
        pushes: last.pushes,
      },
      earlier: last.earlier,
      laid: last.laid,
    };
  }
  return last;
}

/** One pass, over as many grids as it takes. */
function pressedOnce(
  spec: FlowSpec,
  pass: FlowPass,
  before: Gridded,
  progress?: (share: number) => void,
): FlowStage {
  let now: Gridded = {
    ...before,
    section: { ...before.section, mesh: turnedBy(before.section.mesh, pass.turnDeg) },
  };
  const [width, height] = extentOf(now.section.mesh);
  const toMm = pass.share === undefined ? pass.toMm : height * (1 - pass.share);
  const biteMm = pass.biteMm ?? spec.biteMm;
  const strength = lookUp(spec.outline, spec.strength);
  const sums = { steps: 0, iterations: 0, flops: 0, worstResidual: 0, regrids: 0, closedMm: 0 };
  // Powder is carried by its own elements, whose mass is kept to the last digit: it keeps its grid.
  const mayRegrid = !spec.density;
  const crowd = pass.dies && crowdUnder(pass.dies, width);
  if (mayRegrid && crowd) now = onFreshGrid(spec, now, crowd);
  for (;;) {
    const more = mayRegrid && sums.regrids < MOST_REGRIDS;
    if (more && worstShape(now.section.mesh) < THIN) {
      now = onFreshGrid(spec, now, crowd);
      sums.regrids++;
    }
    // Where even a fresh grid is thin there is no sense in another.
    const leastShape = more && worstShape(now.section.mesh) > 1.5 * THIN ? THIN : undefined;
    const out = new PressSolver(now.section, {
      exponent: spec.exponent,
      friction: pass.friction ?? spec.friction,
      axial: axialBy(biteMm, width, spec.spread),
      stepShare: sizeFor(spec).step,
      dies: pass.dies,
      held: spec.held,
      strength,
      harder: cooled(spec, pass, now.section.mesh),
      leastShape,
      progress,
    }).press(toMm);
    sums.steps += out.report.steps;
    sums.iterations += out.report.iterations;
    sums.flops += out.report.flops;
    sums.closedMm += out.report.closedMm;
    sums.worstResidual = Math.max(sums.worstResidual, out.report.worstResidual);
    now = { ...now, section: out.section };
    if (out.ok)
      return {
        ok: true,
        earlier: now.earlier,
        laid: now.laid,
        x: out.section.mesh.x,
        y: out.section.mesh.y,
        lengthening: out.section.lengthening,
        density: out.section.density,
        strain: out.section.strain!,
        pushes: out.section.pushes!,
        report: { ...out.report, ...sums },
      };
    if (!more || (out.why !== 'thin' && out.why !== 'folded')) return refused(spec, out);
    if (worstShape(now.section.mesh) >= THIN) {
      now = onFreshGrid(spec, now, crowd);
      sums.regrids++;
    }
  }
}

/** How much stronger the steel is where it lies than at the heat of the fire; undefined where a pass comes straight from it. */
function cooled(
  { heat }: FlowSpec,
  { afterS = 0 }: FlowPass,
  mesh: Mesh,
): ((x: number, y: number) => number) | undefined {
  if (!heat || afterS <= 0) return undefined;
  const outline = Array.from(mesh.rim, (node): Point2 => [mesh.x[node], mesh.y[node]]);
  const at = heatAcross(outline, heat.fireC, afterS);
  return (x, y) => Math.exp(heat.hardeningPerK * (heat.fireC - at(x, y)));
}

/** By the spread relation at a bite; held, nothing goes along. */
const axialBy = (bite: FlowSpec['biteMm'], widthMm: number, times?: number): AxialLaw =>
  bite === 'free'
    ? { by: 'free', spread: 0 }
    : { by: 'displaced', spread: bite === 'held' ? 1 : spreadCoefficient(bite, widthMm, times) };

/** Of the section's width: a die more pointed than this needs nodes that crowd under it. */
const POINTED = 0.35;
/** How much closer they then stand. */
const CROWDED = 3;

/** Where nodes must stand closer for a pointed die; undefined where none is. */
function crowdUnder({ upper, lower }: DiePair, widthMm: number): Crowd | undefined {
  const tips = [upper, lower].flatMap((die) =>
    die.kind === 'wedge' ? [die.tipMm] : die.kind === 'round' ? [die.radiusMm] : [],
  );
  const tip = Math.min(...tips, POINTED * widthMm);
  if (tip >= POINTED * widthMm) return undefined;
  const reach = Math.max(2 * tip, widthMm / 8);
  return (x) => 1 + CROWDED * Math.exp(-((x / reach) ** 2));
}

/** The same section on a grid laid afresh: what was on the old one is carried over. */
function onFreshGrid(spec: FlowSpec, { section, earlier, laid }: Gridded, crowd?: Crowd): Gridded {
  const { block, rings } = sizeFor(spec);
  const { mesh } = section;
  const fresh = regridded(mesh, block, rings, crowd, section.areaMm2);
  const piece = { from: laid ?? placesOf(startMesh(spec)), to: placesOf(mesh) };
  const points = {
    x: Float64Array.from(fresh.x),
    y: Float64Array.from(fresh.y),
    z: new Float64Array(fresh.x.length),
    count: fresh.x.length,
  };
  inTurn([...earlier, piece].map(({ from, to }) => meshMap(mesh.quads, from, to))).backward(points);
  const over = (values: Float64Array | undefined) => values && carried(mesh.quads, mesh, fresh, values);
  return {
    section: {
      ...section,
      mesh: fresh,
      startX: points.x,
      startY: points.y,
      strain: over(section.strain),
      pushes: over(section.pushes),
    },
    earlier: [...earlier, piece],
    laid: placesOf(fresh),
  };
}

const placesOf = ({ x, y }: Mesh): Places => ({ x, y });

/** Where the nodes of a stage's grid stood before all passes. */
function startOf(spec: FlowSpec, stage: FlowDone): Places {
  if (!stage.laid) return placesOf(startMesh(spec));
  const { x, y } = stage.laid;
  const points = {
    x: Float64Array.from(x),
    y: Float64Array.from(y),
    z: new Float64Array(x.length),
    count: x.length,
  };
  const { quads } = startMesh(spec);
  inTurn(stage.earlier.map(({ from, to }) => meshMap(quads, from, to))).backward(points);
  return points;
}

/** Width and height, mm. */
function extentOf({ x, y, rim }: Mesh): [number, number] {
  const [[left, right], [low, high]] = [spanOf(rim, x), spanOf(rim, y)];
  return [right - left, high - low];
}

function turnedBy(mesh: Mesh, deg: number): Mesh {
  const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  return {
    ...mesh,
    x: mesh.x.map((x, i) => x * cos - mesh.y[i] * sin),
    y: mesh.x.map((x, i) => x * sin + mesh.y[i] * cos),
  };
}

/** The section's outline after a stage, counter-clockwise, as it lies in the press. */
export function outlineAfter(spec: FlowSpec, stage: FlowDone): Outline {
  return Array.from(startMesh(spec).rim, (node) => [stage.x[node], stage.y[node]] as const);
}

const maps = new WeakMap<FlowStage, PointMap>();

/** The map from the section before all passes to the one after a stage. */
export function mapAfter(spec: FlowSpec, stage: FlowDone): PointMap {
  const known = maps.get(stage);
  if (known) return known;
  const mesh = startMesh(spec);
  const map = inTurn(
    [...stage.earlier, { from: stage.laid ?? placesOf(mesh), to: stage }].map(({ from, to }) =>
      meshMap(mesh.quads, from, to),
    ),
  );
  maps.set(stage, map);
  return map;
}
