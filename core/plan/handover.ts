import { z } from 'zod';
import { sizeOf, writtenOn } from '../billet/billet.ts';
import type { BenchRecord } from '../records/record.ts';
import { nameText } from '../units/names.ts';
import { formatFineSizes } from '../units/length.ts';
import type { Evaluation } from './evaluate.ts';
import { type Plan, type Problem, type ReadPlan, readPlan, readPlanText } from './plan.ts';

const HANDOVER_FORMAT = 'retablo-handover';

export const makerName = nameText(60, 'A maker needs a name');

/** A piece of a bar that has to come so, by what is written on it. mm */
const pieceWanted = z.strictObject({
  piece: z.string().min(1).max(20),
  widthMm: z.number().positive(),
  heightMm: z.number().positive(),
  lengthMm: z.number().positive(),
});

export type PieceWanted = z.infer<typeof pieceWanted>;

/** A piece handed over to another maker: the whole plan with what came of it, and which bar of it is theirs. docs/plan-format.md. */
const handoverSchema = z.strictObject({
  format: z.literal(HANDOVER_FORMAT),
  version: z.literal(1, 'This hand-over is of a newer version: take a newer Retablo'),
  by: makerName,
  to: makerName,
  at: z.iso.datetime('at must be an instant such as 2026-01-31T12:00:00Z'),
  /** The id of the bar that is theirs. */
  lane: z.string().min(1).max(60),
  /** What it comes to here. */
  wanted: z.array(pieceWanted).max(400),
  plan: z.unknown(),
});

export type Handover = Omit<z.infer<typeof handoverSchema>, 'plan'> & { readonly plan: Plan };

export type ReadHandover =
  | { readonly ok: true; readonly handover: Handover }
  | { readonly ok: false; readonly problems: readonly Problem[] };

/** What a bar comes to, piece by piece, as it stands; nothing where it cannot be made. */
export function comesTo(evaluation: Evaluation, laneId: string): PieceWanted[] {
  const lane = evaluation.lanes.find((l) => l.lane.id === laneId);
  return (lane?.ends ?? []).map((bar, i) => ({
    piece: writtenOn(bar, i),
    ...sizeOf(bar),
    lengthMm: bar.lengthMm,
  }));
}

/** The file that is handed over. */
export const handedOver = (
  evaluation: Evaluation,
  lane: string,
  makers: { readonly by: string; readonly to: string },
  at: string,
): Handover => ({
  format: HANDOVER_FORMAT,
  version: 1,
  ...makers,
  at,
  lane,
  wanted: comesTo(evaluation, lane),
  plan: evaluation.plan,
});

const isHandover = (content: unknown): boolean =>
  typeof content === 'object' &&
  content !== null &&
  (content as { format?: unknown }).format === HANDOVER_FORMAT;

/** Reads a hand-over, or says what is wrong with it and where. */
export function readHandover(content: unknown): ReadHandover {
  const parsed = handoverSchema.safeParse(content);
  if (!parsed.success)
    return {
      ok: false,
      problems: parsed.error.issues.map(({ path, message }) => ({ path: path.join('.'), message })),
    };
  const read = readPlan(parsed.data.plan);
  if (!read.ok) return { ok: false, problems: read.problems.map((p) => ({ ...p, path: `plan.${p.path}` })) };
  if (!read.plan.lanes.some((l) => l.id === parsed.data.lane))
    return { ok: false, problems: [{ path: 'lane', message: `The plan has no bar “${parsed.data.lane}”` }] };
  // What was noted as it was opened there is none of their changes.
  const notes = read.plan.notes.replace(NOTED, '');
  return { ok: true, handover: { ...parsed.data, plan: { ...read.plan, notes } } };
}

/** How the notes of a piece begin that was handed over. */
const NOTED = /^Handed over by .*(\n|$)/;

/** The plan of a file that is one, or that was handed over: then its notes say whose bar is whose. */
export function planInFile(content: unknown): ReadPlan {
  if (!isHandover(content)) return readPlan(content);
  const read = readHandover(content);
  if (!read.ok) return { ok: false, problems: [...read.problems] };
  const { by, to, lane, wanted, plan } = read.handover;
  const name = plan.lanes.find((l) => l.id === lane)!.name;
  const note = `Handed over by ${by} to ${to}: “${name}” is yours; it comes to ${wantedSaid(wanted, plan)}.`;
  return { ok: true, plan: { ...plan, notes: `${note}\n${plan.notes}` } };
}

/** The same of a file's text. */
export function planInText(text: string): ReadPlan {
  const read = readPlanText(text);
  // What is no plan may have been handed over.
  if (read.ok || !text.includes(HANDOVER_FORMAT)) return read;
  try {
    return planInFile(JSON.parse(text));
  } catch {
    return read;
  }
}

/** “2 × 25 × 25 × 180 mm”: alike pieces together. */
export function wantedSaid(
  wanted: readonly PieceWanted[],
  { shop: { lengths } }: Pick<Plan, 'shop'>,
): string {
  const sizes = wanted.map((w) => formatFineSizes([w.widthMm, w.heightMm, w.lengthMm], lengths));
  const alike = [...new Set(sizes)].map((size) => {
    const count = sizes.filter((s) => s === size).length;
    return count > 1 ? `${count} × ${size}` : size;
  });
  return alike.join(' and ') || 'nothing yet';
}

/** A size of a piece that must mate with what is here. mm */
export interface Mating {
  readonly piece: string;
  readonly what: 'width' | 'height' | 'length';
  readonly wanted: number;
  /** Null where there is no such piece. */
  readonly comes: number | null;
  /** Within what the shop can measure. */
  readonly mates: boolean;
}

/** What their bar comes to beside what it has to come to here, size by size. */
export function matingOf(mine: Evaluation, theirs: Evaluation, lane: string): Mating[] {
  const comes = comesTo(theirs, lane);
  const { caliperMm, ruleMm } = mine.shop.measuring;
  return comesTo(mine, lane).flatMap((want) => {
    const came = comes.find((c) => c.piece === want.piece);
    const of = (what: Mating['what'], key: 'widthMm' | 'heightMm' | 'lengthMm', within: number): Mating => ({
      piece: want.piece,
      what,
      wanted: want[key],
      comes: came?.[key] ?? null,
      mates: came !== undefined && Math.abs(came[key] - want[key]) <= within,
    });
    return [
      of('width', 'widthMm', caliperMm),
      of('height', 'heightMm', caliperMm),
      of('length', 'lengthMm', ruleMm),
    ];
  });
}

/** The plan with their bar in place of the same one here, and whatever materials it needs; what came of it comes by itself. */
export function withTheirBar(mine: Plan, { lane, plan: theirs }: Handover): Plan {
  const bar = theirs.lanes.find((l) => l.id === lane)!;
  const known = new Set(mine.materials.map((m) => m.id));
  return {
    ...mine,
    materials: [...mine.materials, ...theirs.materials.filter((m) => !known.has(m.id))],
    lanes: mine.lanes.some((l) => l.id === lane)
      ? mine.lanes.map((l) => (l.id === lane ? bar : l))
      : [...mine.lanes, bar],
  };
}

/** What was written of their bar, each by its maker. */
export function theirRecords({ lane, by, plan }: Handover): BenchRecord[] {
  const steps = new Set(plan.lanes.find((l) => l.id === lane)!.steps.map((s) => s.id));
  return (plan.records ?? []).filter((r) => steps.has(r.step)).map((r) => ({ ...r, by: r.by ?? by }));
}
