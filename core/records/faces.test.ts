import { expect, it } from 'vitest';
import { facePlane } from '../billet/face.ts';
import type { Billet } from '../billet/billet.ts';
import { sizeOf } from '../billet/billet.ts';
import { tilesAlong } from '../billet/tilesAlong.ts';
import { evaluate, materialOrder, stepResult, withRecords, withRemedy } from '../plan/index.ts';
import { sampleCodes } from '../render/codes.ts';
import { faceRead } from '../render/faceRead.ts';
import { faceSaid } from '../render/faceSaid.ts';
import { faceForeseen, faceShown } from '../render/foreseen.ts';
import { type Along, faceSighted, offAt } from '../sighting/along.ts';
import { photographed } from '../sighting/camera.ts';
import { seenAlong } from '../sighting/pattern.ts';
import { cameOf } from '../tests/records.ts';
import {
  FLOWS,
  type Move,
  cutInto,
  drawSquare,
  fourWay,
  planOf,
  resquareTo,
  stackOf,
  weldIt,
} from '../tests/plans.ts';

const TILED: readonly Move[] = [
  stackOf(9, 40, 4, 110),
  weldIt,
  drawSquare(28),
  resquareTo(24),
  cutInto(4),
  fourWay('alike'),
  weldIt,
  drawSquare(26),
  ['tile', { angleDeg: 45, thicknessMm: 10, lay: 'as they lie' }],
  weldIt,
  ['draw', { shape: 'flat', widthMm: 30, thicknessMm: 6, heats: 1 }],
];
const PLAN = planOf([...TILED]);
const LAST = PLAN.lanes[0].steps.at(-1)!.id;
const PLANNED = evaluate(PLAN, undefined, FLOWS);
const [BAR] = PLANNED.goalLane.ends;
const ORDER = materialOrder(PLANNED);

/** A stretch of a bar's upper face as the simulated camera takes it. */
function taken(bar: Billet, fromMm: number, toMm: number, rolledDeg = 2) {
  const shown = faceShown(bar, PLANNED.shop, ORDER, fromMm, toMm);
  return photographed({ ...shown, end: 'B', rolledDeg, shine: 0.15, sizePx: 1200, tippedDeg: [3, 2] });
}

function read(real: Billet, fromMm: number, toMm: number, rolledDeg = 2, foreseen = BAR) {
  const { photo, corners } = taken(real, fromMm, toMm, rolledDeg);
  const asked = {
    photo,
    taps: corners,
    fromMm,
    toMm,
    endsAtA: fromMm === 0,
    endsAtB: toMm === real.lengthMm,
  };
  return faceSighted(asked, faceForeseen(foreseen, PLANNED.shop, ORDER, fromMm, toMm));
}

const asSeen = (face: Along[]): Billet =>
  evaluate(withRecords(PLAN, [cameOf(LAST, [{ piece: '1', face }])]), undefined, FLOWS).goalLane.ends[0];

const along = (fromMm: number, toMm: number, offMm: number[]): Along => ({
  fromMm,
  toMm,
  offMm,
  turned: false,
  turnedTold: true,
  correlation: 1,
});

/** As it came: farther on at one end than at the other, and the tiles longer in the middle. */
const TRUTH = along(0, BAR.lengthMm, [1.5, 2.5, 1, -1.5, -3]);

const apart = (a: Billet, b: Billet): number => {
  const codes = [a, b].map((bar) => sampleCodes(bar, facePlane(bar, 'top'), 400, 60));
  return codes[0].filter((code, k) => code !== codes[1][k]).length / codes[0].length;
};

