import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { type IncomingHttpHeaders, type IncomingMessage, request as httpRequest } from 'node:http';
import { request as httpsRequest } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { text } from 'node:stream/consumers';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ShopDevices } from '../../core/shop/devices.ts';
import { cameOf } from '../../core/tests/records.ts';
import { type Serving, serve } from '../serve.ts';
import { callerOf, freshDatabase, freshLog, logged } from '../tests/calls.ts';
import type { ShopNetwork } from './door.ts';
import { hashed, isRight, newPassphrase } from './passphrase.ts';
import { benchMay } from './roles.ts';

/** On the loopback too, yet not this machine’s own address for itself: it stands for one in the shop's network. */
const TABLET = '127.0.0.2';
const PASSPHRASE = 'k7mq-2fxh-9rtp';
const SHOP: ShopNetwork = {
  secret: 'for these tests',
  passphrase: PASSPHRASE,
  names: ['forge.test'],
  port: 0,
  certificate: null,
};
const logFile = freshLog();

let databaseUrl: string;
let serving: Serving;
const here = callerOf(() => serving);
beforeAll(async () => {
  databaseUrl = await freshDatabase('door_test');
  serving = await serve({ databaseUrl, port: 0, logFile, demo: true, pictures: false, shop: SHOP });
});
afterAll(() => serving.stop());

/** Stops the server and starts it again, as a maker does: tries are counted anew then. */
async function restart(some: Partial<ShopNetwork> = {}): Promise<void> {
  await serving.stop();
  serving = await serve({ databaseUrl, port: 0, logFile, pictures: false, shop: { ...SHOP, ...some } });
}

interface Asked {
  path: string;
  method?: string;
  body?: string | Buffer;
  headers?: Record<string, string>;
  host?: string;
}

interface Answer {
  status: number;
  headers: IncomingHttpHeaders;
  body: string;
}

/** A request as a device in the network sends it. */
function open(port: number, { path, method = 'GET', body, headers = {}, host = TABLET }: Asked) {
  return new Promise<IncomingMessage>((resolve, reject) => {
    const asking = httpRequest({ host, port, path, method, headers, agent: false }, resolve);
    asking.on('error', reject);
    asking.end(body);
  });
}

async function ask(asked: Asked, port = serving.shopPort!): Promise<Answer> {
  const response = await open(port, asked);
  return { status: response.statusCode!, headers: response.headers, body: await text(response) };
}

const JSON_BODY = { 'Content-Type': 'application/json' };
const knock = (passphrase: string, name = 'tablet', port?: number, headers: Record<string, string> = {}) =>
  ask(
    {
      path: '/door',
      method: 'POST',
      headers: { 'Content-Type': 'application/x-www-form-urlencoded', ...headers },
      body: new URLSearchParams({ passphrase, name }).toString(),
    },
    port,
  );

const cookieOf = ({ headers }: Answer): string => headers['set-cookie']![0].split(';')[0];
const letIn = async (name = 'tablet', port?: number) => ({
  Cookie: cookieOf(await knock(PASSPHRASE, name, port)),
});
const devices = async (): Promise<ShopDevices> => (await here('GET', '/devices')).body as ShopDevices;
const named = async (name: string) => (await devices()).devices.find((d) => d.name === name)!;
const anyPiece = async (): Promise<string> =>
  ((await here('GET', '/projects')).body as { projects: { id: string }[] }).projects[0].id;

