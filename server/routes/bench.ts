import { Router, raw } from 'express';
import { z } from 'zod';
import { recordSchema } from '../../core/records/record.ts';
import { ApiError } from '../errors.ts';
import { MOST_BYTES, keepPhotograph, photograph } from '../photographs.ts';
import type { Previews } from '../previews.ts';
import type { RecordStore } from '../records.ts';
import { idSchema, take } from './take.ts';

const entrySchema = z.object({ id: idSchema, record: z.string().min(1).max(60) });

const writtenSchema = z
  .object({
    written: z.iso.datetime('written must be an instant such as 2026-01-31T12:00:00Z'),
    record: recordSchema.nullable(),
    from: recordSchema.nullish(),
  })
  .refine(({ record, written }) => !record || record.written === written, {
    error: 'written must be the same as in the record',
  });

const photographSchema = z.object({ id: idSchema, photograph: idSchema });
const sizeSchema = z.object({ size: z.enum(['large', 'small']).default('large') });

const sinceSchema = z.coerce
  .number({ error: 'after must be a whole number: how much of the log is known' })
  .int()
  .min(0);

/** Between signs of life to a page that listens, ms: what lies between lets go of a silent connection. */
const ALIVE_MS = 20_000;

/** What is written at the bench, and what every page that has the piece open hears of it. */
export function benchRoutes(records: RecordStore, previews: Previews): Router {
  const routes = Router();
  routes.put('/:id/records/:record', async (request, response) => {
    const { id, record: entry } = take(entrySchema, request.params);
    const { record, written, from } = take(writtenSchema, request.body);
    const own = record && { ...record, id: entry };
    const done = await records.write(id, { id: entry, record: own, written, from: from ?? null });
    previews.changed(id);
    response.json(done);
  });
  routes.put(
    '/:id/photographs/:photograph',
    raw({ type: () => true, limit: MOST_BYTES }),
    async (request, response) => {
      const { id, photograph: entry } = take(photographSchema, request.params);
      const body: unknown = request.body;
      if (!Buffer.isBuffer(body) || body.length === 0)
        throw new ApiError('wrong type', 'A photograph is sent as its file (image/jpeg, say).');
      await keepPhotograph(id, entry, body, new Date());
      response.status(204).end();
    },
  );
  routes.get('/:id/photographs/:photograph', async (request, response) => {
    const { id, photograph: entry } = take(photographSchema, request.params);
    const { size } = take(sizeSchema, request.query);
    response
      .type('image/jpeg')
      // An id names one photograph for good.
      .set('Cache-Control', 'private, max-age=31536000, immutable')
      .set('Content-Security-Policy', "default-src 'none'; sandbox")
      .send(await photograph(id, entry, size));
  });
  routes.get('/:id/events', async (request, response) => {
    const id = take(idSchema, request.params.id);
    const after = take(sinceSchema, request.headers['last-event-id'] ?? request.query.after ?? 0);
    response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' });
    response.flushHeaders();
    const say = (news: Awaited<ReturnType<RecordStore['since']>>) =>
      response.write(
        `event: ${news.what}\n${news.what === 'records' ? `id: ${news.log}\n` : ''}data: ${JSON.stringify(news)}\n\n`,
      );
    // First it is listened, then read what was missed: told twice is no harm.
    const silent = records.hear(id, say);
    const alive = setInterval(() => response.write(':\n\n'), ALIVE_MS);
    response.once('close', () => {
      clearInterval(alive);
      silent();
    });
    say(await records.since(id, after));
  });
  return routes;
}
