import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strFromU8, unzipSync, zipSync } from 'fflate';
import { Client } from 'pg';
import sharp from 'sharp';
import { afterAll, expect, it } from 'vitest';
import { type CopyChoice, type CopyContents, usualChoice } from '../../core/copies/standing.ts';
import type { BenchRecord } from '../../core/records/record.ts';
import { MATERIALS } from '../../core/materials/table.ts';
import { cameOf } from '../../core/tests/records.ts';
import { copyDatabase } from '../../bin/cluster.ts';
import { Photograph, openDatabase } from '../database.ts';
import { demoCount } from '../demo/index.ts';
import { type Serving, serve } from '../serve.ts';
import { callerOf, freshDatabase } from '../tests/calls.ts';
import { CopyFolder } from './folder.ts';
import { restoreFrom } from './restore.ts';

const dir = mkdtempSync(join(tmpdir(), 'retablo-copies-'));
afterAll(() => rmSync(dir, { recursive: true, force: true }));

let made = 0;
const emptyShop = () => freshDatabase(`copies_${process.pid}_${made++}`);

/** A server is at one database at a time: this one is started for as long as it is used. */
async function at<T>(
  databaseUrl: string,
  use: (shop: Shop) => Promise<T>,
  options: { demo?: boolean; copiesDir?: string } = {},
): Promise<T> {
  const logFile = join(dir, 'server.log');
  const own = await serve({ databaseUrl, port: 0, logFile, pictures: false, ...options });
  try {
    return await use(shopOf(own));
  } finally {
    await own.stop();
  }
}

function shopOf(own: Serving) {
  const call = callerOf(() => own);
  const base = `http://127.0.0.1:${own.port}/api`;
  const out = async () => Buffer.from(await (await fetch(`${base}/copies/now.zip`)).arrayBuffer());
  const look = async (zip: Uint8Array) => {
    const response = await fetch(`${base}/copies/incoming`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/zip' },
      body: new Uint8Array(zip),
    });
    return { status: response.status, body: JSON.parse(await response.text()) };
  };
  const bring = async (zip: Uint8Array, choice?: Partial<CopyChoice>) => {
    const { body } = (await look(zip)) as { body: { token: string; contents: CopyContents } };
    const taken = await call('POST', `/copies/incoming/${body.token}`, choice ?? usualChoice(body.contents));
    return { contents: body.contents, taken: taken.body };
  };
  const piece = async (name: string) => {
    const { body } = await call('GET', '/projects');
    const { id } = body.projects.find((p: { name: string }) => p.name === name);
    return (await call('GET', `/projects/${id}`)).body;
  };
  const save = async (name: string, change: object) => {
    const { id, revision, plan } = await piece(name);
    const saved = await call('PUT', `/projects/${id}`, {
      expectedRevision: revision,
      plan: { ...plan, ...change },
    });
    expect(saved.status).toBe(200);
    return id as string;
  };
  const write = async (name: string, lengthMm: number) => {
    const { id, plan } = await piece(name);
    const record = cameOf(plan.lanes[0].steps[0].id, [{ piece: '1', lengthMm }], lengthMm);
    expect(
      (await call('PUT', `/projects/${id}/records/${record.id}`, { record, written: record.written })).status,
    ).toBe(200);
  };
  return { call, out, look, bring, piece, save, write };
}

type Shop = ReturnType<typeof shopOf>;

/** All that a shop keeps, as its interface tells it. */
async function everything({ call }: Shop) {
  const { body } = await call('GET', '/projects?sort=name');
  const pieces = [];
  for (const { id, name, state, revision, updatedAt } of body.projects) {
    const { revisions } = (await call('GET', `/projects/${id}/revisions`)).body;
    const plans = [];
    for (const r of revisions)
      plans.push((await call('GET', `/projects/${id}/revisions/${r.revision}`)).body.plan);
    const { records } = (await call('GET', `/projects/${id}`)).body;
    pieces.push({ id, name, state, revision, updatedAt, revisions, plans, records });
  }
  const setups = (await call('GET', '/shop/setups')).body.setups.map((s: { settings: object }) => s.settings);
  const { bars } = (await call('GET', '/shop/rack')).body;
  const rack = bars.map((bar: object) => ({ ...bar, id: undefined }));
  const materials = (await call('GET', '/shop/materials')).body.materials;
  return { pieces, setups, rack, materials };
}

