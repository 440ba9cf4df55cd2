import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { type Plan, type Revision, readPlan } from '../core/plan/index.ts';
import { PlanRevision } from './database.ts';
import { ApiError, badPlan } from './errors.ts';

/** Of what is older than a day one revision an hour is kept, older than a week one a day, older than two months one a week. */
const THINNED = `
  DELETE FROM plan_revisions r USING (
    SELECT revision, row_number() OVER (
      PARTITION BY CASE
        WHEN saved_at > :now::timestamptz - interval '1 day' THEN revision::text
        WHEN saved_at > :now::timestamptz - interval '7 days' THEN 'h' || date_trunc('hour', saved_at)
        WHEN saved_at > :now::timestamptz - interval '60 days' THEN 'd' || date_trunc('day', saved_at)
        ELSE 'w' || date_trunc('week', saved_at)
      END ORDER BY revision DESC) AS place
    FROM plan_revisions WHERE project_id = :projectId AND mark IS NULL AND revision > 1
  ) older
  WHERE r.project_id = :projectId AND r.revision = older.revision AND older.place > 1`;

/** Lets older revisions of a piece go, the more the older they are; the first, the newest and those with a name stay. */
export async function thinned(
  sequelize: Sequelize,
  projectId: string,
  now: Date,
  transaction?: Transaction,
): Promise<void> {
  const replacements = { projectId, now: now.toISOString() };
  await sequelize.query(THINNED, {
    replacements,
    type: QueryTypes.DELETE,
    ...(transaction && { transaction }),
  });
}

/** The revisions of a piece that are kept, newest first. */
export async function revisionsOf(projectId: string): Promise<Revision[]> {
  const rows = await PlanRevision.findAll({
    attributes: ['revision', 'savedAt', 'mark'],
    where: { projectId },
    order: [['revision', 'DESC']],
  });
  return rows.map(({ revision, savedAt, mark }) => ({ revision, savedAt: savedAt.toISOString(), mark }));
}

async function rowOf(projectId: string, revision: number): Promise<PlanRevision> {
  const row = await PlanRevision.findOne({ where: { projectId, revision } });
  if (!row) throw new ApiError('not found', 'This revision is not kept any more.');
  return row;
}

/** A plan as it was then, brought to the newest version of the plan file. */
export async function planThen(projectId: string, revision: number): Promise<Plan> {
  const read = readPlan((await rowOf(projectId, revision)).plan);
  if (!read.ok) throw badPlan(read.problems);
  return read.plan;
}

/** Gives a revision a name, so that it is found and never thinned out; null takes it away. */
export async function markRevision(
  projectId: string,
  revision: number,
  mark: string | null,
): Promise<Revision> {
  const row = await rowOf(projectId, revision);
  await row.update({ mark });
  return { revision, savedAt: row.savedAt.toISOString(), mark };
}
