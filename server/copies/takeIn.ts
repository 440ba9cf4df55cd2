import type { Sequelize, Transaction } from 'sequelize';
import { type KeptPiece, photographFile, pictureFile, revisionFile } from '../../core/copies/copyFile.ts';
import type { CopyChoice, TakenIn } from '../../core/copies/standing.ts';
import { MATERIALS } from '../../core/materials/table.ts';
import { type Plan, nameWith, readPlan } from '../../core/plan/index.ts';
import {
  BenchRow,
  Photograph,
  PlanRevision,
  Preview,
  Project,
  RackRow,
  Setup,
  ShopMaterial,
  Taking,
} from '../database.ts';
import {
  type LyingBar,
  type ShopParts,
  besideId,
  digestsHere,
  digestsThere,
  freshRecords,
  keptPieceOf,
  lying,
  piecesOf,
  shopParts,
  standing,
} from './contents.ts';
import { ApiError } from '../errors.ts';
import { photographOf } from '../photographs.ts';
import type { CopyFile } from './copyFile.ts';

/** What the shelf shows of a plan; nothing of one that this Retablo cannot read, which is kept as it is all the same. */
function headOf(plan: unknown): Pick<Project, 'goal' | 'lengths'> {
  const read = readPlan(plan);
  return read.ok ? { goal: read.plan.goal, lengths: read.plan.shop.lengths } : { goal: null, lengths: null };
}

/** Where revisions of a copy's piece go, and which numbers they get there. */
interface Place {
  readonly id: string;
  readonly numberOf: (revision: number, i: number) => number;
  readonly transaction: Transaction;
}

/** Puts revisions of a copy's piece in their place; the plan of the last. */
async function putRevisions(
  copy: CopyFile,
  piece: KeptPiece,
  which: KeptPiece['revisions'],
  { id, numberOf, transaction }: Place,
): Promise<unknown> {
  let plan: unknown;
  for (const [i, { revision, savedAt, mark }] of which.entries()) {
    plan = await copy.json(revisionFile(piece.id, revision));
    await PlanRevision.create(
      {
        projectId: id,
        revision: numberOf(revision, i),
        plan: plan as Plan,
        mark,
        savedAt: new Date(savedAt),
      },
      { transaction },
    );
  }
  return plan;
}

/** A piece with its history and picture as they are in the copy; under another id it gets a name of its own. */
async function putPiece(
  copy: CopyFile,
  piece: KeptPiece,
  transaction: Transaction,
  id = piece.id,
): Promise<void> {
  const { revisions, state, createdAt, updatedAt, removedAt, preview } = piece;
  const newest = revisions.at(-1)!.revision;
  const name = id === piece.id ? piece.name : nameWith(piece.name, ' (from a copy)');
  await Project.create(
    {
      id,
      name,
      state,
      revision: newest,
      createdAt: new Date(createdAt),
      updatedAt: new Date(updatedAt),
      removedAt: removedAt === null ? null : new Date(removedAt),
    },
    { transaction, silent: true },
  );
  const numberOf = (revision: number) => revision;
  const plan = await putRevisions(copy, piece, revisions, { id, numberOf, transaction });
  const log = await putRecords(piece, { id, log: 0 }, transaction);
  await putPhotographs(copy, piece, id, transaction);
  await Project.update({ ...headOf(plan), log }, { where: { id }, silent: true, transaction });
  if (id !== piece.id) return renamed(id, { ...(plan as Plan), name }, transaction);
  if (!preview) return;
  const picture = copy.has(pictureFile(id)) ? await copy.part(pictureFile(id)) : null;
  await Preview.create({ projectId: id, ...preview, picture }, { transaction });
}

/** What was written at the bench and is not here, or was changed later than here; how much is then written in all. */
async function putRecords(
  { records }: KeptPiece,
  { id: projectId, log }: Pick<Project, 'id' | 'log'>,
  transaction: Transaction,
): Promise<number> {
  let next = log;
  for (const { id, record, written } of await freshRecords(projectId, records, transaction))
    await BenchRow.upsert(
      { projectId, id, record, written: new Date(written), log: ++next },
      { transaction },
    );
  return next;
}

/** Photographs that are not here. */
async function putPhotographs(
  copy: CopyFile,
  { id: from, photographs }: KeptPiece,
  projectId: string,
  transaction: Transaction,
): Promise<void> {
  const here = await Photograph.findAll({ attributes: ['id'], where: { projectId }, transaction });
  const known = new Set(here.map(({ id }) => id));
  for (const { id, takenAt } of photographs.filter((p) => !known.has(p.id))) {
    // Written anew like any that comes in: what lies in a file from elsewhere is not served as it is.
    const path = photographFile(from, id, 'large');
    const pictures = await photographOf(await copy.part(path)).catch(() => {
      throw new ApiError(
        'bad request',
        `${path} in the copy is no photograph: the file is damaged or was changed.`,
      );
    });
    await Photograph.create({ projectId, id, ...pictures, takenAt: new Date(takenAt) }, { transaction });
  }
}

/** One more revision, in which the plan has its piece's new name. */
async function renamed(id: string, plan: Plan, transaction: Transaction): Promise<void> {
  const piece = (await Project.findByPk(id, { transaction }))!;
  await piece.update({ revision: piece.revision + 1 }, { transaction });
  await PlanRevision.create({ projectId: id, revision: piece.revision, plan }, { transaction });
}

