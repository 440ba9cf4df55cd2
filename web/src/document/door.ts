import { useQuery } from '@tanstack/react-query';
import type { AtTheDoor, Device, Role, ShopDevices } from '../../../core/shop/devices.ts';
import { request } from './api.ts';

export const doorApi = {
  asker: () => request<AtTheDoor>('GET', '/door'),
  leave: () => request<undefined>('DELETE', '/door'),
  devices: () => request<ShopDevices>('GET', '/devices'),
  change: (id: string, some: { name?: string; role?: Role }) =>
    request<Device>('PATCH', `/devices/${id}`, some),
  shutOut: (id: string) => request<undefined>('DELETE', `/devices/${id}`),
  newPassphrase: () =>
    request<{ passphrase: string }>('POST', '/devices/passphrase').then((a) => a.passphrase),
};

/** Who this page is to the server. */
export const useAsker = () =>
  useQuery({ queryKey: ['door'], queryFn: doorApi.asker, staleTime: 60_000 }).data;

/** What this device may; the server refuses whatever is shown beyond it. */
export const useRole = (): Role => useAsker()?.role ?? 'whole';

export const useDevices = () =>
  useQuery({ queryKey: ['devices'], queryFn: doorApi.devices, staleTime: 0, refetchInterval: 10_000 });
