import { Router } from 'express';
import { z } from 'zod';
import { PROJECT_STATES } from '../database.ts';
import { ApiError } from '../errors.ts';
import type { ProjectStore } from '../projects.ts';

const idSchema = z.uuid('The piece’s id is not one of ours');

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

/** Reads a request's part by a schema, or answers with the field that is wrong. */
function take<T>(schema: z.ZodType<T>, value: unknown): T {
  const parsed = schema.safeParse(value);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  const field = issue.path.join('.');
  throw new ApiError(
    'bad request',
    field && !issue.message.startsWith(field) ? `${field}: ${issue.message}` : issue.message,
    { field },
  );
}

export function projectRoutes(store: ProjectStore): Router {
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
    response.json(await store.setState(id, take(stateSchema, request.body).state));
  });
  routes.delete('/:id', async (request, response) => {
    await store.remove(take(idSchema, request.params.id));
    response.status(204).end();
  });
  return routes;
}
