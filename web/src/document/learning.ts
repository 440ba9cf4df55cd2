import * as Comlink from 'comlink';
import { useQueries, useQuery } from '@tanstack/react-query';
import PQueue from 'p-queue';
import { useEffect, useMemo, useState } from 'react';
import {
  type Forecast,
  type KeptPiece,
  type Surer,
  USUAL_RUNS,
  unforetold,
} from '../../../core/forecast/index.ts';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Pace } from '../../../core/days/index.ts';
import { type PieceEvidence, experienceFor, paceFrom } from '../../../core/learning/index.ts';
import type { Evaluation, Plan, StepResult } from '../../../core/plan/index.ts';
import { isDone } from '../../../core/records/record.ts';
import type { Shop } from '../../../core/shop/shop.ts';
import { api, request } from './api.ts';
import { asItStands } from './records.ts';
import { type Believed, type ShopLearned, beliefOf, believedFrom } from './workers/foretelling.ts';
import { ask, askApart } from './workers/host.ts';

/** What the records of all pieces say of the shop's numbers. */
export const useShopLearned = () =>
  useQuery({
    queryKey: ['log', 'evidence'],
    queryFn: async (): Promise<ShopLearned> => {
      const evidence = await request<PieceEvidence[]>('GET', '/log/evidence');
      return ask('answers', (api) => api.learnedOf(evidence));
    },
    staleTime: 5_000,
    // What was written a moment ago is looked through by the server in a while.
    refetchInterval: ({ state: { data } }) => (data && data.learned.length === 0 ? EMPTY_MS : false),
  });
const EMPTY_MS = 4_000;

/** What the shop's experience says of a move before it is done. */
export function useExperience(result: StepResult, shop: Shop): readonly string[] {
  const { data } = useShopLearned();
  return useMemo(
    () =>
      data && !isDone(result.records)
        ? experienceFor(result, shop, data.evidence, data.learned).map((e) => e.text)
        : [],
    [data, result, shop],
  );
}

/** Proposals that were let be, by set-up and words: what is measured to be yet another is proposed again. */
export const useLetBe = create<{ readonly said: readonly string[] }>()(
  persist(() => ({ said: [] as readonly string[] }), { name: 'retablo-let-be', version: 1 }),
);

/** So many that were let be are remembered. */
const MOST_LET_BE = 200;

export function letBe(what: string): void {
  useLetBe.setState(({ said }) => ({ said: [...said, what].slice(-MOST_LET_BE) }));
}

/** By the table alone: what is believed where nothing was learned, or the server is away. */
const TABLE: Believed = { numbers: [], times: {} };

/** One for all who ask: what is foretold with it is then one answer. */
const believedOf = new WeakMap<ShopLearned, Believed>();

/** What plans are run forward with; null while it is still fetched. */
export function useBelieved(): Believed | null {
  const { data, error } = useShopLearned();
  if (!data) return error ? TABLE : null;
  const known = believedOf.get(data) ?? believedFrom(data);
  believedOf.set(data, known);
  return known;
}

/** Quiet after the last change before a plan is run forward, ms. */
const QUIET_MS = 2500;
/** What was foretold is kept so long after nobody looks at it any more, ms. */
const KEPT_MS = 60_000;

/** Whether something has been the same for a moment. */
function useRests(what: unknown): boolean {
  const [rested, setRested] = useState<unknown>(null);
  useEffect(() => {
    const timer = setTimeout(() => setRested(what), QUIET_MS);
    return () => clearTimeout(timer);
  }, [what]);
  return rested === what;
}

/** Plans and beliefs are objects that never change: each has a name of its own. */
const names = new WeakMap<object, number>();
let lastName = 0;
function nameOf(what: object): number {
  const known = names.get(what) ?? ++lastName;
  names.set(what, known);
  return known;
}

/** How a plan may come, in a worker of its own that is ended when nobody waits for it; asked once the plan has been left alone for a moment. */
export function useForecast({ plan, ...evaluation }: Evaluation): {
  readonly forecast: Forecast | null;
  readonly error: string | null;
} {
  const believed = useBelieved();
  const rests = useRests(plan);
  const can = unforetold({ plan, ...evaluation }) === null;
  const { data, error } = useQuery({
    queryKey: ['forecast', nameOf(plan), believed && nameOf(believed)],
    queryFn: ({ signal }) => {
      const question = { plan, believed: believed ?? TABLE, ...USUAL_RUNS };
      const { answer, end } = askApart('foretelling', (api) => api.foretell(question));
      signal.addEventListener('abort', end);
      return answer;
    },
    enabled: can && rests && believed !== null,
    staleTime: Infinity,
    gcTime: KEPT_MS,
    networkMode: 'always',
    retry: false,
  });
  return { forecast: data ?? null, error: error?.message ?? null };
}

