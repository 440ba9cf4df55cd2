import { api, isLater } from './api.ts';
import { usePlanStore } from './planStore.ts';
import { inTrouble, leftBehind, taken } from './unsaved.ts';

/** Between looks for what waits, ms. */
const AGAIN_MS = 3000;

/** Only one page sends at a time. */
const LOCK = 'retablo outbox';

/** Sends what waits and nobody is working on; what the server refuses stays, with its reason. */
export async function sendWaiting(sent: () => void): Promise<void> {
  for (const edit of await leftBehind(usePlanStore.getState().projectId)) {
    if (edit.trouble) continue;
    try {
      const { revision } = await api.save(edit.projectId, edit);
      await taken(edit.projectId, edit.saveId, revision, edit.page);
      sent();
    } catch (error) {
      if (isLater(error)) return;
      await inTrouble(edit, (error as Error).message);
    }
  }
}

let whenSent: () => void = () => undefined;

/** Looks at once. */
export function sendNow(): void {
  const send = () => sendWaiting(whenSent);
  void (navigator.locks?.request(LOCK, { ifAvailable: true }, (lock) => lock && send()) ?? send());
}

/** Goes on sending as long as the page lives; calls `sent` after each that was taken. */
export function startOutbox(sent: () => void): void {
  whenSent = sent;
  sendNow();
  setInterval(sendNow, AGAIN_MS);
  window.addEventListener('online', sendNow);
}
