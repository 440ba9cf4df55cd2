import { Router } from 'express';
import { readingSchema } from '../../core/instruments/reading.ts';
import type { RecordStore } from '../records.ts';
import { take } from './take.ts';

/** Readings of the shop's instruments: handed on to whichever page is being written in, and kept nowhere else. */
export function instrumentRoutes(records: RecordStore): Router {
  const routes = Router();
  routes.post('/readings', (request, response) => {
    const reading = take(readingSchema, request.body);
    records.tellAll({ what: 'reading', reading });
    response.status(202).json({ heard: records.listening });
  });
  return routes;
}
