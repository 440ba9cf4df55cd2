import { Router } from 'express';
import { digestSchema } from '../../core/flow/stored.ts';
import { type SeamAnswer, seamAnswer } from '../../core/loose/stored.ts';
import type { FlowStore } from '../flowStore.ts';
import { take } from './take.ts';

/** What came of questions about seams, kept by all that they depend on. */
export function seamRoutes(store: FlowStore): Router {
  const routes = Router();
  routes.get('/:digest', async (request, response) => {
    const digest = take(digestSchema, request.params.digest);
    response.json({ answer: (await store.find<SeamAnswer>([digest]))[digest] ?? null });
  });
  routes.put('/:digest', async (request, response) => {
    await store.keep(take(digestSchema, request.params.digest), take(seamAnswer, request.body));
    response.status(204).end();
  });
  return routes;
}
