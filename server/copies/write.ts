import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { QueryTypes, type Sequelize, Transaction } from 'sequelize';
import { ZipFile } from 'yazl';
import {
  COPY_FORMAT,
  COPY_VERSION,
  type KeptPiece,
  MANIFEST,
  MATERIALS,
  type Manifest,
  RACK,
  photographFile,
  SETUPS,
  pictureFile,
  pieceFile,
  revisionFile,
} from '../../core/copies/copyFile.ts';

type Row = Record<string, unknown>;

/** The tables as they are now, which may be older than this program: what is not there yet is left out. */
class Tables {
  private readonly sequelize: Sequelize;
  private readonly transaction: Transaction;
  private readonly columns: ReadonlyMap<string, ReadonlySet<string>>;

  private constructor(sequelize: Sequelize, transaction: Transaction, columns: Map<string, Set<string>>) {
    this.sequelize = sequelize;
    this.transaction = transaction;
    this.columns = columns;
  }

  static async open(sequelize: Sequelize, transaction: Transaction): Promise<Tables> {
    const all = await sequelize.query<{ table: string; column: string }>(
      `SELECT table_name AS table, column_name AS column FROM information_schema.columns WHERE table_schema = 'public'`,
      { type: QueryTypes.SELECT, transaction },
    );
    const columns = new Map<string, Set<string>>();
    for (const { table, column } of all) columns.set(table, (columns.get(table) ?? new Set()).add(column));
    return new Tables(sequelize, transaction, columns);
  }

  /** Names are ours, values are bound. */
  rows(table: string, wanted: readonly string[], rest = '', bind: unknown[] = []): Promise<Row[]> {
    const there = this.columns.get(table);
    if (!there) return Promise.resolve([]);
    const select = wanted.map((name) => (there.has(name) ? name : `NULL AS ${name}`)).join(', ');
    return this.sequelize.query<Row>(`SELECT ${select} FROM ${table} ${rest}`, {
      type: QueryTypes.SELECT,
      transaction: this.transaction,
      bind,
    });
  }
}

const iso = (value: unknown): string => (value as Date).toISOString();
const isoOrNull = (value: unknown): string | null => (value ? iso(value) : null);

/** As a plan file is written, so that a revision in the zip is one. */
export const asFile = (value: unknown): Buffer => Buffer.from(`${JSON.stringify(value, null, 2)}\n`);

export const sha256Of = (content: Buffer): string => createHash('sha256').update(content).digest('hex');

async function keptPiece(tables: Tables, head: Row): Promise<KeptPiece> {
  const revisions = await tables.rows(
    'plan_revisions',
    ['revision', 'saved_at', 'mark'],
    'WHERE project_id = $1 ORDER BY revision',
    [head.id],
  );
  const [preview] = await tables.rows('previews', ['revision', 'verdict'], 'WHERE project_id = $1', [
    head.id,
  ]);
  const [taking] = await tables.rows('takings', ['taken', 'at'], 'WHERE project_id = $1', [head.id]);
  const records = await tables.rows(
    'bench_records',
    ['id', 'record', 'written'],
    'WHERE project_id = $1 ORDER BY log',
    [head.id],
  );
  const photographs = await tables.rows(
    'photographs',
    ['id', 'taken_at'],
    'WHERE project_id = $1 ORDER BY taken_at, id',
    [head.id],
  );
  return {
    id: head.id as string,
    name: head.name as string,
    state: head.state as KeptPiece['state'],
    createdAt: iso(head.created_at),
    updatedAt: iso(head.updated_at),
    removedAt: isoOrNull(head.removed_at),
    revisions: revisions.map((r) => ({
      revision: r.revision as number,
      savedAt: iso(r.saved_at),
      mark: r.mark as string | null,
    })),
    records: records.map((r) => ({
      id: r.id as string,
      record: r.record as KeptPiece['records'][number]['record'],
      written: iso(r.written),
    })),
    photographs: photographs.map((p) => ({ id: p.id as string, takenAt: iso(p.taken_at) })),
    preview: preview ? (preview as KeptPiece['preview']) : null,
    taken: taking
      ? { at: iso(taking.at), bars: taking.taken as NonNullable<KeptPiece['taken']>['bars'] }
      : null,
  };
}