let original: Promise<string> | null = null;

async function loaded(): Promise<string> {
  const url = await emptyShop();
  await at(url, () => Promise.resolve(), { demo: true });
  return url;
}

/** The demo is loaded once: every test begins with a copy of it. */
async function demoShop(): Promise<string> {
  original ??= loaded();
  return copyDatabase(await original, `copies_${process.pid}_${made++}`);
}

const zipOf = (url: string) => at(url, ({ out }) => out());

it('takes everything to another machine, with its history, and finds nothing new in it again', async () => {
  const first = await demoShop();
  const { zip, before } = await at(first, async (shop) => {
    const id = await shop.save('Salt Marsh', { notes: 'Before the second four-way' });
    await shop.call('PATCH', `/projects/${id}/revisions/2`, { mark: 'good' });
    await shop.write('Salt Marsh', 190);
    return { zip: await shop.out(), before: await everything(shop) };
  });
  expect(before.pieces.find((p) => p.name === 'Salt Marsh')!.revisions[0].mark).toBe('good');
  await at(await emptyShop(), async (shop) => {
    const { contents, taken } = await shop.bring(zip);
    expect(contents.pieces.map((p) => p.standing)).toEqual(Array.from({ length: demoCount() }, () => 'new'));
    expect(taken).toMatchObject({ added: demoCount(), wentOn: 0, beside: 0 });
    expect(await everything(shop)).toEqual(before);
    const again = await shop.bring(zip);
    expect(new Set(again.contents.pieces.map((p) => p.standing))).toEqual(new Set(['same']));
    expect(again.contents.setups.map((p) => p.standing)).toEqual(['same', 'same']);
    expect(again.contents.rack).toMatchObject({ standing: 'same', name: '7 bars' });
    expect(again.taken).toEqual({ added: 0, wentOn: 0, beside: 0, parts: 0 });
  });
});

it('photographs are written anew when they are taken in: nothing that lay in a file from elsewhere is served', async () => {
  const hidden = Buffer.from('<script>alert(1)</script>');
  const dirty = await sharp({ create: { width: 400, height: 300, channels: 3, background: '#884422' } })
    .withExif({ IFD3: { GPSLatitude: '48/1 12/1 0/1', GPSLatitudeRef: 'N' } })
    .jpeg()
    .toBuffer();
  const large = Buffer.concat([dirty, hidden]);
  const of = { id: randomUUID(), takenAt: new Date() };
  const zip = await at(await demoShop(), async (shop) => {
    const { id: projectId } = await shop.piece('Salt Marsh');
    await Photograph.create({ ...of, projectId, large, small: large });
    return shop.out();
  });
  await at(await emptyShop(), async (shop) => {
    await shop.bring(zip);
    const [kept] = await Photograph.findAll({ where: { id: of.id } });
    const { exif, width } = await sharp(kept.large).metadata();
    expect([exif, width, kept.large.includes(hidden)]).toEqual([undefined, 400, false]);
    expect((await sharp(kept.small).metadata()).width).toBe(360);
  });
});

it('is a zip of open formats, with a manifest that counts each part', async () => {
  const parts = unzipSync(await zipOf(await demoShop()));
  const manifest = JSON.parse(strFromU8(parts['manifest.json']));
  expect(manifest).toMatchObject({ format: 'retablo-copy', version: 1 });
  expect(new Set(manifest.files.map((f: { path: string }) => f.path))).toEqual(
    new Set(Object.keys(parts).filter((p) => p !== 'manifest.json')),
  );
  for (const { path, bytes, sha256 } of manifest.files) {
    expect(parts[path].length, path).toBe(bytes);
    const digest = await crypto.subtle.digest('SHA-256', parts[path] as Uint8Array<ArrayBuffer>);
    expect(Buffer.from(digest).toString('hex'), path).toBe(sha256);
  }
  const { id } = manifest.pieces.find((p: { name: string }) => p.name === 'Night Heron');
  expect(JSON.parse(strFromU8(parts[`pieces/${id}/revisions/1.retablo.json`]))).toMatchObject({
    format: 'retablo-plan',
    name: 'Night Heron',
  });
});

