import type { IncomingMessage } from 'node:http';
import type { Socket } from 'node:net';
import connectPgSimple from 'connect-pg-simple';
import express, {
  type NextFunction,
  type Request,
  type RequestHandler,
  type Response,
  Router,
} from 'express';
import { rateLimit } from 'express-rate-limit';
import session from 'express-session';
import pg from 'pg';
import { z } from 'zod';
import { type AtTheDoor, deviceName } from '../../core/shop/devices.ts';
import { ApiError } from '../errors.ts';
import type { DeviceStore } from './devices.ts';
import { doorPage } from './page.ts';
import { hashed, isRight, newPassphrase } from './passphrase.ts';
import { benchMay } from './roles.ts';

declare module 'express-session' {
  interface SessionData {
    device: string;
  }
}

/** How Retablo answers in the shop's network. */
export interface ShopNetwork {
  /** Signs the cookies; kept from start to start. */
  readonly secret: string;
  readonly passphrase: string;
  /** Names of this machine that are answered to, beside its addresses. */
  readonly names: readonly string[];
  /** Beside the one on this machine alone; 0 for any free one. */
  readonly port: number;
  /** PEM of a certificate and its key; plain HTTP without. */
  readonly certificate: { readonly cert: Buffer; readonly key: Buffer } | null;
}

const DAY_MS = 86_400_000;
/** A device that does not call for so long has to be let in again, ms. */
const LET_IN_MS = 30 * DAY_MS;
/** Wrong tries of one address, and in how long, ms. */
const MOST_TRIES = 8;
const TRIES_MS = 900_000;

const OWN_NAME = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;
const OWN_ADDRESSES = new Set(['127.0.0.1', '::1', '::ffff:127.0.0.1']);

/** On the machine itself: both ends of the connection are its own. */
const isHere = ({ socket: { localAddress = '', remoteAddress = '' } }: IncomingMessage): boolean =>
  OWN_ADDRESSES.has(localAddress) && OWN_ADDRESSES.has(remoteAddress);

const triedSchema = z.object({ passphrase: z.string().max(60), name: deviceName });

/** Who asks, as it was found out at the door. */
export const askerOf = (response: Response): AtTheDoor => response.locals.asker as AtTheDoor;

export interface Door {
  readonly guard: RequestHandler;
  /** For /api: what the role of a device does not hold is refused. */
  readonly roles: RequestHandler;
  readonly network: ShopNetwork | null;
  /** Shuts a device out, with whatever it still listens to. */
  shutOut(id: string, response: Response): Promise<void>;
  /** Another passphrase in place of the one that counted. */
  renew(): Promise<string>;
  close(): Promise<void>;
}

/** Waits for what calls back with an error or nothing. */
const told = (ask: (done: (error: unknown) => void) => void): Promise<void> =>
  new Promise((resolve, reject) => ask((error) => (error ? reject(error as Error) : resolve())));

/** Lets in this machine, and devices of the shop's network that know the passphrase; every request passes here first. */
export async function makeDoor(
  devices: DeviceStore,
  databaseUrl: string,
  network: ShopNetwork | null,
): Promise<Door> {
  let kept = network && (await hashed(network.passphrase));
  const connections = new Map<string, Set<Socket>>();
  const pool = network && new pg.Pool({ connectionString: databaseUrl, max: 2 });
  pool?.on('error', () => undefined);
  const store = pool && new (connectPgSimple(session))({ pool, tableName: 'sessions' });
  const inside = network && store && shopDoor(devices, network, store, () => kept!, connections);
  /** The name and the page that a request comes by: others, as a hostile page could give them, are refused. */
  function checkSource(request: Request): void {
    const { host = '', origin } = request.headers;
    const name = host.replace(/:\d+$/, '').toLowerCase();
    const answered = isHere(request)
      ? OWN_NAME.test(host)
      : network && (name === request.socket.localAddress || network.names.includes(name));
    if (!answered)
      throw new ApiError(
        'forbidden',
        network
          ? 'Retablo answers at this machine’s own addresses, and at names given with --name.'
          : 'Retablo answers on this machine only, at 127.0.0.1.',
      );
    if (origin && origin !== `${request.secure ? 'https' : 'http'}://${host}`)
      throw new ApiError('forbidden', 'Requests from other pages are not answered.');
  }

  return {
    network,
    guard(request, response, next) {
      checkSource(request);
      if (!isHere(request)) return inside!(request, response, next);
      response.locals.asker = { role: 'whole', device: null } satisfies AtTheDoor;
      next();
    },
    roles(request, response, next) {
      if (askerOf(response).role === 'bench' && !benchMay(request.method, request.path))
        throw new ApiError(
          'forbidden',
          'This device is for the bench: it reads plans and writes what came. At the shop’s computer, under The shop, Devices, it can be made more.',
        );
      next();
    },
    async shutOut(id, response) {
      await devices.shutOut(id);
      for (const socket of connections.get(id) ?? [])
        // A device that shuts itself out is answered first: the session holds an answer back until it is stored.
        if (socket === response.req.socket) response.once('close', () => socket.destroy());
        else socket.destroy();
      connections.delete(id);
    },
    async renew() {
      const passphrase = newPassphrase();
      kept = await hashed(passphrase);
      return passphrase;
    },
    async close() {
      store?.close();
      await pool?.end();
    },
  };
}

