import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Point2, rectangle } from '../geometry/outline.ts';
import { type Region, boxOf, islandsOf, joined, regionArea } from '../geometry/regions.ts';
import { MOST_CORNERS } from './drawing.ts';
import { droppedThin, fitted, thickened, thinPlaces } from './fitting.ts';
import {
  FIRST_FORM,
  type Filling,
  type Placing,
  aspectOf,
  fillingsOf,
  pictureSchema,
  placed,
} from './picture.ts';

const SQUARE: Filling = {
  powder: 'a',
  region: [
    [
      [-0.5, -0.25],
      [0.5, -0.25],
      [0.5, 0.25],
      [-0.5, 0.25],
    ],
  ],
};

const PLACE: Placing = {
  on: 'can',
  x: 0,
  y: 0,
  widthMm: 20,
  turnDeg: 0,
  mirrored: false,
  columns: 1,
  rows: 1,
};

describe('a placed picture', () => {
  it('keeps its area under turning and mirroring, and is in proportion', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 60, noNaN: true }),
        fc.double({ min: -180, max: 180, noNaN: true }),
        fc.boolean(),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 4 }),
        (widthMm, turnDeg, mirrored, columns, rows) => {
          const [{ region }] = placed([SQUARE], { ...PLACE, widthMm, turnDeg, mirrored, columns, rows });
          expect(regionArea(region) / (0.5 * widthMm ** 2 * columns * rows)).toBeCloseTo(1, 3);
        },
      ),
    );
    expect(aspectOf([SQUARE])).toBe(0.5);
  });

  it('is turned about its place, and fits a room when asked to', () => {
    const [{ region }] = placed([SQUARE], { ...PLACE, x: 3, y: -2, turnDeg: 90 });
    const box = boxOf(region)!;
    expect([box.minX, box.maxX, box.minY, box.maxY].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([
      -2, 8, -12, 8,
    ]);
    const place = fitted(
      { drawn: [SQUARE], place: { ...PLACE, turnDeg: 90 } },
      { widthMm: 50, heightMm: 40 },
    );
    const [there] = placed([SQUARE], place);
    const inside = boxOf(there.region)!;
    expect(inside.maxX).toBeLessThan(25);
    expect(inside.maxY).toBeLessThan(20);
    expect(inside.maxY).toBeGreaterThan(15);
  });

  it('fills the can as walked where it is placed on the finished face', () => {
    const picture = pictureSchema.parse({
      name: 'p',
      drawn: [SQUARE],
      place: { ...PLACE, on: 'top' },
      walked: null,
      form: FIRST_FORM,
    });
    expect(fillingsOf(picture)).toEqual([]);
    expect(fillingsOf({ ...picture, walked: [SQUARE] })).toEqual([SQUARE]);
  });

  it('may not have corners without end', () => {
    const ring = Array.from({ length: 4 * MOST_CORNERS + 1 }, (_, i) => [i % 7, i % 5]);
    const answer = pictureSchema.safeParse({
      name: 'p',
      drawn: [{ powder: 'a', region: [ring] }],
      place: PLACE,
      walked: null,
      form: FIRST_FORM,
    });
    expect(answer.success).toBe(false);
  });
});

describe('places too thin to fill', () => {
  const room: Region = [rectangle(50, 50)];
  const dumbbell: Filling = {
    powder: 'a',
    region: joined(
      [rectangle(8, 8).map(([x, y]): Point2 => [x - 10, y])],
      joined([rectangle(8, 8).map(([x, y]): Point2 => [x + 10, y])], [rectangle(20, 1)]),
    ).map((r) => r.map(([x, y]): [number, number] => [x, y])),
  };

  it('are the neck of a dumbbell, and the strip between two squares, but no plain corner', () => {
    expect(thinPlaces([dumbbell], room, 2).map((t) => [t.powder, Math.round(t.at[0])])).toEqual([['a', 0]]);
    const near: Filling[] = [
      {
        powder: 'a',
        region: [
          rectangle(10, 10).map(([x, y]): [number, number] => [x - 5.4, y]),
          rectangle(10, 10).map(([x, y]): [number, number] => [x + 5.4, y]),
        ],
      },
    ];
    expect(thinPlaces(near, room, 2).map((t) => t.powder)).toEqual([null]);
    expect(
      thinPlaces(
        [{ powder: 'a', region: [rectangle(10, 10).map(([x, y]): [number, number] => [x, y])] }],
        room,
        2,
      ),
    ).toEqual([]);
  });

  it('can be thickened or dropped', () => {
    expect(thinPlaces(thickened([dumbbell], 2), room, 2)).toEqual([]);
    const dropped = droppedThin([dumbbell], 2);
    expect(thinPlaces(dropped, room, 2)).toEqual([]);
    expect(islandsOf(dropped[0].region)).toHaveLength(2);
  });
});
