import { Router } from 'express';
import { type ShopDevices, deviceChange } from '../../core/shop/devices.ts';
import type { ShopAddresses } from '../door/addresses.ts';
import type { DeviceStore } from '../door/devices.ts';
import { type Door, askerOf } from '../door/door.ts';
import { ApiError } from '../errors.ts';
import { idSchema, take } from './take.ts';

/** Who asks; a device that leaves by itself. */
export function doorRoutes(door: Door): Router {
  const routes = Router();
  routes.get('/', (_request, response) => {
    response.set('Cache-Control', 'no-store').json(askerOf(response));
  });
  routes.delete('/', async (_request, response) => {
    const { device } = askerOf(response);
    if (!device) throw new ApiError('bad request', 'This is the shop’s own computer: it is always let in.');
    await door.shutOut(device.id, response);
    response.status(204).end();
  });
  return routes;
}

/** Devices in the shop's network: what they may, and that they may not any more. */
export function deviceRoutes(store: DeviceStore, door: Door, addresses: ShopAddresses): Router {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json({
      devices: await store.list(),
      network: door.network && {
        addresses: await addresses(),
        encrypted: door.network.certificate !== null,
      },
    } satisfies ShopDevices);
  });
  routes.post('/passphrase', async (_request, response) => {
    if (!door.network)
      throw new ApiError(
        'bad request',
        'Retablo answers on this machine only: start it with bin/start --shop.',
      );
    if (askerOf(response).device)
      throw new ApiError('forbidden', 'Another passphrase is made at the shop’s computer alone.');
    response.set('Cache-Control', 'no-store').json({ passphrase: await door.renew() });
  });
  routes.patch('/:id', async (request, response) => {
    const id = take(idSchema, request.params.id);
    response.json(await store.change(id, take(deviceChange, request.body)));
  });
  routes.delete('/:id', async (request, response) => {
    await door.shutOut(take(idSchema, request.params.id), response);
    response.status(204).end();
  });
  return routes;
}
