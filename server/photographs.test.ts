import { readFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { crc32, deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { demoFiles } from './demo/index.ts';
import { type Serving, serve } from './serve.ts';
import { callerOf, freshDatabase, freshLog } from './tests/calls.ts';

let serving: Serving;
let piece: string;
const call = callerOf(() => serving);
beforeAll(async () => {
  serving = await serve({
    databaseUrl: await freshDatabase('photographs_test'),
    port: 0,
    logFile: freshLog(),
    demo: true,
    pictures: false,
  });
  const plan = JSON.parse(readFileSync(demoFiles()[0], 'utf8'));
  piece = (await call('POST', '/projects', { plan })).body.id;
});
afterAll(() => serving.stop());

const at = (id: string, query = '') =>
  `http://127.0.0.1:${serving.port}/api/projects/${piece}/photographs/${id}${query}`;
async function send(file: Uint8Array, id: string = randomUUID(), type = 'image/jpeg') {
  const answer = await fetch(at(id), {
    method: 'PUT',
    headers: { 'Content-Type': type },
    body: new Uint8Array(file),
  });
  const text = await answer.text();
  return { id, status: answer.status, message: text ? (JSON.parse(text).error.message as string) : '' };
}
async function back(id: string, size: string) {
  const answer = await fetch(at(id, `?size=${size}`));
  return { headers: answer.headers, status: answer.status, file: Buffer.from(await answer.arrayBuffer()) };
}

/** Left half black, right half white, lying on its side as a tablet held upright writes it: EXIF orientation 6. */
const taken = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#ffffff' } })
    .composite([
      {
        input: { create: { width: width / 2, height, channels: 3, background: '#000000' } },
        left: 0,
        top: 0,
      },
    ])
    .withExif({ IFD0: { Make: 'A camera' }, IFD3: { GPSLatitude: '48/1 12/1 0/1', GPSLatitudeRef: 'N' } })
    .withMetadata({ orientation: 6 })
    .jpeg()
    .toBuffer();

it('is turned upright, at most 2,400 px, and small for lists; where it was taken is gone', async () => {
  const file = await taken(4000, 3000);
  expect((await sharp(file).metadata()).exif).toBeDefined();
  const { id, status } = await send(file);
  expect(status).toBe(204);
  const large = await back(id, 'large');
  expect(large.headers.get('content-type')).toBe('image/jpeg');
  expect(large.headers.get('x-content-type-options')).toBe('nosniff');
  expect(large.headers.get('content-security-policy')).toContain('sandbox');
  const seen = await sharp(large.file).metadata();
  expect([seen.format, seen.width, seen.height, seen.exif, seen.orientation]).toEqual([
    'jpeg',
    1800,
    2400,
    undefined,
    undefined,
  ]);
  // What was the left half lies on top now.
  const top = await sharp(large.file).extract({ left: 900, top: 200, width: 1, height: 1 }).raw().toBuffer();
  expect(top[0]).toBeLessThan(30);
  const small = await sharp((await back(id, 'small')).file).metadata();
  expect(Math.max(small.width, small.height)).toBe(360);
});

it('sent again it is the same one', async () => {
  const first = await send(await taken(400, 300));
  const before = (await back(first.id, 'large')).file;
  expect((await send(await taken(200, 200), first.id)).status).toBe(204);
  expect((await back(first.id, 'large')).file.equals(before)).toBe(true);
});

it('what is behind a picture in its file is not kept', async () => {
  const hidden = '<script>alert(1)</script>';
  const { id } = await send(Buffer.concat([await taken(400, 300), Buffer.from(hidden)]));
  expect((await back(id, 'large')).file.includes(Buffer.from(hidden))).toBe(false);
});

/** A PNG that says it is very large and is some kilobytes. */
function bomb(side: number): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
    const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    sum.writeUInt32BE(crc32(body));
    return Buffer.concat([length, body, sum]);
  };
  const header = Buffer.alloc(13);
  header.writeUInt32BE(side, 0);
  header.writeUInt32BE(side, 4);
  header.set([1, 0, 0, 0, 0], 8);
  const rows = deflateSync(Buffer.alloc((side / 8 + 1) * Math.min(side, 4000)));
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', header),
    chunk('IDAT', rows),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

it('a file of few bytes and too many pixels is refused before they are decoded', async () => {
  const refused = await send(bomb(40_000), undefined, 'image/png');
  expect(refused.status).toBe(413);
  expect(refused.message).toContain('1600 million pixels; at most 120 million');
});

it('what is no picture is refused, and so is a drawing that could act', async () => {
  expect((await send(Buffer.from('%PDF-1.7 no picture'))).status).toBe(415);
  expect((await send(Buffer.alloc(0))).status).toBe(415);
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"><script>alert(1)</script></svg>';
  expect((await send(Buffer.from(svg), undefined, 'image/svg+xml')).message).toContain('no photograph');
  const half = (await taken(800, 600)).subarray(0, 900);
  expect((await send(half)).status).toBe(415);
  expect((await back(randomUUID(), 'small')).status).toBe(404);
});

it('the demo’s records speak of photographs that are there, and say whose they are', async () => {
  const { projects } = (await call('GET', '/projects?search=&state=any&sort=name&offset=0&limit=100')).body;
  let seen = 0;
  for (const { id } of projects.filter((p: { id: string }) => p.id !== piece)) {
    const { records } = (await call('GET', `/projects/${id}`)).body;
    for (const { pictures = [], remark } of records)
      for (const picture of pictures) {
        const answer = await fetch(
          `http://127.0.0.1:${serving.port}/api/projects/${id}/photographs/${picture.id}?size=large`,
        );
        expect(answer.status).toBe(200);
        expect((await sharp(Buffer.from(await answer.arrayBuffer())).metadata()).width).toBe(900);
        expect(remark).toContain('simulated camera');
        seen++;
      }
  }
  expect(seen).toBe(3);
});