async function putTaken({ id, taken }: KeptPiece, transaction: Transaction): Promise<void> {
  if (taken)
    await Taking.create({ projectId: id, taken: taken.bars, at: new Date(taken.at) }, { transaction });
}

/** The revisions that the copy has after the newest that is here; one that was put aside here comes back with them. */
async function goOn(copy: CopyFile, piece: KeptPiece, transaction: Transaction): Promise<void> {
  const here = (await Project.findByPk(piece.id, { transaction }))!;
  const ours = (await digestsHere(piece.id, transaction)).at(-1)!;
  const known = digestsThere(copy, piece).lastIndexOf(ours);
  // A copy whose plan is older than the one here may still hold records that are not.
  const later = known < 0 ? [] : piece.revisions.slice(known + 1);
  const numberOf = (_: number, i: number) => here.revision + 1 + i;
  const plan = await putRevisions(copy, piece, later, { id: here.id, numberOf, transaction });
  await putPhotographs(copy, piece, here.id, transaction);
  await here.update(
    {
      log: await putRecords(piece, here, transaction),
      ...(later.length > 0 && { name: piece.name, ...headOf(plan) }),
      revision: here.revision + later.length,
      removedAt: piece.removedAt === null ? null : here.removedAt,
    },
    { transaction },
  );
}

/** Materials of bars that this shop does not know: they come with the bars. */
async function unknownOnRack(rack: readonly LyingBar[], transaction: Transaction): Promise<string[]> {
  const own = await ShopMaterial.findAll({ attributes: ['id'], transaction });
  const known = new Set([...MATERIALS.map((m) => m.id), ...own.map((m) => m.id)]);
  return [...new Set(rack.map((bar) => bar.material))].filter((id) => !known.has(id));
}

async function putShop(
  { setups, materials, rack }: ShopParts,
  choice: CopyChoice,
  transaction: Transaction,
): Promise<number> {
  const wantedSetups = setups.filter((s) => choice.setups.includes(s.name));
  for (const settings of wantedSetups) {
    const [row, fresh] = await Setup.findOrCreate({
      where: { name: settings.name },
      defaults: { name: settings.name, settings },
      transaction,
    });
    if (!fresh) await row.update({ settings }, { transaction });
  }
  const onRack = choice.rack ? await unknownOnRack(rack, transaction) : [];
  const wantedMaterials = materials.filter((m) => choice.materials.includes(m.id) || onRack.includes(m.id));
  for (const material of wantedMaterials)
    await ShopMaterial.upsert({ id: material.id, material }, { transaction });
  if (choice.rack) {
    await RackRow.destroy({ where: {}, transaction });
    await RackRow.bulkCreate(rack.map(lying), { transaction });
  }
  return wantedSetups.length + wantedMaterials.length + (choice.rack ? 1 : 0);
}

/**
 * Takes what is wanted out of a copy, all of it or nothing. New pieces are put on the shelf with their history; where the copy goes
 * on from what is here, its later revisions follow; where each went on alone, the copy's is put beside under a name of its own.
 * Nothing that is here goes, except a set-up, a material or the rack that is asked for in place of its own.
 */
export function takeIn(sequelize: Sequelize, copy: CopyFile, choice: CopyChoice): Promise<TakenIn> {
  return sequelize.transaction(async (transaction) => {
    const wanted = new Set(choice.pieces);
    let [added, wentOn, beside] = [0, 0, 0];
    for (const id of piecesOf(copy).filter((one) => wanted.has(one))) {
      const piece = await keptPieceOf(copy, id);
      const { standing: how } = await standing(copy, piece, transaction);
      if (how === 'new') {
        await putPiece(copy, piece, transaction);
        if (choice.rack) await putTaken(piece, transaction);
        added += 1;
      } else if (how === 'newer') {
        await goOn(copy, piece, transaction);
        wentOn += 1;
      } else if (how === 'different') {
        await putPiece(copy, piece, transaction, besideId(id, digestsThere(copy, piece).at(-1)!));
        beside += 1;
      }
    }
    const partsTaken = await putShop(await shopParts(copy), choice, transaction);
    return { added, wentOn, beside, parts: partsTaken };
  });
}

/** Puts everything as it is in a copy, in place of all that is here. The caller keeps a copy of that first. */
export function restored(sequelize: Sequelize, copy: CopyFile): Promise<TakenIn> {
  return sequelize.transaction(async (transaction) => {
    const all = { where: {}, transaction };
    await Project.destroy(all);
    await Setup.destroy(all);
    await ShopMaterial.destroy(all);
    await RackRow.destroy(all);
    const shop = await shopParts(copy);
    let added = 0;
    for (const id of piecesOf(copy)) {
      const piece = await keptPieceOf(copy, id);
      await putPiece(copy, piece, transaction);
      await putTaken(piece, transaction);
      added += 1;
    }
    const whole: CopyChoice = {
      pieces: [],
      setups: shop.setups.map((s) => s.name),
      materials: shop.materials.map((m) => m.id),
      rack: shop.rack.length > 0,
    };
    return {
      added,
      wentOn: 0,
      beside: 0,
      parts: await putShop(shop, whole, transaction),
    };
  });
}
