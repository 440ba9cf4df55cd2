import { type CopyContents, type TakenIn, usualChoice } from '../core/copies/standing.ts';
import { CopyFile } from '../server/copies/copyFile.ts';
import { CopyFolder, writeCopyTo } from '../server/copies/folder.ts';
import { restoreFrom } from '../server/copies/restore.ts';
import { contentsOf } from '../server/copies/contents.ts';
import { takeIn } from '../server/copies/takeIn.ts';
import { type Database, openDatabase } from '../server/database.ts';
import { databaseUrl, freePort, lastingCluster, missingVersion } from './cluster.ts';
import { COPIES_DIR, DATABASE_DIR, isHeld, rememberedPorts, takeInHand } from './instance.ts';

const USAGE = `Usage: npm run copies -- …
  out FILE.zip      everything in one file: pieces with their history and pictures, set-ups, materials, rack
  look FILE.zip     what is in such a file beside what is here; nothing is changed
  in FILE.zip       takes in what is new; what went another way is put beside
  list              the copies that were made by themselves
  restore [FILE.zip]  puts everything as it is in the file, or in the last copy; what is here now is copied first
Works while Retablo runs and while it does not.`;

/** The database in hand: that of the Retablo that runs, or started for as long as it is used. */
async function withDatabaseUrl<T>(use: (url: string) => Promise<T>): Promise<T> {
  const hold = await takeInHand();
  const known = rememberedPorts().database;
  if (isHeld(hold)) {
    if (!hold.address || known === undefined)
      throw new Error('Retablo is just starting: try again in a moment.');
    return use(databaseUrl(DATABASE_DIR, known));
  }
  const missing = missingVersion(DATABASE_DIR);
  if (missing !== null)
    throw new Error(
      `The data were made by PostgreSQL ${missing}, which is not installed: bin/start says what can be done.`,
    );
  const cluster = await lastingCluster(DATABASE_DIR, await freePort());
  try {
    return await use(cluster.url);
  } finally {
    await cluster.stop();
    await hold.release();
  }
}

const withDatabase = <T>(use: (database: Database) => Promise<T>): Promise<T> =>
  withDatabaseUrl(async (url) => {
    const database = await openDatabase(url, (sequelize) =>
      new CopyFolder(COPIES_DIR).make(sequelize, 'before an update'),
    );
    try {
      return await use(database);
    } finally {
      await database.close();
    }
  });

async function withCopy<T>(path: string, use: (copy: CopyFile) => Promise<T>): Promise<T> {
  const copy = await CopyFile.open(path);
  try {
    return await use(copy);
  } finally {
    copy.close();
  }
}

const day = (iso: string): string => iso.slice(0, 16).replace('T', ' ');

function described({ madeAt, pieces, setups, materials, rack, unreadable }: CopyContents): string {
  const parts = [
    ...setups.map((p) => ['set-up', p] as const),
    ...materials.map((p) => ['material', p] as const),
    ...(rack ? [['rack', rack] as const] : []),
  ];
  return [
    `A copy of ${day(madeAt)}.`,
    ...pieces.map(
      (p) =>
        `${p.standing.padEnd(10)} piece     ${p.name}, saved ${day(p.savedAt)}, ${p.revisions} revisions`,
    ),
    ...parts.map(([what, p]) => `${p.standing.padEnd(10)} ${what.padEnd(9)} ${p.name}`),
    ...unreadable.map((why) => `left out: ${why}`),
  ].join('\n');
}

const told = ({ added, wentOn, beside, parts }: TakenIn): string =>
  `${added} new, ${wentOn} went on, ${beside} put beside; ${parts} of the shop.`;

async function out(path: string): Promise<string> {
  const { pieces } = await withDatabase(({ sequelize }) => writeCopyTo(sequelize, path, new Date()));
  return `${pieces} pieces and the shop are in ${path}.`;
}

const look = (path: string): Promise<string> =>
  withCopy(path, (copy) => withDatabase(async () => described(await contentsOf(copy))));

const takeAll = (path: string): Promise<string> =>
  withCopy(path, (copy) =>
    withDatabase(async ({ sequelize }) =>
      told(await takeIn(sequelize, copy, usualChoice(await contentsOf(copy)))),
    ),
  );

async function list(): Promise<string> {
  const all = await new CopyFolder(COPIES_DIR).list();
  if (all.length === 0) return `No copies lie in ${COPIES_DIR} yet.`;
  return all
    .map(
      ({ name, madeAt, bytes, why }) =>
        `${day(madeAt)}  ${why.padEnd(17)} ${Math.ceil(bytes / 1000)} kB  ${COPIES_DIR}/${name}`,
    )
    .join('\n');
}

async function restore(path?: string): Promise<string> {
  const folder = new CopyFolder(COPIES_DIR);
  const last = await folder.newest();
  if (!path && !last) throw new Error(`There is no copy in ${COPIES_DIR}: name the file to be restored.`);
  const from = path ?? (await folder.path(last!.name));
  const before = await withDatabase(({ sequelize }) => folder.make(sequelize, 'before a restore'));
  const taken = await withDatabaseUrl((url) => restoreFrom(url, from));
  return `Restored from ${from}: ${told(taken)}\nWhat was here before is in ${before}.`;
}

/** Carries one command out; what it has to say. */
export function run([command, file, ...more]: readonly string[]): Promise<string> {
  if (more.length === 0) {
    if (command === 'list' && !file) return list();
    if (command === 'restore') return restore(file);
    if (file && command === 'out') return out(file);
    if (file && command === 'look') return look(file);
    if (file && command === 'in') return takeAll(file);
  }
  return Promise.reject(new Error(USAGE));
}

run(process.argv.slice(2)).then(
  (said) => console.log(said),
  (error: Error) => {
    console.error(error.message);
    process.exitCode = 2;
  },
);
