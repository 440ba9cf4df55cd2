import { describe, expect, it } from 'vitest';
import { type Shot, photographed } from './camera.ts';
import { SIDE } from './fitted.ts';
import { type Four, inverted, through, toCorners } from './homography.ts';
import { leanByDiagonals, leanBySight, seenAt } from './lean.ts';
import { outlinesOf } from './overlay.ts';
import { refinedCorners } from './outline.ts';
import { seenPattern } from './pattern.ts';
import {
  CELLS,
  type EndPhotographed,
  type Sight,
  type Sighting,
  onPhoto,
  patternAt,
  sighted,
} from './sighting.ts';
import { SIGHTING } from '../tests/records.ts';
import { sightingSaid } from './said.ts';
import { onEndB } from './steps.ts';
import { type Tones, tonesOf } from './tones.ts';
import { STILL, type Warp, slid, warped } from './warp.ts';

const DEG = Math.PI / 180;

/** A section by what lies at each place: steel that etches dark, or bright. */
const section = (bright: (x: number, y: number) => boolean): Tones =>
  tonesOf(
    SIDE,
    Float32Array.from({ length: SIDE * SIDE }, (_, i) =>
      bright((2 * (i % SIDE) + 1) / SIDE - 1, 1 - (2 * Math.floor(i / SIDE) + 1) / SIDE) ? 0.85 : 0.15,
    ),
  );
/** Bowed layers of unlike thickness, bowed otherwise on the left than on the right: no turn and no mirror takes it to itself. */
const BOWED = section((x, y) => Math.sin(9 * (y + 0.3 * x * x - 0.2 * x) + 2 * x * y) > 0.2 + 0.4 * x);
const RINGS = section((x, y) => Math.sin(14 * Math.hypot(x - 0.3, y + 0.2)) > 0);

const MM = 30;
const FAULT: Warp = { ...STILL, turn: 4 * DEG, modes: [0.02, -0.015, -0.02, 0.01, 0, 0, 0.03, -0.02, 0, 0] };

function read(
  shot: Partial<Shot>,
  more: Partial<EndPhotographed> = {},
  against: Tones = shot.tones ?? BOWED,
): Sight & { corners?: Four } {
  const taken = photographed({ tones: BOWED, widthMm: MM, heightMm: MM, end: 'B', ...shot });
  // Tapped a few dots off, beginning anywhere.
  const taps = taken.corners.map(([x, y], k) => [x + [5, -4, 3, -6][k], y + [-3, 5, 4, -2][k]]);
  return sighted(
    {
      photo: taken.photo,
      taps: [taps[2], taps[0], taps[3], taps[1]] as unknown as Four,
      focalPx: taken.focalPx,
      sizes: { acrossMm: MM, heightMm: MM },
      ...more,
    },
    { tones: against, widthMm: MM, heightMm: MM },
  );
}

const good = (sight: Sight) => {
  if (!sight.ok) throw new Error(sight.why);
  return sight;
};

/** How far from the truth, in mm: half of all places within the first, nineteen of twenty within the second. */
function farOff(sight: Extract<Sight, { ok: true }>, fault: Warp): [number, number] {
  const at = patternAt(sight.sighting);
  const far: number[] = [];
  for (let x = -0.9; x < 0.95; x += 0.1)
    for (let y = -0.9; y < 0.95; y += 0.1) {
      const [u, v] = at(x, y);
      const [p, q] = warped(fault, x, y);
      far.push((Math.hypot(u - p, v - q) * MM) / 2);
    }
  far.sort((a, b) => a - b);
  return [far[far.length >> 1], far[Math.floor(0.95 * far.length)]];
}