/** Parts in the order in which they are written, each made when its turn comes: a copy never stands in memory as a whole. */
async function* parts(tables: Tables): AsyncGenerator<{ path: string; content: Buffer }> {
  const settings = await tables.rows('setups', ['name', 'settings'], 'ORDER BY created_at, name');
  yield { path: SETUPS, content: asFile(settings.map((s) => s.settings)) };
  const materials = await tables.rows('materials', ['material'], 'ORDER BY created_at, id');
  yield { path: MATERIALS, content: asFile(materials.map((m) => m.material)) };
  const rack = await tables.rows(
    'rack_bars',
    ['material', 'width_mm', 'thickness_mm', 'length_mm', 'count'],
    'ORDER BY material, thickness_mm DESC, width_mm DESC, length_mm DESC',
  );
  yield {
    path: RACK,
    content: asFile(
      rack.map((r) => ({
        material: r.material,
        widthMm: r.width_mm,
        thicknessMm: r.thickness_mm,
        lengthMm: r.length_mm,
        count: r.count,
      })),
    ),
  };
  for (const head of await heads(tables)) {
    const piece = await keptPiece(tables, head);
    yield { path: pieceFile(piece.id), content: asFile(piece) };
    for (const { revision } of piece.revisions) {
      const [{ plan }] = await tables.rows(
        'plan_revisions',
        ['plan'],
        'WHERE project_id = $1 AND revision = $2',
        [piece.id, revision],
      );
      yield { path: revisionFile(piece.id, revision), content: asFile(plan) };
    }
    for (const { id } of piece.photographs) {
      const [row] = await tables.rows(
        'photographs',
        ['large', 'small'],
        'WHERE project_id = $1 AND id = $2',
        [piece.id, id],
      );
      for (const size of ['large', 'small'] as const)
        yield { path: photographFile(piece.id, id, size), content: row[size] as Buffer };
    }
    const [preview] = await tables.rows('previews', ['picture'], 'WHERE project_id = $1', [piece.id]);
    if (preview?.picture) yield { path: pictureFile(piece.id), content: preview.picture as Buffer };
  }
}

const heads = (tables: Tables): Promise<Row[]> =>
  tables.rows(
    'projects',
    ['id', 'name', 'state', 'created_at', 'updated_at', 'removed_at'],
    'ORDER BY created_at, id',
  );

/**
 * Writes everything that is kept, as of one moment, as one zip: pieces with their history and pictures, set-ups, materials, rack
 * (docs/copy-format.md). Flows are left out: they are worked out again.
 *
 * @throws whatever the database or the stream says; what was written by then is no whole zip, and no reader takes it for one.
 */
export function writeCopy(
  sequelize: Sequelize,
  out: NodeJS.WritableStream,
  madeAt: Date,
): Promise<{ pieces: number }> {
  return sequelize.transaction(
    { isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ, readOnly: true },
    async (transaction) => {
      const tables = await Tables.open(sequelize, transaction);
      const pieces = (await heads(tables)).map(({ id, name }) => ({
        id: id as string,
        name: name as string,
      }));
      const zip = new ZipFile();
      const stream = zip.outputStream as Readable;
      zip.on('error', (error: Error) => stream.destroy(error));
      const written = pipeline(stream, out);
      // A failure while parts are still being added is told at the end.
      written.catch(() => undefined);
      const files: Manifest['files'] = [];
      for await (const { path, content } of parts(tables)) {
        files.push({ path, bytes: content.length, sha256: sha256Of(content) });
        await added(zip, stream, path, content, madeAt);
        if (stream.destroyed) break;
      }
      const manifest: Manifest = {
        format: COPY_FORMAT,
        version: COPY_VERSION,
        madeAt: iso(madeAt),
        pieces,
        files,
      };
      if (!stream.destroyed) zip.addBuffer(asFile(manifest), MANIFEST, { mtime: madeAt });
      zip.end();
      await written;
      return { pieces: pieces.length };
    },
  );
}

/** Adds a part and waits until it has gone into the stream, or the stream has ended. */
function added(zip: ZipFile, stream: Readable, path: string, content: Buffer, mtime: Date): Promise<void> {
  return new Promise((resolve) => {
    const done = () => {
      stream.off('close', done);
      resolve();
    };
    stream.once('close', done);
    if (stream.destroyed) return done();
    zip.addReadStreamLazy(path, { mtime, size: content.length }, (give) => {
      const part = Readable.from([content], { objectMode: false });
      part.once('close', done);
      give(null, part);
    });
  });
}
