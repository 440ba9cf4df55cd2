import { Router } from 'express';
import { z } from 'zod';
import { digestSchema, storedStage } from '../../core/flow/stored.ts';
import type { FlowStore } from '../flowStore.ts';
import { take } from './take.ts';

const asked = z.object({
  digests: z.array(digestSchema).min(1).max(200, 'digests: at most 200 at a time'),
});

/** Stages of flows that were worked out before, here or on a page. */
export function flowRoutes(store: FlowStore): Router {
  const routes = Router();
  routes.post('/find', async (request, response) => {
    response.json({ stages: await store.find(take(asked, request.body).digests) });
  });
  routes.put('/:digest', async (request, response) => {
    await store.keep(take(digestSchema, request.params.digest), take(storedStage, request.body));
    response.status(204).end();
  });
  return routes;
}
