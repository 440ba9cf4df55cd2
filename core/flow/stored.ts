import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { fromByteArray, toByteArray } from 'base64-js';
import { z } from 'zod';
import type { FlowDone, FlowStage } from './run.ts';

/** Goes up when the same question is answered otherwise: what was kept of older answers is then no longer found. */
const VERSION = 3;

/** A short name for all that a stage depends on, the same everywhere: SHA-256 of its key, in hexadecimal. */
export const digestOf = (key: string): string => bytesToHex(sha256(utf8ToBytes(`${VERSION} ${key}`)));

export const digestSchema = z.string().regex(/^[0-9a-f]{64}$/, 'A digest has 64 hexadecimal digits');

/** Numbers as they lie in memory (IEEE 754, lowest byte first), in base 64. */
const numbers = z
  .base64('Numbers must be written in base 64')
  .max(400_000, 'Too many numbers')
  .refine(
    (text) => !readable(text) || Float64Array.from(unpacked(text)).every(Number.isFinite),
    'Numbers must be finite',
  );
const places = z.strictObject({ x: numbers, y: numbers });
const amount = z.number().finite();

const report = z.strictObject({
  steps: amount,
  iterations: amount,
  worstResidual: amount,
  worstElement: amount,
  flops: amount,
  widthMm: amount,
  heightMm: amount,
  areaMm2: amount,
  areaTheoryMm2: amount,
  contactMm: amount,
  meanDensity: amount,
  leastDensity: amount,
  forcePerMm: amount,
  closedMm: amount,
  regrids: amount,
});

/** A stage as it is kept in the database and sent. */
export const storedStage = z.discriminatedUnion('ok', [
  z.strictObject({ ok: z.literal(false), why: z.string().max(300), heightMm: amount.optional() }),
  z.strictObject({
    ok: z.literal(true),
    earlier: z.array(z.strictObject({ from: places, to: places })).max(200),
    laid: places.nullable(),
    x: numbers,
    y: numbers,
    lengthening: amount,
    density: numbers.nullable(),
    strain: numbers,
    pushes: numbers,
    report,
  }),
]);

export type StoredStage = z.infer<typeof storedStage>;

const readable = (text: string): boolean => text.length % 4 === 0;

const packed = (values: Float64Array): string =>
  fromByteArray(new Uint8Array(values.buffer, values.byteOffset, values.byteLength));

function unpacked(text: string): Float64Array {
  const bytes = Uint8Array.from(toByteArray(text));
  return new Float64Array(bytes.buffer, 0, bytes.length >> 3);
}

type Laid = NonNullable<FlowDone['laid']>;
const packedPlaces = ({ x, y }: Laid) => ({ x: packed(x), y: packed(y) });
const unpackedPlaces = ({ x, y }: { x: string; y: string }): Laid => ({ x: unpacked(x), y: unpacked(y) });

export function toStored(stage: FlowStage): StoredStage {
  if (!stage.ok) return stage;
  const { earlier, laid, x, y, lengthening, density, strain, pushes, report: r } = stage;
  return {
    ok: true,
    earlier: earlier.map(({ from, to }) => ({ from: packedPlaces(from), to: packedPlaces(to) })),
    laid: laid && packedPlaces(laid),
    x: packed(x),
    y: packed(y),
    lengthening,
    density: density ? packed(density) : null,
    strain: packed(strain),
    pushes: packed(pushes),
    report: r,
  };
}

export function fromStored(stored: StoredStage): FlowStage {
  if (!stored.ok) return stored;
  const { earlier, laid, x, y, density, strain, pushes } = stored;
  return {
    ...stored,
    earlier: earlier.map(({ from, to }) => ({ from: unpackedPlaces(from), to: unpackedPlaces(to) })),
    laid: laid && unpackedPlaces(laid),
    x: unpacked(x),
    y: unpacked(y),
    density: density === null ? undefined : unpacked(density),
    strain: unpacked(strain),
    pushes: unpacked(pushes),
  };
}
