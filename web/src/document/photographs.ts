import { createStore, del, entries, set } from 'idb-keyval';
import { v4 as newId } from 'uuid';
import { create } from 'zustand';
import { api } from './api.ts';
import { sender } from './sending.ts';

/** A photograph that the server may not have yet. */
interface Waiting {
  readonly projectId: string;
  readonly id: string;
  readonly file: Blob;
  /** Why the server does not take it; nothing while it only waits. */
  readonly trouble?: string;
}

const store = createStore('retablo-photographs', 'waiting');

/** What waits, by its id, so that it can be seen here meanwhile. */
export const usePhotographs = create<{ readonly waiting: ReadonlyMap<string, Waiting> }>(() => ({
  waiting: new Map(),
}));

function put(id: string, waiting: Waiting | null): void {
  const all = new Map(usePhotographs.getState().waiting);
  if (waiting) all.set(id, waiting);
  else all.delete(id);
  usePhotographs.setState({ waiting: all });
}

const send = sender<Waiting>({
  next: () => [...usePhotographs.getState().waiting.values()].find((w) => w.trouble === undefined),
  send: ({ projectId, id, file }) => api.keepPhotograph(projectId, id, file),
  sent: ({ id }) => dropPhotograph(id),
  refused: (one, trouble) => put(one.id, { ...one, trouble }),
});

/** Keeps a photograph in the browser until the server has it; its id, at once. */
export function keepPhotograph(projectId: string, file: Blob): string {
  const id = newId();
  const waiting = { projectId, id, file };
  put(id, waiting);
  // A browser that keeps nothing sends it from the page.
  void set(id, waiting, store)
    .catch(() => undefined)
    .then(send);
  return id;
}

/** Lets go of one: the server has it, does not take it, or it is not wanted. */
export async function dropPhotograph(id: string): Promise<void> {
  put(id, null);
  await del(id, store).catch(() => undefined);
}

/** Goes on sending as long as the page lives. */
export function startPhotographs(): void {
  entries<string, Waiting>(store)
    .then((all) => all.forEach(([id, waiting]) => put(id, waiting)))
    .catch(() => undefined)
    .finally(() => void send());
  window.addEventListener('online', () => void send());
}

/** Of a full frame of 36 × 24 mm, by which cameras say their focal length. mm */
const FRAME_DIAGONAL_MM = Math.hypot(36, 24);

/**
 * The focal length of a photograph as a part of its diagonal, as its camera wrote it: all that is kept of what a camera writes besides
 * the picture. Undefined where it did not.
 */
export async function focalOf(file: Blob): Promise<number | undefined> {
  try {
    const { default: exif } = await import('exifreader');
    const { FocalLengthIn35mmFilm: said } = exif.load(await file.arrayBuffer());
    const mm = Number(said?.value);
    return mm > 0 ? Number((mm / FRAME_DIAGONAL_MM).toFixed(3)) : undefined;
  } catch {
    return undefined;
  }
}
