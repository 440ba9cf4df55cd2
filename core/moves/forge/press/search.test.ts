import { describe, expect, it } from 'vitest';
import { rectangle } from '../../../geometry/outline.ts';
import {
  type FlowDone,
  type FlowSpec,
  type FlowStage,
  mapAfter,
  runFlow,
  startMesh,
} from '../../../flow/run.ts';
import { measured, pressFor, withPass } from './search.ts';
import { digestOf, fromStored, storedStage, toStored } from '../../../flow/stored.ts';

const SPEC: FlowSpec = {
  outline: rectangle(40, 40),
  passes: [
    { turnDeg: 39, toMm: 41 },
    { turnDeg: 90, toMm: 41 },
  ],
  exponent: 0.15,
  friction: 0.5,
  biteMm: 30,
  held: true,
  strength: null,
  grid: 'rough',
};
const flowed = (spec: FlowSpec): FlowDone => {
  const stage = runFlow(
    spec,
    () => undefined,
    () => undefined,
  );
  if (!stage.ok) throw new Error(stage.why);
  return stage;
};

describe('how must I press to get this?', () => {
  const free = { turnOf: 0, turnDeg: [30, 60], heightOf: 0, toMm: [40, 44] } as const;

  it('a layer that is to run into the corners of an even bar wants 45° (a fact of its symmetry), in no more tries than are allowed', () => {
    const shares: number[] = [];
    const found = pressFor(SPEC, { line: 'flat', measure: 'into the corners', targetMm: 0 }, free, (share) =>
      shares.push(share),
    )!;
    expect(Math.abs(found.turnDeg - 45)).toBeLessThanOrEqual(0.5);
    expect(found.offMm).toBeLessThan(0.3);
    expect(found.tries).toBeLessThanOrEqual(40);
    expect(Math.max(...shares)).toBeLessThanOrEqual(1);
    expect(found.toMm).toBeGreaterThanOrEqual(40);
    expect(found.toMm).toBeLessThanOrEqual(44);
    // Its word can be checked: pressed so, the line does what it says.
    const spec = withPass(SPEC, free, found.turnDeg, found.toMm);
    const wanted = { line: 'flat', measure: 'into the corners', targetMm: 0 } as const;
    expect(measured(spec, flowed(spec), wanted)).toBeCloseTo(found.measuredMm, 9);
  });

  it('so far beside the corners is another turn, as near as it can be had', () => {
    const found = pressFor(SPEC, { line: 'flat', measure: 'off the corners', targetMm: 2 }, free)!;
    expect(Math.abs(found.turnDeg - 45)).toBeGreaterThan(1.5);
    expect(found.offMm).toBeLessThan(0.3);
  });

  it('nothing is found where nothing can be pressed', () => {
    const closed = {
      ...SPEC,
      passes: [
        { ...SPEC.passes[0], dies: { upper: { kind: 'flat' }, lower: { kind: 'flat' }, stopsMm: 20 } },
      ],
    } as FlowSpec;
    const tight = { ...free, toMm: [20, 22] as const };
    expect(pressFor(closed, { line: 'flat', measure: 'bow', targetMm: 1 }, tight)).toBeNull();
  });
});

describe('a fresh grid', () => {
  /** Flattened to a sixth on its corner: no first grid stands that. */
  const hard: FlowSpec = {
    ...SPEC,
    grid: undefined,
    passes: [
      { turnDeg: 45, toMm: 26 },
      { turnDeg: 0, toMm: 14 },
      { turnDeg: 90, toMm: 50 },
    ],
  };
  const stages = new Map<number, FlowStage>();
  const last = runFlow(
    hard,
    () => undefined,
    (k, stage) => stages.set(k, stage),
  ) as FlowDone;

  it('is laid when elements get thin, keeps the area to 0.1 %, and the map there and back within 0.05 mm', () => {
    expect(last.ok).toBe(true);
    expect(last.earlier.length).toBeGreaterThan(0);
    expect(Math.abs(last.report.areaMm2 / (1600 / last.lengthening) - 1)).toBeLessThan(1e-3);
    const points = {
      x: new Float64Array(200),
      y: new Float64Array(200),
      z: new Float64Array(200),
      count: 200,
    };
    for (let i = 0; i < 200; i++)
      [points.x[i], points.y[i]] = [17 * Math.sin(1.7 * i) ** 3, 17 * Math.cos(2.3 * i)];
    const [x, y] = [points.x.slice(), points.y.slice()];
    const map = mapAfter(hard, last);
    map.forward(points);
    map.backward(points);
    for (let i = 0; i < 200; i++)
      expect(Math.hypot(points.x[i] - x[i], points.y[i] - y[i])).toBeLessThan(0.05);
  });

  it('carries the map exactly enough: small squares keep their area, as incompressible steel must', () => {
    const map = mapAfter(hard, last);
    let sum = 0;
    for (let k = 0; k < 60; k++) {
      const [cx, cy] = [14 * Math.sin(3.1 * k), 14 * Math.cos(1.9 * k)];
      const points = {
        x: Float64Array.from([-1, 1, 1, -1], (d) => cx + d),
        y: Float64Array.from([-1, -1, 1, 1], (d) => cy + d),
        z: new Float64Array(4),
        count: 4,
      };
      map.forward(points);
      const { x, y } = points;
      const area = ((x[2] - x[0]) * (y[3] - y[1]) - (x[3] - x[1]) * (y[2] - y[0])) / 2;
      expect(area).toBeGreaterThan(0);
      sum += (area * last.lengthening) / 4 / 60;
    }
    expect(Math.abs(sum - 1)).toBeLessThan(0.03);
  });

  it('and all of it is kept in words and read back to the last digit; what is no stage is refused', () => {
    for (const stage of [...stages.values(), { ok: false, why: 'it folds' } as const]) {
      const stored = storedStage.parse(JSON.parse(JSON.stringify(toStored(stage))));
      expect(fromStored(stored)).toEqual(stage);
    }
    const good = toStored(last);
    expect(storedStage.safeParse({ ...good, x: '!' }).success).toBe(false);
    expect(storedStage.safeParse({ ...good, x: 'AAAAAAAA+H8=' }).success).toBe(false);
    expect(storedStage.safeParse({ ok: true }).success).toBe(false);
    expect(digestOf('a')).toMatch(/^[0-9a-f]{64}$/);
    expect(digestOf('a')).not.toBe(digestOf('b'));
    expect(startMesh(hard).quads.length).toBe(4 * 576);
  });
});