it('tiles end where they were laid, as many as there are', () => {
  const { step, after } = PLANNED.goalLane.steps.at(-3)!;
  expect(step.kind).toBe('tile');
  const faces = after![0].laid!.each.length;
  const tiles = tilesAlong(after![0]);
  expect(tiles.map((t) => t.number)).toEqual(Array.from({ length: faces }, (_, k) => k + 1));
  // Sawn at 45° a tile is as long as the bar was high by the sine of it.
  for (const { fromMm, toMm } of tiles.slice(1, -1))
    expect(toMm - fromMm).toBeCloseTo(26 / Math.sin(Math.PI / 4), 0);
  expect(tilesAlong(BAR)).toHaveLength(faces);
  expect(tilesAlong(PLANNED.goalLane.steps[3].after![0])).toEqual([]);
  // Of a bar whose first tile was cut off the second is still the second.
  const cropped = evaluate(
    planOf([...TILED, ['crop', { endAMm: 1.2 * tilesAlong(BAR)[0].toMm, endBMm: 0 }]]),
    undefined,
    FLOWS,
  );
  expect(tilesAlong(cropped.goalLane.ends[0])[0].number).toBe(2);
});

it('a face photographed in two stretches, one of them lying the other way round: where along it everything lies, within half a millimetre', () => {
  const real = asSeen([TRUTH]);
  const half = BAR.lengthMm / 2;
  const readings = [read(real, 0, half), read(real, half, BAR.lengthMm, 183)].map((sight) => {
    if (!sight.ok) throw new Error(sight.why);
    return sight.along;
  });
  expect(readings.map((r) => r.turned)).toEqual([false, true]);
  for (const reading of readings)
    for (let t = 0.05; t < 1; t += 0.1) {
      const mm = reading.fromMm + t * (reading.toMm - reading.fromMm);
      expect(Math.abs(offAt(reading, mm) - offAt(TRUTH, mm))).toBeLessThan(0.5);
    }
  // Taken over, the face is as it came.
  const seen = asSeen(readings);
  expect(apart(real, BAR)).toBeGreaterThan(0.15);
  expect(apart(real, seen)).toBeLessThan(0.25 * apart(real, BAR));
  expect(sizeOf(seen)).toEqual(sizeOf(BAR));
});

it('of a bar that came longer, and was cut at end A, everything lies where it was seen', () => {
  const [longer, cut] = [1.04, 12];
  // Seen on the bar as it is: what was foreseen so far from end A lies so much farther on, less what was cut off.
  const lengthMm = (BAR.lengthMm - cut) * longer;
  const seen = (mm: number) => mm / longer + cut - mm;
  const face = [
    along(
      0,
      lengthMm,
      [0, 0.5, 1].map((t) => seen(t * lengthMm)),
    ),
  ];
  const measured = { piece: '1', lengthMm, cropped: { endAMm: cut, endBMm: 0 } };
  const ends = (some: object) =>
    evaluate(withRecords(PLAN, [cameOf(LAST, [{ ...measured, ...some }])]), undefined, FLOWS).goalLane
      .ends[0];
  // That is where scaling and cutting put it already.
  expect(apart(ends({ face }), ends({}))).toBeLessThan(0.01);
  const map = seenAlong([along(0, 100, [1, 3])], 104, { times: 1.04, lessMm: 5 });
  const points = { x: new Float64Array(3), y: new Float64Array(3), z: Float64Array.of(20, 50, 80), count: 3 };
  map.backward(points);
  expect(points.z[1]).toBeCloseTo((50 + 2 - 5) * 1.04, 9);
  map.forward(points);
  expect([...points.z]).toEqual([20, 50, 80].map((v) => expect.closeTo(v, 6)));
});

it('another face, lines that make no stretch, and one too small are refused', () => {
  const other = evaluate(planOf([...TILED.slice(0, 3), ...TILED.slice(6)]), undefined, FLOWS).goalLane
    .ends[0];
  const why = (sight: ReturnType<typeof read>) => (sight.ok ? null : sight.why);
  expect(why(read(other, 0, 90))).toBe('another face');
  const { photo, corners } = taken(BAR, 0, 90);
  const asked = { photo, taps: corners, fromMm: 0, toMm: 90, endsAtA: true, endsAtB: false };
  const foreseen = faceForeseen(BAR, PLANNED.shop, ORDER, 0, 90);
  const far = corners.map(([x, y]) => [x / 12, y / 12] as const) as unknown as typeof corners;
  expect(why(faceSighted({ ...asked, taps: far }, foreseen))).toBe('too small');
  expect(why(faceSighted({ ...asked, toMm: 0 }, foreseen))).toBe('no section');
  expect(why(faceSighted({ ...asked, toMm: 240 }, foreseen))).toBe('other stretch');
});

