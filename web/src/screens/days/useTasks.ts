import { useQueries, useQuery } from '@tanstack/react-query';
import type { Task, WorkHours } from '../../../../core/days/index.ts';
import type { ProjectHead } from '../../../../core/plan/index.ts';
import { api } from '../../document/api.ts';
import { useBelieved } from '../../document/learning.ts';
import { asItStands } from '../../document/records.ts';
import { ask } from '../../document/workers/host.ts';

/** As many pieces are offered. */
const MOST = 100;

/** Pieces that are not done, those at the bench first. */
export const useOpenPieces = () =>
  useQuery({
    queryKey: ['projects', 'open'],
    queryFn: async () => {
      const page = (state: 'at the bench' | 'planning') =>
        api.list({ search: '', state, sort: 'changed', offset: 0, limit: MOST }).then((a) => a.projects);
      return [...(await page('at the bench')), ...(await page('planning'))];
    },
    staleTime: 0,
  });

/** What is left to do of some pieces, worked out beside the page. */
export function useTasks(pieces: readonly ProjectHead[], work: WorkHours) {
  const believed = useBelieved();
  return useQueries({
    queries: pieces.map(({ id, revision, log }) => ({
      queryKey: ['tasks', id, revision, log, work, believed],
      queryFn: async (): Promise<Task[]> => {
        const { plan, records } = await api.get(id);
        const stands = asItStands(plan, records);
        const plan_ = { ...stands, shop: { ...stands.shop, work } };
        return ask('answers', (worker) => worker.tasksOf(id, plan_, believed!));
      },
      enabled: believed !== null,
      staleTime: Infinity,
      retry: 0,
    })),
    combine: (results) => ({
      tasks: results.flatMap((r) => r.data ?? []),
      isPending: results.some((r) => r.isPending),
      error: results.find((r) => r.error)?.error ?? null,
    }),
  });
}
