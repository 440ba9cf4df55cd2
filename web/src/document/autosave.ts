import { v4 as newId } from 'uuid';
import { useEffect } from 'react';
import { MOST_UNANSWERED, type Plan, type StoredProject } from '../../../core/plan/index.ts';
import { RequestError, api } from './api.ts';
import { hear, openLog } from './records.ts';
import { editPlan, openProject, usePlanStore } from './planStore.ts';
import { type Unsaved, forgetOwn, keepUnsaved, taken, useWaiting } from './unsaved.ts';

/** Quiet after the last change before it is sent, and between tries while the server is away. ms. */
const QUIET_MS = 500;
const RETRY_MS = 3000;
/** Browsers send no more than 64 KiB once a page is being left; larger plans wait in the browser. */
const MOST_WHEN_LEFT = 60_000;

let timer: ReturnType<typeof setTimeout> | undefined;
let sending = false;
/** Saves of the open piece that were sent since its revision, the last ones: each may have been taken though its answer was lost. */
let unanswered: readonly string[] = [];
const sent = (saveId: string): void => {
  unanswered = [...unanswered.filter((id) => id !== saveId), saveId].slice(-MOST_UNANSWERED);
};

/** The plan as it now is and the save that it will be: sent again it is the same one; come back to later by undo, another. */
let current: { readonly plan: Plan; readonly saveId: string } | undefined;
function saveIdOf(plan: Plan): string {
  if (current?.plan !== plan) current = { plan, saveId: newId() };
  return current.saveId;
}

function later(ms: number): void {
  clearTimeout(timer);
  timer = setTimeout(() => void send(), ms);
}

/** The open plan as a save. */
function asSave(plan: Plan, revision: number) {
  const saveId = saveIdOf(plan);
  return { revision, plan, saveId, afterSaves: unanswered.filter((id) => id !== saveId) };
}

async function send(leaving = false): Promise<void> {
  const { projectId, revision, plan, save } = usePlanStore.getState();
  if (!projectId || !plan || sending || (save.kind !== 'unsaved' && save.kind !== 'offline')) return;
  const edit = asSave(plan, revision);
  if (leaving && JSON.stringify(plan).length > MOST_WHEN_LEFT) return;
  sending = true;
  sent(edit.saveId);
  usePlanStore.setState({ save: { kind: 'saving' } });
  try {
    const saved = await api.save(projectId, edit, leaving);
    await taken(projectId, edit.saveId, saved.revision);
    settle(projectId, () => {
      unanswered = [edit.saveId];
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

/** Answers that come after another project was opened are dropped: what was kept in the browser is sent from there. */
function settle(projectId: string, act: () => void): void {
  if (usePlanStore.getState().projectId === projectId) act();
}

/** Not one of these is answered otherwise when it is asked again. */
const REFUSED = new Set([400, 403, 404, 413]);

function failed(error: unknown): void {
  const known = error instanceof RequestError ? error : new RequestError(500, String(error));
  if (known.status === 409 && known.current)
    usePlanStore.setState({ save: { kind: 'conflict', current: known.current } });
  else if (REFUSED.has(known.status))
    usePlanStore.setState({ save: { kind: 'refused', message: known.message } });
  else {
    usePlanStore.setState({ save: { kind: 'offline', message: known.message } });
    later(RETRY_MS);
  }
}

/** Opens a piece; with an edit that never reached the server it goes on from there, and undo leads back to what the server has. */
export function openWith(project: StoredProject, edit: Unsaved | null): void {
  unanswered = edit?.afterSaves ?? [];
  openProject(project);
  void openLog(project.id, project.records, project.log);
  if (!edit) return;
  // The page that made it may have sent it as it was left.
  sent(edit.saveId);
  current = edit;
  usePlanStore.setState({ plan: edit.plan, revision: edit.revision, save: { kind: 'unsaved' } });
}

/** Takes over a newer plan of the open piece where nothing here is unsaved; what is selected stays, and undo leads back. */
export function takeNewer({ id, plan, revision, updatedAt, records }: StoredProject): void {
  const now = usePlanStore.getState();
  if (now.projectId !== id) return;
  hear(
    id,
    records.map((record) => ({ id: record.id, record, written: record.written })),
  );
  if (revision <= now.revision || now.save.kind !== 'saved') return;
  unanswered = [];
  usePlanStore.setState({ plan, revision, save: { kind: 'saved', at: new Date(updatedAt) } });
}

/** After a conflict: mine over theirs, as a new revision of theirs. */
export function keepMine(theirs: StoredProject): void {
  usePlanStore.setState({ revision: theirs.revision, save: { kind: 'unsaved' } });
  later(0);
}

/** After a conflict: theirs over mine. Mine is kept as a revision first, and undo leads back to it. */
export async function takeTheirs(theirs: StoredProject): Promise<void> {
  const { projectId, plan } = usePlanStore.getState();
  if (!projectId || !plan) return;
  usePlanStore.setState({ revision: theirs.revision, save: { kind: 'saving' } });
  try {
    const mine = await api.save(projectId, asSave(plan, theirs.revision));
    usePlanStore.setState({ revision: mine.revision, save: { kind: 'saved', at: new Date(mine.updatedAt) } });
    // Another object than the one the server sent: it is a save of its own.
    editPlan(() => ({ ...theirs.plan }), 'take the other');
  } catch (error) {
    failed(error);
  }
}

/** Keeps every edit in the browser at once, saves it a moment later, and when the page is left; warns where neither can be. */
export function useAutosave(): void {
  const { projectId, plan, save } = usePlanStore();
  const isSaved = save.kind === 'saved';
  // At once, before a large plan is shown anew: the page may be closed by then.
  useEffect(
    () =>
      usePlanStore.subscribe((is, was) => {
        const changed = is.plan !== was.plan || is.save !== was.save;
        if (is.plan && is.projectId && changed && is.save.kind !== 'saved' && is.save.kind !== 'saving')
          void keepUnsaved({ projectId: is.projectId, ...asSave(is.plan, is.revision) });
      }),
    [],
  );
  useEffect(() => {
    if (projectId && isSaved) void forgetOwn(projectId);
  }, [projectId, isSaved]);
  useEffect(() => {
    if (save.kind === 'unsaved') later(QUIET_MS);
  }, [save, plan]);
  useEffect(() => {
    const leave = () => void send(true);
    const hide = () => document.visibilityState === 'hidden' && leave();
    const warn = (event: BeforeUnloadEvent) => {
      if (usePlanStore.getState().save.kind !== 'saved' && !useWaiting.getState().kept)
        event.preventDefault();
    };
    window.addEventListener('pagehide', leave);
    window.addEventListener('beforeunload', warn);
    document.addEventListener('visibilitychange', hide);
    return () => {
      window.removeEventListener('pagehide', leave);
      window.removeEventListener('beforeunload', warn);
      document.removeEventListener('visibilitychange', hide);
      void send();
    };
  }, []);
}
