import { buffer } from 'node:stream/consumers';
import { type Entry, type ZipFile, openPromise } from 'yauzl';
import type { z } from 'zod';
import { MANIFEST, type Manifest, manifestSchema } from '../../core/copies/copyFile.ts';
import { ApiError } from '../errors.ts';
import { take } from '../routes/take.ts';
import { sha256Of } from './write.ts';

/** Bytes of one part, of all: a plan is some kilobytes, at most 2 MB, and several times that as it is set out in lines. */
const MOST_PART = 64_000_000;
const MOST_IN_ALL = 20_000_000_000;
/** Bytes of the manifest, and parts in all. */
const MOST_MANIFEST = 200_000_000;
const MOST_PARTS = 1_000_000;

const bad = (message: string): ApiError => new ApiError('bad request', message);

const notWhole = (): ApiError =>
  bad(
    'This is no copy file, or not a whole one: it does not read as a zip to its end. Copies are made under The shop, Copies.',
  );

function parsed(content: Buffer, path: string): unknown {
  try {
    return JSON.parse(content.toString('utf8'));
  } catch {
    throw bad(`${path} in the copy is not JSON: the file is damaged or was changed.`);
  }
}

/** Reads by a schema; what is wrong is said with the part it is in. */
function shaped<T>(schema: z.ZodType<T>, content: Buffer, path: string): T {
  try {
    return take(schema, parsed(content, path));
  } catch (error) {
    if (!(error instanceof ApiError) || error.message.startsWith(path)) throw error;
    throw bad(`${path} in the copy: ${error.message}`);
  }
}

/** A copy that lies on the disk, opened: its manifest, and each part when it is asked for, judged by its checksum. */
export class CopyFile {
  readonly manifest: Manifest;
  private readonly zip: ZipFile;
  private readonly entries: ReadonlyMap<string, Entry>;
  private readonly listed: ReadonlyMap<string, Manifest['files'][number]>;

  private constructor(zip: ZipFile, entries: ReadonlyMap<string, Entry>, manifest: Manifest) {
    this.zip = zip;
    this.entries = entries;
    this.manifest = manifest;
    this.listed = new Map(manifest.files.map((file) => [file.path, file]));
  }

  /** @throws ApiError 'bad request' that says what the file is instead of a copy. */
  static async open(path: string): Promise<CopyFile> {
    const zip = await openPromise(path, { autoClose: false }).catch(() => {
      throw notWhole();
    });
    try {
      if (zip.entryCount > MOST_PARTS) throw bad('This file has more parts than any copy.');
      const entries = new Map<string, Entry>();
      for await (const entry of zip.eachEntry()) entries.set(entry.fileName, entry);
      const first = entries.get(MANIFEST);
      if (!first) throw bad(`This is a zip, but no copy of Retablo’s: it has no ${MANIFEST}.`);
      const manifest = shaped(manifestSchema, await contentOf(zip, first, MOST_MANIFEST), MANIFEST);
      if (manifest.files.reduce((sum, file) => sum + file.bytes, 0) > MOST_IN_ALL)
        throw bad('This file holds more than any copy.');
      return new CopyFile(zip, entries, manifest);
    } catch (error) {
      zip.close();
      throw error instanceof ApiError ? error : notWhole();
    }
  }

  has(path: string): boolean {
    return this.listed.has(path);
  }

  /** The checksum that a part has by the manifest. */
  sha256(path: string): string {
    const file = this.listed.get(path);
    if (!file) throw bad(`${path} is missing in the copy: the file is damaged or was changed.`);
    return file.sha256;
  }

  /** A part as it was when the copy was made. */
  async part(path: string): Promise<Buffer> {
    const expected = this.sha256(path);
    const entry = this.entries.get(path);
    if (!entry) throw bad(`${path} is missing in the copy: the file is damaged or was changed.`);
    const content = await contentOf(this.zip, entry, MOST_PART).catch((error: unknown) => {
      throw error instanceof ApiError
        ? error
        : bad(`${path} in the copy cannot be read: the file is damaged or was changed.`);
    });
    if (sha256Of(content) !== expected)
      throw bad(`${path} is not what it was when the copy was made: the file is damaged or was changed.`);
    return content;
  }

  async read<T>(path: string, schema: z.ZodType<T>): Promise<T> {
    return shaped(schema, await this.part(path), path);
  }

  async json(path: string): Promise<unknown> {
    return parsed(await this.part(path), path);
  }

  /** Every part against its checksum, before anything is made of any. */
  async verify(): Promise<void> {
    for (const { path } of this.manifest.files) await this.part(path);
  }

  close(): void {
    this.zip.close();
  }
}

async function contentOf(zip: ZipFile, entry: Entry, most: number): Promise<Buffer> {
  // What is read is held to this size by the reader.
  if (entry.uncompressedSize > most)
    throw bad(`${entry.fileName} in the copy is larger than any that Retablo writes.`);
  return buffer(await zip.openReadStreamPromise(entry));
}
