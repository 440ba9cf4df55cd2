import { Router } from 'express';
import type { Sequelize } from 'sequelize';
import { z } from 'zod';
import { shopEvidence, shopLog, shopMeasured } from '../shopLog.ts';
import { pageOf, take } from './take.ts';

/** Records on one page of the shop's log at most. */
const MOST = 100;

const askedSchema = z.object({
  search: z.string().trim().max(120, 'search may be at most 120 letters long').default(''),
  ...pageOf(MOST),
});

/** What was written at the bench, of all pieces. */
export function logRoutes(sequelize: Sequelize): Router {
  const routes = Router();
  routes.get('/', async (request, response) => {
    response.json(await shopLog(sequelize, take(askedSchema, request.query)));
  });
  routes.get('/measured', async (_, response) => {
    response.json(await shopMeasured());
  });
  routes.get('/evidence', async (_, response) => {
    response.json(await shopEvidence());
  });
  return routes;
}
