import { EventEmitter } from 'node:events';
import same from 'fast-deep-equal';
import { Op, type Sequelize, type Transaction } from 'sequelize';
import type { Reading } from '../core/instruments/reading.ts';
import type { WrittenRecord } from '../core/plan/index.ts';
import { type BenchRecord, MOST_RECORDS } from '../core/records/record.ts';
import { mergedRecord } from '../core/records/merge.ts';
import { BenchRow, Project } from './database.ts';
import { ApiError } from './errors.ts';

/** What pages that have a piece open are told of. */
export type News =
  | { readonly what: 'records'; readonly log: number; readonly records: readonly WrittenRecord[] }
  | { readonly what: 'plan'; readonly revision: number }
  | { readonly what: 'reading'; readonly reading: Reading };

/** The name under which every page hears; no piece has it. */
const EVERYONE = '*';

const writtenOf = ({ id, record, written }: BenchRow): WrittenRecord => ({
  id,
  record,
  written: written.toISOString(),
});

/** What was sent, with what another device wrote since the sender last knew of it. */
function overWhatStands({ id, record, written, from }: WrittenRecord, known: BenchRow): WrittenRecord {
  const stands = known.record;
  const unseen = known.written.getTime() !== Date.parse(from?.written ?? '') && stands?.written !== written;
  if (!from || !record || !stands || !unseen) return { id, record, written };
  const both = mergedRecord(from, record, stands);
  // Sent once more, what it said is there already.
  const news = !same({ ...both, written }, { ...stands, written });
  return news ? { id, record: both, written: both.written } : { id, record: stands, written: stands.written };
}

/** What was written at the bench. Records never conflict: each has its id, and of two with one id the later written counts. */
export class RecordStore {
  private readonly sequelize: Sequelize;
  private readonly emitter = new EventEmitter().setMaxListeners(0);
  constructor(sequelize: Sequelize) {
    this.sequelize = sequelize;
  }

  /** All of a piece that stand, in the order they were first written. */
  async of(projectId: string, transaction?: Transaction): Promise<BenchRecord[]> {
    const rows = await BenchRow.findAll({ where: { projectId }, order: [['log', 'ASC']], transaction });
    return rows.flatMap(({ record }) => record ?? []);
  }

  /** What was written since so many were. */
  async since(projectId: string, log: number): Promise<News> {
    const rows = await BenchRow.findAll({
      where: { projectId, log: { [Op.gt]: log } },
      order: [['log', 'ASC']],
    });
    return { what: 'records', log: rows.at(-1)?.log ?? log, records: rows.map(writtenOf) };
  }

  /**
   * Writes, changes or takes back (null) a record. One that another device changed meanwhile is not written over: what each changed
   * is in it then. Without word of what it was written over, the later counts; the same may be sent again, and late.
   *
   * @throws ApiError 'not found' without such a piece; 'too much' where it has more records than a plan may hold.
   */
  async write(projectId: string, sent: WrittenRecord): Promise<{ log: number }> {
    const { id } = sent;
    const done = await this.sequelize.transaction(async (transaction) => {
      const project = await Project.findByPk(projectId, { transaction, lock: transaction.LOCK.UPDATE });
      if (!project || project.removedAt)
        throw new ApiError('not found', 'There is no such piece on the shelf; it may have been removed.');
      const known = await BenchRow.findOne({ where: { projectId, id }, transaction });
      const { record, written } = known ? overWhatStands(sent, known) : sent;
      if (known && known.written >= new Date(written)) return { log: project.log, news: [] };
      if (!known && (await BenchRow.count({ where: { projectId }, transaction })) >= MOST_RECORDS)
        throw new ApiError('too much', `A piece may have at most ${MOST_RECORDS} records.`);
      // A piece that is worked on is at the bench.
      const state = record && project.state === 'planning' ? 'at the bench' : project.state;
      await project.update({ log: project.log + 1, state }, { transaction });
      await BenchRow.upsert(
        { projectId, id, record, written: new Date(written), log: project.log },
        { transaction },
      );
      return { log: project.log, news: [{ id, record, written }] };
    });
    const { log, news } = done;
    // What stood already is no news, and what is older would be taken for it.
    if (news.length > 0) this.tell(projectId, { what: 'records', log, records: news });
    return { log };
  }

  /** Records that come with a plan file. */
  async take(projectId: string, records: readonly BenchRecord[], transaction: Transaction): Promise<number> {
    await BenchRow.bulkCreate(
      records.map((record, i) => ({
        projectId,
        id: record.id,
        record,
        written: new Date(record.written),
        log: i + 1,
      })),
      { transaction },
    );
    return records.length;
  }

  tell(projectId: string, news: News): void {
    this.emitter.emit(projectId, news);
  }

  /** Every page that has any piece open. */
  tellAll(news: News): void {
    this.emitter.emit(EVERYONE, news);
  }

  /** How many pages listen. */
  get listening(): number {
    return this.emitter.listenerCount(EVERYONE);
  }

  /** Hears of a piece, and what is told to all, until the returned is called. */
  hear(projectId: string, told: (news: News) => void): () => void {
    this.emitter.on(projectId, told).on(EVERYONE, told);
    return () => void this.emitter.off(projectId, told).off(EVERYONE, told);
  }
}
