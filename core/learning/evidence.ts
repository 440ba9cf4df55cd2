import { group } from 'd3-array';
import { median } from 'simple-statistics';
import type { Billet } from '../billet/billet.ts';
import { massKg, totalVolume } from '../materials/volumes.ts';
import type { MoveKind } from '../moves/index.ts';
import { type Evaluation, asPlanned, evaluate } from '../plan/index.ts';
import { isDone, ofTheBar } from '../records/record.ts';
import type { Shop } from '../shop/shop.ts';
import { type Done, READ_SD, STACK_RIGHT_TO, heatsOf, isLaid, weighed } from './done.ts';
import type { Seen } from './estimate.ts';
import { type NumberId, subjectOf } from './numbers.ts';
import { type Found, OF_A_MOVE } from './perMove.ts';
import { sortOf } from './sorts.ts';

/** One number of the shop as one move of one piece has it. */
export interface Evidence extends Seen {
  readonly number: NumberId;
  /** Of which set-up, handle, powder or kind of move: see `subjectOf`. */
  readonly of: string;
  readonly step: string;
  readonly kind: MoveKind;
  /** When that was written: an ISO instant. */
  readonly at: string;
  /** The set-up that it was done with. */
  readonly setUp: string;
  /** Of several sorts of such moves, which. */
  readonly sort?: string;
  /** Whether the bar bore nickel. */
  readonly hasNickel: boolean;
}

/** The same with the piece it comes of. */
export interface PieceEvidence extends Evidence {
  readonly projectId: string;
  readonly name: string;
}

/** Mass share of nickel from which a steel counts as bearing it. */
const NICKEL = 0.01;

/** Whether a twentieth or more of some bar is a steel with nickel in it. */
export const bearsNickel = (bars: readonly Billet[], { materials }: Shop): boolean =>
  bars.some((bar) =>
    Object.entries(bar.volumes).some(
      ([id, mm3]) =>
        mm3 > 0.05 * totalVolume(bar.volumes) &&
        (materials.find((m) => m.id === id)?.composition.Ni ?? 0) >= 100 * NICKEL,
    ),
  );

/** From weighing to weighing along a bar: what heats took, and what cold work lost that nobody booked. */
function weighings(all: readonly Done[]): Evidence[] {
  const found: Evidence[] = [];
  let last: { kg: number; error: number } | null = null;
  let heats = 0;
  let cold = 0;
  for (const one of all) {
    const { result, evaluation, reckoned } = one;
    const { materials, measuring } = evaluation.shop;
    const scaleKg = READ_SD * measuring.scaleKg * Math.sqrt(reckoned.length);
    const kg = massKg({ ...sumOf(reckoned) }, materials);
    const came = weighed(one);
    const others = result.losses.filter((l) => l.cause !== 'scale' && l.cause !== 'unaccounted');
    const isCut =
      others.some((l) => totalVolume(l.volumes) > 0) || one.came.some((c) => c.cropped || c.scrapped);
    const begins = totalVolume(result.added) > 0 && result.before.length === 0;
    if (isCut) last = null;
    if (begins) [last, heats, cold] = [{ kg, error: STACK_RIGHT_TO * kg }, 0, 0];
    else if (totalVolume(result.added) > 0 || result.before.some((b) => b.piece?.lane)) last = null;
    heats += heatsOf(one);
    cold += isLaid(result.step) ? 1 : 0;
    if (came !== null && last && !begins) {
      const error = Math.hypot(scaleKg, last.error) / last.kg;
      if (heats > 0)
        found.push(
          evidence('scale', one, {
            value: 1 - (came / last.kg) ** (1 / heats),
            error: error / heats,
          }),
        );
      else if (cold > 0)
        found.push(evidence('unaccounted', one, { value: (1 - came / last.kg) / cold, error: error / cold }));
    }
    if (came !== null) [last, heats, cold] = [{ kg: came, error: scaleKg }, 0, 0];
  }
  return found;
}

function sumOf(bars: readonly Billet[]): Record<string, number> {
  const sum: Record<string, number> = {};
  for (const bar of bars) for (const [id, mm3] of Object.entries(bar.volumes)) sum[id] = (sum[id] ?? 0) + mm3;
  return sum;
}

function evidence(number: NumberId, done: Done, found: Found): Evidence {
  const { value, error, shared, isAtMost } = found;
  const { result, evaluation, records } = done;
  const { shop } = evaluation;
  const before = result.before.length > 0 ? result.before : done.reckoned;
  const { step } = result;
  const sort = sortOf(number, { step, before: result.before, shop });
  return {
    number,
    of: subjectOf(number, shop, step),
    value,
    error,
    ...(shared !== undefined && { shared }),
    ...(isAtMost && { isAtMost }),
    step: step.id,
    kind: step.kind,
    setUp: shop.name,
    ...(sort !== null && { sort }),
    at: records.at(-1)!.ended ?? records.at(-1)!.written,
    hasNickel: bearsNickel(before, shop),
  };
}

/** What a move says of a number, once: what is the same hand, stop and fire for all its pieces is no more for being many. */
function ofAMove(number: NumberId, done: Done): Evidence[] {
  const found = OF_A_MOVE[number]!(done).filter((f) => Number.isFinite(f.value) && Number.isFinite(f.error));
  return [...group(found, (f) => f.which).values()].map(([first, ...more]) =>
    evidence(number, done, {
      ...first,
      value: median([first, ...more].map((f) => f.value)),
      error: first.error / Math.sqrt(1 + more.length),
    }),
  );
}

/** What the records of one piece say of the shop's numbers, in the order of its bars and moves. Test pieces and what is still being done say nothing. */
export function evidenceOf(stands: Evaluation): Evidence[] {
  if (!stands.plan.records?.length) return [];
  const planned = evaluate(asPlanned(stands.plan), stands);
  return stands.lanes.flatMap((lane) => {
    const all = lane.steps.flatMap((result): Done[] => {
      const reckoned = (result.reckoned ?? result).after;
      if (!reckoned) return [];
      const records = isDone(result.records) ? ofTheBar(result.records) : [];
      const came = records.flatMap((r) => r.pieces ?? []);
      return [{ result, lane, evaluation: stands, planned, records, came, reckoned }];
    });
    const done = all.filter((d) => d.records.length > 0);
    const each = done.flatMap((one) =>
      (Object.keys(OF_A_MOVE) as NumberId[]).flatMap((number) => ofAMove(number, one)),
    );
    return [...each, ...weighings(all)];
  });
}
