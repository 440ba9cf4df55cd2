import { createHash, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, realpathSync, writeFileSync } from 'node:fs';
import { type Server, connect, createServer } from 'node:net';
import { dirname, join, resolve } from 'node:path';
import { text } from 'node:stream/consumers';
import { fileURLToPath } from 'node:url';

/** Where everything that Retablo keeps lies. */
export const DATA = resolve(
  process.env.RETABLO_DATA ?? join(dirname(fileURLToPath(import.meta.url)), '..', '.data'),
);
export const DATABASE_DIR = join(DATA, 'postgres');
export const COPIES_DIR = join(DATA, 'copies');
export const LOG_FILE = join(DATA, 'log', 'server.log');
const portsFile = join(DATA, 'ports.json');

export interface Ports {
  web: number;
  /** In the shop's network. */
  shop?: number;
  database: number;
}

export function rememberedPorts(): Partial<Ports> {
  try {
    return JSON.parse(readFileSync(portsFile, 'utf8')) as Partial<Ports>;
  } catch {
    return {};
  }
}

export const rememberPorts = (ports: Ports): void => writeFileSync(portsFile, JSON.stringify(ports));

/** Signs the cookies of devices that were let in: made once, for its owner's eyes alone. */
export function cookieSecret(): string {
  const file = join(DATA, 'cookie-secret');
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('base64url'), { mode: 0o600 });
  return readFileSync(file, 'utf8').trim();
}

/** Who has the data in hand: its process, and where it answers once it does. */
export interface Holder {
  readonly pid: number;
  readonly address: string | null;
}

/** A name of the kernel's own (an abstract socket): it is given once, and gone with the process, however that ends. */
function socketName(): string {
  mkdirSync(DATA, { recursive: true });
  return `\0retablo-${createHash('sha256').update(realpathSync(DATA)).digest('hex').slice(0, 32)}`;
}

/** The data in hand: nobody else takes them until it is let go, and who asks is told where we answer. */
export interface Hold {
  tell(address: string): void;
  release(): Promise<void>;
}

/** Takes the data in hand; or says who has them. */
export async function takeInHand(): Promise<Hold | Holder> {
  let address: string | null = null;
  const server = createServer((caller) => {
    caller.on('error', () => undefined);
    caller.end(JSON.stringify({ pid: process.pid, address } satisfies Holder));
  });
  const other = await listened(server);
  if (other) return other;
  server.unref();
  return {
    tell(at) {
      address = at;
    },
    release: () => new Promise((resolve) => server.close(() => resolve())),
  };
}

export const isHeld = (answer: Hold | Holder): answer is Holder => 'pid' in answer;

function listened(server: Server): Promise<Holder | null> {
  return new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code === 'EADDRINUSE') holder().then(resolve, reject);
      else reject(error);
    });
    server.listen(socketName(), () => resolve(null));
  });
}

async function holder(): Promise<Holder> {
  return JSON.parse(await text(connect(socketName()))) as Holder;
}
