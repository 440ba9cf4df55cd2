import type { Outline } from '../geometry/outline.ts';
import type { PointMap } from '../geometry/maps/pointMap.ts';
import { type Mesh, butterflyMesh } from './mesh.ts';
import { type PressReport, PressSolver, type Section } from './press.ts';
import { meshMap } from './sectionMap.ts';

/** One pass: turned counter-clockwise by so much first, then pressed from above and below to a height. */
export interface FlowPass {
  readonly turnDeg: number;
  readonly toMm: number;
}

/** All that decides how a section flows; nothing else does. */
export interface FlowSpec {
  readonly outline: Outline;
  readonly passes: readonly FlowPass[];
  readonly exponent: number;
  readonly friction: number;
  readonly spread: number;
  readonly held: boolean;
  /** Strength against the mean; null where it is all alike. */
  readonly strength: Grid | null;
  /** Share of solid, where there is powder; null where all of it is solid. */
  readonly density?: Grid | null;
}

/** Numbers over a section's box, row by row from below, so many each way. */
export interface Grid {
  readonly size: number;
  readonly values: readonly number[];
}

/** After a pass: where the nodes are, in the press's frame, and how it went. */
export type FlowStage =
  | {
      readonly ok: true;
      readonly x: Float64Array;
      readonly y: Float64Array;
      readonly lengthening: number;
      readonly density: Float64Array | undefined;
      readonly report: PressReport;
    }
  | { readonly ok: false; readonly why: string };

/** Elements: a block of so many each way, and so many rings about it. */
const BLOCK = 16;
const RINGS = 5;
const STEP = 0.025;

const meshes = new WeakMap<Outline, Mesh>();

/** The mesh of a section as it is before the first pass. */
export function startMesh(outline: Outline): Mesh {
  const known = meshes.get(outline);
  if (known) return known;
  const mesh = butterflyMesh(outline, BLOCK, RINGS);
  meshes.set(outline, mesh);
  return mesh;
}

/** What the first `passes` passes of a spec depend on, word for word: equal keys flow alike. */
export const keyOf = (spec: FlowSpec, passes: number): string =>
  JSON.stringify({ ...spec, passes: spec.passes.slice(0, passes) });

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

const WHY = {
  cancelled: 'it was stopped',
  'no equilibrium': 'no balance of forces was found',
  folded: 'the section folds over itself',
} as const;

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
  const mesh = startMesh(spec.outline);
  let last: FlowStage = { ok: false, why: 'there are no passes' };
  const filled = lookUp(spec.outline, spec.density);
  let section: Section = {
    mesh,
    startX: mesh.x,
    startY: mesh.y,
    lengthening: 1,
    density: filled && perElement(mesh, filled),
  };
  const strength = lookUp(spec.outline, spec.strength);
  for (const [i, pass] of spec.passes.entries()) {
    const there = known(i + 1);
    if (there) last = there;
    else {
      const turned = { ...section, mesh: turnedBy(section.mesh, pass.turnDeg) };
      const solver = new PressSolver(turned, {
        exponent: spec.exponent,
        friction: spec.friction,
        axial: { by: 'displaced', spread: spec.spread },
        stepShare: STEP,
        held: spec.held,
        strength,
        progress: progress && ((share) => progress(i, share)),
      });
      const out = solver.press(turned, pass.toMm);
      last = out.ok
        ? {
            ok: true,
            x: out.section.mesh.x,
            y: out.section.mesh.y,
            lengthening: out.section.lengthening,
            density: out.section.density,
            report: out.report,
          }
        : { ok: false, why: WHY[out.why] };
      found(i + 1, last);
    }
    if (!last.ok) return last;
    section = {
      ...section,
      mesh: { ...mesh, x: last.x, y: last.y },
      lengthening: last.lengthening,
      density: last.density,
    };
  }
  return last;
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
export function outlineAfter(spec: FlowSpec, stage: FlowStage & { ok: true }): Outline {
  return Array.from(startMesh(spec.outline).rim, (node) => [stage.x[node], stage.y[node]] as const);
}

const maps = new WeakMap<FlowStage, PointMap>();

/** The map from the section before all passes to the one after a stage. */
export function mapAfter(spec: FlowSpec, stage: FlowStage & { ok: true }): PointMap {
  const known = maps.get(stage);
  if (known) return known;
  const mesh = startMesh(spec.outline);
  const map = meshMap(mesh.quads, mesh, stage);
  maps.set(stage, map);
  return map;
}
