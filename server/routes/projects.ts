import { Router } from 'express';
import { z } from 'zod';
import { MOST_MARK, MOST_NAME, MOST_UNANSWERED, PROJECT_STATES } from '../../core/plan/index.ts';
import { nameText } from '../../core/units/names.ts';
import { PAPERS } from '../pdf/sheet.ts';
import { Turns } from '../reckoning/turns.ts';
import type { FlowStore } from '../flowStore.ts';
import type { ProjectStore } from '../projects.ts';
import { ApiError } from '../errors.ts';
import { markRevision, planThen, revisionsOf } from '../history.ts';
import type { Previews } from '../previews.ts';
import { shopEvidence } from '../shopLog.ts';
import type { ShopStore } from '../shopStore.ts';
import { idSchema, pageOf, take } from './take.ts';

const saveSchema = z.object({
  expectedRevision: z
    .number({ error: 'expectedRevision must be a whole number: the revision you opened' })
    .int()
    .positive(),
  saveId: z.uuid('saveId must be an id of the save, so that it can be sent again').optional(),
  afterSaves: z
    .array(z.uuid('afterSaves must be the ids of the saves sent before'))
    .max(MOST_UNANSWERED, `afterSaves may be at most ${MOST_UNANSWERED} ids`)
    .optional(),
  plan: z.unknown(),
});

/** Pieces on one page of the shelf at most. */
const MOST_HEADS = 100;

const shelfSchema = z.object({
  search: z.string().trim().max(120, 'search may be at most 120 letters long').default(''),
  state: z
    .enum(['any', ...PROJECT_STATES, 'removed'], {
      error: `state must be one of: any, ${PROJECT_STATES.join(', ')}, removed`,
    })
    .default('any'),
  sort: z.enum(['changed', 'name'], { error: 'sort must be changed or name' }).default('changed'),
  ...pageOf(MOST_HEADS),
});

const changeSchema = z
  .strictObject({
    state: z.enum(PROJECT_STATES, { error: `state must be one of: ${PROJECT_STATES.join(', ')}` }).optional(),
    name: nameText(MOST_NAME, 'The piece needs a name').optional(),
  })
  .refine(({ state, name }) => (state === undefined) !== (name === undefined), {
    error: 'Either a state or a name is changed',
  });

const revisionSchema = z.object({
  id: idSchema,
  revision: z.coerce.number({ error: 'revision must be a whole number' }).int().positive().max(1e9),
});

const markSchema = z.object({
  mark: z
    .string({ error: 'mark must be a name, or null for none' })
    .trim()
    .max(MOST_MARK, `mark may be at most ${MOST_MARK} letters long`)
    .nullable()
    .transform((mark) => mark || null),
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

export function projectRoutes(
  store: ProjectStore,
  shop: ShopStore,
  flows: FlowStore,
  previews: Previews,
): Router {
  const routes = Router();
  const turns = new Turns();
  routes.get('/', async (request, response) => {
    response.json(await store.list(take(shelfSchema, request.query)));
  });
  routes.post('/', async (request, response) => {
    const made = await store.create(request.body?.plan);
    previews.changed(made.id, 0);
    response.status(201).json(made);
  });
  routes.get('/:id', async (request, response) => {
    response.json(await store.get(take(idSchema, request.params.id)));
  });
  routes.put('/:id', async (request, response) => {
    const id = take(idSchema, request.params.id);
    const saved = await store.save(id, take(saveSchema, request.body));
    previews.changed(id);
    response.json(saved);
  });
  routes.patch('/:id', async (request, response) => {
    const id = take(idSchema, request.params.id);
    const { state, name } = take(changeSchema, request.body);
    if (state !== undefined) {
      // A piece that is made has used its steel, if that was not taken off the rack before.
      const uses = state === 'done' && (await shop.taken(id)) === null;
      const taken = uses ? await shop.takeFor(id) : null;
      response.json({ ...(await store.setState(id, state)), taken });
    } else {
      response.json(await store.rename(id, name!));
      previews.changed(id);
    }
  });
  routes.get('/:id/file', async (request, response) => {
    const { name, plan } = await store.raw(take(idSchema, request.params.id));
    response
      .attachment(`${fileName(name)}.retablo.json`)
      .type('application/json')
      .send(`${JSON.stringify(plan, null, 2)}\n`);
  });
  routes.delete('/:id', async (request, response) => {
    await store.remove(take(idSchema, request.params.id));
    response.status(204).end();
  });
  routes.post('/:id/back', async (request, response) => {
    const id = take(idSchema, request.params.id);
    await store.putBack(id);
    previews.changed(id, 0);
    response.status(204).end();
  });
  routes.get('/:id/picture', async (request, response) => {
    const picture = await store.picture(take(idSchema, request.params.id));
    if (!picture) throw new ApiError('not found', 'There is no picture of this piece yet.');
    // The address names the revision: another picture has another address.
    response.type('image/png').set('Cache-Control', 'private, max-age=31536000, immutable').send(picture);
  });
  routes.get('/:id/wall.pdf', async (request, response) => {
    const { paper } = take(paperSchema, request.query);
    const id = take(idSchema, request.params.id);
    const left = new AbortController();
    response.once('close', () => left.abort(new ApiError('busy', 'Whoever asked has left.')));
    let called = '';
    const asked = async () => {
      const { name, plan } = await store.raw(id);
      called = name;
      return { plan, paper, evidence: await shopEvidence() };
    };
    const pdf = await turns.take(id, () => flows.reckoned('wall', asked, { left: left.signal }));
    if (pdf === 'waits')
      throw new ApiError('too much', 'The flows of this plan could not all be worked out.');
    response
      .type('application/pdf')
      .set('Content-Disposition', `inline; filename*=UTF-8''${encodeURIComponent(fileName(called))}.pdf`)
      .send(Buffer.from(pdf));
  });
  routes.get('/:id/revisions', async (request, response) => {
    response.json({ revisions: await revisionsOf(take(idSchema, request.params.id)) });
  });
  routes.get('/:id/revisions/:revision', async (request, response) => {
    const { id, revision } = take(revisionSchema, request.params);
    response.json({ plan: await planThen(id, revision) });
  });
  routes.patch('/:id/revisions/:revision', async (request, response) => {
    const { id, revision } = take(revisionSchema, request.params);
    response.json(await markRevision(id, revision, take(markSchema, request.body).mark));
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
