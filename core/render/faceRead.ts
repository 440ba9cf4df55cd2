import type { Billet } from '../billet/billet.ts';
import type { TileLay } from '../billet/fields/tiled.ts';
import { TILE_LAYS } from '../billet/fields/tiled.ts';
import { tilesAlong } from '../billet/tilesAlong.ts';
import { type TileParameters, sizesOf, tileFits, tileLays } from '../moves/saw/tile.ts';
import type { Remedy } from '../moves/index.ts';
import { type Evaluation, evaluate, materialOrder, stepResult, withRemedy } from '../plan/index.ts';
import {
  type Along,
  type FacePhotographed,
  type FaceSight,
  alongWay,
  faceSighted,
  offAt,
} from '../sighting/along.ts';
import { faceForeseen } from './foreseen.ts';

/** A tile of the face as it was found: where it really lies, and how it really lies where that is not as foreseen. mm from end A */
export interface TileSeen {
  readonly number: number;
  readonly fromMm: number;
  readonly toMm: number;
  readonly foreseen: { readonly fromMm: number; readonly toMm: number };
  /** How well it goes with what was foreseen of it. */
  readonly alike: number;
  readonly lies: TileLay | null;
}

/** What a photograph of a broad face showed, tile by tile. */
export interface FaceRead {
  readonly sight: FaceSight;
  readonly tiles: readonly TileSeen[];
  /** What says in the plan how the tiles lie; null where all lie as they should. */
  readonly remedy: Remedy | null;
}

/** A tile that goes with what was foreseen no better than this, and much worse than the rest, lies otherwise; if so much better, that way. */
const UNLIKE = 0.5;
const WORSE = 0.2;
const BETTER = 0.2;

const isFull = (bar: Billet, asked: FaceAsked, which: 'A' | 'B'): boolean =>
  which === 'A' ? asked.fromMm <= 0 : asked.toMm >= bar.lengthMm;

export type FaceAsked = Omit<FacePhotographed, 'endsAtA' | 'endsAtB'>;

/** Reads a photograph of a stretch of a piece's upper face; null where there is no such piece. */
export function faceRead(
  evaluation: Evaluation,
  stepId: string,
  pieceOf: (after: readonly Billet[]) => Billet | undefined,
  asked: FaceAsked,
): FaceRead | null {
  const barOf = (e: Evaluation): Billet | undefined => {
    const result = stepResult(e, stepId);
    return pieceOf((result?.reckoned ?? result)?.after ?? []);
  };
  const foreseenIn = (e: Evaluation, bar: Billet) =>
    faceForeseen(bar, e.shop, materialOrder(e), asked.fromMm, asked.toMm);
  const bar = barOf(evaluation);
  if (!bar) return null;
  const sight = faceSighted(
    { ...asked, endsAtA: isFull(bar, asked, 'A'), endsAtB: isFull(bar, asked, 'B') },
    foreseenIn(evaluation, bar),
  );
  if (!sight.ok) return { sight, tiles: [], remedy: null };
  const { along, laidOut, local } = sight;
  const over = (values: Float32Array, fromMm: number, toMm: number): number => {
    const column = (mm: number) =>
      Math.round(((mm - along.fromMm) / (along.toMm - along.fromMm)) * values.length);
    const part = values.subarray(Math.max(0, column(fromMm)), Math.max(1, column(toMm)));
    return part.reduce((sum, v) => sum + v, 0) / Math.max(1, part.length);
  };
  const seen = tilesAlong(bar).flatMap(({ number, ...foreseen }): TileSeen[] => {
    const [fromMm, toMm] = [reallyAt(along, foreseen.fromMm), reallyAt(along, foreseen.toMm)];
    const [low, high] = [Math.max(fromMm, along.fromMm), Math.min(toMm, along.toMm)];
    if (high - low < 0.5 * (toMm - fromMm)) return [];
    return [{ number, fromMm, toMm, foreseen, alike: over(local, low, high), lies: null }];
  });
  const tile = tileStepOf(evaluation, stepId);
  const mean = seen.reduce((sum, t) => sum + t.alike, 0) / Math.max(1, seen.length);
  const odd = seen.filter((t) => t.alike < UNLIKE && t.alike < mean - WORSE);
  const laid = tile && stepResult(evaluation, tile.id);
  if (!tile || !laid?.before[0] || odd.length === 0) return { sight, tiles: seen, remedy: null };
  const lays = tileLays(tile.parameters, sizesOf(laid.before[0], tile.parameters, evaluation.shop).count);
  const found = new Map<number, TileLay>();
  for (const one of odd) {
    let best = one.alike + BETTER;
    for (const lay of TILE_LAYS) {
      if (lay === lays[one.number - 1] || !tileFits(lay, tile.parameters)) continue;
      const other = lays.map((l, k) => (k === one.number - 1 ? lay : l));
      const changed = evaluate(
        withRemedy(evaluation, laid, { label: '', set: { lay: other } }).plan,
        evaluation,
      );
      const otherBar = barOf(changed);
      if (!otherBar) continue;
      const alike = over(alongWay(laidOut, foreseenIn(changed, otherBar), along), one.fromMm, one.toMm);
      if (alike > best) {
        best = alike;
        found.set(one.number, lay);
      }
    }
  }
  const tiles = seen.map((t) => ({ ...t, lies: found.get(t.number) ?? null }));
  const really = lays.map((lay, k) => found.get(k + 1) ?? lay);
  return {
    sight,
    tiles,
    remedy: found.size > 0 ? { label: 'Say so in the plan', set: { lay: really }, step: tile.id } : null,
  };
}

const ROUNDS = 20;

/** Where along the real bar that is which was foreseen so far from end A. mm */
function reallyAt(along: Along, foreseenMm: number): number {
  let at = foreseenMm;
  for (let round = 0; round < ROUNDS; round++) at = foreseenMm - offAt(along, at);
  return at;
}

/** The last sawing into tiles before a step, in its lane. */
function tileStepOf({ plan }: Evaluation, stepId: string): { id: string; parameters: TileParameters } | null {
  const lane = plan.lanes.find((l) => l.steps.some((s) => s.id === stepId));
  const upTo = lane?.steps.slice(0, lane.steps.findIndex((s) => s.id === stepId) + 1) ?? [];
  const tile = upTo.findLast((s) => s.kind === 'tile');
  return tile?.kind === 'tile' ? tile : null;
}