it('goes on from what is here, and puts beside what went another way, once', async () => {
  const there = await demoShop();
  const here = await emptyShop();
  const start = await zipOf(there);
  await at(here, (shop) => shop.bring(start));
  const zip = await at(there, async ({ save, out }) => {
    await save('Tide Ladder', { notes: 'one' });
    await save('Tide Ladder', { notes: 'two' });
    await save('Hailstorm', { notes: 'there' });
    return out();
  });
  const back = await at(here, async ({ save, bring, piece, out }) => {
    await save('Ebb Bar', { notes: 'here' });
    await save('Hailstorm', { notes: 'here' });
    const { contents, taken } = await bring(zip);
    const how = Object.fromEntries(contents.pieces.map((p) => [p.name, p.standing]));
    expect(how).toMatchObject({ 'Tide Ladder': 'newer', 'Ebb Bar': 'older', Hailstorm: 'different' });
    expect(taken).toMatchObject({ added: 0, wentOn: 1, beside: 1 });
    expect(await piece('Tide Ladder')).toMatchObject({ revision: 3, plan: { notes: 'two' } });
    expect((await piece('Ebb Bar')).plan.notes).toBe('here');
    expect((await piece('Hailstorm')).plan.notes).toBe('here');
    expect((await piece('Hailstorm (from a copy)')).plan).toMatchObject({
      notes: 'there',
      name: 'Hailstorm (from a copy)',
    });
    // Brought in again, it is there.
    expect((await bring(zip)).taken).toMatchObject({ added: 0, wentOn: 0, beside: 0 });
    return out();
  });
  // On the first machine the piece beside is new, another went on, and the third went another way.
  const { taken } = await at(there, ({ bring }) => bring(back));
  expect(taken).toMatchObject({ added: 1, wentOn: 1, beside: 1 });
});

it('brings records that are not here though the plan is the same, and takes none away', async () => {
  const here = await demoShop();
  const first = await zipOf(here);
  const there = await emptyShop();
  const zip = await at(there, async (shop) => {
    await shop.bring(first);
    await shop.write('Salt Marsh', 190);
    return shop.out();
  });
  await at(here, async (shop) => {
    await shop.write('Salt Marsh', 185);
    const { contents } = await shop.bring(zip);
    expect(contents.pieces.find((p) => p.name === 'Salt Marsh')!.standing).toBe('newer');
    const lengths = async () =>
      (await shop.piece('Salt Marsh')).records.map((r: BenchRecord) => r.pieces![0].lengthMm);
    expect(await lengths()).toEqual([185, 190]);
    expect((await shop.bring(zip)).contents.pieces.every((p) => p.standing !== 'newer')).toBe(true);
    expect(await lengths()).toEqual([185, 190]);
  });
});

it('takes of the shop only what is asked for', async () => {
  const [steel] = MATERIALS;
  const there = await demoShop();
  const { zip, theirs } = await at(there, async (shop) => {
    await shop.call('PUT', `/shop/materials/${steel.id}`, { ...steel, name: 'Theirs' });
    return { zip: await shop.out(), theirs: await everything(shop) };
  });
  await at(await emptyShop(), async (shop) => {
    await shop.call('PUT', `/shop/materials/${steel.id}`, { ...steel, name: 'Ours' });
    const bar = { material: steel.id, widthMm: 50, thicknessMm: 5, lengthMm: 500, count: 1 };
    await shop.call('POST', '/shop/rack', bar);
    const { contents, taken } = await shop.bring(zip);
    expect(contents.materials).toEqual([{ id: steel.id, name: 'Theirs', standing: 'different' }]);
    expect(contents.rack?.standing).toBe('different');
    expect(taken.parts).toBe(2);
    const now = await everything(shop);
    expect([now.materials[0].name, now.rack]).toEqual(['Ours', [bar]]);
    await shop.bring(zip, { materials: [steel.id], rack: true });
    const then = await everything(shop);
    expect([then.materials[0].name, then.rack]).toEqual(['Theirs', theirs.rack]);
  });
});

