import { create } from 'zustand';
import type { Reading } from '../../../core/instruments/reading.ts';
import {
  type Plan,
  type Problem,
  type ProjectState,
  type Revision,
  type ShelfPage,
  type ShelfQuery,
  type StoredProject,
  type TakenBar,
  type WrittenRecord,
  nameWith,
} from '../../../core/plan/index.ts';

/** An answer other than success. `status` 0: the server could not be reached. */
export class RequestError extends Error {
  readonly status: number;
  readonly problems: Problem[];
  readonly current: StoredProject | undefined;
  constructor(status: number, message: string, problems: Problem[] = [], current?: StoredProject) {
    super(message);
    this.status = status;
    this.problems = problems;
    this.current = current;
  }
}

/** Whether the server may take later what it did not take now: it is away, or this device has to be let in first. */
export const isLater = (error: unknown): boolean =>
  !(error instanceof RequestError) ||
  error.status < 400 ||
  error.status >= 500 ||
  error.status === NOT_LET_IN;

const NOT_LET_IN = 401;

/** Whether the server has shut this device out. */
export const useShutOut = create<{ readonly shutOut: boolean }>(() => ({ shutOut: false }));

interface ErrorBody {
  error?: { message: string };
  problems?: Problem[];
  current?: StoredProject;
}

/** A file goes as it is, everything else as JSON. */
function carried(body: unknown): RequestInit {
  if (body === undefined) return {};
  if (body instanceof Blob) return { headers: { 'Content-Type': body.type }, body };
  return { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) };
}

export async function request<T>(
  method: string,
  path: string,
  body?: unknown,
  keepalive = false,
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      keepalive,
      ...carried(body),
    });
  } catch {
    throw new RequestError(0, 'The server does not answer. Is it still running?');
  }
  if (response.status === 204) return undefined as T;
  const answer: unknown = await response.json().catch(() => ({}));
  if (response.ok) return answer as T;
  if (response.status === NOT_LET_IN) useShutOut.setState({ shutOut: true });
  const { error, problems, current } = answer as ErrorBody;
  throw new RequestError(
    response.status,
    error?.message ?? `The server answered ${response.status}.`,
    problems,
    current,
  );
}

/** From which revision, which save, after which own one that may have been taken. */
interface Save {
  readonly revision: number;
  readonly saveId: string;
  readonly afterSaves?: readonly string[];
  readonly plan: Plan;
}

export const api = {
  list: ({ search, state, sort, offset, limit }: ShelfQuery) =>
    request<ShelfPage>(
      'GET',
      `/projects?${new URLSearchParams({ search, state, sort, offset: String(offset), limit: String(limit) })}`,
    ),
  /** The small picture of a revision, with so much of its log. */
  pictureUrl: (id: string, { revision, log }: { revision: number; log: number }): string =>
    `/api/projects/${id}/picture?revision=${revision}.${log}`,
  copy: async (id: string) => {
    const { plan } = await api.get(id);
    return api.create({ ...plan, name: nameWith(plan.name, ' (copy)') });
  },
  get: (id: string) => request<StoredProject>('GET', `/projects/${id}`),
  create: (plan: unknown) => request<StoredProject>('POST', '/projects', { plan }),
  save: (id: string, { revision, saveId, afterSaves, plan }: Save, keepalive = false) =>
    request<StoredProject>(
      'PUT',
      `/projects/${id}`,
      { expectedRevision: revision, saveId, afterSaves, plan },
      keepalive,
    ),
  /** Writes a record of the bench, or takes it back. */
  write: (projectId: string, { id, record, written, from }: WrittenRecord) =>
    request<{ log: number }>('PUT', `/projects/${projectId}/records/${encodeURIComponent(id)}`, {
      record,
      written,
      from,
    }),
  keepPhotograph: (projectId: string, id: string, file: Blob) =>
    request<undefined>('PUT', `/projects/${projectId}/photographs/${id}`, file),
  photographUrl: (projectId: string, id: string, size: 'large' | 'small'): string =>
    `/api/projects/${projectId}/photographs/${id}?size=${size}`,
  /** Hands a reading on, as an instrument does. */
  read: (reading: Reading) => request<{ heard: number }>('POST', '/instruments/readings', reading),
  eventsUrl: (id: string, after: number): string => `/api/projects/${id}/events?after=${after}`,
  revisions: (id: string) =>
    request<{ revisions: Revision[] }>('GET', `/projects/${id}/revisions`).then((a) => a.revisions),
  planThen: (id: string, revision: number) =>
    request<{ plan: Plan }>('GET', `/projects/${id}/revisions/${revision}`).then((a) => a.plan),
  markRevision: (id: string, revision: number, mark: string | null) =>
    request<Revision>('PATCH', `/projects/${id}/revisions/${revision}`, { mark }),
  /** The newest plan as it lies there, whether it can be opened or not. */
  fileUrl: (id: string): string => `/api/projects/${id}/file`,
  rename: (id: string, name: string) => request<undefined>('PATCH', `/projects/${id}`, { name }),
  setState: (id: string, state: ProjectState) =>
    request<{ taken: TakenBar[] | null }>('PATCH', `/projects/${id}`, { state }),
  taken: (id: string) =>
    request<{ taken: TakenBar[] | null }>('GET', `/projects/${id}/taken`).then((a) => a.taken),
  takeFromRack: (id: string) =>
    request<{ taken: TakenBar[] }>('POST', `/projects/${id}/taken`).then((a) => a.taken),
  putBack: (id: string) => request<undefined>('DELETE', `/projects/${id}/taken`),
  putBackOnShelf: (id: string) => request<undefined>('POST', `/projects/${id}/back`),
  remove: (id: string) => request<undefined>('DELETE', `/projects/${id}`),
};
