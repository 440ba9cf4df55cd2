import type { Transaction } from 'sequelize';
import { z } from 'zod';
import {
  type KeptPiece,
  MATERIALS,
  RACK,
  SETUPS,
  keptPieceSchema,
  pieceFile,
  revisionFile,
} from '../../core/copies/copyFile.ts';
import {
  type CopyContents,
  type PartInCopy,
  type PieceInCopy,
  standingOf,
} from '../../core/copies/standing.ts';
import { type Material, materialSchema } from '../../core/materials/material.ts';
import { type ShopSettings, shopSchema } from '../../core/shop/shop.ts';
import { type RackBar, rackBarSchema } from '../../core/stock/rackBar.ts';
import { BenchRow, PlanRevision, Project, RackRow, Setup, ShopMaterial } from '../database.ts';
import { ApiError } from '../errors.ts';
import type { CopyFile } from './copyFile.ts';
import { asFile, sha256Of } from './write.ts';

const digestOf = (plan: unknown): string => sha256Of(asFile(plan));

export type LyingBar = Omit<RackBar, 'id'>;

/** What of the shop lies in a copy. */
export interface ShopParts {
  readonly setups: readonly ShopSettings[];
  readonly materials: readonly Material[];
  readonly rack: readonly LyingBar[];
  /** What this Retablo cannot read, and why: the rest is taken without it. */
  readonly unreadable: readonly string[];
}

export async function shopParts(copy: CopyFile): Promise<ShopParts> {
  const unreadable: string[] = [];
  const read = async <T>(path: string, what: string, schema: z.ZodType<T>): Promise<readonly T[]> => {
    const all = copy.has(path) ? await copy.read(path, z.array(z.unknown())) : [];
    return all.flatMap((part, i) => {
      const parsed = schema.safeParse(part);
      if (parsed.success) return [parsed.data];
      const [{ path: field, message }] = parsed.error.issues;
      unreadable.push(
        `${what} ${i + 1} of the copy: ${[field.join('.'), message].filter(Boolean).join(': ')}`,
      );
      return [];
    });
  };
  return {
    setups: await read(SETUPS, 'Set-up', shopSchema),
    materials: await read(MATERIALS, 'Material', materialSchema),
    rack: await read(RACK, 'Row of the rack', rackBarSchema),
    unreadable,
  };
}

export const lying = ({ material, widthMm, thicknessMm, lengthMm, count }: LyingBar): LyingBar => ({
  material,
  widthMm,
  thicknessMm,
  lengthMm,
  count,
});

const inOrder = (bars: readonly LyingBar[]): string =>
  JSON.stringify(bars.map((b) => JSON.stringify(lying(b))).sort());

