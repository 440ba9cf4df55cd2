import { poured, pouredCount } from '../../canister/packing.ts';
import type { Insert, RoomWithPicture } from '../../canister/inserts.ts';
import { mostThatLie } from '../../canister/layout.ts';
import { FIRST_FORM } from '../../picture/picture.ts';
import type { Making } from '../making.ts';
import { type Asked, defineRecipe } from '../recipe.ts';
import { STARTED_FROM, faced, flat, square, stacked } from './parts.ts';
import { toRule } from '../sides.ts';
import { USUAL_TAP } from '../../canister/can.ts';
import { MOTIFS } from './motifs.ts';

/** mm. Plate of the walls and caps. */
const WALL_MM = 3;
/** Share of solid that powder fills, shaken down; side of the picture after the can is pressed solid. */
const TAPPED = USUAL_TAP.tapped;
/** mm. The section of a can that is neither a needle nor cold in the middle. */
const ROOM_MM = [32, 70] as const;
/** mm off each end, caps and what the caps distorted. */
const ENDS_MM = 7;

/** Square room of a can whose bar, pressed solid and peeled, is drawn to a side. mm */
const roomMm = (sideMm: number, fill: number): number =>
  Math.min(ROOM_MM[1], Math.max(ROOM_MM[0], (STARTED_FROM * sideMm) / Math.sqrt(fill)));

interface Filled {
  readonly powder: string;
  readonly roomMm: number;
  readonly inserts?: readonly Insert[];
  readonly picture?: object;
  readonly sideMm: number;
}

/** A box filled, pressed solid, cropped, peeled and drawn square. */
function boxed(making: Making, { powder, roomMm: room, inserts = [], picture, sideMm }: Filled): Making {
  const outside = room + 2 * WALL_MM;
  making
    .do(
      'can',
      { shape: 'box', widthMm: outside, heightMm: outside },
      {
        powder,
        lengthMm: making.startMm,
        wallMm: WALL_MM,
        capMm: WALL_MM,
        tapDensity: TAPPED,
        inserts,
        ...(picture && { picture }),
      },
    )
    .do('consolidate')
    .do('crop', { endAMm: ENDS_MM, endBMm: ENDS_MM })
    .do('peel');
  return square(making, sideMm);
}

/** Bearing balls, and what lies round them. */
const BALLS = '52100';

/** Inserts across the room, and how far they may be from one another. */
const ACROSS = { label: 'Across the can', least: 3, most: 7, usual: 5, whole: true } as const;

/** Solid share of a room that inserts fill so much of, the rest powder. */
const solid = (inserts: number): number => inserts + (1 - inserts) * TAPPED;

/** mm. Rods round the rim, which press back where the wall does not. */
const RIM_MM = 3;
const MANY = 2000;

const kind = (shape: 'ball' | 'rod', material: string, sizeMm: number, lay: Insert['lay']): Insert => ({
  shape,
  material,
  sizeMm,
  lay,
  count: MANY,
});

/** As many as find room beside the others. */
const counted = (insert: Insert, room: RoomWithPicture, others: readonly Insert[]): Insert => ({
  ...insert,
  count: Math.max(1, mostThatLie(insert, room, others)),
});

/** The room of a square can about so wide inside, which is measured outside; and rods round its rim. */
function rimmed(making: Making, sideMm: number, steel: string): { room: RoomWithPicture; rim: Insert } {
  const inside = toRule(sideMm + 2 * WALL_MM, making.shop) - 2 * WALL_MM;
  const room = { widthMm: inside, heightMm: inside, depthMm: making.startMm - 2 * WALL_MM };
  return { room, rim: counted(kind('rod', steel, RIM_MM, 'rim'), room, []) };
}

/** Inside the rim, in twentieths of a millimetre. */
const fitting = (room: RoomWithPicture, across: number): number =>
  Math.floor((20 * (room.widthMm - 2 * RIM_MM)) / across) / 20;

export const rods = defineRecipe({
  id: 'rods',
  name: 'Rods in hexagons',
  text: 'Rods stood close together in a can, powder between: cells like a honeycomb.',
  group: 'can',
  numbers: { across: ACROSS },
  layouts: ['alike', 'turned', 'brick'],
  needs: ['powder'],
  everyRounds: 4,
  isLayered: false,
  elements: ({ across }) => [across, across / (Math.sqrt(3) / 2)],
  make({ making, numbers, sideMm, wish }: Asked<'across'>) {
    const across = Math.round(numbers.across);
    const { room, rim } = rimmed(making, roomMm(sideMm, solid(0.8)), wish.dark);
    const rod = kind('rod', wish.dark, fitting(room, across + 0.5), 'hexagonal');
    boxed(making, {
      powder: wish.bright,
      roomMm: room.widthMm,
      sideMm,
      inserts: [rim, counted(rod, room, [rim])],
    });
  },
});

export const ballsInOrder = defineRecipe({
  id: 'balls-in-order',
  name: 'Balls in rows',
  text: 'Bearing balls in straight rows, bed upon bed, powder between: rounds in a grid.',
  group: 'can',
  numbers: { across: ACROSS },
  layouts: ['alike', 'brick'],
  needs: ['powder'],
  everyRounds: 4,
  isLayered: false,
  fixesLength: true,
  elements: ({ across }) => [across, across],
  make({ making, numbers, sideMm, wish }: Asked<'across'>) {
    const { room, rim } = rimmed(making, roomMm(sideMm, solid(0.5)), wish.dark);
    const ball = kind('ball', BALLS, fitting(room, Math.round(numbers.across)), 'rows');
    boxed(making, {
      powder: wish.bright,
      roomMm: room.widthMm,
      sideMm,
      inserts: [rim, counted(ball, room, [rim])],
    });
  },
});

