import { describe, expect, it } from 'vitest';
import { sizeOf, volumeOf } from '../../billet/billet.ts';
import { makePoints } from '../../billet/fields/field.ts';
import { betweenDies, sectionDifference } from '../../billet/sectionFlow.ts';
import { type FlowDone, runFlow } from '../../flow/run.ts';
import { boundingBox, contains, leanOf, rectangle, regularPolygon } from '../../geometry/outline.ts';
import { totalVolume } from '../../materials/volumes.ts';
import { besideUsual, flowingOf, madeAgain, turnedOff } from '../../plan/index.ts';
import { READY, evaluated, planOf } from '../../tests/plans.ts';
import { makeShop } from '../../shop/shop.ts';
import { Probe, probeBar } from '../../tests/probe.ts';
import { type MoveKind, moveOf } from '../index.ts';

/** A welded bar of few, bold layers, drawn square, and one more move. */
const after = (kind: string, parameters: object) =>
  evaluated(planOf([...READY.press, [kind, { heats: 1, ...parameters }]]));
const last = (e: ReturnType<typeof after>) => e.lanes[0].steps.at(-1)!;
const code = (e: ReturnType<typeof after>, wanted: string) => last(e).findings.find((f) => f.code === wanted);

describe('moves shown as such bars usually flow, or worked out', () => {
  const [bar] = last(after('resquare', { turn: 'left', sideMm: 19, errorDeg: 0 })).before;
  const side = Math.floor(0.86 * sizeOf(bar).widthMm);
  const resquare = { turn: 'left', sideMm: side, errorDeg: 0 };

  it('a re-square by the flow has the size asked for, all its steel, and says how far it is from the usual', () => {
    const [usual, flow] = ['usual', 'by flow'].map((reckoned) =>
      after('resquare', { ...resquare, reckoned }),
    );
    const [a, b] = [last(usual).after![0], last(flow).after![0]];
    expect(sizeOf(b).widthMm).toBeCloseTo(sizeOf(a).widthMm, 9);
    expect(sizeOf(b).heightMm).toBeCloseTo(sizeOf(a).heightMm, 9);
    expect(b.lengthMm).toBeCloseTo(a.lengthMm, 6);
    expect(volumeOf(b) / totalVolume(b.volumes)).toBeCloseTo(1, 6);
    const differs = sectionDifference(a, b);
    expect(differs).toBeGreaterThan(0.001);
    // Turned the wrong way it would differ on half of the section.
    expect(differs).toBeLessThan(0.03);
    expect(code(flow, 'reckoned')!.text).toContain('Worked out for this bar');
    expect(code(usual, 'reckoned')).toBeUndefined();
    const beside = besideUsual(last(flow), flow)!;
    expect(sectionDifference(beside.usual, a)).toBe(0);
    expect(sectionDifference(beside.flowed, b)).toBe(0);
  });

  it('turned to the right it is the other diagonal, as such bars usually flow', () => {
    const right = { ...resquare, turn: 'right' };
    const [usual, flow] = ['usual', 'by flow'].map(
      (reckoned) => last(after('resquare', { ...right, reckoned })).after![0],
    );
    expect(sectionDifference(usual, flow)).toBeLessThan(0.03);
  });

  it('where it shows: the usual for a re-square and a light even draw, the flow for a heavy flat one, and it says which', () => {
    const bent = after('resquare', { ...resquare, reckoned: 'where it shows' });
    expect(code(bent, 'reckoned')!.text).toContain('such bars usually flow');
    const flat = { shape: 'flat', widthMm: 24, thicknessMm: 9, reckoned: 'where it shows' };
    expect(code(after('draw', flat), 'reckoned')!.text).toContain('Worked out for this bar');
    const { widthMm } = sizeOf(bar);
    const drawn = { shape: 'square', sideMm: 0.97 * widthMm, reckoned: 'where it shows' };
    const even = after('draw', drawn);
    const text = code(even, 'reckoned')!.text;
    const usual = last(after('draw', { ...drawn, reckoned: 'usual' })).after![0];
    const flowed = last(after('draw', { ...drawn, reckoned: 'by flow' })).after![0];
    const differs = sectionDifference(usual, flowed);
    expect(text).toContain(differs < 0.03 ? 'such bars usually flow' : 'Worked out for this bar');
    expect(sectionDifference(last(even).after![0], differs < 0.03 ? usual : flowed)).toBe(0);
    expect(sizeOf(flowed).widthMm).toBeCloseTo(0.97 * widthMm, 6);
  });

  it.each([4, 9, 15, 21])(
    'pressed across its corners a bar leans about as far as was asked for: %i°',
    (leanDeg) => {
      const [right, left] = [1, -1].map((way) => {
        const e = after('lean', { leanDeg: way * leanDeg, reckoned: 'by flow' });
        const { bar: hot, spec } = flowingOf(last(e), e.shop)!;
        const pressed = betweenDies(hot, spec, last(e).flow as FlowDone);
        return { e, leans: (leanOf(pressed.outline) * 180) / Math.PI };
      });
      expect(Math.abs(right.leans - leanDeg)).toBeLessThan(1);
      expect(left.leans).toBeCloseTo(-right.leans, 1);
      const [flowed] = last(right.e).after!;
      const [usual] = last(after('lean', { leanDeg, reckoned: 'usual' })).after!;
      expect(sizeOf(flowed).widthMm).toBeCloseTo(sizeOf(usual).widthMm, 6);
      expect(flowed.lengthMm).toBeCloseTo(usual.lengthMm, 6);
      expect(volumeOf(flowed) / totalVolume(flowed.volumes)).toBeCloseTo(1, 6);
      const differs = sectionDifference(usual, flowed);
      if (leanDeg > 20) expect(code(right.e, 'corners blunt')!.text).toContain('shown filled');
      expect(differs).toBeLessThan(leanDeg > 10 ? 0.15 : 0.05);
    },
  );

  it('a bar that leans is pressed upright again by the flow', () => {
    const e = evaluated(
      planOf([
        ...READY.press,
        ['lean', { leanDeg: 10, heats: 0 }],
        ['lean', { leanDeg: -10, heats: 0, reckoned: 'by flow' }],
      ]),
    );
    expect(last(e).findings.filter((f) => f.severity === 'error')).toEqual([]);
    const { bar: hot, spec } = flowingOf(last(e), e.shop)!;
    const leans = (leanOf(betweenDies(hot, spec, last(e).flow as FlowDone).outline) * 180) / Math.PI;
    expect(Math.abs(leans)).toBeLessThan(3);
    expect(leanOf(last(e).after![0].outline)).toBeCloseTo(0, 9);
  });

  it('of several pieces none is reckoned by the flow, and one press mends it', () => {
    const e = evaluated(
      planOf([
        ...READY.press,
        ['cut', { pieces: 2, cropAMm: 0, cropBMm: 0 }],
        ['draw', { shape: 'square', sideMm: 0.9 * side, heats: 1, reckoned: 'by flow' }],
      ]),
    );
    expect(code(e, 'pieces')).toMatchObject({ severity: 'error', remedy: { set: { reckoned: 'usual' } } });
    // A new re-square of several pieces is no error: they go by the usual map, and it is said.
    const cut = evaluated(planOf([...READY.press, ['cut', { pieces: 2, cropAMm: 0, cropBMm: 0 }]]));
    const pieces = last(cut).after!;
    const begun = moveOf('resquare').begin(pieces, cut.shop) as object;
    const [both, usual] = [begun, { ...begun, reckoned: 'usual' }].map((p) =>
      evaluated(planOf([...READY.press, ['cut', { pieces: 2, cropAMm: 0, cropBMm: 0 }], ['resquare', p]])),
    );
    expect(code(both, 'pieces')).toMatchObject({ severity: 'note' });
    expect(last(both).after).toHaveLength(2);
    expect(sectionDifference(last(both).after![1], last(usual).after![1])).toBe(0);
  });

  it('turned off, the corner line goes astray; the other way round it goes the other way', () => {
    const flow = after('resquare', { ...resquare, reckoned: 'by flow' });
    const step = last(flow);
    expect(turnedOff(step, 4)!.step.parameters).toMatchObject({ errorDeg: expect.closeTo(3.03, 1) });
    const off = madeAgain(turnedOff(step, 4)!, flow)!;
    expect(sectionDifference(off, step.after![0])).toBeGreaterThan(0.02);
    expect(flowingOf(turnedOff(step, 4)!, flow.shop)!.spec.passes[0].turnDeg).toBe(49);
    expect(turnedOff(last(after('draw', { shape: 'square', sideMm: side })), 4)).toBeNull();
  });
});

