import { readFileSync } from 'node:fs';
import {
  type Forecast,
  type Surer,
  forecastOf,
  surerWays,
  keptOf,
  unforetold,
} from '../core/forecast/index.ts';
import {
  type Evidence,
  beliefFrom,
  calibrated,
  evidenceOf,
  experienceFrom,
  learnedFrom,
  numberOf,
  proposalsFor,
  timesFrom,
} from '../core/learning/index.ts';
import { type Plan, evaluate, readPlan } from '../core/plan/index.ts';
import { UsageError, planOf, wholeNumber } from './usage.ts';

interface Piece {
  readonly plan: Plan;
  readonly evidence: readonly (Evidence & { readonly piece: string })[];
}

/** Plans with their records: one plan file, or a list of plans. */
function piecesOf(path: string | undefined): Piece[] {
  if (!path) throw new UsageError('Say which records: a plan file with records, or a list of such plans.');
  let data: unknown;
  try {
    data = JSON.parse(readFileSync(path, 'utf8'));
  } catch {
    throw new UsageError(`Cannot read ${path}: a plan file as JSON, or a list of them, is wanted.`);
  }
  const all = Array.isArray(data) ? data : [data];
  if (all.length === 0)
    throw new UsageError(`${path} is an empty list: plans with their records are wanted.`);
  return all.map((one, i) => {
    const read = readPlan(one);
    if (!read.ok)
      throw new UsageError(
        read.problems
          .map((p) => `${path}${all.length > 1 ? ` [${i}]` : ''} ${p.path}: ${p.message}`)
          .join('\n'),
      );
    const { plan } = read;
    return { plan, evidence: evidenceOf(evaluate(plan)).map((e) => ({ ...e, piece: plan.name })) };
  });
}

/** What the records of a shop's pieces say of its numbers. */
export function learn(path: string | undefined): string {
  const pieces = piecesOf(path);
  const evidence = pieces.flatMap((p) => p.evidence);
  const learned = learnedFrom(evidence);
  // Of a set-up that several pieces were made with, as the last of them has it.
  const setUps = new Map(pieces.map(({ plan }) => [plan.shop.name, plan.shop]));
  const { shop } = pieces[pieces.length - 1].plan;
  return JSON.stringify(
    {
      pieces: pieces.map(({ plan, evidence: own }) => ({ name: plan.name, measured: own.length })),
      numbers: learned.map(({ evidence: own, ...l }) => ({
        ...l,
        title: numberOf(l.number).title,
        formula: numberOf(l.number).formula,
        source: numberOf(l.number).source,
        evidence: own.map(({ piece, step, kind, at, value, error, isAtMost }) => ({
          ...{ piece, step, kind, at, value, error },
          ...(isAtMost && { isAtMost }),
        })),
      })),
      proposals: [...setUps].flatMap(([setUp, settings]) =>
        proposalsFor(settings, learned).map(({ field, has, to, text }) => ({ setUp, field, has, to, text })),
      ),
      experience: experienceFrom(evidence, learned, shop).map((e) => e.text),
      calibration: calibrated(evidence),
      kept: pieces.flatMap(({ plan }) => {
        const kept = keptOf(plan, evidence);
        return kept ? [{ name: plan.name, ...kept }] : [];
      }),
    },
    null,
    2,
  );
}

export interface ForecastOptions {
  learned?: string;
  count?: string;
  seed?: string;
}

const MOST_RUNS = 5000;

/** A plan run forward many times with the numbers of the shop as they happen to be. */
export function foretell(
  path: string | undefined,
  { learned, count = '300', seed = '1' }: ForecastOptions,
): string {
  const planned = planOf(path);
  const why = unforetold(planned);
  if (why) throw new UsageError(why);
  const evidence = learned ? piecesOf(learned).flatMap((p) => p.evidence) : [];
  const belief = beliefFrom(learnedFrom(evidence), timesFrom(calibrated(evidence)));
  const ask = { seed: wholeNumber('seed', seed, 1_000_000), count: wholeNumber('count', count, MOST_RUNS) };
  const { spare, ...forecast }: Forecast = forecastOf(planned, belief, ask);
  const surer = [...surerWays(planned, { ...forecast, spare }, belief, ask.seed)];
  return JSON.stringify(
    { ...forecast, surer: surer.map(({ id, title, reaches }: Surer) => ({ id, title, reaches })) },
    null,
    2,
  );
}
