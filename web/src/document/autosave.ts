import { useEffect } from 'react';
import { RequestError, api } from './api.ts';
import { usePlanStore } from './planStore.ts';

/** Quiet after the last change before it is sent, and between tries while the server is away. ms. */
const QUIET_MS = 500;
const RETRY_MS = 3000;

let timer: ReturnType<typeof setTimeout> | undefined;
let sending = false;

function later(ms: number): void {
  clearTimeout(timer);
  timer = setTimeout(() => void send(), ms);
}

async function send(keepalive = false): Promise<void> {
  const { projectId, revision, plan, save } = usePlanStore.getState();
  if (!projectId || !plan || sending || (save.kind !== 'unsaved' && save.kind !== 'offline')) return;
  sending = true;
  usePlanStore.setState({ save: { kind: 'saving' } });
  try {
    const saved = await api.save(projectId, revision, plan, keepalive);
    settle(projectId, () => {
      const changed = usePlanStore.getState().plan !== plan;
      usePlanStore.setState({
        revision: saved.revision,
        save: changed ? { kind: 'unsaved' } : { kind: 'saved', at: new Date(saved.updatedAt) },
      });
      if (changed) later(QUIET_MS);
    });
  } catch (error) {
    settle(projectId, () => failed(error));
  } finally {
    sending = false;
    if (usePlanStore.getState().save.kind === 'unsaved') later(QUIET_MS);
  }
}

/** Answers that come after another project was opened are dropped. */
function settle(projectId: string, act: () => void): void {
  if (usePlanStore.getState().projectId === projectId) act();
}

function failed(error: unknown): void {
  const known = error instanceof RequestError ? error : new RequestError(500, String(error));
  if (known.status === 409 && known.current)
    usePlanStore.setState({ save: { kind: 'conflict', current: known.current } });
  else if (known.status === 400 || known.status === 404 || known.status === 413)
    usePlanStore.setState({ save: { kind: 'refused', message: known.message } });
  else {
    usePlanStore.setState({ save: { kind: 'offline', message: known.message } });
    later(RETRY_MS);
  }
}

/** After a conflict: mine over theirs, as a new revision of theirs. */
export function keepMine(currentRevision: number): void {
  usePlanStore.setState({ revision: currentRevision, save: { kind: 'unsaved' } });
  later(0);
}

/** Saves changes a moment after they are made, and at once when the page is left. */
export function useAutosave(): void {
  const save = usePlanStore((state) => state.save);
  const plan = usePlanStore((state) => state.plan);
  useEffect(() => {
    if (save.kind === 'unsaved') later(QUIET_MS);
  }, [save, plan]);
  useEffect(() => {
    const leave = () => void send(true);
    const hide = () => document.visibilityState === 'hidden' && leave();
    window.addEventListener('pagehide', leave);
    document.addEventListener('visibilitychange', hide);
    return () => {
      window.removeEventListener('pagehide', leave);
      document.removeEventListener('visibilitychange', hide);
      leave();
    };
  }, []);
}
