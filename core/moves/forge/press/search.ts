import { lengthOrNoneMm } from '../../../units/quantities.ts';
import { makePoints } from '../../../billet/fields/field.ts';
import { boundingBox } from '../../../geometry/outline.ts';
import {
  type FlowDone,
  type FlowSpec,
  type FlowStage,
  keyOf,
  mapAfter,
  outlineAfter,
  runFlow,
} from '../../../flow/run.ts';

/** What is wanted of a line that ran straight through the middle of the bar. */
export interface WantedPattern {
  /** Flat through the middle, as layers lie; upright; or from corner to corner. */
  readonly line: 'flat' | 'upright' | 'diagonal';
  /** Its ends come into two corners; they end so far beside them; or it bows so deep. */
  readonly measure: 'into the corners' | 'off the corners' | 'bow';
  readonly targetMm: number;
}

/** Which numbers may be changed, and how far. Passes are counted from 0. */
export interface Free {
  readonly turnOf: number;
  readonly turnDeg: readonly [number, number];
  readonly heightOf: number;
  readonly toMm: readonly [number, number];
}

/** What a search came to. */
export interface Found {
  readonly turnDeg: number;
  readonly toMm: number;
  /** What the line does there, mm: how far its ends lie beside the corners, or the depth of its bow. */
  readonly measuredMm: number;
  /** How far that is from what is wanted, mm. */
  readonly offMm: number;
  readonly tries: number;
}

/** How deep a bow, or how far beside the corners, may be asked for. */
export const TARGET = lengthOrNoneMm('So much', 200, { fine: true });

/** At most so many ways of pressing are tried. */
const MOST_TRIES = 40;
/** Finer than this a turn and a stop are not looked for. */
const FINEST_DEG = 0.25;
const FINEST_MM = 0.1;
/** Points along the line. */
const POINTS = 41;

/** The line as it lies after a stage, from end to end, mm in the press. */
function lineAfter(spec: FlowSpec, stage: FlowDone, line: WantedPattern['line']): [number, number][] {
  const { minX, maxX, minY, maxY } = boundingBox(spec.outline);
  const points = makePoints(POINTS);
  for (let i = 0; i < POINTS; i++) {
    const t = i / (POINTS - 1);
    points.x[i] = line === 'upright' ? (minX + maxX) / 2 : minX + (maxX - minX) * t;
    points.y[i] = line === 'flat' ? (minY + maxY) / 2 : minY + (maxY - minY) * t;
  }
  points.count = POINTS;
  mapAfter(spec, stage).forward(points);
  return Array.from({ length: POINTS }, (_, i) => [points.x[i], points.y[i]]);
}

/** How far the ends of a line lie beside the nearest diagonal of the section's box, the mean of both; or how deep it bows. mm */
export function measured(spec: FlowSpec, stage: FlowDone, wanted: WantedPattern): number {
  const line = lineAfter(spec, stage, wanted.line);
  const [from, to] = [line[0], line[POINTS - 1]];
  if (wanted.measure === 'bow') {
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const length = Math.hypot(dx, dy);
    return Math.max(...line.map(([x, y]) => Math.abs(dx * (y - from[1]) - dy * (x - from[0])) / length));
  }
  const { minX, maxX, minY, maxY } = boundingBox(outlineAfter(spec, stage));
  const [w, h] = [maxX - minX, maxY - minY];
  const beside = ([x, y]: readonly [number, number]) => {
    const [px, py] = [Math.abs(x - (minX + maxX) / 2), Math.abs(y - (minY + maxY) / 2)];
    return Math.abs(px * h - py * w) / Math.hypot(w, h);
  };
  return (beside(from) + beside(to)) / 2;
}

/** A spec with one turn and one stop height put otherwise. */
export const withPass = (spec: FlowSpec, free: Free, turnDeg: number, toMm: number): FlowSpec => ({
  ...spec,
  passes: spec.passes.map((pass, i) => ({
    ...pass,
    ...(i === free.turnOf && { turnDeg }),
    ...(i === free.heightOf && { toMm, share: undefined }),
  })),
});

/**
 * Looks for the turn and the stop height that come nearest to what is wanted: nine ways over the whole range, then from the
 * best one outward by ever smaller steps. On a rough grid; the best is worked out once more on the fine one.
 */
export function pressFor(
  spec: FlowSpec,
  wanted: WantedPattern,
  free: Free,
  progress?: (share: number, best: Found | null) => void,
): Found | null {
  const stages = new Map<string, FlowStage>();
  const offs = new Map<string, number>();
  const work = (s: FlowSpec): number | null => {
    const stage = runFlow(
      s,
      (passes) => stages.get(keyOf(s, passes)),
      (passes, done) => stages.set(keyOf(s, passes), done),
    );
    return stage.ok ? measured(s, stage, wanted) : null;
  };
  const targetMm = wanted.measure === 'into the corners' ? 0 : wanted.targetMm;
  let best: Found | null = null;
  const clamp = (v: number, [low, high]: readonly [number, number]) => Math.min(high, Math.max(low, v));
  const attempt = (turn: number, to: number): void => {
    const [turnDeg, toMm] = [clamp(turn, free.turnDeg), clamp(to, free.toMm)];
    const key = `${turnDeg.toFixed(3)}/${toMm.toFixed(3)}`;
    if (offs.has(key) || offs.size >= MOST_TRIES) return;
    const measuredMm = work(withPass({ ...spec, grid: 'rough' }, free, turnDeg, toMm));
    const offMm = measuredMm === null ? Infinity : Math.abs(measuredMm - targetMm);
    offs.set(key, offMm);
    if (measuredMm !== null && (!best || offMm < best.offMm))
      best = { turnDeg, toMm, measuredMm, offMm, tries: offs.size };
    progress?.(offs.size / (MOST_TRIES + 2), best);
  };
  const spanOf = ([low, high]: readonly [number, number]) => high - low;
  const now = spec.passes[free.turnOf].turnDeg;
  attempt(now, spec.passes[free.heightOf].toMm);
  for (const t of [0, 0.5, 1])
    for (const h of [0, 0.5, 1])
      attempt(free.turnDeg[0] + t * spanOf(free.turnDeg), free.toMm[0] + h * spanOf(free.toMm));
  let [dTurn, dHeight] = [spanOf(free.turnDeg) / 4, spanOf(free.toMm) / 4];
  while (best && offs.size < MOST_TRIES && (dTurn > FINEST_DEG || dHeight > FINEST_MM)) {
    const from: Found = best;
    for (const [t, h] of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ])
      attempt(from.turnDeg + t * dTurn, from.toMm + h * dHeight);
    if (best === from) [dTurn, dHeight] = [dTurn / 2, dHeight / 2];
  }
  const last = best as Found | null;
  if (!last) return null;
  const round = { turnDeg: Math.round(4 * last.turnDeg) / 4, toMm: Math.round(10 * last.toMm) / 10 };
  const fine = work(withPass(spec, free, round.turnDeg, round.toMm));
  if (fine === null) return null;
  return { ...round, measuredMm: fine, offMm: Math.abs(fine - targetMm), tries: offs.size };
}
