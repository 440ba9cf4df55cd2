import type { Material } from '../materials/material.ts';

/** How hard hot metal is to move: σ = C·ε̇^m, C in MPa, between two temperatures. */
interface HotRow {
  readonly fromC: number;
  readonly toC: number;
  readonly cMPa: readonly [number, number];
  readonly m: readonly [number, number];
  /** How far off it may be, as a share of C. */
  readonly within: number;
  /** Whose it is; all from memory. */
  readonly by: string;
}

/** S. Kalpakjian and S. R. Schmid, Manufacturing Engineering and Technology, table of C and m for hot working. */
const KALPAKJIAN = 'Kalpakjian and Schmid';

/**
 * Ordinary steels share one row: the law of Misaka and Yoshimoto finds them alike at welding heat. The book's row for stainless
 * would have it softer than plain steel there, for it spans 600 to 1200 °C; hot torsion has it stronger.
 */
export const HOT_WORKING = {
  'ordinary steel': {
    ...{ fromC: 900, toC: 1200, cMPa: [160, 48], m: [0.07, 0.24] },
    ...{ within: 0.15, by: KALPAKJIAN },
  },
  stainless: {
    ...{ fromC: 900, toC: 1200, cMPa: [196, 58], m: [0.1, 0.2] },
    // From their sinh law for 304: 400 kJ/mol, α = 0.012/MPa, n = 4.32. Mater. Sci. Eng. A 322 (2002) 43–63.
    ...{ within: 0.2, by: 'McQueen and Ryan' },
  },
  'chromium steel': {
    ...{ fromC: 900, toC: 1200, cMPa: [210, 63], m: [0.09, 0.22] },
    // Some 1.3 times ordinary steel, as in hot rolling.
    ...{ within: 0.25, by: 'common practice, no source' },
  },
  nickel: {
    ...{ fromC: 900, toC: 1200, cMPa: [130, 55], m: [0.13, 0.19] },
    // Hot torsion of pure nickel, Acta Metall. 17 (1969) 1033–1043.
    ...{ within: 0.35, by: 'Luton and Sellars' },
  },
  copper: {
    ...{ fromC: 300, toC: 900, cMPa: [240, 20], m: [0.06, 0.17] },
    ...{ within: 0.2, by: KALPAKJIAN },
  },
} as const satisfies Record<string, HotRow>;

export type HotClass = keyof typeof HOT_WORKING;

/** Which row a material goes by. */
export function hotClass({ composition: { Cr = 0, Ni = 0, Cu = 0 } }: Material): HotClass {
  if (Cu > 50) return 'copper';
  if (Ni > 50) return 'nickel';
  if (Cr >= 10.5 && Ni >= 6) return 'stainless';
  return Cr >= 4 ? 'chromium steel' : 'ordinary steel';
}

/**
 * Flow stress of a carbon steel, MPa: σ = 9.8·exp(0.126 − 1.75 C + 0.594 C² + (2851 + 2968 C − 1120 C²)/T)·ε^0.21·ε̇^0.13, C in
 * mass %, up to 1.2, 750 to 1200 °C. Y. Misaka and T. Yoshimoto, J. Japan Soc. Technol. Plasticity 8 (1967), from memory.
 */
export const misakaYoshimoto = (carbon: number, atC: number, strain: number, ratePerS: number): number =>
  9.8 *
  Math.exp(
    0.126 -
      1.75 * carbon +
      0.594 * carbon ** 2 +
      (2851 + 2968 * carbon - 1120 * carbon ** 2) / (atC + 273.15),
  ) *
  strain ** 0.21 *
  ratePerS ** 0.13;

/** Carbon at which the row of ordinary steels is taken, mass %; and the most that the law holds for. */
const USUAL_CARBON = 0.6;
const MOST_CARBON = 1.2;
const HOTTEST_C = 1200;

/** How strong a material is hot against the row it goes by: of ordinary steels by their carbon, of the others 1. */
export function withinRow(material: Material, atC: number): number {
  if (hotClass(material) !== 'ordinary steel') return 1;
  const at = (carbon: number) => misakaYoshimoto(carbon, Math.min(atC, HOTTEST_C), 1, 1);
  return at(Math.min(material.composition.C ?? 0, MOST_CARBON)) / at(USUAL_CARBON);
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

/** By how much of itself the stress grows for each kelvin colder, 1/K. */
export const hardeningPerK = (kind: HotClass): number => {
  const { fromC, toC, cMPa } = HOT_WORKING[kind];
  return Math.log(cMPa[0] / cMPa[1]) / (toC - fromC);
};

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
