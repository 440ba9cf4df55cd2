import { z } from 'zod';

/** Steels of a picture of dots: a letter each. */
const LETTERS = 'abcd';
export const MOST_STEELS = LETTERS.length;
const LEAST_SIDE = 8;
const MOST_SIDE = 512;

/**
 * A square picture of dots, row by row from above, each dot one of a few steels: `runs` says how many of which follow each other, as
 * in a12b3a49.
 */
export const dotsSchema = z
  .strictObject({
    side: z.int().min(LEAST_SIDE).max(MOST_SIDE),
    runs: z
      .string()
      .max(4 * MOST_SIDE * MOST_SIDE)
      .regex(/^([a-d][1-9]\d{0,5})+$/, 'The dots of a picture are runs such as a12b3'),
  })
  .refine(({ side, runs }) => runsOf(runs).reduce((sum, [, n]) => sum + n, 0) === side * side, {
    error: 'The dots of a picture fill its square exactly',
    path: ['runs'],
  });

export type DotsKept = z.infer<typeof dotsSchema>;

const runsOf = (runs: string): [number, number][] =>
  [...runs.matchAll(/([a-d])(\d+)/g)].map(([, letter, n]) => [LETTERS.indexOf(letter), Number(n)]);

/** The dots written as runs. */
export function keptDots(side: number, steel: Uint8Array): DotsKept {
  let runs = '';
  for (let at = 0; at < steel.length;) {
    let to = at;
    while (to < steel.length && steel[to] === steel[at]) to++;
    runs += LETTERS[steel[at]] + String(to - at);
    at = to;
  }
  return { side, runs };
}

const known = new WeakMap<DotsKept, Uint8Array>();

/** Which steel each dot is. */
export function dotsOf(kept: DotsKept): Uint8Array {
  const there = known.get(kept);
  if (there) return there;
  const made = new Uint8Array(kept.side * kept.side);
  let at = 0;
  for (const [steel, n] of runsOf(kept.runs)) {
    made.fill(steel, at, at + n);
    at += n;
  }
  known.set(kept, made);
  return made;
}

/** How many of the dots are of each steel. */
export function countsOf(kept: DotsKept): number[] {
  const counts = new Array<number>(MOST_STEELS).fill(0);
  for (const steel of dotsOf(kept)) counts[steel]++;
  return counts;
}

/** Dots a side of a patch in which an edge is taken to run straight. */
const PATCH = 8;

/** How wide the bands of each steel are on average, in dots: twice their area by how long their edges are. */
export function bandsOf(kept: DotsKept): number[] {
  const { side } = kept;
  const dots = dotsOf(kept);
  const patches = Math.ceil(side / PATCH);
  // Of each patch and steel: edges crossed going across, and going down.
  const crossed = new Float64Array(2 * MOST_STEELS * patches * patches);
  const meet = (at: number, other: number, way: 0 | 1) => {
    if (dots[at] === dots[other]) return;
    const patch = Math.floor(at / side / PATCH) * patches + Math.floor((at % side) / PATCH);
    for (const steel of [dots[at], dots[other]]) crossed[2 * (MOST_STEELS * patch + steel) + way]++;
  };
  for (let k = 0; k < dots.length; k++) {
    if (k % side < side - 1) meet(k, k + 1, 0);
    if (k + side < dots.length) meet(k, k + side, 1);
  }
  const edges = new Array<number>(MOST_STEELS).fill(0);
  for (let k = 0; k < crossed.length / 2; k++)
    edges[k % MOST_STEELS] += Math.hypot(crossed[2 * k], crossed[2 * k + 1]);
  return countsOf(kept).map((count, steel) => (edges[steel] > 0 ? (2 * count) / edges[steel] : Infinity));
}
