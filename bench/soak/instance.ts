import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';

/** What an instance may take to answer after a kill, ms. */
const PATIENCE_MS = 60_000;

export interface Head {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
}

/** Retablo as it is started by hand, on data of its own, killed and started again. */
export class Instance {
  readonly data: string;
  url = '';
  private child: ChildProcess | null = null;
  private readonly port: number;

  constructor(data: string, port: number) {
    this.data = data;
    this.port = port;
  }

  /** @throws what it said where it does not start. */
  start(): Promise<void> {
    const child = spawn(process.execPath, ['--import', 'tsx', 'bin/start.ts'], {
      env: { ...process.env, RETABLO_DATA: this.data, RETABLO_PORT: String(this.port) },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.child = child;
    return new Promise((resolve, reject) => {
      let said = '';
      const hear = (chunk: Buffer) => {
        said += chunk.toString();
        const url = said.match(/Retablo is at (http:\S+)/)?.[1];
        if (url) {
          this.url = url;
          resolve();
        }
      };
      child.stdout.on('data', hear);
      child.stderr.on('data', hear);
      child.once('exit', () => reject(new Error(`It ended: ${said}`)));
    });
  }

  /** Whether the process that was started still runs. */
  get runs(): boolean {
    return this.child !== null && this.child.exitCode === null && this.child.signalCode === null;
  }

  async killServer(): Promise<void> {
    const child = this.child!;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
  }

  signalDatabase(signal: NodeJS.Signals): void {
    const file = join(this.data, 'postgres', 'cluster', 'postmaster.pid');
    try {
      process.kill(Number(readFileSync(file, 'utf8').split('\n')[0]), signal);
    } catch {
      // It is down already.
    }
  }

  /** Waits until it answers with the database behind it; ms that it took. */
  async healthy(): Promise<number> {
    const began = performance.now();
    while (performance.now() - began < PATIENCE_MS) {
      const answer = await fetch(`${this.url}api/health`).catch(() => null);
      if (answer?.ok) return performance.now() - began;
      await wait(50);
    }
    throw new Error(`No answer for ${PATIENCE_MS / 1000} s.`);
  }

  async stop(): Promise<void> {
    const child = this.child;
    if (!child || !this.runs) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGINT');
    await gone;
  }

  async call<T>(
    method: string,
    path: string,
    body?: unknown,
    ms = 60_000,
  ): Promise<{ status: number; body: T }> {
    const response = await fetch(`${this.url}api${path}`, {
      method,
      signal: AbortSignal.timeout(ms),
      ...(body === undefined
        ? {}
        : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
    });
    const text = await response.text();
    return { status: response.status, body: (text ? JSON.parse(text) : null) as T };
  }

  async heads(): Promise<Head[]> {
    return (await this.call<{ projects: Head[] }>('GET', '/projects')).body.projects;
  }
}
