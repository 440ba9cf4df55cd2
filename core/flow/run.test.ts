import { describe, expect, it } from 'vitest';
import { type Outline, outlineArea, rectangle, regularPolygon } from '../geometry/outline.ts';
import { makePoints } from '../billet/fields/field.ts';
import { butterflyMesh, meshArea } from './mesh.ts';
import { type FlowSpec, type FlowStage, keyOf, mapAfter, outlineAfter, runFlow } from './run.ts';
import { leastElement } from '../tests/pressing.ts';

/** A bar of ordinary steel pressed once between usual dies, roughly. */
const ONCE = {
  exponent: 0.2,
  friction: 0.5,
  biteMm: 30,
  held: true,
  strength: null,
  grid: 'rough',
} as const;

describe('the mesh of a section', () => {
  const leaf: Outline = [
    [-20, 0],
    [0, -12],
    [20, 0],
    [0, 12],
  ];
  const wedge: Outline = [
    [-15, 12],
    [0, -20],
    [15, 12],
  ];

  it('of three corners can be pressed', () => {
    const spec: FlowSpec = { ...ONCE, outline: wedge, passes: [{ turnDeg: 0, toMm: 29 }] };
    const stage = runFlow(
      spec,
      () => undefined,
      () => undefined,
    );
    expect(stage.ok).toBe(true);
    if (!stage.ok) return;
    expect(outlineArea(outlineAfter(spec, stage)) * stage.lengthening).toBeCloseTo(outlineArea(wedge), -0.5);
  });

  it('lengthens less where the shop finds that bars spread more', () => {
    const spec: FlowSpec = { ...ONCE, outline: rectangle(30, 30), passes: [{ turnDeg: 0, toMm: 26 }] };
    const pressed = (spread?: number) =>
      runFlow(
        { ...spec, ...(spread !== undefined && { spread }) },
        () => undefined,
        () => undefined,
      );
    const [plain, one, more] = [pressed(), pressed(1), pressed(1.4)];
    if (!plain.ok || !one.ok || !more.ok) throw new Error('it could not be pressed');
    expect(one.lengthening).toBe(plain.lengthening);
    expect(more.lengthening - 1).toBeLessThan(0.85 * (plain.lengthening - 1));
    expect(keyOf({ ...spec, spread: 1.4 }, 1)).not.toBe(keyOf(spec, 1));
  });

  it.each([
    ['a wedge', wedge],
    ['a square', rectangle(40, 40)],
    ['a flat bar', rectangle(60, 18)],
    ['an octagon', regularPolygon(8, 1200)],
    ['a round', regularPolygon(64, 1200)],
    ['a diamond', leaf],
  ])('of %s covers it, and no element is folded', (_name, outline) => {
    const mesh = butterflyMesh(outline, 12, 4);
    expect(meshArea(mesh) / outlineArea(outline)).toBeGreaterThan(0.985);
    expect(leastElement(mesh)).toBeGreaterThan(0);
    expect(mesh.rim).toHaveLength(48);
  });
});

describe('a sequence of passes', () => {
  const spec: FlowSpec = {
    outline: rectangle(50, 50),
    passes: [
      { turnDeg: 45, toMm: 54 },
      { turnDeg: 90, toMm: 52 },
    ],
    exponent: 0.2,
    friction: 0.5,
    biteMm: 30,
    held: true,
    strength: null,
  };
  const run = (s: FlowSpec, memory = new Map<string, FlowStage>()) => {
    const fresh: number[] = [];
    const last = runFlow(
      s,
      (passes) => memory.get(keyOf(s, passes)),
      (passes, stage) => {
        fresh.push(passes);
        memory.set(keyOf(s, passes), stage);
      },
    );
    if (!last.ok) throw new Error(last.why);
    return { last, fresh, memory };
  };

  it('is a map there and back within 0.05 mm on a 50 mm bar, with an outline of the area it says', () => {
    const { last } = run(spec);
    const map = mapAfter(spec, last);
    const points = makePoints(400);
    const [xs, ys] = [new Float64Array(400), new Float64Array(400)];
    for (let k = 0; k < 400; k++) [xs[k], ys[k]] = [-24 + 2.5 * (k % 20), -24 + 2.5 * Math.floor(k / 20)];
    points.x.set(xs);
    points.y.set(ys);
    points.count = 400;
    map.forward(points);
    map.backward(points);
    for (let k = 0; k < 400; k++)
      expect(Math.hypot(points.x[k] - xs[k], points.y[k] - ys[k])).toBeLessThan(0.05);
    expect(outlineArea(outlineAfter(spec, last))).toBeCloseTo(last.report.areaMm2, 3);
  });

  it('takes over what has not changed: only passes from the first changed one are worked out', () => {
    const { memory, fresh } = run(spec);
    expect(fresh).toEqual([1, 2]);
    const changed = { ...spec, passes: [spec.passes[0], { turnDeg: 90, toMm: 53 }] };
    expect(run(changed, memory).fresh).toEqual([2]);
    expect(run(spec, memory).fresh).toEqual([]);
  });

  it('with unlike layers keeps a half turn a half turn', () => {
    const values = Array.from({ length: 100 }, (_, k) => (Math.floor(k / 10) % 3 === 0 ? 1.3 : 0.9));
    const even = values.map((v, k) => (v + values[99 - k]) / 2);
    const { last } = run({ ...spec, strength: { size: 10, values: even } });
    const half = last.x.map((x, i) =>
      Math.min(
        ...[...last.x.keys()]
          .filter((j) => Math.abs(last.x[j] + x) < 1)
          .map((j) => Math.hypot(last.x[j] + x, last.y[j] + last.y[i])),
      ),
    );
    expect(Math.max(...half)).toBeLessThan(1e-4);
  });
});