/** The way in from the shop's network: the page at /door, the session behind it, and nothing without one. */
function shopDoor(
  devices: DeviceStore,
  { secret, certificate }: ShopNetwork,
  store: session.Store,
  kept: () => string,
  connections: Map<string, Set<Socket>>,
): Router {
  const encrypted = certificate !== null;
  const show = (response: Response, status: number, trouble?: string, name?: string): void => {
    response
      .status(status)
      // With no referrer at all the form would come as from no page, and not be answered.
      .set({ 'Cache-Control': 'no-store', 'Referrer-Policy': 'same-origin' })
      .type('html')
      .send(doorPage({ encrypted, trouble, name }));
  };
  const nameIn = (request: Request): string => {
    const { name } = (request.body ?? {}) as { name?: unknown };
    return typeof name === 'string' ? name.slice(0, 60) : '';
  };
  const routes = Router();
  routes.use(
    session({
      store,
      secret,
      name: 'retablo',
      resave: false,
      saveUninitialized: false,
      rolling: true,
      cookie: { httpOnly: true, sameSite: 'strict', maxAge: LET_IN_MS, secure: encrypted },
    }),
  );
  routes.get('/door', (_request, response) => show(response, 200));
  routes.post(
    '/door',
    express.urlencoded({ extended: false, limit: '2kb' }),
    rateLimit({
      windowMs: TRIES_MS,
      limit: MOST_TRIES,
      skipSuccessfulRequests: true,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      validate: { xForwardedForHeader: false, forwardedHeader: false },
      handler: (request, response) =>
        show(response, 429, 'Too many wrong tries: wait a quarter of an hour.', nameIn(request)),
    }),
    async (request, response) => {
      const tried = triedSchema.safeParse(request.body);
      const { passphrase = '' } = tried.data ?? {};
      if (!tried.success)
        return show(response, 400, 'Passphrase and a name are both wanted.', nameIn(request));
      if (!(await isRight(kept(), passphrase)))
        return show(response, 401, 'That is not the passphrase.', nameIn(request));
      const device = await devices.letIn(tried.data.name);
      await told((done) => request.session.regenerate(done));
      request.session.device = device.id;
      // A redirect is followed as soon as its head is read, which is sent before the session is stored by itself.
      await told((done) => request.session.save(done));
      response.redirect(303, '/');
    },
  );
  routes.use(async (request: Request, response: Response, next: NextFunction) => {
    const id = request.session.device;
    const device = id === undefined ? null : await devices.seen(id);
    if (device) {
      const { socket } = request;
      const own = connections.get(device.id) ?? new Set();
      connections.set(device.id, own);
      if (!own.has(socket)) socket.once('close', () => own.delete(socket));
      own.add(socket);
      response.locals.asker = { role: device.role, device } satisfies AtTheDoor;
      return next();
    }
    if (request.method === 'GET' && !/^\/api(\/|$)/i.test(request.path))
      return response.redirect(303, '/door');
    throw new ApiError('not let in', 'This device is not let in: open /door and type the passphrase.');
  });
  return routes;
}
