import type { Plan, Problem } from '../../../core/plan/index.ts';

export type ProjectState = 'planning' | 'at the bench' | 'done';

export interface StoredProject {
  id: string;
  name: string;
  state: ProjectState;
  revision: number;
  updatedAt: string;
  plan: Plan;
}

/** A bar that a piece took from the rack, and how much of it went back. mm. */
export interface TakenBar {
  material: string;
  widthMm: number;
  thicknessMm: number;
  lengthMm: number;
  restMm: number;
}

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

interface ErrorBody {
  error?: { message: string };
  problems?: Problem[];
  current?: StoredProject;
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
      ...(body === undefined
        ? {}
        : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
    });
  } catch {
    throw new RequestError(0, 'The server does not answer. Is it still running?');
  }
  if (response.status === 204) return undefined as T;
  const answer: unknown = await response.json().catch(() => ({}));
  if (response.ok) return answer as T;
  const { error, problems, current } = answer as ErrorBody;
  throw new RequestError(
    response.status,
    error?.message ?? `The server answered ${response.status}.`,
    problems,
    current,
  );
}

export const api = {
  list: () => request<{ projects: StoredProject[] }>('GET', '/projects').then((answer) => answer.projects),
  get: (id: string) => request<StoredProject>('GET', `/projects/${id}`),
  create: (plan: unknown) => request<StoredProject>('POST', '/projects', { plan }),
  save: (id: string, expectedRevision: number, plan: Plan, keepalive = false) =>
    request<StoredProject>('PUT', `/projects/${id}`, { expectedRevision, plan }, keepalive),
  setState: (id: string, state: ProjectState) =>
    request<StoredProject & { taken: TakenBar[] | null }>('PATCH', `/projects/${id}`, { state }),
  taken: (id: string) =>
    request<{ taken: TakenBar[] | null }>('GET', `/projects/${id}/taken`).then((a) => a.taken),
  takeFromRack: (id: string) =>
    request<{ taken: TakenBar[] }>('POST', `/projects/${id}/taken`).then((a) => a.taken),
  putBack: (id: string) => request<undefined>('DELETE', `/projects/${id}/taken`),
  remove: (id: string) => request<undefined>('DELETE', `/projects/${id}`),
};
