import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Sequelize } from 'sequelize';
import type { CopyOnDisk } from '../../core/copies/standing.ts';
import { ApiError } from '../errors.ts';
import { writeCopy } from './write.ts';

/** Copies of each kind that are kept. */
const KEPT = 14;

const KINDS: Readonly<Record<string, CopyOnDisk['why']>> = {
  daily: 'daily',
  'before-update': 'before an update',
  'before-restore': 'before a restore',
};
const NAME = /^(daily|before-update|before-restore)-(\d{4}-\d\d-\d\d)(?:T(\d\d)-(\d\d)-(\d\d))?\.zip$/;

const kindOf = (why: CopyOnDisk['why']): string =>
  Object.entries(KINDS).find(([, words]) => words === why)![0];

function nameFor(why: CopyOnDisk['why'], at: Date): string {
  const [day, time] = at.toISOString().slice(0, 19).split('T');
  return why === 'daily' ? `daily-${day}.zip` : `${kindOf(why)}-${day}T${time.replaceAll(':', '-')}.zip`;
}

/** Writes a copy as a file of its own, whole on the disk before it has its name. */
export async function writeCopyTo(sequelize: Sequelize, path: string, at: Date): Promise<{ pieces: number }> {
  const unfinished = `${path}.part`;
  const file = await open(unfinished, 'w', 0o600);
  try {
    const written = await writeCopy(sequelize, file.createWriteStream({ flush: true }), at);
    await rename(unfinished, path);
    return written;
  } catch (error) {
    await rm(unfinished, { force: true });
    throw error;
  } finally {
    await file.close();
  }
}

/** The folder in which copies are made by themselves. */
export class CopyFolder {
  readonly dir: string;
  constructor(dir: string) {
    this.dir = dir;
  }

  /** The copies that lie there, newest first. */
  async list(): Promise<CopyOnDisk[]> {
    const names = await readdir(this.dir).catch(() => [] as string[]);
    const all: CopyOnDisk[] = [];
    for (const name of names) {
      const [, kind] = NAME.exec(name) ?? [];
      if (!kind) continue;
      const { size, mtime } = await stat(join(this.dir, name));
      all.push({ name, madeAt: mtime.toISOString(), bytes: size, why: KINDS[kind] });
    }
    return all.sort((a, b) => b.madeAt.localeCompare(a.madeAt));
  }

  /** @throws ApiError 'not found' where no copy has this name. */
  async path(name: string): Promise<string> {
    const found = NAME.test(name) && (await this.list()).some((copy) => copy.name === name);
    if (!found) throw new ApiError('not found', 'There is no such copy; it may have been let go.');
    return join(this.dir, name);
  }

  /** Makes a copy now; its path. */
  async make(sequelize: Sequelize, why: CopyOnDisk['why'], at = new Date()): Promise<string> {
    await mkdir(this.dir, { recursive: true, mode: 0o700 });
    const path = join(this.dir, nameFor(why, at));
    await writeCopyTo(sequelize, path, at);
    return path;
  }

  /** The day's copy, unless it is there; then the oldest of each kind go. */
  async daily(sequelize: Sequelize, now = new Date()): Promise<void> {
    const name = nameFor('daily', now);
    if ((await this.list()).some((copy) => copy.name === name)) return;
    await this.make(sequelize, 'daily', now);
    const all = await this.list();
    for (const kind of Object.values(KINDS))
      for (const old of all.filter((copy) => copy.why === kind).slice(KEPT))
        await rm(join(this.dir, old.name), { force: true });
  }

  /** The last copy of how things stood, other than one that a restore put away. */
  async newest(): Promise<CopyOnDisk | undefined> {
    return (await this.list()).find((copy) => copy.why !== 'before a restore');
  }
}
