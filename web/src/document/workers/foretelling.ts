import {
  type Forecast,
  type KeptPiece,
  type Surer,
  forecastOf,
  foretelling as runs,
  keptOf,
  surerWays,
  unforetold,
} from '../../../../core/forecast/index.ts';
import {
  type Belief,
  type Calibration,
  type Known,
  type Learned,
  type NumberId,
  type PieceEvidence,
  beliefFrom,
  calibrated,
  learnedFrom,
  timesFrom,
} from '../../../../core/learning/index.ts';
import { type Plan, evaluate } from '../../../../core/plan/index.ts';
import { flows } from './knowledge.ts';

/** What the shop learned, with what it rests on. */
export interface ShopLearned {
  readonly evidence: readonly PieceEvidence[];
  readonly learned: readonly Learned<PieceEvidence>[];
  readonly calibrations: readonly Calibration[];
}

/** The same without what it rests on: what a plan is run forward with. */
export interface Believed {
  readonly numbers: readonly Known[];
  readonly times: Partial<Record<NumberId, number>>;
}

export interface Foretelling {
  readonly plan: Plan;
  readonly believed: Believed;
  readonly seed: number;
  readonly count: number;
}

export const beliefOf = ({ numbers, times }: Believed): Belief => beliefFrom(numbers, times);

/** Between the pieces of a long answer, so that it can be heard of and ended. */
const breath = (): Promise<void> => new Promise((go) => setTimeout(go));

export const foretelling = {
  learnedOf(evidence: readonly PieceEvidence[]): ShopLearned {
    return { evidence, learned: learnedFrom(evidence), calibrations: calibrated(evidence) };
  },
  /** A plan run forward many times. */
  async foretell({ plan, believed, seed, count }: Foretelling): Promise<Forecast> {
    const told = runs(evaluate(plan, undefined, flows), beliefOf(believed), { seed, count });
    for (;;) {
      const next = told.next();
      if (next.done) return next.value;
      await breath();
    }
  },
  /** Of ten runs how many reach the goal, by a few of them; null where nothing can be foretold yet. */
  roughly({ plan, believed, seed, count }: Foretelling): number | null {
    const planned = evaluate(plan, undefined, flows);
    if (unforetold(planned) !== null) return null;
    const { reached, runs: all } = forecastOf(planned, beliefOf(believed), { seed, count });
    return Math.round((10 * reached) / all);
  },
  /** Whether a finished piece kept what was promised of it. */
  keptOf: (plan: Plan, evidence: readonly PieceEvidence[]): KeptPiece | null => keptOf(plan, evidence, flows),
  /** What would make it surer, told way by way. */
  async surer(
    { plan, believed, seed }: Foretelling,
    forecast: Forecast,
    tell: (way: Surer) => void,
  ): Promise<void> {
    for (const way of surerWays(evaluate(plan, undefined, flows), forecast, beliefOf(believed), seed)) {
      tell(way);
      await breath();
    }
  },
};

export const believedFrom = ({ learned, calibrations }: ShopLearned): Believed => ({
  numbers: learned.map(({ number, of, sort, value, sure, spread }) => ({
    ...{ number, of, value, sure, spread },
    ...(sort !== undefined && { sort }),
  })),
  times: timesFrom(calibrations),
});