describe('a photographed end', () => {
  for (const end of ['A', 'B'] as const)
    it(`end ${end}: which it is, how it lies, how far the layers have turned, how it leans`, () => {
      const sight = good(read({ end, fault: FAULT, leansDeg: 3, rolledDeg: 97, shine: 0.2 }));
      const { sighting } = sight;
      expect(sighting.orientation >= 4 ? 'A' : 'B').toBe(end);
      expect(sighting.endTold).toBe(true);
      expect(sighting.lead).toBeGreaterThan(0.2);
      expect(Math.abs(sighting.leansDeg! - 3)).toBeLessThan(2 * sighting.leansWithinDeg! + 0.2);
      const [half, most] = farOff(sight, FAULT);
      expect(half).toBeLessThan(0.15);
      expect(most).toBeLessThan(0.7);
      // The smooth turn alone, laid on the foreseen section, turns the middle by about so much.
      expect(Math.abs(sighting.turnedDeg - 4)).toBeLessThan(1.2);
      expect(sighting.offMm[0]).toBeCloseTo((-0.02 * MM) / 2, 0);
    });

  it('slid along its squares, as a bar pressed off its angle is', () => {
    const fault: Warp = { ...STILL, slide: -5 * DEG };
    const sight = good(read({ fault }));
    expect(farOff(sight, fault)[0]).toBeLessThan(0.2);
    expect(sight.sighting.slide / DEG).toBeCloseTo(-5, 0);
  });

  it('before a white card in dim light', () => {
    const { sighting } = good(read({ fault: FAULT, background: 0.97, light: 0.6 }));
    expect(sighting.correlation).toBeGreaterThan(0.8);
    expect(Math.abs(sighting.turnedDeg - 3.4)).toBeLessThan(1);
  });

  it('with the end known only that one is looked for', () => {
    const other = read({ end: 'A' }, { end: 'B' });
    expect(other.ok && other.sighting.correlation > 0.8).toBe(false);
  });

  it('a plain stack: the end cannot be told', () => {
    const stack = section((_, y) => Math.sin(11 * y + 0.4) > 0.1);
    const { sighting } = good(read({ tones: stack }));
    expect(sighting.endTold).toBe(false);
    expect(sightingSaid(sighting, { unit: 'mm', division: 0.5 }).join(' ')).toMatch(/cannot be told/);
  });

  it('of two orientations that look alike the one that leans as the diagonals say', () => {
    const stack = section((_, y) => Math.sin(11 * y + 0.4) > 0.1);
    const diagonalsMm = [1, -1].map((s) => Math.hypot(MM * (1 + s * Math.tan(5 * DEG)), MM)) as [
      number,
      number,
    ];
    const { sighting } = good(read({ tones: stack, end: 'A', leansDeg: 5 }, { diagonalsMm }));
    expect(sighting.orientation).toBeGreaterThanOrEqual(4);
    expect(sighting.leansDeg).toBeCloseTo(5, 0);
  });

  it('diagonals say the lean ten times closer than the sight', () => {
    const lean = 4 * DEG;
    const [width, side] = [MM / Math.cos(lean), MM / Math.cos(lean)];
    const [d1, d2] = [1, -1].map((s) => Math.hypot(width + s * side * Math.sin(lean), MM));
    expect(leanByDiagonals({ acrossMm: MM, heightMm: MM }, [d1, d2])).toBeCloseTo(4, 6);
  });
});

it('what it says in words, first whether it is sure', () => {
  const mm = { unit: 'mm', division: 0.5 } as const;
  const say = (some: Partial<Sighting>) => sightingSaid({ ...SIGHTING, ...some }, mm);
  expect(
    say({
      turnedDeg: -2.14,
      turnedWithinDeg: 0.3,
      offMm: [0, -0.4],
      leansDeg: 1.2,
      leansWithinDeg: 0.1,
      orientation: 4,
    }),
  ).toEqual([
    'End A, the right way up.',
    'The layers in the middle run 2.1° clockwise of where they should, seen on end B (± 0.3°).',
    'The middle of the pattern sits 0.4 mm low.',
    'The section leans 1.2° to the right (± 0.1°).',
  ]);
  expect(say({ lead: 0.01 })[0]).toMatch(/^Not sure/);
  expect(say({ correlation: 0.5 })[0]).toMatch(/^Not sure/);
  expect(say({ orientation: 1 })[0]).toMatch(/^End B, lying on its (left|right) side/);
  expect(say({ stretch: [1.02, 0.97], seen: 0.7, leansDeg: 0, leansWithinDeg: 0.1 })).toEqual([
    'End B, the right way up.',
    'The layers in the middle run as they should (± 0.2°).',
    'The pattern sits in the middle.',
    'In the middle it is 2 % wider and 3 % lower than foreseen.',
    'The section stands straight (± 0.1°).',
    '30 % of it could not be seen.',
  ]);
  // What the pattern does not tell is said, with what is taken for it.
  expect(say({ endTold: false })[0]).toMatch(/^Which end it is cannot be told/);
  expect(say({ upTold: false, orientation: 2 })[1]).toMatch(/read as upside down in the photograph/);
});

describe('what is refused, each with its reason', () => {
  const why = (sight: Sight) => (sight.ok ? 'read' : sight.why);
  it('another bar, blurred, burnt, small, and corners that make none', () => {
    expect(why(read({}, {}, RINGS))).toBe('another bar');
    const fine = section((x, y) => Math.sin(70 * (y + 0.2 * x * x)) > 0.1);
    expect(why(read({ tones: fine, blurPx: 25 }))).toBe('too blurred');
    expect(why(read({ shine: 1e8 }))).toBe('too burnt');
    expect(why(read({ sizePx: 180 }))).toBe('too small');
    const line: Four = [
      [10, 10],
      [300, 300],
      [500, 500],
      [700, 702],
    ];
    expect(why(read({}, { taps: line }))).toBe('no section');
  });
  it('a square is not taken for an oblong bar', () => {
    expect(why(read({}, { sizes: { acrossMm: 60, heightMm: 20 } }))).toBe('another bar');
  });
});

