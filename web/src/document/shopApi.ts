import type { PieceMeasured, ShopLog, StoredSetup } from '../../../core/plan/index.ts';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import type { Material } from '../../../core/materials/material.ts';
import type { RackBar } from '../../../core/stock/rackBar.ts';
import type { ShopSettings } from '../../../core/shop/shop.ts';
import { api, request } from './api.ts';

export const shopApi = {
  setups: () => request<{ setups: StoredSetup[] }>('GET', '/shop/setups').then((a) => a.setups),
  keepSetup: (settings: ShopSettings) => request<StoredSetup>('PUT', '/shop/setups', settings),
  changeSetup: (id: string, settings: ShopSettings, keepalive = false) =>
    request<StoredSetup>('PUT', `/shop/setups/${id}`, settings, keepalive),
  removeSetup: (id: string) => request<undefined>('DELETE', `/shop/setups/${id}`),
  materials: () => request<{ materials: Material[] }>('GET', '/shop/materials').then((a) => a.materials),
  keepMaterial: (material: Material) =>
    request<Material>('PUT', `/shop/materials/${encodeURIComponent(material.id)}`, material),
  removeMaterial: (id: string) => request<undefined>('DELETE', `/shop/materials/${encodeURIComponent(id)}`),
  rack: () => request<{ bars: RackBar[] }>('GET', '/shop/rack').then((a) => a.bars),
  putOnRack: (bar: Omit<RackBar, 'id'>) => request<RackBar>('POST', '/shop/rack', bar),
  changeRack: ({ id, ...bar }: RackBar) => request<RackBar>('PUT', `/shop/rack/${id}`, bar),
  takeOffRack: (id: string) => request<undefined>('DELETE', `/shop/rack/${id}`),
};

/** Records fetched at a time. */
const LOG_PAGE = 50;

/** What was written of all pieces, in which every word stands, the latest first. */
export const useShopLog = (search: string) =>
  useInfiniteQuery({
    queryKey: ['log', search],
    queryFn: ({ pageParam }) =>
      request<ShopLog>(
        'GET',
        `/log?${new URLSearchParams({ search, offset: String(pageParam), limit: String(LOG_PAGE) })}`,
      ),
    initialPageParam: 0,
    getNextPageParam: ({ total }, pages) => {
      const shown = pages.reduce((sum, p) => sum + p.found.length, 0);
      return shown < total ? shown : undefined;
    },
    placeholderData: (before) => before,
    staleTime: 0,
  });

/** What was measured of all pieces beside what was reckoned. */
export const useShopMeasured = () =>
  useQuery({
    queryKey: ['log', 'measured'],
    queryFn: () => request<PieceMeasured[]>('GET', '/log/measured'),
    staleTime: 0,
  });

const FRESH = { staleTime: 5_000 } as const;

export const useSetups = () => useQuery({ queryKey: ['setups'], queryFn: shopApi.setups, ...FRESH });
/** The shop's own materials: those added, and those of the first table that it changed. */
export const useOwnMaterials = () =>
  useQuery({ queryKey: ['materials'], queryFn: shopApi.materials, ...FRESH });
export const useRack = () => useQuery({ queryKey: ['rack'], queryFn: shopApi.rack, ...FRESH });
/** What a piece took from the rack; null where nothing was taken. */
export const useTaken = (id: string) =>
  useQuery({ queryKey: ['taken', id], queryFn: () => api.taken(id), staleTime: 0 });
