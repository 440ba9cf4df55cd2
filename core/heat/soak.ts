/**
 * Soak: transient conduction in a bar laid in a hot forge. Series solutions of F. P. Incropera and D. P. DeWitt, Fundamentals
 * of Heat and Mass Transfer, ch. 5. Temperatures °C, lengths mm, times s.
 */

/** How a material conducts: W/mK and J/m³K. */
export interface Conduction {
  readonly kWmK: number;
  readonly heatJm3K: number;
}

/** Solid steel above 900 °C (handbook, heat: k = 28 W/mK, ρc = 7600 × 650 J/m³K). */
export const HOT_STEEL: Conduction = { kWmK: 28, heatJm3K: 7600 * 650 };

/** Share of solid's conduction that tapped powder has until it sinters: 5–15 % (handbook, heat: common practice, no source). */
const POWDER_CONDUCTS = 0.1;

/** Powder with solid inserts in it: heat is held by all of it, carried by the inserts' share and little by the powder. Shares 0…1. */
export const packedSteel = (fillFactor: number, insertShare: number): Conduction => ({
  kWmK: HOT_STEEL.kWmK * (insertShare + (1 - insertShare) * POWDER_CONDUCTS),
  heatJm3K: HOT_STEEL.heatJm3K * fillFactor,
});

/** Terms for a round bar: their roots take longer to find. */
const ROUND_TERMS = 20;
/** Terms of the series: enough for Fourier numbers from 0.002 up. */
const TERMS = 40;
const BISECTIONS = 60;

function bisect(low: number, high: number, rises: (x: number) => boolean): number {
  for (let i = 0; i < BISECTIONS; i++) {
    const middle = (low + high) / 2;
    if (rises(middle)) high = middle;
    else low = middle;
  }
  return (low + high) / 2;
}

/** A body heated from all its surface: the roots ζ, and how much of each term is at the centre and at the surface. */
export interface Terms {
  readonly zeta: readonly number[];
  readonly centre: readonly number[];
  readonly surface: readonly number[];
}

/** Slabs are asked for again and again while a plan is judged; so many are remembered. */
const MOST_KNOWN = 500;
const knownTerms = new Map<string, Terms>();

export function knownTermsOf(shape: 'slab' | 'cylinder', biot: number): Terms {
  const key = `${shape} ${biot}`;
  const known = knownTerms.get(key);
  if (known) return known;
  if (knownTerms.size >= MOST_KNOWN) knownTerms.clear();
  const terms = shape === 'slab' ? slabTerms(biot) : cylinderTerms(biot, ROUND_TERMS);
  knownTerms.set(key, terms);
  return terms;
}

/** Slab of half-thickness L, Bi = hL/k: ζ tan ζ = Bi, C = 4 sin ζ / (2ζ + sin 2ζ). */
export function slabTerms(biot: number, terms = TERMS): Terms {
  const zeta = Array.from({ length: terms }, (_, n) =>
    bisect(
      n * Math.PI,
      n * Math.PI + Math.PI / 2,
      (z) => z * Math.sin(z) - biot * Math.cos(z) > 0 !== (n % 2 === 1),
    ),
  );
  const centre = zeta.map((z) => (4 * Math.sin(z)) / (2 * z + Math.sin(2 * z)));
  return { zeta, centre, surface: zeta.map((z, n) => centre[n] * Math.cos(z)) };
}

/** Sphere of radius r, Bi = hr/k: 1 − ζ cot ζ = Bi, C = 4 (sin ζ − ζ cos ζ) / (2ζ − sin 2ζ). */
export function sphereTerms(biot: number, terms = TERMS): Terms {
  const zeta = Array.from({ length: terms }, (_, n) =>
    bisect(
      n * Math.PI + 1e-9,
      (n + 1) * Math.PI - 1e-9,
      (z) => (1 - biot) * Math.sin(z) - z * Math.cos(z) > 0 !== (n % 2 === 1),
    ),
  );
  const centre = zeta.map((z) => (4 * (Math.sin(z) - z * Math.cos(z))) / (2 * z - Math.sin(2 * z)));
  return { zeta, centre, surface: zeta.map((z, n) => (centre[n] * Math.sin(z)) / z) };
}

