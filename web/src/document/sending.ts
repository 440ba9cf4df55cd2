import { isLater } from './api.ts';

/** Between tries while the server is away, ms. */
const AGAIN_MS = 3000;

interface Outgoing<T> {
  /** The next that waits and was not refused. */
  next(): T | undefined;
  send(one: T): Promise<unknown>;
  sent(one: T): unknown;
  refused(one: T, why: string): unknown;
}

/** Sends what waits, one after the other, whenever it is called; while the server is away, again after a moment. */
export function sender<T>({ next, send, sent, refused }: Outgoing<T>): () => Promise<void> {
  let sending = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const sendAll = async (): Promise<void> => {
    if (sending) return;
    sending = true;
    clearTimeout(timer);
    try {
      for (let one = next(); one; one = next()) {
        try {
          await send(one);
          await sent(one);
        } catch (error) {
          if (isLater(error)) {
            timer = setTimeout(() => void sendAll(), AGAIN_MS);
            break;
          }
          await refused(one, (error as Error).message);
        }
      }
    } finally {
      sending = false;
    }
  };
  return sendAll;
}
