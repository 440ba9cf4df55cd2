import { Router } from 'express';
import type { Sequelize } from 'sequelize';
import { z } from 'zod';
import { shopLog } from '../shopLog.ts';
import { take } from './take.ts';

/** Records on one page of the shop's log at most. */
const MOST = 100;

const askedSchema = z.object({
  search: z.string().trim().max(120, 'search may be at most 120 letters long').default(''),
  offset: z.coerce.number({ error: 'offset must be a whole number' }).int().min(0).max(1e6).default(0),
  limit: z.coerce
    .number({ error: 'limit must be a whole number' })
    .int()
    .min(1)
    .max(MOST, `limit may be at most ${MOST}`)
    .default(MOST),
});

/** What was written at the bench, of all pieces. */
export function logRoutes(sequelize: Sequelize): Router {
  const routes = Router();
  routes.get('/', async (request, response) => {
    response.json(await shopLog(sequelize, take(askedSchema, request.query)));
  });
  return routes;
}