/** How long moves take this shop, against the plan. */
export function usePace(): Pace | undefined {
  const believed = useBelieved();
  return useMemo(() => (believed ? paceFrom(beliefOf(believed)) : undefined), [believed]);
}

/** Runs by which a plan is roughly judged among many. */
const ROUGH_RUNS = 60;
/** One after the other: the first is there while the last still waits. */
const queue = new PQueue({ concurrency: 1 });

/** Of ten pieces how many would reach the goal, roughly; null while it is not known. */
export function useRoughChance(plan: Plan, isAsked: boolean): number | null {
  const believed = useBelieved();
  const { data } = useQuery({
    queryKey: ['rough chance', nameOf(plan), believed && nameOf(believed)],
    queryFn: ({ signal }) => {
      const question = { plan, believed: believed ?? TABLE, seed: USUAL_RUNS.seed, count: ROUGH_RUNS };
      return queue.add(() => ask('chances', (api) => api.roughly(question)), {
        signal,
        throwOnTimeout: true,
      });
    },
    enabled: isAsked && believed !== null,
    staleTime: Infinity,
    gcTime: KEPT_MS,
    networkMode: 'always',
    retry: false,
  });
  return data ?? null;
}

/** A finished piece and whether it kept its promises. */
export interface KeptByName extends KeptPiece {
  readonly id: string;
  readonly name: string;
}

/** Whether the finished pieces kept what was promised of them before they were begun, as far as that is worked out by now. */
export function useKept({ evidence }: ShopLearned): {
  readonly pieces: readonly KeptByName[];
  readonly seeking: boolean;
  /** How many could not be looked at. */
  readonly failed: number;
} {
  const ids = [...new Map(evidence.map((e) => [e.projectId, e.name]))];
  return useQueries({
    queries: ids.map(([id, name]) => ({
      queryKey: ['kept', id, nameOf(evidence)],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        queue.add(
          async () => {
            const { plan, records } = await api.get(id);
            const kept = await ask('chances', (work) => work.keptOf(asItStands(plan, records), evidence));
            return kept && { ...kept, id, name };
          },
          { signal, throwOnTimeout: true },
        ),
      staleTime: Infinity,
      gcTime: KEPT_MS,
      retry: 0,
    })),
    combine: (results) => ({
      pieces: results.flatMap((r) => r.data ?? []),
      seeking: results.some((r) => r.isPending),
      failed: results.filter((r) => r.error).length,
    }),
  });
}

interface Found {
  readonly of: Forecast | null;
  readonly ways: readonly Surer[];
  readonly isOver: boolean;
  readonly error: string | null;
}

/** Ways to be surer, as they are found. */
export function useSurer(
  { plan }: Evaluation,
  forecast: Forecast,
): { readonly ways: readonly Surer[]; readonly seeking: boolean; readonly error: string | null } {
  const believed = useBelieved();
  const [found, setFound] = useState<Found>({ of: null, ways: [], isOver: false, error: null });
  useEffect(() => {
    if (!believed) return;
    const told = (more: readonly Surer[], isOver: boolean, error: string | null = null) =>
      setFound((f) => ({
        of: forecast,
        ways: [...(f.of === forecast ? f.ways : []), ...more],
        isOver,
        error,
      }));
    const question = { plan, believed, seed: USUAL_RUNS.seed, count: forecast.runs };
    const { answer, end } = askApart('foretelling', (api) =>
      api.surer(
        question,
        forecast,
        Comlink.proxy((way) => told([way], false)),
      ),
    );
    let isLeft = false;
    answer.then(
      () => isLeft || told([], true),
      (error: Error) => isLeft || told([], true, error.message),
    );
    return () => {
      isLeft = true;
      end();
    };
  }, [plan, forecast, believed]);
  const isMine = found.of === forecast;
  return {
    ways: isMine ? found.ways : [],
    seeking: !(isMine && found.isOver),
    error: isMine ? found.error : null,
  };
}
