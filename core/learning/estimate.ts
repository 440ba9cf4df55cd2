import { mean as average, cumulativeStdNormalProbability, median, probit } from 'simple-statistics';

/** What a number is believed to be before anything was measured: its value, how sure that is, and how it differs from time to time. One standard deviation each, in its own unit. */
export interface Prior {
  readonly value: number;
  readonly sure: number;
  readonly spread: number;
}

/** The number as one measurement has it, with the error of measuring, and what may be wrong in all of them alike; `isAtMost`: it was this or less. */
export interface Seen {
  readonly value: number;
  readonly error: number;
  readonly shared?: number;
  readonly isAtMost?: boolean;
}

/** What a number is believed to be after so many measurements. */
export interface Estimate extends Prior {
  readonly count: number;
  /** Of those how many are taken to be slips of the pen, in sum of their likelihoods. */
  readonly wild: number;
}

/** One entry in twenty is taken to be wild, and to lie anywhere within some ten times as far (a judgement of ours). */
const WILD_SHARE = 0.05;
const WILD_TIMES = 10;
/** How many measurements the first value of the spread counts for. */
const SPREAD_COUNTS = 4;
const ROUNDS = 60;
/** Of two normal deviates: the middle of how far they lie from their middle, to one standard deviation. */
const MAD_TO_SD = 1.4826;

const density = (z: number): number => Math.exp(-(z * z) / 2) / Math.sqrt(2 * Math.PI);

/** A measurement as it counts, given what is believed: where it lies, how much of it is not known, and how much it says. */
interface Counted {
  readonly off: number;
  readonly unknown: number;
  readonly says: number;
}

/** Of what is only known to lie below: its mean and variance there (a normal cut off above). */
function below(at: number, sd: number): Counted {
  const z = at / sd;
  const under = Math.max(1e-12, cumulativeStdNormalProbability(z));
  const hazard = density(z) / under;
  const left = Math.max(0, Math.min(1, 1 - z * hazard - hazard * hazard));
  return { off: -sd * hazard, unknown: sd * sd * left, says: 1 - left };
}

/**
 * Mean, its standard error and the spread of a normal number, from a normal prior on the mean, a scaled inverse χ² on the variance and
 * measurements of known error of which a share is wild: the posterior by expectation and maximisation, each round in closed form
 * (A. P. Dempster, N. M. Laird, D. B. Rubin, J. R. Statist. Soc. B 39 (1977) 1–38; conjugate update as in A. Gelman et al., Bayesian
 * Data Analysis, ch. 2 and 3; formulas from memory). Without measurements it is the prior. All in the number's own unit; wants errors ≥ 0.
 */
export function estimated(prior: Prior, seen: readonly Seen[]): Estimate {
  if (seen.length === 0) return { ...prior, count: 0, wild: 0 };
  const s0 = prior.spread ** 2;
  const known = seen.filter((s) => !s.isAtMost).map((s) => s.value);
  // Begun in the middle of what was seen: from afar everything would look wild.
  let [mean, variance, precision, good] = [
    known.length > 2 ? median(known) : prior.value,
    s0,
    1 / prior.sure ** 2,
    0,
  ];
  if (known.length > 4) {
    const middle = mean;
    variance = Math.max(s0, (MAD_TO_SD * median(known.map((v) => Math.abs(v - middle)))) ** 2);
  }
  for (let round = 0; round < ROUNDS; round++) {
    let [sum, squares] = [prior.value / prior.sure ** 2, SPREAD_COUNTS * s0];
    const uncertain = Math.min(variance, 1 / precision);
    precision = 1 / prior.sure ** 2;
    good = 0;
    for (const { value, error, isAtMost } of seen) {
      const all = variance + error * error;
      const sd = Math.sqrt(all);
      const { off, unknown, says } = isAtMost
        ? below(value - mean, sd)
        : { off: value - mean, unknown: 0, says: 1 };
      const near = (1 - WILD_SHARE) * density(off / sd);
      const wild = (WILD_SHARE / WILD_TIMES) * density(off / sd / WILD_TIMES);
      const right = isAtMost ? 1 : near / (near + wild || 1);
      const share = variance / all;
      sum += (right * says * (mean + off / Math.max(says, 1e-6))) / all;
      precision += (right * says) / all;
      // What is not known of the mean hides some of the spread.
      squares += right * (share * share * (off * off + unknown + uncertain) + share * error * error);
      good += right;
    }
    const next = sum / precision;
    variance = squares / (SPREAD_COUNTS + good);
    const still = Math.abs(next - mean) < 1e-9 * (Math.abs(mean) + prior.sure);
    mean = next;
    if (still) break;
  }
  // The spread is itself only guessed from few: as Student's t has it.
  const degrees = SPREAD_COUNTS + good;
  const ownSure = Math.sqrt(degrees / Math.max(1, degrees - 2) / precision);
  const shared = average(seen.map((s) => s.shared ?? 0));
  const sure = Math.min(prior.sure, Math.hypot(ownSure, shared));
  return { value: mean, sure, spread: Math.sqrt(variance), count: seen.length, wild: seen.length - good };
}

/** How far to either side of the value the share of all that comes lies, in the number's unit, of a new measurement with an error. */
export const halfBand = ({ sure, spread }: Prior, share: number, error = 0): number =>
  probit(0.5 + share / 2) * Math.hypot(sure, spread, error);
