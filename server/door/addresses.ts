import { networkInterfaces } from 'node:os';
import { toDataURL } from 'qrcode';
import type { ShopAddress } from '../../core/shop/devices.ts';
import type { ShopNetwork } from './door.ts';

/** Where other devices find this machine just now: by the names it was given, then by its addresses. */
export function shopUrls({ names, certificate }: ShopNetwork, port: number): string[] {
  const own = Object.values(networkInterfaces())
    .flatMap((some) => some ?? [])
    .filter(({ family, internal }) => family === 'IPv4' && !internal)
    .map(({ address }) => address);
  return [...names, ...own].map((host) => `${certificate ? 'https' : 'http'}://${host}:${port}/`);
}

/** Addresses with the code that a tablet scans. */
export type ShopAddresses = () => Promise<ShopAddress[]>;

export const withCodes = (urls: readonly string[]): Promise<ShopAddress[]> =>
  Promise.all(
    urls.map(async (address) => ({ address, code: await toDataURL(address, { margin: 2, scale: 6 }) })),
  );
