import { z } from 'zod';
import { MOST_MARK, MOST_NAME, PROJECT_STATES, VERDICTS } from '../plan/index.ts';
import { MOST_RECORDS, recordSchema } from '../records/record.ts';
import { nameText } from '../units/names.ts';

/** Everything in one file, version 1: a zip whose parts are named and counted in its manifest (docs/copy-format.md). */
export const COPY_FORMAT = 'retablo-copy';
export const COPY_VERSION = 1;

/** Where each part lies in the zip. */
export const MANIFEST = 'manifest.json';
export const SETUPS = 'shop/setups.json';
export const MATERIALS = 'shop/materials.json';
export const RACK = 'shop/rack.json';
export const pieceFile = (id: string): string => `pieces/${id}/piece.json`;
export const pictureFile = (id: string): string => `pieces/${id}/picture.png`;
export const photographFile = (id: string, photograph: string, size: 'large' | 'small'): string =>
  `pieces/${id}/photographs/${photograph}.${size}.jpg`;
export const revisionFile = (id: string, revision: number): string =>
  `pieces/${id}/revisions/${revision}.retablo.json`;

const date = z.iso.datetime('A date must be written as 2026-01-31T12:00:00Z');
const mm = z.number().finite().nonnegative();

export const manifestSchema = z.object({
  format: z.literal(COPY_FORMAT, { error: `format must be “${COPY_FORMAT}”: is this a copy file?` }),
  version: z.literal(COPY_VERSION, {
    error: ({ input }) =>
      typeof input === 'number' && input > COPY_VERSION
        ? `version ${input} is newer than this Retablo reads (${COPY_VERSION}): bring Retablo up to date first`
        : `version must be ${COPY_VERSION}`,
  }),
  madeAt: date,
  /** For whoever looks in by hand: which folder is which piece. */
  pieces: z.array(z.object({ id: z.uuid(), name: z.string() })),
  files: z.array(
    z.object({
      path: z.string().min(1).max(200),
      bytes: z.int().nonnegative(),
      sha256: z.string().regex(/^[0-9a-f]{64}$/, 'sha256 has 64 hexadecimal digits'),
    }),
  ),
});
export type Manifest = z.infer<typeof manifestSchema>;

const takenSchema = z.object({
  at: date,
  bars: z.array(z.object({ material: z.string(), widthMm: mm, thicknessMm: mm, lengthMm: mm, restMm: mm })),
});

/** A piece without its plans: those lie beside it, one file to a revision. */
export const keptPieceSchema = z.object({
  id: z.uuid('id must be one of ours'),
  name: nameText(MOST_NAME, 'The piece needs a name'),
  state: z.enum(PROJECT_STATES),
  createdAt: date,
  updatedAt: date,
  removedAt: date.nullable(),
  revisions: z
    .array(
      z.object({
        revision: z.int().positive(),
        savedAt: date,
        mark: nameText(MOST_MARK, 'A mark needs letters').nullable(),
      }),
    )
    .min(1, 'A piece has at least one revision')
    .refine((all) => all.every((r, i) => i === 0 || r.revision > all[i - 1].revision), {
      error: 'Revisions must be in their order',
    }),
  /** What was written at the bench, each as it was written last; null once it was taken back. */
  records: z
    .array(z.object({ id: z.string().min(1).max(60), record: recordSchema.nullable(), written: date }))
    .max(MOST_RECORDS)
    .default([]),
  /** Photographs beside it, and when each was taken. */
  photographs: z.array(z.object({ id: z.uuid(), takenAt: date })).default([]),
  /** Of which revision the picture beside it is, and how that one stands to its goal. */
  preview: z.object({ revision: z.int().positive(), verdict: z.enum(VERDICTS) }).nullable(),
  /** What it took from the rack. */
  taken: takenSchema.nullable(),
});
export type KeptPiece = z.infer<typeof keptPieceSchema>;
