import type { Material } from '../materials/material.ts';

/** How hard hot metal is to move: σ = C·ε̇^m, C in MPa, between two temperatures. */
interface HotRow {
  readonly fromC: number;
  readonly toC: number;
  readonly cMPa: readonly [number, number];
  readonly m: readonly [number, number];
}

/**
 * Values from memory of S. Kalpakjian and S. R. Schmid, Manufacturing Engineering and Technology, table of C and m for hot
 * working.
 */
export const HOT_WORKING = {
  'low-carbon steel': { fromC: 900, toC: 1200, cMPa: [165, 48], m: [0.08, 0.22] },
  'medium-carbon steel': { fromC: 900, toC: 1200, cMPa: [160, 48], m: [0.07, 0.24] },
  stainless: { fromC: 600, toC: 1200, cMPa: [415, 35], m: [0.02, 0.4] },
  copper: { fromC: 300, toC: 900, cMPa: [240, 20], m: [0.06, 0.17] },
} as const satisfies Record<string, HotRow>;

export type HotClass = keyof typeof HOT_WORKING;

/** Which row a material is reckoned by; nickel has none of its own and goes by low-carbon steel. */
export function hotClass({ composition: { C = 0, Cr = 0, Cu = 0 } }: Material): HotClass {
  if (Cu > 50) return 'copper';
  if (Cr > 10.5) return 'stainless';
  return C >= 0.25 ? 'medium-carbon steel' : 'low-carbon steel';
}

/** C (MPa) and m at a temperature: ln C and m go straight between the table's ends, and stay there beyond. */
export function hotConstants(kind: HotClass, atC: number): { cMPa: number; m: number } {
  const row: HotRow = HOT_WORKING[kind];
  const t = Math.min(1, Math.max(0, (atC - row.fromC) / (row.toC - row.fromC)));
  return {
    cMPa: Math.exp(Math.log(row.cMPa[0]) + t * Math.log(row.cMPa[1] / row.cMPa[0])),
    m: row.m[0] + t * (row.m[1] - row.m[0]),
  };
}

/** Flow stress at a temperature and strain rate (1/s), MPa. */
export function flowStress(kind: HotClass, atC: number, ratePerS: number): number {
  const { cMPa, m } = hotConstants(kind, atC);
  return cMPa * ratePerS ** m;
}

/** Force on a disc between flat dies, N: F = Y·πr²·(1 + 2μr/3h). Lengths mm, Y MPa. Source: same book, open-die forging. */
export const discForce = (yieldMPa: number, radiusMm: number, heightMm: number, friction: number): number =>
  yieldMPa * Math.PI * radiusMm ** 2 * (1 + (2 * friction * radiusMm) / (3 * heightMm));

/** One bite of flat dies on a bar: die contact along the bar and across it, and the height after. mm. */
export interface Bite {
  readonly biteMm: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

/** Force on a bite in plane strain, N: mean pressure 1.15·Y·(1 + μb/2h) over b × w. Source: same book, open-die forging. */
export const biteForce = (yieldMPa: number, { biteMm, widthMm, heightMm }: Bite, friction: number): number =>
  1.15 * yieldMPa * (1 + (friction * biteMm) / (2 * heightMm)) * biteMm * widthMm;

/** Longest bite that a force can move, mm: biteForce turned round. */
export function largestBite(
  forceN: number,
  yieldMPa: number,
  widthMm: number,
  heightMm: number,
  friction: number,
): number {
  const a = friction / (2 * heightMm);
  const reach = forceN / (1.15 * yieldMPa * widthMm);
  return a > 0 ? (-1 + Math.sqrt(1 + 4 * a * reach)) / (2 * a) : reach;
}
