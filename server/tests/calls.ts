import { mkdtempSync, readFileSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { inject } from 'vitest';
import { copyDatabase } from '../../bin/cluster.ts';
import type { Serving } from '../serve.ts';

/** An empty database of its own on the tests' cluster; its address. */
export const freshDatabase = (name: string): Promise<string> => copyDatabase(inject('databaseUrl'), name);

/** Calls a server's interface; a body that is text already is sent as it is. */
export const callerOf =
  (serving: () => Serving) =>
  async (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) => {
    const raw = typeof body === 'string';
    const response = await fetch(`http://127.0.0.1:${serving().port}/api${path}`, {
      method,
      headers: { ...(body === undefined ? {} : { 'Content-Type': 'application/json' }), ...headers },
      ...(body === undefined ? {} : { body: raw ? body : JSON.stringify(body) }),
    });
    const text = await response.text();
    return { status: response.status, headers: response.headers, body: text ? JSON.parse(text) : null };
  };

/** A log in a folder of its own. */
export const freshLog = (): string => join(mkdtempSync(join(tmpdir(), 'retablo-log-')), 'server.log');

/** All that a log has said so far. */
export const logged = (file: string): string =>
  readdirSync(dirname(file))
    .map((name) => readFileSync(join(dirname(file), name), 'utf8'))
    .join('');