describe('without a session', () => {
  it('nothing is answered in the network but the door', async () => {
    for (const path of [
      '/api/projects',
      '/api/health',
      '/api/copies',
      '/api/devices',
      '/api/door',
      '/API/projects',
    ])
      for (const method of ['GET', 'POST', 'PUT', 'DELETE', 'HEAD', 'OPTIONS']) {
        const { status, body } = await ask({ path, method });
        expect([401, 303, 404].includes(status), `${method} ${path}: ${status}`).toBe(true);
        expect(body).not.toContain('Salt Marsh');
      }
    for (const path of ['/', '/assets/index.js', '/pieces/x', '/door/', '/%61pi/projects']) {
      const { status, headers } = await ask({ path });
      expect(status === 303 ? headers.location : path).toBe(status === 303 ? '/door' : '/door/');
    }
    const door = await ask({ path: '/door' });
    expect(door).toMatchObject({ status: 200, body: expect.stringContaining('Let this device in') });
    expect(door.headers['set-cookie']).toBeUndefined();
    expect(door.body).not.toMatch(/<script/);
  });

  it('this machine itself needs none', async () => {
    expect((await here('GET', '/door')).body).toEqual({ role: 'whole', device: null });
    expect((await here('GET', '/projects')).status).toBe(200);
  });

  it('a cookie that was not given out here opens nothing', async () => {
    const { Cookie } = await letIn('to be forged');
    const forged = [
      Cookie.replace(/.$/, (c) => (c === 'x' ? 'y' : 'x')),
      Cookie.replace(/\..*/, ''),
      'retablo=s%3Ax.y',
    ];
    for (const cookie of forged)
      expect((await ask({ path: '/api/projects', headers: { Cookie: cookie } })).status).toBe(401);
  });
});

