import { describe, expect, it } from 'vitest';
import { type Insert, type RoomWithPicture } from './inserts.ts';
import { allPlaced, placesOf } from './layout.ts';
import { aligned, copied, freed, snapped } from './placing.ts';

const room: RoomWithPicture = { widthMm: 50, heightMm: 40, depthMm: 60 };
const rods: Insert = { shape: 'rod', material: '1084', sizeMm: 10, count: 4, lay: 'rows' };

describe('inserts moved by hand', () => {
  it('keep their places when they are freed from their rows', () => {
    const free = freed(rods, placesOf(rods, room));
    expect(free.lay).toBe('placed');
    expect(placesOf(free, room)).toEqual(placesOf(rods, room));
  });

  it('snap to the wall, to a neighbour, and to the middle line, and stay where nothing is near', () => {
    expect(snapped([19.6, 3.3], rods, [], room)).toEqual([20, 3.3]);
    expect(snapped([0.4, 7.7], rods, [], room)).toEqual([0, 7.7]);
    const [neighbour] = allPlaced(
      [{ ...rods, count: 1, lay: 'placed', places: [{ x: -8, y: 6, z: 0 }] }],
      room,
    );
    const [x, y] = snapped([-8 + 7.4, 6 + 7.1], rods, [neighbour], room);
    expect(Math.hypot(x + 8, y - 6)).toBeCloseTo(10, 2);
    expect(snapped([9.3, -7.7], rods, [], room)).toEqual([9.3, -7.7]);
  });

  it('never snap through a wall', () => {
    const [x, y] = snapped([24.5, 19.5], rods, [], room);
    expect([x, y]).toEqual([24.5, 19.5]);
  });

  it('are aligned on their mean, or spread evenly, others left alone', () => {
    const places = [
      { x: 0, y: 0, z: 0 },
      { x: 4, y: 3, z: 0 },
      { x: 10, y: 6, z: 0 },
      { x: 7, y: 9, z: 0 },
    ];
    expect(aligned(places, [0, 1, 2], 'in a row').map((p) => p.y)).toEqual([3, 3, 3, 9]);
    expect(aligned(places, [0, 1, 2], 'spread across').map((p) => p.x)).toEqual([0, 5, 10, 7]);
    expect(aligned(places, [2], 'in a row')).toEqual(places);
  });

  it('are copied beside themselves, to the other side at a wall', () => {
    const free: Insert = {
      ...rods,
      lay: 'placed',
      count: 2,
      places: [
        { x: 0, y: 0, z: 0 },
        { x: 19, y: 5, z: 0 },
      ],
    };
    expect(copied(free, [0, 1], room)).toMatchObject({
      count: 4,
      places: [{}, {}, { x: 10, y: 0 }, { x: 9, y: 5 }],
    });
  });
});
