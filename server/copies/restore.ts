import type { TakenIn } from '../../core/copies/standing.ts';
import { openDatabase } from '../database.ts';
import { CopyFile } from './copyFile.ts';
import { restored } from './takeIn.ts';

/** Fills a database with what lies in a copy, in place of all that is in it; the copy is judged whole before anything is changed. */
export async function restoreFrom(databaseUrl: string, path: string): Promise<TakenIn> {
  const copy = await CopyFile.open(path);
  try {
    await copy.verify();
    const database = await openDatabase(databaseUrl);
    try {
      return await restored(database.sequelize, copy);
    } finally {
      await database.close();
    }
  } finally {
    copy.close();
  }
}
