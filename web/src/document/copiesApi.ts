import type { CopyChoice, CopyContents, CopyOnDisk, TakenIn } from '../../../core/copies/standing.ts';
import { request } from './api.ts';

/** A copy that the server looked into, by which token it is asked for again. */
export interface LookedInto {
  readonly token: string;
  readonly contents: CopyContents;
}

export const copiesApi = {
  /** Everything as it is now, as one file. */
  nowUrl: '/api/copies/now.zip',
  keptUrl: (name: string): string => `/api/copies/kept/${name}`,
  list: () => request<{ copies: CopyOnDisk[] }>('GET', '/copies').then((a) => a.copies),
  look: (file: Blob) =>
    request<LookedInto>('POST', '/copies/incoming', new Blob([file], { type: 'application/zip' })),
  lookKept: (name: string) => request<LookedInto>('POST', `/copies/kept/${name}/look`),
  takeIn: (token: string, choice: CopyChoice) =>
    request<TakenIn>('POST', `/copies/incoming/${token}`, choice),
  forget: (token: string) => request<undefined>('DELETE', `/copies/incoming/${token}`),
};
