import { Router } from 'express';
import { z } from 'zod';
import { PROJECT_STATES } from '../database.ts';
import { PAPERS, wallPdf } from '../pdf/wallPdf.ts';
import type { FlowStore } from '../flowStore.ts';
import type { ProjectStore } from '../projects.ts';
import type { ShopStore } from '../shopStore.ts';
import { idSchema, take } from './take.ts';

const saveSchema = z.object({
  expectedRevision: z
    .number({ error: 'expectedRevision must be a whole number: the revision you opened' })
    .int()
    .positive(),
  plan: z.unknown(),
});

const stateSchema = z.object({
  state: z.enum(PROJECT_STATES, { error: `state must be one of: ${PROJECT_STATES.join(', ')}` }),
});

const paperSchema = z.object({
  paper: z.enum(PAPERS, { error: `paper must be one of: ${PAPERS.join(', ')}` }).default('A4'),
});

/** A file's name from a piece's: letters, digits and dashes of any script. */
const fileName = (name: string): string =>
  name
    .trim()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase() || 'piece';

export function projectRoutes(store: ProjectStore, shop: ShopStore, flows: FlowStore): Router {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json({ projects: await store.list() });
  });
  routes.post('/', async (request, response) => {
    response.status(201).json(await store.create(request.body?.plan));
  });
  routes.get('/:id', async (request, response) => {
    response.json(await store.get(take(idSchema, request.params.id)));
  });
  routes.put('/:id', async (request, response) => {
    const id = take(idSchema, request.params.id);
    const { expectedRevision, plan } = take(saveSchema, request.body);
    response.json(await store.save(id, expectedRevision, plan));
  });
  routes.patch('/:id', async (request, response) => {
    const id = take(idSchema, request.params.id);
    const { state } = take(stateSchema, request.body);
    const project = await store.setState(id, state);
    // A piece that is made has used its steel, if that was not taken off the rack before.
    const taken = state === 'done' && (await shop.taken(id)) === null ? await shop.takeFor(id) : null;
    response.json({ ...project, taken });
  });
  routes.delete('/:id', async (request, response) => {
    await store.remove(take(idSchema, request.params.id));
    response.status(204).end();
  });
  routes.get('/:id/wall.pdf', async (request, response) => {
    const { paper } = take(paperSchema, request.query);
    const { name, plan } = await store.get(take(idSchema, request.params.id));
    const pdf = await wallPdf(await flows.evaluated(plan), paper);
    response
      .type('application/pdf')
      .set('Content-Disposition', `inline; filename*=UTF-8''${encodeURIComponent(fileName(name))}.pdf`)
      .send(pdf);
  });
  routes.get('/:id/taken', async (request, response) => {
    response.json({ taken: await shop.taken(take(idSchema, request.params.id)) });
  });
  routes.post('/:id/taken', async (request, response) => {
    response.status(201).json({ taken: await shop.takeFor(take(idSchema, request.params.id)) });
  });
  routes.delete('/:id/taken', async (request, response) => {
    await shop.putBack(take(idSchema, request.params.id));
    response.status(204).end();
  });
  return routes;
}
