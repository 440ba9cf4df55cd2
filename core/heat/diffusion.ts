const GAS_CONSTANT = 8.314462618;

/**
 * Diffusion of carbon in austenite, m²/s: 2.3×10⁻⁵ exp(−148 kJ/mol / RT). Values from memory of W. D. Callister, Materials
 * Science and Engineering, diffusion data.
 */
export const carbonDiffusivity = (atC: number): number =>
  2.3e-5 * Math.exp(-148_000 / (GAS_CONSTANT * (atC + 273.15)));

/** How far carbon wanders in a time at a temperature, √(Dt), mm. */
export const carbonReachMm = (atC: number, seconds: number): number =>
  1000 * Math.sqrt(carbonDiffusivity(atC) * seconds);
