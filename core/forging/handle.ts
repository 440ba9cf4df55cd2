/** Share of the cold yield left in mild steel at a heat. Values from memory of EN 1993-1-2, table 3.1. */
const YIELD_LEFT: readonly (readonly [atC: number, share: number])[] = [
  [400, 1],
  [500, 0.78],
  [600, 0.47],
  [700, 0.23],
  [800, 0.11],
  [900, 0.06],
  [1000, 0.04],
  [1200, 0],
];

/** Cold yield of plain mild bar, MPa (common practice, no source). */
export const MILD_YIELD_MPA = 250;
/** Lowering and turning load the weld about twice its weight (handbook, mechanics). */
const HANDLING = 2;
const GRAVITY = 9.80665;

/** Share of the cold yield (0…1) at a temperature, straight between the rows. */
export function yieldLeft(atC: number): number {
  if (atC <= YIELD_LEFT[0][0]) return 1;
  for (let i = 1; i < YIELD_LEFT.length; i++) {
    const [t0, s0] = YIELD_LEFT[i - 1];
    const [t1, s1] = YIELD_LEFT[i];
    if (atC <= t1) return s0 + ((s1 - s0) * (atC - t0)) / (t1 - t0);
  }
  return 0;
}

export interface Handle {
  readonly name: string;
  readonly shape: 'round' | 'square';
  readonly sizeMm: number;
}

/** Section modulus, mm³: πd³/32 round, a³/6 square. */
export const sectionModulus = ({ shape, sizeMm }: Handle): number =>
  shape === 'round' ? (Math.PI * sizeMm ** 3) / 32 : sizeMm ** 3 / 6;

/** Bending at the weld, N·m: M = 2·m·g·d, d from the weld to the billet's centre of mass. */
export const handleMoment = (massKg: number, reachMm: number): number =>
  (HANDLING * massKg * GRAVITY * reachMm) / 1000;

/** What a handle's root bears at a heat before it yields, N·m. */
export const handleBears = (handle: Handle, rootC: number): number =>
  (MILD_YIELD_MPA * yieldLeft(rootC) * sectionModulus(handle)) / 1000;

/** Side (or diameter) that just bears a moment, mm. */
export function leastHandleMm(shape: Handle['shape'], momentNm: number, rootC: number): number {
  const modulus = (momentNm * 1000) / (MILD_YIELD_MPA * yieldLeft(rootC));
  return Math.cbrt(shape === 'round' ? (32 * modulus) / Math.PI : 6 * modulus);
}

/** Reinforcing bar and plain bar that shops have as handles. Diameters of the bars from memory of ASTM A615. */
export const HANDLES: readonly Handle[] = [
  { name: 'No. 4 reinforcing bar', shape: 'round', sizeMm: 12.7 },
  { name: 'No. 5 reinforcing bar', shape: 'round', sizeMm: 15.9 },
  { name: 'No. 6 reinforcing bar', shape: 'round', sizeMm: 19.1 },
  { name: 'No. 8 reinforcing bar', shape: 'round', sizeMm: 25.4 },
  { name: 'Square bar 25 mm', shape: 'square', sizeMm: 25 },
  { name: 'Square bar 32 mm', shape: 'square', sizeMm: 32 },
];