/** The id of a piece that is put beside the one that went another way: the same for the same copy, so that it comes only once. */
export function besideId(id: string, newest: string): string {
  const hex = sha256Of(Buffer.from(`${id} ${newest}`));
  // A name-based UUID as RFC 9562, version 8, lays it out.
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

export async function digestsHere(projectId: string, transaction?: Transaction): Promise<string[]> {
  const rows = await PlanRevision.findAll({
    where: { projectId },
    order: [['revision', 'ASC']],
    ...(transaction && { transaction }),
  });
  return rows.map(({ plan }) => digestOf(plan));
}

const revisionHere = ({ id, revision }: Project, transaction?: Transaction): Promise<PlanRevision | null> =>
  PlanRevision.findOne({ where: { projectId: id, revision }, ...(transaction && { transaction }) });

export const digestsThere = (copy: CopyFile, { id, revisions }: KeptPiece): string[] =>
  revisions.map(({ revision }) => copy.sha256(revisionFile(id, revision)));

/** Records of a copy that are not here, or were changed later than those here. */
export async function freshRecords(
  projectId: string,
  records: KeptPiece['records'],
  transaction?: Transaction,
): Promise<KeptPiece['records']> {
  if (records.length === 0) return [];
  const rows = await BenchRow.findAll({
    attributes: ['id', 'written'],
    where: { projectId },
    ...(transaction && { transaction }),
  });
  const here = new Map(rows.map(({ id, written }) => [id, written.getTime()]));
  return records.filter(({ id, written }) => new Date(written).getTime() > (here.get(id) ?? -Infinity));
}

/** In a transaction the piece that is here is held as it is until that ends. */
export async function standing(
  copy: CopyFile,
  piece: KeptPiece,
  transaction?: Transaction,
): Promise<PieceInCopy> {
  const theirs = digestsThere(copy, piece);
  const newest = theirs.at(-1)!;
  const here = await Project.findByPk(
    piece.id,
    transaction && { transaction, lock: transaction.LOCK.UPDATE },
  );
  const newestHere = here && digestOf((await revisionHere(here, transaction))?.plan);
  // Most pieces are the same in both, which the newest tells; a whole history is only looked through where they are not.
  const ours = !here ? [] : newestHere === newest ? [newest] : await digestsHere(piece.id, transaction);
  let how = standingOf(theirs, ours);
  // It went another way, and was put beside before.
  if (how === 'different' && (await digestsHere(besideId(piece.id, newest), transaction)).includes(newest))
    how = 'older';
  else if (
    (how === 'same' || how === 'older') &&
    (await freshRecords(piece.id, piece.records, transaction)).length > 0
  )
    how = 'newer';
  return {
    id: piece.id,
    name: piece.name,
    standing: how,
    savedAt: piece.revisions.at(-1)!.savedAt,
    savedHereAt: here && here.updatedAt.toISOString(),
    revisions: piece.revisions.length,
    removed: piece.removedAt !== null,
    removedHere: Boolean(here?.removedAt),
  };
}

/** The ids of the pieces in a copy: those that its manifest lists a file for. */
export const piecesOf = (copy: CopyFile): string[] =>
  copy.manifest.pieces.map((p) => p.id).filter((id) => copy.has(pieceFile(id)));

/** A piece in a copy, without its plans. */
export async function keptPieceOf(copy: CopyFile, id: string): Promise<KeptPiece> {
  const piece = await copy.read(pieceFile(id), keptPieceSchema);
  if (piece.id === id) return piece;
  throw new ApiError(
    'bad request',
    `${pieceFile(id)} in the copy is of another piece: its id is ${piece.id}.`,
  );
}

function parts<T>(
  theirs: readonly T[],
  ours: readonly T[],
  key: (part: T) => { id: string; name: string },
): PartInCopy[] {
  const here = new Map(ours.map((part) => [key(part).id, JSON.stringify(part)]));
  return theirs.map((part) => {
    const { id, name } = key(part);
    const known = here.get(id);
    return {
      id,
      name,
      standing: known === undefined ? 'new' : known === JSON.stringify(part) ? 'same' : 'different',
    };
  });
}

function rackStanding(theirs: readonly LyingBar[], ours: readonly LyingBar[]): PartInCopy | null {
  if (theirs.length === 0) return null;
  const how = inOrder(theirs) === inOrder(ours) ? 'same' : ours.length === 0 ? 'new' : 'different';
  return { id: 'rack', name: `${theirs.reduce((sum, b) => sum + b.count, 0)} bars`, standing: how };
}

/** What a copy holds beside what is here. Every part of it has been judged by its checksum when this comes back. */
export async function contentsOf(copy: CopyFile): Promise<CopyContents> {
  await copy.verify();
  const { setups, materials, rack, unreadable } = await shopParts(copy);
  const pieces: PieceInCopy[] = [];
  for (const id of piecesOf(copy)) pieces.push(await standing(copy, await keptPieceOf(copy, id)));
  const [ownSetups, ownMaterials, ownRack] = [
    await Setup.findAll(),
    await ShopMaterial.findAll(),
    await RackRow.findAll(),
  ];
  return {
    madeAt: copy.manifest.madeAt,
    pieces,
    setups: parts(
      setups,
      ownSetups.map((s) => shopSchema.parse(s.settings)),
      ({ name }) => ({ id: name, name }),
    ),
    materials: parts(
      materials,
      ownMaterials.map((m) => materialSchema.parse(m.material)),
      ({ id, name }) => ({ id, name }),
    ),
    rack: rackStanding(rack, ownRack),
    unreadable,
  };
}