/** Bessel functions of the first kind, orders 0 and 1, by their integrals over a quarter turn (midpoint rule: exact to rounding for periodic integrands). */
export function bessel(x: number): readonly [j0: number, j1: number] {
  const steps = 32 + Math.ceil(Math.abs(x) / 2);
  let j0 = 0;
  let j1 = 0;
  for (let i = 0; i < steps; i++) {
    const across = Math.sin(((i + 0.5) * Math.PI) / (2 * steps));
    j0 += Math.cos(x * across);
    j1 += across * Math.sin(x * across);
  }
  return [j0 / steps, j1 / steps];
}

/** Long cylinder of radius r, Bi = hr/k: ζ J₁(ζ)/J₀(ζ) = Bi, C = (2/ζ) J₁/(J₀² + J₁²). Between nπ and (n + 1)π lies one zero of J₀, and before it one root. */
export function cylinderTerms(biot: number, terms = TERMS): Terms {
  const zeta = Array.from({ length: terms }, (_, n) =>
    bisect(n * Math.PI, (n + 1) * Math.PI, (z) => {
      const [j0, j1] = bessel(z);
      return z * j1 - biot * j0 > 0 !== (n % 2 === 1);
    }),
  );
  const at = zeta.map(bessel);
  const centre = at.map(([j0, j1], n) => (2 * j1) / (zeta[n] * (j0 ** 2 + j1 ** 2)));
  return { zeta, centre, surface: at.map(([j0], n) => centre[n] * j0) };
}

/** Share of the first difference that is left at Fourier number Fo = αt/L². */
export const seriesAt = (terms: Terms, where: 'centre' | 'surface', fourier: number): number =>
  terms.zeta.reduce((sum, z, n) => sum + terms[where][n] * Math.exp(-z * z * fourier), 0);

/** A bar of oblong section, or a round one as wide as it is high, in a forge. Length where it is short enough to matter. */
export interface Soaking {
  readonly round?: boolean;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly lengthMm?: number | undefined;
  readonly fromC: number;
  readonly fireC: number;
  /** Radiation and gas together, W/m²K. */
  readonly surfaceWm2K: number;
  readonly conduction?: Conduction;
}

export interface Heating {
  /** °C after so many seconds, in the middle, and in the middle of the hottest edge (a corner line). */
  centreC(seconds: number): number;
  edgeC(seconds: number): number;
}

/** Centre and edge of a bar over time: the product of two slab solutions (of a round bar the cylinder's), and of one more along a short bar. */
export function heatingOf(bar: Soaking): Heating {
  const { kWmK, heatJm3K } = bar.conduction ?? HOT_STEEL;
  const series = (shape: 'slab' | 'cylinder', mm: number) => {
    const half = mm / 2000;
    return {
      terms: knownTermsOf(shape, (bar.surfaceWm2K * half) / kWmK),
      perSecond: kWmK / heatJm3K / (half * half),
    };
  };
  const across = bar.round
    ? [series('cylinder', bar.widthMm)]
    : [series('slab', bar.widthMm), series('slab', bar.heightMm)];
  const along = bar.lengthMm ? [series('slab', bar.lengthMm)] : [];
  const left = (where: 'centre' | 'surface', seconds: number) =>
    [...across, ...along].reduce(
      (product, s, i) =>
        product * seriesAt(s.terms, i < across.length ? where : 'centre', s.perSecond * seconds),
      1,
    );
  const at = (share: number) => bar.fireC - (bar.fireC - bar.fromC) * Math.min(1, Math.max(0, share));
  return {
    centreC: (s) => at(left('centre', s)),
    edgeC: (s) => at(left('surface', s)),
  };
}

/** Longest soak that is looked for, s: a day. */
const LONGEST_S = 86_400;

/** Seconds until the middle is within `withinK` of the fire. Infinity when it never comes so close in a day. */
export function soakSeconds(bar: Soaking, withinK: number): number {
  const heating = heatingOf(bar);
  const there = (s: number) => bar.fireC - heating.centreC(s) <= withinK;
  if (!there(LONGEST_S)) return Infinity;
  let high = 1;
  while (!there(high)) high *= 2;
  return bisect(high / 2, high, there);
}