/** How far what is shown at once is from what was worked out, over 21 × 21 points: root of the mean square, of the half-side. */
function besideFlow(kind: MoveKind, parameters: object, biteMm: number, outline = rectangle(50, 50)): number {
  const probe = new Probe();
  const bar = probeBar(outline, probe);
  const shop = makeShop({ biteMm });
  const move = moveOf(kind);
  const p = { ...parameters, heats: 0, reckoned: 'by flow' };
  const { spec } = move.flows!([bar], p, shop)!;
  const bars = move.beside!(
    [bar],
    p,
    shop,
    runFlow(
      spec,
      () => undefined,
      () => undefined,
    ),
  )!;
  const box = boundingBox(bars.usual.outline);
  const at = (low: number, high: number, i: number) => low + (high - low) * (0.001 + 0.998 * (i / 20));
  const spots = Array.from({ length: 441 }, (_, k) => [
    at(box.minX, box.maxX, k % 21),
    at(box.minY, box.maxY, Math.floor(k / 21)),
  ]).filter(([x, y]) => contains(bars.usual.outline, x, y));
  const [usual, flowed] = [bars.usual, bars.flowed].map(({ field }) => {
    const points = makePoints(spots.length);
    spots.forEach(([x, y], i) => ([points.x[i], points.y[i]] = [x, y]));
    points.count = spots.length;
    field.sample(points, new Uint8Array(spots.length));
    return { x: probe.x, y: probe.y };
  });
  const square = spots.reduce(
    (sum, _, i) => sum + (usual.x[i] - flowed.x[i]) ** 2 + (usual.y[i] - flowed.y[i]) ** 2,
    0,
  );
  return Math.sqrt(square / spots.length) / 25;
}

describe('what is shown at once', () => {
  it.each([
    ['resquare', { turn: 'left', sideMm: 43, errorDeg: 0 }, 20],
    ['resquare', { turn: 'right', sideMm: 43, errorDeg: 0 }, 80],
    ['resquare', { turn: 'left', sideMm: 46, errorDeg: 0 }, 35],
    ['resquare', { turn: 'right', sideMm: 43, errorDeg: 6 }, 50],
    ['corners', { shape: 'octagon' }, 30],
    ['corners', { shape: 'round' }, 30],
    ['lean', { leanDeg: -12 }, 30],
  ] as const)(
    'of %s %o at bites of %d mm is within 1 %% of the half-side of what is worked out',
    (kind, p, bite) => {
      expect(besideFlow(kind, p, bite)).toBeLessThan(0.01);
    },
  );

  it('of an octagon pressed square again too', () => {
    expect(besideFlow('draw', { shape: 'square', sideMm: 45 }, 30, regularPolygon(8, 2500))).toBeLessThan(
      0.01,
    );
  });
});
