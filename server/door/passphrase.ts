import { randomInt } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';

/** No two of these are taken for each other on paper: 31 of them, so that twelve make 59 bits. */
const SIGNS = 'abcdefghjkmnpqrstuvwxyz23456789';
const GROUPS = 3;
const IN_A_GROUP = 4;

/** A new one, as it is read out: three groups of four. */
export const newPassphrase = (): string =>
  Array.from({ length: GROUPS }, () =>
    Array.from({ length: IN_A_GROUP }, () => SIGNS[randomInt(SIGNS.length)]).join(''),
  ).join('-');

/** As it counts, however it was typed. */
const bare = (typed: string): string => typed.toLowerCase().replace(/[^a-z0-9]/g, '');

/** Kept as its Argon2id hash alone (RFC 9106), with the library's own costs: 19 MiB, two passes. */
export const hashed = (passphrase: string): Promise<string> => hash(bare(passphrase));

export const isRight = (kept: string, typed: string): Promise<boolean> => verify(kept, bare(typed));
