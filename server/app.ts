import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import type { CopyFolder } from './copies/folder.ts';
import { Incoming } from './copies/incoming.ts';
import type { Database } from './database.ts';
import type { ShopAddresses } from './door/addresses.ts';
import type { DeviceStore } from './door/devices.ts';
import type { Door } from './door/door.ts';
import { ApiError, answerError } from './errors.ts';
import { FlowStore } from './flowStore.ts';
import { Previews } from './previews.ts';
import { ReckoningPool } from './reckoning/pool.ts';
import { ProjectStore } from './projects.ts';
import { flowRoutes } from './routes/flows.ts';
import { benchRoutes } from './routes/bench.ts';
import { instrumentRoutes } from './routes/instruments.ts';
import { seamRoutes } from './routes/seams.ts';
import { deviceRoutes, doorRoutes } from './routes/devices.ts';
import { logRoutes } from './routes/log.ts';
import { copyRoutes } from './routes/copies.ts';
import { projectRoutes } from './routes/projects.ts';
import { shopRoutes } from './routes/shop.ts';
import { ShopStore } from './shopStore.ts';

/** Bytes. A plan is some kilobytes; this leaves room for any. */
const MOST_BODY = '2mb';

const security = helmet({
  // A certificate may be given at one start and not at the next.
  strictTransportSecurity: false,
  crossOriginEmbedderPolicy: { policy: 'require-corp' },
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'self'"],
      // The modelling library of printed forms is WebAssembly, served from here like the rest.
      scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
      styleSrc: ["'self'", "'unsafe-inline'"],
      imgSrc: ["'self'", 'data:', 'blob:'],
      fontSrc: ["'self'", 'data:'],
      workerSrc: ["'self'", 'blob:'],
      connectSrc: ["'self'"],
      objectSrc: ["'none'"],
      baseUri: ["'self'"],
      frameAncestors: ["'none'"],
      formAction: ["'self'"],
    },
  },
});

/** What answers, what it keeps, and how it is ended. */
interface App {
  readonly app: Express;
  readonly projects: ProjectStore;
  readonly shop: ShopStore;
  readonly previews: Previews;
  close(): Promise<void>;
}

interface AppParts {
  readonly database: Database;
  readonly logger: Logger;
  readonly pagesDir: string;
  /** Where copies are made by themselves; none where they are not. */
  readonly copies: CopyFolder | null;
  readonly door: Door;
  readonly devices: DeviceStore;
  readonly addresses: ShopAddresses;
}

/** The whole HTTP side: the programming interface under /api, the built pages for everything else. */
export function makeApp({ database, logger, pagesDir, copies, door, devices, addresses }: AppParts): App {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    pinoHttp({
      logger,
      autoLogging: { ignore: (request) => !request.url?.startsWith('/api') },
      // What is asked and answered; no headers, which may hold what is nobody's business.
      serializers: {
        req: ({ id, method, url }: { id: unknown; method: string; url: string }) => ({ id, method, url }),
        res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
      },
    }),
  );
  app.use(security, door.guard);
  const store = new ProjectStore(database.sequelize);
  const pool = new ReckoningPool();
  const flows = new FlowStore(database.sequelize, pool);
  const shop = new ShopStore(database.sequelize, store, flows);
  app.use('/api', door.roles, express.json({ limit: MOST_BODY }));
  app.get('/api/health', async (_request, response) => {
    await database.sequelize.authenticate();
    response.json({ ok: true });
  });
  const previews = new Previews(store, flows, logger);
  const incoming = new Incoming();
  app.use('/api/copies', copyRoutes({ ...database, folder: copies, incoming, previews }));
  app.use('/api/projects', benchRoutes(store.records, previews), projectRoutes(store, shop, flows, previews));
  app.use('/api/shop', shopRoutes(shop));
  app.use('/api/flows', flowRoutes(flows));
  app.use('/api/log', logRoutes(database.sequelize));
  app.use('/api/door', doorRoutes(door));
  app.use('/api/devices', deviceRoutes(devices, door, addresses));
  app.use('/api/instruments', instrumentRoutes(store.records));
  app.use('/api/seams', seamRoutes(flows));
  app.use('/api', () => {
    throw new ApiError('not found', 'There is nothing at this address.');
  });
  app.use(express.static(pagesDir, { index: false, maxAge: '1h' }));
  app.get('/{*path}', (_request, response) => {
    const page = join(pagesDir, 'index.html');
    if (!existsSync(page)) throw new ApiError('not found', 'The pages are not built yet: run npm run build.');
    response.set('Cache-Control', 'no-cache').sendFile(page);
  });
  app.use(answerError);
  return {
    app,
    projects: store,
    shop,
    previews,
    async close() {
      previews.close();
      await incoming.close();
      await pool.close();
    },
  };
}
