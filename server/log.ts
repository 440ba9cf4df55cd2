import { type Logger, destination, pino } from 'pino';
import roll from 'pino-roll';

/** MB of a log before the next is begun, and how many older ones are kept. */
const MOST_MB = 5;
const KEPT = 4;
/** Bytes that wait for a disk that takes none; what comes after them is lost, the server goes on. */
const MOST_WAITING = 1_000_000;

export interface Log {
  readonly logger: Logger;
  close(): void;
}

/** A log in files that follow each other (`FILE.1.log`, …), or on the standard error. That it fails never ends the server. */
export async function openLog(file?: string): Promise<Log> {
  const stream = file
    ? await roll({
        file,
        size: MOST_MB,
        limit: { count: KEPT, removeOtherLogFiles: true },
        mkdir: true,
        mode: 0o600,
        maxLength: MOST_WAITING,
      })
    : destination(2);
  stream.on('error', () => undefined);
  return {
    logger: pino({ level: 'info' }, stream),
    close() {
      if (file) stream.end();
    },
  };
}
