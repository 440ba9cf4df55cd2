/** Roberts' two-dimensional low-discrepancy sequence. */
export const R2 = [0.7548776662466927, 0.5698402909980532] as const;

/** A hash of two whole numbers to 0…1: the same picture twice is the same to the bit. */
export function jitter(a: number, b: number): number {
  let h = Math.imul(a ^ 0x9e3779b9, 0x85ebca6b) ^ Math.imul(b + 0x7f4a7c15, 0xc2b2ae35);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 4294967296;
}
