import { z } from 'zod';

const amount = z.number().finite();
const place = z.tuple([amount, amount]);
const places = z.array(place).max(400);
const each = z.array(amount.nullable()).max(100);

/** How things stand after a press, as they lie in it. mm, mm² */
const pressed = z.strictObject({
  toMm: amount,
  widthMm: amount,
  heightMm: amount,
  /** How far the dies have come together in all presses so far. */
  travelMm: amount,
  outlines: z.array(places).max(60),
  /** Of every seam: where it was looked at, how far it stands open there, how far its sides have slid. */
  seams: z.array(z.strictObject({ places: places.max(100), gapsMm: each, slidMm: amount })).max(400),
  /** At every cross: what no steel fills, and by how much seams miss each other. */
  voidsMm2: z.array(amount).max(400),
  stepsMm: z.array(amount).max(400),
});

/** When a seam shut, along it: at what travel, and how hard it was pushed at the most, of the solver's stress. */
const shut = z.strictObject({
  first: z.int().min(0),
  second: z.int().min(0),
  from: place,
  to: place,
  along: z.array(amount).max(100),
  shutAtMm: each,
  pushes: z.array(amount).max(100),
  /** Open again after it was shut, mm. */
  reopenedMm: amount,
});

/** What came of a question about seams. */
export const seamAnswer = z.strictObject({
  seams: z.array(shut).max(400),
  crosses: z.array(z.strictObject({ at: place, pieces: z.array(z.int()).max(60) })).max(400),
  presses: z.array(z.strictObject({ turned: z.boolean(), toMm: amount })).max(60),
  /** Before the first press, and after every one. */
  states: z.array(pressed).max(60),
  /** The travel at which every seam was shut and stayed so. */
  allShutAtMm: amount.nullable(),
  /** Why it went no further. */
  stopped: z.string().max(300).nullable(),
  steps: amount,
  rounds: amount,
  worstResidual: amount,
});

export type SeamAnswer = z.infer<typeof seamAnswer>;
export type SeamPressed = z.infer<typeof pressed>;
export type SeamShut = z.infer<typeof shut>;
