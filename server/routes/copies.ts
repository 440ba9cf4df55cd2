import { Router } from 'express';
import type { Sequelize } from 'sequelize';
import { z } from 'zod';
import type { CopyFolder } from '../copies/folder.ts';
import type { Incoming } from '../copies/incoming.ts';
import { takeIn } from '../copies/takeIn.ts';
import { writeCopy } from '../copies/write.ts';
import { ApiError } from '../errors.ts';
import type { Previews } from '../previews.ts';
import { idSchema, take } from './take.ts';

const ids = (field: string) =>
  z
    .array(z.string().max(200), { error: `${field} must be a list of what is wanted` })
    .max(100_000)
    .default([]);

const choiceSchema = z.object({
  pieces: ids('pieces'),
  setups: ids('setups'),
  materials: ids('materials'),
  rack: z.boolean({ error: 'rack must be true or false' }).default(false),
});

const nameSchema = z.string().max(80);

interface Copies {
  readonly sequelize: Sequelize;
  readonly folder: CopyFolder | null;
  readonly incoming: Incoming;
  readonly previews: Previews;
}

/** Everything in one file: out, in, and the copies that are made by themselves. */
export function copyRoutes({ sequelize, folder, incoming, previews }: Copies): Router {
  const routes = Router();
  const kept = (name: unknown): Promise<string> => {
    if (!folder) throw new ApiError('not found', 'No copies are made by themselves here.');
    return folder.path(take(nameSchema, name));
  };
  routes.get('/', async (_request, response) => {
    response.json({ copies: (await folder?.list()) ?? [] });
  });
  routes.get('/now.zip', async (_request, response) => {
    const now = new Date();
    response.attachment(`retablo-${now.toISOString().slice(0, 10)}.zip`).set('Cache-Control', 'no-store');
    await writeCopy(sequelize, response, now);
  });
  routes.get('/kept/:name', async (request, response) => {
    response.download(await kept(request.params.name));
  });
  routes.post('/kept/:name/look', async (request, response) => {
    response.status(201).json(await incoming.look(await kept(request.params.name)));
  });
  routes.post('/incoming', async (request, response) => {
    if (!request.is(['application/zip', 'application/x-zip-compressed', 'application/octet-stream']))
      throw new ApiError('wrong type', 'A copy is sent as a zip (application/zip).');
    response.status(201).json(await incoming.receive(request));
  });
  routes.post('/incoming/:token', async (request, response) => {
    const token = take(idSchema, request.params.token);
    const choice = take(choiceSchema, request.body);
    const taken = await takeIn(sequelize, incoming.get(token), choice);
    await incoming.forget(token);
    await previews.catchUp();
    response.json(taken);
  });
  routes.delete('/incoming/:token', async (request, response) => {
    await incoming.forget(take(idSchema, request.params.token));
    response.status(204).end();
  });
  return routes;
}
