import { createStore, del, get, promisifyRequest, set, values } from 'idb-keyval';
import { v4 as newId } from 'uuid';
import { create } from 'zustand';
import type { Plan } from '../../../core/plan/index.ts';

/** A plan as some page has it and the server has not. */
export interface Unsaved {
  readonly projectId: string;
  /** The page that made it. */
  readonly page: string;
  readonly plan: Plan;
  /** The revision it goes on from, the save it will be, and the own saves that were sent since and may have been taken. */
  readonly revision: number;
  readonly saveId: string;
  readonly afterSaves?: readonly string[];
  readonly at: number;
  /** Why the server does not take it; nothing while it only waits. */
  readonly trouble?: string;
}

const store = createStore('retablo', 'unsaved');

/** This page: as long as it lives it holds a lock of this name, so that others know. */
const PAGE: string = newId();
const lockOf = (page: string): string => `retablo page ${page}`;
void navigator.locks?.request(lockOf(PAGE), () => new Promise(() => undefined));

/** How long pages have to say that they live, ms. */
const ANSWER_MS = 150;
/** Over plain HTTP in the shop's network a browser has no locks: there pages ask each other, and answer. */
const pages = new BroadcastChannel('retablo pages');
pages.addEventListener('message', ({ data }: MessageEvent<string>) => {
  if (data === 'who lives?') pages.postMessage(PAGE);
});

function askedAround(): Promise<ReadonlySet<string>> {
  const alive = new Set([PAGE]);
  const hear = ({ data }: MessageEvent<string>) => alive.add(data);
  pages.addEventListener('message', hear);
  pages.postMessage('who lives?');
  return new Promise((resolve) =>
    setTimeout(() => {
      pages.removeEventListener('message', hear);
      resolve(alive);
    }, ANSWER_MS),
  );
}

const keyOf = (projectId: string, page = PAGE): string => `${projectId} ${page}`;

interface Waiting {
  /** What waits to be sent, newest first; of all pages. */
  readonly all: readonly Unsaved[];
  /** Those of them that have waited longer than any save takes. */
  readonly overdue: readonly Unsaved[];
  /** Whether the last edit could be kept in the browser. */
  readonly kept: boolean;
}

/** What is not on the server yet, for whoever shows it. */
export const useWaiting = create<Waiting>(() => ({ all: [], overdue: [], kept: true }));

/** A save that takes longer than this waits, ms. */
const SOON_MS = 4000;

const byTime = (a: Unsaved, b: Unsaved): number => b.at - a.at;

async function told<T>(act: () => Promise<T>): Promise<T | undefined> {
  try {
    const done = await act();
    const all = (await values<Unsaved>(store)).sort(byTime);
    useWaiting.setState({ all, overdue: all.filter(({ at }) => at < Date.now() - SOON_MS), kept: true });
    return done;
  } catch {
    // A browser that keeps nothing (a private window, a full disk): saving goes on as it can, and closing the page warns.
    useWaiting.setState({ kept: false });
    return undefined;
  }
}

/** Keeps an edit until the server has it; the one before of this page and piece is replaced. */
export const keepUnsaved = (edit: Omit<Unsaved, 'page' | 'at'>): Promise<unknown> =>
  told(() => {
    const kept: Unsaved = { ...edit, page: PAGE, at: Date.now() };
    return store('readwrite', (all) => {
      all.put(kept, keyOf(edit.projectId));
      // By itself it commits only when the page has heard of the success, and a page that is drawing a large plan hears late.
      all.transaction.commit();
      return promisifyRequest(all.transaction);
    });
  });

/** Lets an edit go. */
export const forget = ({ projectId, page }: Pick<Unsaved, 'projectId' | 'page'>): Promise<unknown> =>
  told(() => del(keyOf(projectId, page), store));

export const forgetOwn = (projectId: string): Promise<unknown> => forget({ projectId, page: PAGE });

/** The server has taken a save as a revision: what was kept for it goes, and what was edited since goes on from there. */
export const taken = (projectId: string, saveId: string, revision: number, page = PAGE): Promise<unknown> =>
  told(async () => {
    const kept = await get<Unsaved>(keyOf(projectId, page), store);
    if (kept?.saveId === saveId) await del(keyOf(projectId, page), store);
    else if (kept) await set(keyOf(projectId, page), { ...kept, revision }, store);
  });

/** Says why the server refuses an edit, as long as it is still that which waits: one that was let go meanwhile does not come back. */
export const inTrouble = (edit: Unsaved, trouble: string): Promise<unknown> =>
  told(() =>
    store('readwrite', (all) => {
      const key = keyOf(edit.projectId, edit.page);
      const asked = all.get(key) as IDBRequest<Unsaved | undefined>;
      asked.onsuccess = () => {
        if (asked.result?.saveId === edit.saveId) all.put({ ...edit, trouble }, key);
      };
      return promisifyRequest(all.transaction);
    }),
  );

/** Pages that live, by their ids. */
async function living(): Promise<ReadonlySet<string>> {
  if (!('locks' in navigator)) return askedAround();
  const { held = [] } = await navigator.locks.query();
  return new Set([PAGE, ...held.flatMap(({ name }) => name?.split('retablo page ')[1] ?? [])]);
}

/** Edits that nobody is working on: of pages that are gone, and of pieces that this page has left. */
export async function leftBehind(openId: string | null): Promise<Unsaved[]> {
  const all = (await told(() => values<Unsaved>(store))) ?? [];
  const alive = await living();
  return all
    .filter(({ page, projectId }) => (page === PAGE ? projectId !== openId : !alive.has(page)))
    .sort(byTime);
}

/** The newest edit of a piece that nobody is working on, taken over by this page; null where there is none. */
export async function takeOver(projectId: string): Promise<Unsaved | null> {
  const [edit] = (await leftBehind(null)).filter((e) => e.projectId === projectId);
  if (!edit) return null;
  if (edit.page !== PAGE) {
    await keepUnsaved(edit);
    await forget(edit);
  }
  return edit;
}
