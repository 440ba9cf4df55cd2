import { X509Certificate, createPrivateKey } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import type { ShopNetwork } from '../server/door/door.ts';

/** What is asked of the shop's network on the command line. */
export type ShopAsked = Pick<ShopNetwork, 'names' | 'certificate'>;

const USAGE =
  'Usage: bin/start [--shop [--name NAME]... [--cert FILE --key FILE]]   (NAME: of this machine, as devices of the shop’s network call it)';

const HOST_NAME = /^[a-z0-9]([a-z0-9.-]{0,251}[a-z0-9])?$/;

/** The start command's options; null without `--shop`. Throws with what would be right. */
export function askedShop(args: readonly string[]): ShopAsked | null {
  const { shop, name, cert, key } = options(args);
  const names = name.map((one) => one.toLowerCase());
  const wrong = names.find((one) => !HOST_NAME.test(one));
  if (wrong !== undefined)
    throw new Error(`--name must be a machine’s name such as forge.local; it is “${wrong}”.\n${USAGE}`);
  if (!shop) {
    if (names.length > 0 || cert !== undefined || key !== undefined)
      throw new Error(`--name, --cert and --key go with --shop.\n${USAGE}`);
    return null;
  }
  if ((cert === undefined) !== (key === undefined))
    throw new Error(`--cert and --key go together.\n${USAGE}`);
  return { names, certificate: cert !== undefined && key !== undefined ? certificateOf(cert, key) : null };
}

function options(args: readonly string[]) {
  try {
    return parseArgs({
      args: [...args],
      options: {
        shop: { type: 'boolean', default: false },
        name: { type: 'string', multiple: true, default: [] },
        cert: { type: 'string' },
        key: { type: 'string' },
      },
    }).values;
  } catch (error) {
    throw new Error(`${(error as Error).message}\n${USAGE}`, { cause: error });
  }
}

function certificateOf(certFile: string, keyFile: string): { cert: Buffer; key: Buffer } {
  const cert = readFileSync(certFile);
  const key = readFileSync(keyFile);
  let belongs: boolean;
  try {
    belongs = new X509Certificate(cert).checkPrivateKey(createPrivateKey(key));
  } catch (error) {
    throw new Error(
      `--cert and --key must be PEM files of a certificate and its key without a passphrase: ${(error as Error).message}`,
      { cause: error },
    );
  }
  if (!belongs)
    throw new Error('The key given with --key is not the one of the certificate given with --cert.');
  return { cert, key };
}
