import { QueryTypes, type Sequelize } from 'sequelize';
import { MATERIALS } from '../core/materials/table.ts';
import { MOVE_KINDS, moveOf } from '../core/moves/index.ts';
import type { PieceEvidence } from '../core/learning/index.ts';
import type { FoundRecord, PieceMeasured, ShopLog } from '../core/plan/index.ts';
import { Preview, Project, ShopMaterial } from './database.ts';

/** Pieces whose sizes are looked through at most. */
const MOST_PIECES = 1000;

interface Asked {
  readonly search: string;
  readonly offset: number;
  readonly limit: number;
}

/** A text as a pattern of LIKE that stands anywhere. */
const anywhere = (text: string): string => `%${text.replace(/[\\%_]/g, '\\$&')}%`;

/**
 * Records of all pieces on the shelf, the latest first, in which every word stands: in the remark, by whom, in the name of the
 * piece, of the move, or of a steel of its plan. Worked out by the database; no plan is opened.
 */
export async function shopLog(sequelize: Sequelize, { search, offset, limit }: Asked): Promise<ShopLog> {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const own = await ShopMaterial.findAll();
  const steels = [...MATERIALS, ...own.map(({ material }) => material)];
  const replacements: Record<string, unknown> = { offset, limit };
  const conditions = words.map((word, i) => {
    const has = (text: string) => text.toLowerCase().includes(word);
    replacements[`word${i}`] = anywhere(word);
    // An empty list is none of SQL's.
    replacements[`kinds${i}`] = ['', ...MOVE_KINDS.filter((kind) => has(moveOf(kind).title))];
    replacements[`steels${i}`] = [
      '{}',
      ...steels.filter((m) => has(m.name) || has(m.id)).map((m) => anywhere(`"${m.id}"`)),
    ];
    return `(record->>'remark' ILIKE :word${i} OR record->>'by' ILIKE :word${i} OR name ILIKE :word${i}
      OR kind IN (:kinds${i}) OR plan LIKE ANY (ARRAY[:steels${i}]))`;
  });
  const rows = await sequelize.query<FoundRecord & { total: string }>(
    `WITH written AS (
      SELECT r.project_id AS "projectId", p.name, p.lengths, r.record, (v.plan->'lanes')::text AS plan,
        (SELECT s->>'kind' FROM json_array_elements(v.plan->'lanes') l, json_array_elements(l->'steps') s
          WHERE s->>'id' = r.record->>'step' LIMIT 1) AS kind
      FROM bench_records r
      JOIN projects p ON p.id = r.project_id AND p.removed_at IS NULL
      JOIN plan_revisions v ON v.project_id = p.id AND v.revision = p.revision
      WHERE r.record IS NOT NULL AND r.record::text <> 'null')
    SELECT "projectId", name, lengths, record, kind, count(*) OVER() AS total FROM written
    ${conditions.length > 0 ? `WHERE ${conditions.join(' AND ')}` : ''}
    ORDER BY record->>'began' DESC, record->>'id' OFFSET :offset LIMIT :limit`,
    { replacements, type: QueryTypes.SELECT },
  );
  return {
    total: Number(rows.at(0)?.total ?? 0),
    found: rows.map(({ projectId, name, lengths, kind, record }) => ({
      projectId,
      name,
      lengths,
      kind,
      record,
    })),
  };
}

/** What the records of every piece say of the shop's numbers, as it was kept with the piece's small picture. */
export async function shopEvidence(): Promise<PieceEvidence[]> {
  const pieces = await Project.findAll({
    attributes: ['id', 'name'],
    where: { removedAt: null },
    include: [{ model: Preview, attributes: ['evidence'], required: true }],
    order: [['updatedAt', 'DESC']],
    limit: MOST_PIECES,
  });
  return pieces.flatMap(({ id, name, Preview: made }) =>
    (made?.evidence ?? []).map((e) => ({ ...e, projectId: id, name })),
  );
}

/** What was measured of every piece on the shelf beside what was reckoned, as it was kept with the piece's small picture; the latest first. */
export async function shopMeasured(): Promise<PieceMeasured[]> {
  const pieces = await Project.findAll({
    attributes: ['id', 'name'],
    where: { removedAt: null },
    include: [{ model: Preview, attributes: ['measured'], required: true }],
    order: [['updatedAt', 'DESC']],
    limit: MOST_PIECES,
  });
  return pieces.flatMap(({ id, name, Preview: made }) =>
    made?.measured?.length ? [{ projectId: id, name, measured: made.measured }] : [],
  );
}
