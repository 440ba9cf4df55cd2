import type { Billet } from '../billet/billet.ts';
import type { Evaluation, LaneResult, StepResult } from '../plan/evaluate.ts';
import type { Shop } from '../shop/shop.ts';
import type { Finding } from '../moves/contract/move.ts';
import type { Reckoning } from '../units/reckoning.ts';

/** A step that came to something, with all that judging it needs. */
export interface Case {
  readonly evaluation: Evaluation;
  readonly lane: LaneResult;
  /** Where it stands in its lane. */
  readonly at: number;
  readonly result: StepResult & { readonly after: readonly Billet[] };
  readonly shop: Shop;
}

/** What is to be said about a step beside what its own move says: figures that can be asked, and findings. */
export interface Judgement {
  readonly figures: readonly Reckoning[];
  readonly findings: readonly Finding[];
}

export const NOTHING_TO_SAY: Judgement = { figures: [], findings: [] };

/** One kind of judgement: a file each in core/judgement. */
export type Judge = (subject: Case) => Judgement;

/** Heats of a step, and how hot: its own temperature, or the shop's forging heat. */
export function heatsOf({ result, shop }: Case): { heats: number; atC: number } {
  const p = result.step.parameters as { heats?: number; temperatureC?: number };
  return { heats: p.heats ?? 0, atC: p.temperatureC ?? shop.forge.forgingC };
}

/** The heaviest of what goes into the fire: what is there before the step, or what the step itself brings. */
export const heaviest = ({ result }: Case): Billet | undefined =>
  result.before.reduce<Billet | undefined>(
    (most, b) => (most && most.lengthMm * areaOf(most) >= b.lengthMm * areaOf(b) ? most : b),
    undefined,
  );

const areaOf = (b: Billet): number => Object.values(b.volumes).reduce((sum, v) => sum + v, 0) / b.lengthMm;
