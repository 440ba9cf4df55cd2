import { create } from 'zustand';

/** Work that is done in less is not spoken of, ms. */
const QUIET_MS = 1000;

/** Something that is being worked out beside the page for longer than a moment. */
export interface AtWork {
  readonly id: number;
  readonly what: string;
  stop(): void;
}

/** What is at work now, oldest first. */
export const useAtWork = create<{ all: readonly AtWork[] }>()(() => ({ all: [] }));

let last = 0;

/** Shows `work` as it goes on, if it takes longer than a moment, with a way to stop it; the same promise. */
export async function shownAtWork<T>(
  what: string,
  work: Promise<T>,
  stop: () => void,
  quietMs = QUIET_MS,
): Promise<T> {
  const mine: AtWork = { id: ++last, what, stop };
  const timer = setTimeout(() => useAtWork.setState(({ all }) => ({ all: [...all, mine] })), quietMs);
  try {
    return await work;
  } finally {
    clearTimeout(timer);
    useAtWork.setState(({ all }) => ({ all: all.filter((one) => one !== mine) }));
  }
}