it('says what a file is that is no copy, or a damaged one, and changes nothing', async () => {
  const zip = await zipOf(await demoShop());
  const parts = unzipSync(zip);
  const manifest = JSON.parse(strFromU8(parts['manifest.json']));
  const withManifest = (change: object) =>
    zipSync({ ...parts, 'manifest.json': Buffer.from(JSON.stringify({ ...manifest, ...change })) });
  const some = manifest.files.find((f: { path: string }) => f.path.includes('revisions')).path;
  const damaged = Buffer.from(zip);
  damaged[Math.floor(damaged.length / 2)] ^= 0x55;
  await at(await emptyShop(), async (shop) => {
    for (const [file, words] of [
      // In our own words: nothing of what the reader of zips says.
      [
        Buffer.from('not a zip at all, and long enough to be looked at'),
        /no copy file, or not a whole one: it does not read as a zip to its end\. Copies are/,
      ],
      [Buffer.alloc(0), /no copy file/],
      [zip.subarray(0, zip.length - 200), /no copy file/],
      [zipSync({ 'a.txt': Buffer.from('a') }), /has no manifest\.json/],
      [zipSync({ 'manifest.json': Buffer.from('{') }), /manifest\.json in the copy is not JSON/],
      [withManifest({ version: 2 }), /version 2 is newer/],
      [withManifest({ format: 'other' }), /format must be “retablo-copy”/],
      [zipSync({ ...parts, [some]: Buffer.from('{}') }), /retablo\.json is not what it was/],
      [damaged, /is not what it was|cannot be read|no copy file/],
    ] as [Uint8Array, RegExp][]) {
      const { status, body } = await shop.look(file);
      expect({ status, message: body.error.message }).toEqual({
        status: 400,
        message: expect.stringMatching(words),
      });
    }
    expect((await everything(shop)).pieces).toEqual([]);
    expect((await shop.call('POST', '/copies/incoming', {})).status).toBe(415);
    const gone = await shop.call('POST', '/copies/incoming/00000000-0000-4000-8000-000000000000', {});
    expect(gone.body.error.message).toContain('open it again');
  });
});

it('keeps a copy of every day for two weeks', async () => {
  const copies = join(dir, 'folder');
  const database = await openDatabase(await demoShop());
  const folder = new CopyFolder(copies);
  for (let day = 1; day <= 17; day++)
    for (const hour of [3, 9]) await folder.daily(database.sequelize, new Date(Date.UTC(2026, 0, day, hour)));
  await database.close();
  const names = readdirSync(copies).sort();
  expect(names).toHaveLength(14);
  expect([names[0], names.at(-1)]).toEqual(['daily-2026-01-04.zip', 'daily-2026-01-17.zip']);
  expect(statSync(join(copies, names[0])).mode & 0o777).toBe(0o600);
});

it('copies what is there before the tables change, and that can be looked into and brought back', async () => {
  const url = await demoShop();
  const now = await at(url, everything);
  // The tables then knew of no records.
  const before = { ...now, pieces: now.pieces.map((p) => ({ ...p, records: [] })) };
  const client = new Client({ connectionString: url });
  await client.connect();
  await client.query('ALTER TABLE projects DROP COLUMN removed_at, DROP COLUMN log');
  await client.query('ALTER TABLE previews DROP COLUMN log, DROP COLUMN measured, DROP COLUMN evidence');
  await client.query('DROP TABLE bench_records, photographs, sessions, devices');
  await client.query(`DELETE FROM migrations WHERE name >= '009'`);
  await client.end();
  const copiesDir = join(dir, 'updates');
  const name = await at(
    url,
    async (shop) => {
      expect(await everything(shop)).toEqual(before);
      const made = async () =>
        (await shop.call('GET', '/copies')).body.copies.map((c: { why: string }) => c.why).sort();
      await expect.poll(made).toEqual(['before an update', 'daily']);
      const [update] = readdirSync(copiesDir).filter((n) => n.startsWith('before-update'));
      const looked = await shop.call('POST', `/copies/kept/${update}/look`);
      expect(looked.body.contents.pieces).toHaveLength(before.pieces.length);
      const outside = await shop.call('POST', '/copies/kept/..%2F..%2Fetc%2Fpasswd/look');
      expect(outside.status).toBe(404);
      return update;
    },
    { copiesDir },
  );
  await at(await emptyShop(), async (shop) => {
    await shop.bring(readFileSync(join(copiesDir, name)));
    expect(await everything(shop)).toEqual(before);
  });
});

it('puts everything as it was in a copy', async () => {
  const url = await demoShop();
  const path = join(dir, 'all.zip');
  const before = await at(url, async (shop) => {
    writeFileSync(path, await shop.out());
    const all = await everything(shop);
    await shop.save('Salt Marsh', { notes: 'later' });
    await shop.call('DELETE', `/projects/${(await shop.piece('Night Heron')).id}`);
    return all;
  });
  await restoreFrom(url, path);
  expect(await at(url, everything)).toEqual(before);
});
