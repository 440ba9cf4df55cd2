import { Router } from 'express';
import { z } from 'zod';
import { ApiError } from '../errors.ts';
import { type ShopStore, materialSchema, rackBarSchema, shopSchema } from '../shopStore.ts';
import { idSchema, take } from './take.ts';

/** Set-ups, materials and the rack. */
export function shopRoutes(store: ShopStore): Router {
  const routes = Router();
  routes.get('/setups', async (_request, response) => {
    response.json({ setups: await store.setups() });
  });
  routes.put('/setups', async (request, response) => {
    response.json(await store.keepSetup(take(shopSchema, request.body)));
  });
  routes.put('/setups/:id', async (request, response) => {
    const id = take(idSchema, request.params.id);
    response.json(await store.changeSetup(id, take(shopSchema, request.body)));
  });
  routes.delete('/setups/:id', async (request, response) => {
    await store.removeSetup(take(idSchema, request.params.id));
    response.status(204).end();
  });
  routes.get('/materials', async (_request, response) => {
    response.json({ materials: await store.materials() });
  });
  routes.put('/materials/:id', async (request, response) => {
    const material = take(materialSchema, request.body);
    if (material.id !== request.params.id)
      throw new ApiError('bad request', 'id: the material’s id must be the one in the address', {
        field: 'id',
      });
    response.json(await store.keepMaterial(material));
  });
  routes.delete('/materials/:id', async (request, response) => {
    await store.removeMaterial(take(z.string().min(1).max(40), request.params.id));
    response.status(204).end();
  });
  routes.get('/rack', async (_request, response) => {
    response.json({ bars: await store.rack() });
  });
  routes.post('/rack', async (request, response) => {
    response.status(201).json(await store.putOnRack(take(rackBarSchema, request.body)));
  });
  routes.put('/rack/:id', async (request, response) => {
    response.json(
      await store.changeRack(take(idSchema, request.params.id), take(rackBarSchema, request.body)),
    );
  });
  routes.delete('/rack/:id', async (request, response) => {
    await store.takeOffRack(take(idSchema, request.params.id));
    response.status(204).end();
  });
  return routes;
}