/** Of what would settle, so much is poured in: the last would not go under the cap. */
const POURED = 0.86;

/** Balls that have settled once need not again. */
const settled = new Map<string, Insert['places']>();
const MOST_SETTLED = 60;

function settledIn(room: RoomWithPicture, insideMm: number, sizeMm: number, seed: number): Insert['places'] {
  const key = JSON.stringify([room, insideMm, sizeMm, seed]);
  const known = settled.get(key);
  if (known) return known;
  const box = { ...room, widthMm: insideMm, heightMm: insideMm };
  const count = Math.max(4, Math.floor(POURED * pouredCount(box, sizeMm)));
  const { rounds } = poured(
    Array.from({ length: count }, () => sizeMm / 2),
    box,
    [],
    seed,
  );
  const cent = (mm: number) => Math.round(100 * mm) / 100;
  const places = rounds.map(({ x, y, z }) => ({ x: cent(x), y: cent(y), z: cent(z) }));
  settled.set(key, places);
  if (settled.size > MOST_SETTLED) settled.delete(settled.keys().next().value!);
  return places;
}

/** More balls take long to settle: they are larger then. */
const MOST_BALLS = 150;

/** So many across, or fewer where that would be more balls than settle in a while. mm */
function largeEnough(room: RoomWithPicture, across: number): number {
  for (let n = across; ; n -= 0.25) {
    const sizeMm = fitting(room, n + 0.3);
    if (n <= 2 || POURED * pouredCount(room, sizeMm) <= MOST_BALLS) return sizeMm;
  }
}

export const ballsPoured = defineRecipe({
  id: 'balls-poured',
  name: 'Balls poured',
  text: 'Bearing balls poured in and shaken down, powder between: rounds of every size where they are cut.',
  group: 'can',
  numbers: {
    across: { ...ACROSS, most: 4, usual: 4 },
    seed: { label: 'As they fall', least: 1, most: 999, usual: 1, whole: true },
  },
  layouts: ['alike', 'mirrored'],
  needs: ['powder'],
  everyRounds: 4,
  isLayered: false,
  fixesLength: true,
  elements: ({ across }) => [across, across],
  make({ making, numbers, sideMm, wish }: Asked<'across' | 'seed'>) {
    const { room, rim } = rimmed(making, roomMm(sideMm, solid(0.55)), wish.dark);
    const sizeMm = largeEnough(room, numbers.across);
    const places = settledIn(room, room.widthMm - 2 * RIM_MM, sizeMm, Math.round(numbers.seed));
    const balls = { ...kind('ball', BALLS, sizeMm, 'placed'), poured: 0, places, count: places!.length };
    boxed(making, { powder: wish.bright, roomMm: room.widthMm, sideMm, inserts: [rim, balls] });
  },
});

/** How wide a drawing is in its room. */
const DRAWN = 0.72;

const MOTIF = { label: 'Drawing', least: 0, most: MOTIFS.length - 1, usual: 0, whole: true } as const;

/** A can with a drawing of two powders, drawn square. */
function drawn({ making, numbers, sideMm, wish }: Asked<'motif'>): Making {
  const room = roomMm(sideMm, TAPPED);
  const motif = MOTIFS[Math.round(numbers.motif)];
  return boxed(making, {
    powder: wish.dark,
    roomMm: room,
    sideMm,
    picture: {
      name: motif.name,
      drawn: [{ powder: wish.bright, region: motif.region }],
      place: {
        on: 'can',
        x: 0,
        y: 0,
        widthMm: Math.round(20 * DRAWN * room) / 20,
        turnDeg: 0,
        mirrored: false,
        columns: 1,
        rows: 1,
      },
      walked: null,
      form: FIRST_FORM,
    },
  });
}

export const drawing = defineRecipe({
  id: 'drawing',
  name: 'A drawing in powders',
  text: 'Two powders kept apart by a printed form: whatever can be drawn.',
  group: 'can',
  numbers: { motif: MOTIF },
  layouts: ['alike', 'mirrored', 'brick'],
  needs: ['powder'],
  everyRounds: 2,
  isLayered: false,
  make: (asked) => void drawn(asked),
});

export const framed = defineRecipe({
  id: 'framed',
  name: 'A drawing among layers',
  text: 'A drawing in powders with a layered bar above and below it.',
  group: 'can',
  numbers: {
    motif: MOTIF,
    layers: { label: 'Layers of the frame', least: 3, most: 15, usual: 7, odd: true },
  },
  layouts: ['alike', 'brick'],
  needs: ['powder'],
  everyRounds: 2,
  isLayered: false,
  make(asked: Asked<'motif' | 'layers'>) {
    const { making, sideMm, numbers } = asked;
    const side = Math.max(20, Math.min(34, sideMm));
    making.lane('drawing', 'Drawing');
    drawn({ ...asked, sideMm: side });
    const wide = making.size.widthMm;
    faced(making).lane('frame', 'Frame');
    stacked({ ...asked, numbers: { layers: numbers.layers, share: 0.4 } } as Asked);
    flat(making, wide, side / 3);
    making.do('cut', { pieces: 2 });
    faced(making).lane('block', 'Block');
    const row = (lane: string, piece: number) => ({ lane, piece, orientation: 'as it lies' });
    making
      .do('assemble', {
        columns: 1,
        rows: 3,
        layout: 'free',
        places: [row('frame', 1), row('drawing', 1), row('frame', 2)],
      })
      .do('weld');
    square(making, sideMm);
  },
});