it('a tile that was laid another way is found, with how it lies', () => {
  const [id] = [PLAN.lanes[0].steps.find((s) => s.kind === 'tile')!.id];
  const lays = Array.from({ length: tilesAlong(BAR).length }, (_, k) =>
    k === 2 ? ('rolled over' as const) : ('as it lies' as const),
  );
  const other = evaluate(
    withRemedy(PLANNED, stepResult(PLANNED, id)!, { label: '', set: { lay: lays } }).plan,
    PLANNED,
    FLOWS,
  ).goalLane.ends[0];
  const toMm = tilesAlong(BAR)[5].toMm;
  const { photo, corners } = taken(other, 0, toMm);
  const asked = { photo, taps: corners, fromMm: 0, toMm, turned: false };
  const read = faceRead(PLANNED, LAST, ([bar]) => bar, asked)!;
  expect(read.tiles.map((t) => [t.number, t.lies])).toEqual(
    [1, 2, 3, 4, 5, 6].map((n) => [n, n === 3 ? 'rolled over' : null]),
  );
  expect(read.remedy).toMatchObject({ step: id, set: { lay: lays } });
  const words = faceSaid(read, { unit: 'mm', division: 0.5 });
  expect(words).toContain('Tile 3 was laid rolled over.');
  expect(words.join(' ')).toMatch(/Its tiles end at [\d.]+ mm, /);
  // As it was planned nothing is said of any tile.
  const plain = taken(BAR, 0, toMm);
  const asPlanned = faceRead(PLANNED, LAST, ([bar]) => bar, {
    photo: plain.photo,
    taps: plain.corners,
    fromMm: 0,
    toMm,
  })!;
  expect(asPlanned.remedy).toBeNull();
  expect(asPlanned.tiles.every((t) => t.lies === null && Math.abs(t.toMm - t.foreseen.toMm) < 0.4)).toBe(
    true,
  );
});

it('a face that looks alike both ways round: which end lies to the left is asked', () => {
  const alike = TILED.map((m): Move =>
    m[0] === 'tile'
      ? ['tile', { angleDeg: 45, thicknessMm: 10, lay: 'every other rolled' }]
      : m[0] === 'assemble'
        ? fourWay('mirrored')
        : m,
  );
  const [bar] = evaluate(planOf(alike), undefined, FLOWS).goalLane.ends;
  const sight = read(bar, 0, bar.lengthMm / 2, 2, bar);
  if (!sight.ok) throw new Error(sight.why);
  expect(sight.along.turnedTold).toBe(false);
  // What lies where is not said before that is known; and a reading that is not sure says so first.
  const mm = { unit: 'mm', division: 0.5 } as const;
  expect(faceSaid({ sight, tiles: [], remedy: null }, mm)).toEqual([
    expect.stringContaining('Which end lies to the left'),
  ]);
  const unsure = { ...sight, along: { ...sight.along, turnedTold: true, correlation: 0.55 } };
  expect(faceSaid({ sight: unsure, tiles: [], remedy: null }, mm)[0]).toMatch(/^Not sure/);
  const { photo, corners } = taken(bar, 0, bar.lengthMm / 2);
  const asked = { photo, taps: corners, fromMm: 0, toMm: bar.lengthMm / 2, endsAtA: true, endsAtB: false };
  const said = faceSighted(
    { ...asked, turned: false },
    faceForeseen(bar, PLANNED.shop, ORDER, 0, bar.lengthMm / 2),
  );
  expect(said.ok && [said.along.turned, said.along.turnedTold]).toEqual([false, true]);
});
