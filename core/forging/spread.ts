/** Fitted range of the spread relation in bite over width (handbook, mechanics). */
const LEAST_BITE = 0.3;
const MOST_BITE = 1.9;
/** Some of what is displaced always goes along the bar, however a shop finds it (a judgement of ours). */
const MOST_SPREAD = 0.95;

/**
 * Spread coefficient S = ln(w₁/w₀) / ln(h₀/h₁) under flat dies, from bite b and bar width w₀ (same unit), clamped to the
 * fitted range. Source: A. Tomlinson and J. D. Stringer, "Spread and elongation in flat tool forging", J. Iron Steel Inst.
 * 193 (1959) 157–162; coefficients are values from memory of that paper. `times`: as a shop finds it; never all of what is displaced.
 */
export function spreadCoefficient(biteMm: number, widthMm: number, times = 1): number {
  const ratio = Math.min(MOST_BITE, Math.max(LEAST_BITE, biteMm / widthMm));
  return Math.min(MOST_SPREAD, times * (0.14 + 0.36 * ratio - 0.054 * ratio * ratio));
}

export interface DrawPass {
  /** Which side is pressed: the height, or the width after a quarter turn. */
  pressed: 'height' | 'width';
  /** Stop-block height for this pass, mm. */
  stopMm: number;
  widthMm: number;
  heightMm: number;
}

export interface DrawPlan {
  passes: DrawPass[];
  /** Width reached by spread alone where the section asked for is wider; otherwise the width asked for. mm. */
  reachesWidthMm: number;
  reachesHeightMm: number;
}

const MOST_PASSES = 200;
/** Share. A side this close to its target is there. */
const THERE = 1e-3;

interface Section {
  widthMm: number;
  heightMm: number;
}

/**
 * The passes that take a section to another under flat dies, quarter-turning as needed, each pass taking at most
 * `mostReduction` (0…1) of the pressed side and letting the other spread. Stops lie on the shop's divisions (`divisionMm`, 0 for
 * none) but for the size that is asked for: blocks are made to those. `spread`: times what the relation says, as a shop finds it.
 */
export function planPasses(
  from: Section,
  to: Section,
  biteMm: number,
  mostReduction: number,
  divisionMm = 0,
  spread = 1,
): DrawPlan {
  const passes: DrawPass[] = [];
  const stopAt = (now: number, wanted: number): number => {
    const least = Math.max(wanted, now * (1 - mostReduction));
    if (divisionMm <= 0) return least;
    const block = Math.ceil(least / divisionMm - 1e-9) * divisionMm;
    return block < now * (1 - THERE) && block > wanted * (1 + THERE) ? block : least;
  };
  let { widthMm, heightMm } = from;
  while (passes.length < MOST_PASSES) {
    const overHeight = heightMm / to.heightMm;
    const overWidth = widthMm / to.widthMm;
    if (Math.max(overHeight, overWidth) <= 1 + THERE) break;
    if (overHeight >= overWidth) {
      const stopMm = stopAt(heightMm, to.heightMm);
      widthMm *= (heightMm / stopMm) ** spreadCoefficient(biteMm, widthMm, spread);
      heightMm = stopMm;
      passes.push({ pressed: 'height', stopMm, widthMm, heightMm });
    } else {
      const stopMm = stopAt(widthMm, to.widthMm);
      heightMm *= (widthMm / stopMm) ** spreadCoefficient(biteMm, heightMm, spread);
      widthMm = stopMm;
      passes.push({ pressed: 'width', stopMm, widthMm, heightMm });
    }
  }
  return {
    passes,
    reachesWidthMm: Math.min(widthMm, to.widthMm),
    reachesHeightMm: Math.min(heightMm, to.heightMm),
  };
}
