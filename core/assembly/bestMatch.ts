import type { Placed } from '../moves/contract/move.ts';
import type { Laid } from '../moves/lay/assemble/laid.ts';
import { type Seam, seamsOf, shownStations } from './seams.ts';

/** Which piece goes where so that neighbours come from near one another in the parent bar. */
export interface BestMatch {
  /** For each place, the index of the piece that should lie there (into the pieces as they lay). */
  readonly order: readonly number[];
  /** Sum over seams, at both ends, of the distance along the parent bar, mm: as it lay, and now. */
  readonly beforeMm: number;
  readonly afterMm: number;
  /** No arrangement can be below this, mm. Equal to `afterMm` where the search was exact. */
  readonly boundMm: number;
  readonly exact: boolean;
}

/** Up to this many pieces every arrangement is looked at (handbook, geometry). */
const EXACT_PIECES = 9;
/** Seeded starts of the search beyond that, each improved by swaps until none helps. */
const STARTS = 24;

/** The places with pieces put where an order says; every place keeps its orientation. */
export const readingOrder = (places: readonly Placed[], order: readonly number[]): Placed[] =>
  places.map((place, i) => ({ ...places[order[i]], orientation: place.orientation }));

type Cost = (seam: Seam, first: number, second: number) => number;

/** Distance at both ends if these two pieces met at this seam, places keeping their orientations; 0 between two bars. */
function costOf(laid: readonly Laid[]): Cost {
  const shown = laid.map((at) =>
    laid.map((from) =>
      shownStations({ ...from, place: { ...from.place, orientation: at.place.orientation } }),
    ),
  );
  return (seam, first, second) => {
    if (laid[first].billet.piece?.lane !== laid[second].billet.piece?.lane) return 0;
    const [a, b] = [shown[seam.first][first], shown[seam.second][second]];
    return Math.abs(a.front - b.front) + Math.abs(a.back - b.back);
  };
}

const total = (seams: readonly Seam[], order: readonly number[], cost: Cost): number =>
  seams.reduce((sum, seam) => sum + cost(seam, order[seam.first], order[seam.second]), 0);

/** Pieces may change places only with pieces of the same bar. */
const mayLie = (laid: readonly Laid[], place: number, piece: number): boolean =>
  laid[place].billet.piece?.lane === laid[piece].billet.piece?.lane;

/** Places keep their orientation; pieces of one bar change places among themselves. */
export function bestMatch(laid: readonly Laid[], columns: number, rows: number): BestMatch {
  const seams = seamsOf(columns, rows);
  const cost = costOf(laid);
  const asItLay = laid.map((_, i) => i);
  const beforeMm = total(seams, asItLay, cost);
  const exact = laid.length <= EXACT_PIECES;
  const order = exact ? searchAll(laid, seams, cost) : searchBySwaps(laid, seams, cost);
  const afterMm = total(seams, order, cost);
  return { order, beforeMm, afterMm, boundMm: exact ? afterMm : lowerBound(laid, seams, cost), exact };
}

/** Place by place, leaving off where the seams laid so far cost more than the best whole. */
function searchAll(laid: readonly Laid[], seams: readonly Seam[], cost: Cost): number[] {
  const closing = laid.map((_, place) => seams.filter((s) => Math.max(s.first, s.second) === place));
  let best = laid.map((_, i) => i);
  let bestCost = total(seams, best, cost);
  const order: number[] = [];
  const used = laid.map(() => false);
  const lay = (place: number, soFar: number): void => {
    if (soFar >= bestCost - 1e-9) return;
    if (place === laid.length) {
      best = [...order];
      bestCost = soFar;
      return;
    }
    for (let piece = 0; piece < laid.length; piece++) {
      if (used[piece] || !mayLie(laid, place, piece)) continue;
      used[piece] = true;
      order[place] = piece;
      const more = closing[place].reduce((sum, s) => sum + cost(s, order[s.first], order[s.second]), 0);
      lay(place + 1, soFar + more);
      used[piece] = false;
    }
  };
  lay(0, 0);
  return best;
}

/** A small generator of its own, so that the same pieces always give the same answer. */
function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) | 0;
    return (state >>> 0) / 4294967296;
  };
}

function searchBySwaps(laid: readonly Laid[], seams: readonly Seam[], cost: Cost): number[] {
  const random = seeded(laid.length);
  let best = laid.map((_, i) => i);
  let bestCost = total(seams, best, cost);
  for (let start = 0; start < STARTS; start++) {
    const order = laid.map((_, i) => i);
    if (start > 0) shuffleAlike(order, laid, random);
    const reached = improve(order, laid, seams, cost);
    if (reached >= bestCost) continue;
    best = order;
    bestCost = reached;
  }
  return best;
}

function shuffleAlike(order: number[], laid: readonly Laid[], random: () => number): void {
  for (let i = order.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    if (mayLie(laid, i, order[j]) && mayLie(laid, j, order[i])) [order[i], order[j]] = [order[j], order[i]];
  }
}

/** Swaps two pieces as long as that helps; the cost reached. */
function improve(order: number[], laid: readonly Laid[], seams: readonly Seam[], cost: Cost): number {
  let now = total(seams, order, cost);
  for (let better = true; better;) {
    better = false;
    for (let i = 0; i < order.length; i++)
      for (let j = i + 1; j < order.length; j++) {
        if (!mayLie(laid, i, order[j]) || !mayLie(laid, j, order[i])) continue;
        [order[i], order[j]] = [order[j], order[i]];
        const swapped = total(seams, order, cost);
        if (swapped < now - 1e-9) {
          now = swapped;
          better = true;
        } else [order[i], order[j]] = [order[j], order[i]];
      }
  }
  return now;
}

/** Every seam on its own at the least that any two pieces could make it. */
function lowerBound(laid: readonly Laid[], seams: readonly Seam[], cost: Cost): number {
  return seams.reduce((sum, seam) => {
    let least = Infinity;
    for (let a = 0; a < laid.length; a++)
      for (let b = 0; b < laid.length; b++)
        if (a !== b && mayLie(laid, seam.first, a) && mayLie(laid, seam.second, b))
          least = Math.min(least, cost(seam, a, b));
    return sum + (Number.isFinite(least) ? least : 0);
  }, 0);
}
