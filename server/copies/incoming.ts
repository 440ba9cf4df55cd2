import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { CopyContents } from '../../core/copies/standing.ts';
import { ApiError } from '../errors.ts';
import { CopyFile } from './copyFile.ts';
import { contentsOf } from './contents.ts';

/** Bytes of a copy that is brought in. */
const MOST_BYTES = 2 ** 31;
/** Copies that are looked at beside each other; the oldest goes. */
const MOST_OPEN = 4;
const FORGOTTEN_MS = 3_600_000;

interface Opened {
  readonly copy: CopyFile;
  readonly dir: string | null;
  readonly timer: NodeJS.Timeout;
}

/** A copy that was looked at, by which token it is asked for again. */
interface Looked {
  readonly token: string;
  readonly contents: CopyContents;
}

/** Copies that somebody looks into: opened and judged, until something is taken in or they are forgotten. */
export class Incoming {
  private readonly opened = new Map<string, Opened>();

  /** Takes a copy's bytes in and looks into them. */
  async receive(body: Readable): Promise<Looked> {
    const dir = await mkdtemp(join(tmpdir(), 'retablo-copy-'));
    try {
      const path = join(dir, 'copy.zip');
      await pipeline(body, held(MOST_BYTES), createWriteStream(path, { mode: 0o600 }));
      return await this.look(path, dir);
    } catch (error) {
      await rm(dir, { recursive: true, force: true });
      throw error;
    }
  }

  /** Looks into a copy; `dir` goes with it when it is forgotten. */
  async look(path: string, dir: string | null = null): Promise<Looked> {
    const copy = await CopyFile.open(path);
    try {
      const contents = await contentsOf(copy);
      const token = randomUUID();
      const timer = setTimeout(() => void this.forget(token), FORGOTTEN_MS).unref();
      this.opened.set(token, { copy, dir, timer });
      if (this.opened.size > MOST_OPEN) await this.forget(this.opened.keys().next().value!);
      return { token, contents };
    } catch (error) {
      copy.close();
      throw error;
    }
  }

  /** @throws ApiError 'not found' where it was forgotten. */
  get(token: string): CopyFile {
    const found = this.opened.get(token);
    if (!found) throw new ApiError('not found', 'This copy was looked at too long ago: open it again.');
    return found.copy;
  }

  async forget(token: string): Promise<void> {
    const found = this.opened.get(token);
    if (!found) return;
    this.opened.delete(token);
    clearTimeout(found.timer);
    found.copy.close();
    if (found.dir) await rm(found.dir, { recursive: true, force: true });
  }

  async close(): Promise<void> {
    for (const token of [...this.opened.keys()]) await this.forget(token);
  }
}

/** Lets bytes through up to a limit. */
function held(most: number): Transform {
  let bytes = 0;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length;
      if (bytes > most)
        return done(new ApiError('too large', 'The file is larger than any copy: 2 GB at most.'));
      done(null, chunk);
    },
  });
}
