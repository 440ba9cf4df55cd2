import { fileURLToPath } from 'node:url';
import PQueue from 'p-queue';
import { Piscina } from 'piscina';
import { ApiError } from '../errors.ts';
import type { Tasks } from './work.ts';

export type Task = keyof Tasks;
export type Asked<T extends Task> = Parameters<Tasks[T]>[0];
export type Answer<T extends Task> = Awaited<ReturnType<Tasks[T]>>;

/** Threads that work at one time, and tasks that may wait for one. */
const THREADS = 2;
const MOST_WAITING = 60;
/** What one task may take: time from its beginning, memory. */
const MOST_MS = 90_000;
const MOST_MB = 1024;

/**
 * Everything the server reckons runs here, in threads of a pool with a queue, a limit of time and of memory: whatever a plan asks for,
 * the server answers. A task whose asker has left is ended.
 */
export class ReckoningPool {
  private readonly pool = new Piscina({
    filename: fileURLToPath(new URL('./work.ts', import.meta.url)),
    execArgv: ['--import', 'tsx'],
    minThreads: 0,
    maxThreads: THREADS,
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MB },
  });

  /** In turn: the pool's own queue tells neither how many wait nor when one begins. */
  private readonly turns = new PQueue({ concurrency: THREADS });

  /**
   * `asked` may be fetched when its turn has come, so that what waits holds nothing up. Rejects with an `ApiError` where the queue is full or the task
   * takes too much; as aborted where its asker has left.
   */
  async run<T extends Task>(
    task: T,
    asked: Asked<T> | (() => Promise<Asked<T>>),
    left?: AbortSignal,
  ): Promise<Answer<T>> {
    if (this.turns.size >= MOST_WAITING)
      throw new ApiError(
        'busy',
        'The server has more to work out than it can just now; try again in a moment.',
      );
    const fetched = async () => (typeof asked === 'function' ? asked() : asked);
    const done = this.turns.add(async () => this.work(task, await fetched(), left), left && { signal: left });
    return done as Promise<Answer<T>>;
  }

  private async work<T extends Task>(task: T, asked: Asked<T>, left?: AbortSignal): Promise<Answer<T>> {
    const tooLong = AbortSignal.timeout(MOST_MS);
    const signal = left ? AbortSignal.any([left, tooLong]) : tooLong;
    try {
      return (await this.pool.run({ task, asked }, { signal })) as Answer<T>;
    } catch (error) {
      if (tooLong.aborted)
        throw new ApiError('too much', 'This plan takes longer to work out than the server gives it.');
      throw known(error);
    }
  }

  async close(): Promise<void> {
    await this.pool.destroy();
  }
}

function known(error: unknown): unknown {
  const { code } = error as { code?: string };
  if (code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new ApiError('too much', 'This plan takes more memory to work out than the server gives it.');
  return error;
}