describe('the passphrase', () => {
  it('lets in however it is typed; the cookie is for this server alone, for thirty days', async () => {
    for (const typed of [PASSPHRASE, ' K7MQ 2FXH 9RTP ', 'k7mq2fxh9rtp']) {
      const answer = await knock(typed, 'typist');
      expect(answer).toMatchObject({ status: 303, headers: { location: '/' } });
      const [cookie] = answer.headers['set-cookie']!;
      expect(cookie).toMatch(/; Path=\//);
      expect(cookie).toMatch(/; HttpOnly/);
      expect(cookie).toMatch(/; SameSite=Strict/);
      const days = (Date.parse(/Expires=([^;]+)/.exec(cookie)![1]) - Date.now()) / 86_400_000;
      expect(days).toBeCloseTo(30, 2);
    }
  });

  it('wrong many times is asked no more, also where it is right then', async () => {
    await restart();
    const port = serving.shopPort!;
    for (let i = 0; i < 8; i++) {
      const wrong = await knock('aaaa-aaaa-aaaa', 'my <tablet>', port);
      expect(wrong).toMatchObject({ status: 401, body: expect.stringContaining('not the passphrase') });
      // What was typed is not lost, and is not read as anything else.
      expect(wrong.body).toContain('value="my &lt;tablet&gt;"');
      expect(wrong.headers['set-cookie']).toBeUndefined();
    }
    const late = await knock(PASSPHRASE, 'tablet', port);
    expect(late).toMatchObject({ status: 429, body: expect.stringContaining('Too many wrong tries') });
    expect(late.headers['set-cookie']).toBeUndefined();
    // Said by the sender, an address counts for nothing.
    expect((await knock(PASSPHRASE, 'tablet', port, { 'X-Forwarded-For': '10.0.0.9' })).status).toBe(429);
    await restart();
  });

  it('and a name are both wanted', async () => {
    expect((await knock('', 'tablet')).status).toBe(401);
    expect((await knock(PASSPHRASE, '  ')).status).toBe(400);
    expect((await ask({ path: '/door', method: 'POST' })).status).toBe(400);
  });

  it('is made anew at the shop’s computer alone; the one before lets nobody in then, and who is in stays in', async () => {
    const cookie = await letIn('stays in');
    await here('PATCH', `/devices/${(await named('stays in')).id}`, { role: 'whole' });
    const refused = await ask(
      { path: '/api/devices/passphrase', method: 'POST', headers: cookie },
      serving.shopPort!,
    );
    expect(refused.status).toBe(403);
    const { body } = await here('POST', '/devices/passphrase');
    const fresh = (body as { passphrase: string }).passphrase;
    expect(fresh).toMatch(/^([a-z2-9]{4}-){2}[a-z2-9]{4}$/);
    expect((await knock(PASSPHRASE, 'late')).status).toBe(401);
    expect((await knock(fresh, 'in time')).status).toBe(303);
    expect((await ask({ path: '/api/projects', headers: cookie })).status).toBe(200);
    await restart();
  });

  it('is kept nowhere but as a slow hash, and no two are alike', async () => {
    const [one, two] = await Promise.all([hashed(PASSPHRASE), hashed(PASSPHRASE)]);
    expect(one).toMatch(/^\$argon2id\$/);
    expect(one).not.toBe(two);
    expect(await isRight(one, PASSPHRASE)).toBe(true);
    expect(await isRight(one, 'k7mq-2fxh-9rtq')).toBe(false);
    expect(new Set(Array.from({ length: 200 }, newPassphrase)).size).toBe(200);
    expect(logged(logFile)).not.toContain(PASSPHRASE);
    expect(logged(logFile)).not.toContain('retablo=');
  });
});

describe('a device', () => {
  it('is for the bench until it is made more', async () => {
    const cookie = await letIn('bench tablet');
    const id = await anyPiece();
    const { plan, revision } = (await here('GET', `/projects/${id}`)).body as {
      plan: { name: string };
      revision: number;
    };
    const as = (method: string, path: string, body?: object) =>
      ask({
        path: `/api${path}`,
        method,
        headers: { ...cookie, ...JSON_BODY },
        ...(body && { body: JSON.stringify(body) }),
      });
    expect((await as('GET', `/projects/${id}`)).status).toBe(200);
    const record = cameOf('s1', [{ piece: '1', lengthMm: 200 }]);
    expect(
      (await as('PUT', `/projects/${id}/records/${record.id}`, { record, written: record.written })).status,
    ).toBe(200);
    const edit = { expectedRevision: revision, plan: { ...plan, name: 'Changed' } };
    const forbidden: [string, string, object?][] = [
      ['PUT', `/projects/${id}`, edit],
      ['PUT', `/projects/${id}/`, edit],
      ['PUT', `/Projects/${id}`, edit],
      ['PATCH', `/projects/${id}`, { name: 'Changed' }],
      ['DELETE', `/projects/${id}`],
      ['POST', '/projects', { plan }],
      ['POST', `/projects/${id}/taken`],
      ['GET', '/copies'],
      ['GET', '/devices'],
      ['POST', '/devices/passphrase'],
      ['PUT', '/shop/setups', {}],
      ['PUT', '/flows/' + 'a'.repeat(64), {}],
    ];
    for (const [method, path, body] of forbidden)
      expect([(await as(method, path, body)).status, method, path]).toEqual([403, method, path]);
    expect((await here('GET', `/projects/${id}`)).body).toMatchObject({ name: plan.name, revision });
    const own = await named('bench tablet');
    expect((await as('PATCH', `/devices/${own.id}`, { role: 'whole' })).status).toBe(403);

    expect((await here('PATCH', `/devices/${own.id}`, { role: 'whole' })).body).toMatchObject({
      role: 'whole',
    });
    expect((await as('PUT', `/projects/${id}`, edit)).status).toBe(200);
    expect(JSON.parse((await as('GET', '/door')).body)).toMatchObject({
      role: 'whole',
      device: { name: 'bench tablet' },
    });
    expect((await here('PATCH', `/devices/${own.id}`, { role: 'king' })).body).toMatchObject({
      error: { message: 'role must be one of: bench, whole' },
    });
  });

  it('that was shut out hears no more, and its cookie, stolen or not, opens nothing', async () => {
    const cookie = await letIn('lost tablet');
    const id = await anyPiece();
    const events = await open(serving.shopPort!, {
      path: `/api/projects/${id}/events?after=0`,
      headers: cookie,
    });
    expect(events.statusCode).toBe(200);
    const ended = new Promise((resolve) => events.on('close', resolve).on('error', resolve).resume());
    expect((await here('DELETE', `/devices/${(await named('lost tablet')).id}`)).status).toBe(204);
    await ended;
    expect((await ask({ path: '/api/projects', headers: cookie })).status).toBe(401);
    expect((await ask({ path: '/', headers: cookie })).headers.location).toBe('/door');
    expect(await named('lost tablet')).toBeUndefined();
    // Let in again with what is left of it, it is in.
    const again = await knock(PASSPHRASE, 'found tablet', serving.shopPort!, cookie);
    expect((await ask({ path: '/', headers: { Cookie: cookieOf(again) } })).status).not.toBe(303);
  });

  it('can leave by itself; the shop’s computer cannot', async () => {
    const cookie = await letIn('leaves');
    expect((await ask({ path: '/api/door', method: 'DELETE', headers: cookie })).status).toBe(204);
    expect((await ask({ path: '/api/projects', headers: cookie })).status).toBe(401);
    expect((await here('DELETE', '/door')).status).toBe(400);
  });

  it('is in before it is told so, however slowly that is stored', async () => {
    const client = new pg.Client({ connectionString: databaseUrl });
    await client.connect();
    await client.query(`CREATE FUNCTION slowly() RETURNS trigger AS
      $$ BEGIN PERFORM pg_sleep(1); RETURN NEW; END $$ LANGUAGE plpgsql`);
    await client.query(
      'CREATE TRIGGER slow BEFORE INSERT ON sessions FOR EACH ROW EXECUTE FUNCTION slowly()',
    );
    // As a browser does, on with the cookie as soon as the head of the answer is read.
    const { statusCode, headers } = await open(serving.shopPort!, {
      path: '/door',
      method: 'POST',
      headers: { 'Content-Type': 'application/x-www-form-urlencoded' },
      body: new URLSearchParams({ passphrase: PASSPHRASE, name: 'in a hurry' }).toString(),
    });
    expect(statusCode).toBe(303);
    const cookie = { Cookie: headers['set-cookie']![0].split(';')[0] };
    expect((await ask({ path: '/api/projects', headers: cookie })).status).toBe(200);
    await client.query('DROP TRIGGER slow ON sessions');
    await client.query('DROP FUNCTION slowly');
    await client.end();
  });

  it('that shuts itself out of the list is answered before its connection ends', async () => {
    const cookie = await letIn('whole and gone');
    const { id } = await named('whole and gone');
    expect((await here('PATCH', `/devices/${id}`, { role: 'whole' })).status).toBe(200);
    expect((await ask({ path: `/api/devices/${id}`, method: 'DELETE', headers: cookie })).status).toBe(204);
    expect((await ask({ path: '/api/projects', headers: cookie })).status).toBe(401);
  });

  it('stays in through a restart with another passphrase, and is out once thirty days are over', async () => {
    const cookie = await letIn('patient');
    await restart({ passphrase: newPassphrase() });
    expect((await ask({ path: '/api/projects', headers: cookie })).status).toBe(200);
    await restart();
    const client = new pg.Client({ connectionString: databaseUrl });
    await client.connect();
    await client.query(
      "UPDATE sessions SET expire = now() - interval '1 minute' WHERE sess->>'device' = $1",
      [(await named('patient')).id],
    );
    await client.end();
    expect((await ask({ path: '/api/projects', headers: cookie })).status).toBe(401);
  });
});

describe('names and pages', () => {
  it('are answered to at this machine’s addresses and the names it was given, and no others', async () => {
    const cookie = await letIn('by name');
    const port = serving.shopPort!;
    const by = async (host: string, to = port) =>
      (await ask({ path: '/api/projects', headers: { ...cookie, Host: host } }, to)).status;
    expect(await by(`${TABLET}:${port}`)).toBe(200);
    expect(await by(`Forge.test:${port}`)).toBe(200);
    for (const host of [
      'evil.test',
      `127.0.0.1:${port}`,
      `localhost:${port}`,
      '10.0.0.1',
      'forge.test.evil.test',
    ])
      expect([host, await by(host)]).toEqual([host, 403]);
    // What a hostile page's name was turned to reaches this machine itself no more.
    expect(
      (await ask({ path: '/api/projects', host: '127.0.0.1', headers: { Host: 'evil.test' } }, serving.port))
        .status,
    ).toBe(403);
    // The listener of this machine is on its loopback alone.
    await expect(open(serving.port, { path: '/' })).rejects.toThrow('ECONNREFUSED');
  });

  it('of another origin change nothing', async () => {
    const cookie = await letIn('lured');
    const id = await anyPiece();
    const from = (origin: string) =>
      ask({
        path: `/api/projects/${id}/records/x`,
        method: 'PUT',
        headers: { ...cookie, ...JSON_BODY, Origin: origin },
        body: '{}',
      });
    const port = serving.shopPort!;
    for (const origin of [
      'http://evil.test',
      'null',
      `https://${TABLET}:${port}`,
      `http://${TABLET}:${serving.port}`,
    ])
      expect((await from(origin)).status).toBe(403);
    expect((await from(`http://${TABLET}:${port}`)).status).toBe(400);
    expect((await knock(PASSPHRASE, 'lured', port, { Origin: 'http://evil.test' })).status).toBe(403);
  });
});

it('with a certificate all of it is encrypted, and the cookie goes no other way', async () => {
  const dir = mkdtempSync(join(tmpdir(), 'retablo-cert-'));
  const [certFile, keyFile] = [join(dir, 'cert.pem'), join(dir, 'key.pem')];
  // prettier-ignore
  execFileSync('openssl', ['req', '-x509', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes', '-days', '2',
    '-subj', '/CN=forge.test', '-keyout', keyFile, '-out', certFile], { stdio: 'ignore' });
  const certificate = { cert: readFileSync(certFile), key: readFileSync(keyFile) };
  await restart({ certificate });
  const answer = await new Promise<IncomingMessage>((resolve, reject) => {
    const body = new URLSearchParams({ passphrase: PASSPHRASE, name: 'sealed' }).toString();
    const origin = `https://forge.test:${serving.shopPort}`;
    const asking = httpsRequest(
      {
        host: TABLET,
        port: serving.shopPort!,
        path: '/door',
        method: 'POST',
        ca: certificate.cert,
        servername: 'forge.test',
        checkServerIdentity: () => undefined,
        headers: {
          'Content-Type': 'application/x-www-form-urlencoded',
          Host: origin.slice(8),
          Origin: origin,
        },
      },
      resolve,
    );
    asking.on('error', reject);
    asking.end(body);
  });
  expect(answer.statusCode).toBe(303);
  expect(answer.headers['set-cookie']![0]).toMatch(/; Secure/);
  await expect(ask({ path: '/door' })).rejects.toThrow();
  // This machine itself goes on as before.
  expect((await here('GET', '/projects')).status).toBe(200);
});

it('what a bench may is named; all else it may not', () => {
  const may: [string, string][] = [
    ['GET', '/projects'],
    ['HEAD', '/projects/x/picture'],
    ['PUT', '/projects/x/photographs/y'],
    ['GET', '/log/evidence'],
    ['POST', '/flows/find'],
    ['POST', '/instruments/readings'],
  ];
  const mayNot: [string, string][] = [
    ['GET', '/projectsx'],
    ['GET', '/copies/all'],
    ['GET', '/log'],
    ['GET', '/log/evidence/x'],
    ['PUT', '/projects/x/records/y/z'],
    ['PUT', '/projects/x'],
    ['POST', '/flows/find/more'],
    ['PATCH', '/devices/x'],
    ['PROPFIND', '/projects'],
  ];
  for (const [method, path] of may)
    expect([benchMay(method, path), method, path]).toEqual([true, method, path]);
  for (const [method, path] of mayNot)
    expect([benchMay(method, path), method, path]).toEqual([false, method, path]);
});