describe('parts of it', () => {
  it('edges are found within a dot or two of where they are', () => {
    const { photo, corners } = photographed({ tones: BOWED, widthMm: MM, heightMm: MM, end: 'B' });
    const off = corners.map(([x, y], k) => [x + [6, -5, 4, -7][k], y + [-4, 6, 5, -3][k]]) as unknown as Four;
    refinedCorners(photo, off).forEach(([x, y], k) =>
      expect(Math.hypot(x - corners[k][0], y - corners[k][1])).toBeLessThan(2),
    );
  });

  it('ways there and back: corners, orientations, squares', () => {
    const corners: Four = [
      [100, 120],
      [700, 90],
      [740, 660],
      [80, 700],
    ];
    const h = toCorners(corners);
    expect(through(h, [1, -1])[0]).toBeCloseTo(740, 6);
    const [x, y] = through(inverted(h), through(h, [0.3, -0.7]));
    expect([x, y].map((v) => Number(v.toFixed(9)))).toEqual([0.3, -0.7]);
    for (let k = 0; k < 8; k++)
      expect(onPhoto(k, ...onEndB(k, 0.2, 0.5)).map((v) => Number(v.toFixed(9)))).toEqual([0.2, 0.5]);
    for (const [px, py] of [
      [0.9, 0.8],
      [-0.4, 0.7],
      [0.1, -0.2],
    ]) {
      const [sx, sy] = slid(px, py, 7 * DEG);
      expect(Math.max(Math.abs(sx), Math.abs(sy))).toBeCloseTo(Math.max(Math.abs(px), Math.abs(py)), 9);
      expect(slid(sx, sy, -7 * DEG)[0]).toBeCloseTo(px, 9);
    }
    // The corner of the square is turned by the angle that is said.
    const [cx, cy] = slid(1, 1, 5 * DEG);
    expect(Math.atan2(cy, cx) / DEG).toBeCloseTo(50, 6);
  });

  it('a section that is seen from the side shows its lean', () => {
    const camera = { focalPx: 4000, middle: [500, 500] as const };
    const sizes = { acrossMm: 30, heightMm: 30 };
    const onB = [
      [-1, 1],
      [1, 1],
      [1, -1],
      [-1, -1],
    ] as const;
    const seen = onB.map((c) => seenAt([-5 * DEG, 0.2, -0.1, 0.3, 1, 2, 200], c, sizes, false, camera));
    expect(leanBySight(seen as unknown as Four, onB, sizes, false, camera).leanDeg).toBeCloseTo(-5, 0);
  });

  it('a pattern goes there and back, and over from one end to the other', () => {
    const knots = Array.from({ length: 2 * (CELLS + 3) ** 2 }, (_, i) => 0.004 * Math.sin(i));
    const sighting: Sighting = {
      ...SIGHTING,
      orientation: 5,
      turn: FAULT.turn,
      modes: [...FAULT.modes],
      knots,
    };
    const map = seenPattern(
      [
        { sighting, atMm: 0 },
        { sighting: { ...sighting, turn: -sighting.turn }, atMm: 100 },
      ],
      MM / 2,
      MM / 2,
    );
    const points = {
      x: Float64Array.of(3, -6, 8),
      y: Float64Array.of(5, 2, -7),
      z: Float64Array.of(0, 50, 100),
      count: 3,
    };
    const { x, y } = { x: points.x.slice(), y: points.y.slice() };
    map.backward(points);
    expect(Math.hypot(points.x[0] - x[0], points.y[0] - y[0])).toBeGreaterThan(0.1);
    map.forward(points);
    for (let i = 0; i < 3; i++) expect(Math.hypot(points.x[i] - x[i], points.y[i] - y[i])).toBeLessThan(1e-6);
  });

  it('bands that came thicker are said, with where', () => {
    // Towards the top the layers lie twice a tenth farther apart than foreseen.
    const fault: Warp = { ...STILL, modes: [0, 0, 0, 0, 0, 0, 0, 0, 0, -0.1] };
    const { thick } = good(read({ fault })).sighting;
    expect(thick!.top).toBeGreaterThan(1.05);
    expect(thick!.bottom).toBeLessThan(0.97);
    const words = sightingSaid(
      { ...SIGHTING, thick: { top: 0.88, right: 1.01, bottom: 1, left: 1.07 } },
      { unit: 'mm', division: 0.5 },
    );
    expect(words).toContain(
      'The layers are 12 % thinner towards the top, 7 % thicker towards the left, seen on end B.',
    );
  });

  it('outlines run where two tones meet, and nowhere else', () => {
    const n = 64;
    const grey = new Uint8ClampedArray(4 * n * n);
    for (let k = 0; k < n * n; k++) grey.set([k % n < 20 ? 40 : 220, 0, 0, 255], 4 * k);
    const lines = outlinesOf(grey, [255, 0, 0]);
    const columns = new Set<number>();
    for (let k = 0; k < n * n; k++) if (lines[4 * k + 3] > 0) columns.add(k % n);
    expect([...columns]).toEqual([19, 20]);
  });
});
