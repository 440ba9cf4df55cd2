import * as Comlink from 'comlink';
import { create } from 'zustand';
import { unlikeness } from '../../../core/likeness/features.ts';
import type { Grey } from '../../../core/likeness/grey.ts';
import type { Plan, Wish } from '../../../core/plan/index.ts';
import { ALL, type Piece, type Spec } from '../../../core/recipes/index.ts';
import type { Painted } from '../../../core/render/paint.ts';
import { askApart, beginApartAhead } from './workers/host.ts';
import type { Candidate, Search, Tried } from './workers/wishing.ts';

/** A plan that was found, by its number among all that were. */
export interface Found extends Candidate {
  readonly id: number;
  /** The one shown before it that it looks like; null where it is the first of its kind. */
  readonly like: number | null;
}

/** Why one could not be made. */
export type Refusal = Extract<Tried, { ok: false }>;

interface Gallery {
  /** Whose it is, and what was wished: another wish, another gallery. */
  readonly key: string | null;
  readonly found: readonly Found[];
  readonly refused: readonly Refusal[];
  readonly looking: boolean;
  /** How far the search for what is like a picture is, 0 … 1; null while there is none. */
  readonly progress: number | null;
  readonly error: string | null;
  readonly kept: readonly number[];
}

const NOTHING: Gallery = {
  key: null,
  found: [],
  refused: [],
  looking: false,
  progress: null,
  error: null,
  kept: [],
};

export const useWishes = create<Gallery>(() => NOTHING);

/** Less unlike than this, and of one recipe, a plan counts as more of a kind. */
const MORE_OF_A_KIND = 0.55;
/** Workers side by side, and plans that each is to find before it rests; tries at most. */
const WORKERS = 2;
const ENOUGH = 33;
const MOST_TRIES = 90;
/** Of one kind, or beside one plan. */
const ENOUGH_MORE = 12;

const { getState: now, setState: set } = useWishes;
let ends: (() => void)[] = [];
let seed = 1;

const likeOf = (candidate: Candidate, found: readonly Found[]): number | null => {
  let [nearest, least]: [Found | null, number] = [null, MORE_OF_A_KIND];
  for (const other of found) {
    if (other.like !== null || other.offer.spec.recipe !== candidate.offer.spec.recipe) continue;
    const apart = unlikeness(candidate.features, other.features);
    if (apart < least) [nearest, least] = [other, apart];
  }
  return nearest?.id ?? null;
};

function take(key: string, tried: Tried, of: number | undefined): void {
  const { key: present, found, refused } = now();
  // An answer that comes late is dropped.
  if (present !== key) return;
  if (!tried.ok) return set({ refused: [...refused, tried] });
  const { candidate } = tried;
  // What is like a picture stands for itself.
  const like = candidate.likePicture ? null : (of ?? likeOf(candidate, found));
  const next: Found = { ...candidate, id: found.length + 1, like };
  set({ found: [...found, next] });
}

/** What decides which plans are found. */
export const wishKey = (projectId: string, { goal, blade, shop, materials }: Plan, wish: Wish): string =>
  JSON.stringify([projectId, goal, blade, shop, materials, wish]);

export const pieceOf = ({ name, goal, shop, materials, blade }: Plan): Piece => ({
  name,
  goal,
  shop,
  materials,
  blade,
});

/** Stops looking; what was found stays. */
export function stopLooking(): void {
  for (const end of ends) end();
  ends = [];
  set({ looking: false, progress: null });
}

function look(key: string, searches: readonly Search[], of?: number): void {
  set({ looking: true, error: null });
  let left = searches.length;
  for (const search of searches) {
    const { answer, end } = askApart('wish', (api) =>
      api.seek(
        search,
        Comlink.proxy((tried: Tried) => take(key, tried, of)),
      ),
    );
    ends.push(end);
    answer.then(
      () => --left === 0 && now().key === key && set({ looking: false }),
      (error: Error) => now().key === key && set({ looking: false, error: error.message }),
    );
  }
}

/** Looks for what comes nearest to one repeat of a picture, in place of what was found like another. */
export function lookLike(key: string, piece: Piece, wish: Wish, picture: Grey): void {
  stopLooking();
  const { found, key: present } = now();
  if (present !== key) set({ ...NOTHING, key });
  else set({ found: found.map((one) => ({ ...one, likePicture: undefined })) });
  set({ looking: true, progress: 0, error: null });
  const shares = Array.from({ length: WORKERS }, () => 0);
  let left = WORKERS;
  const done = (trouble?: string) => {
    left--;
    const { key: stays, found: all, progress, error } = now();
    if (stays !== key) return;
    const isNone = left === 0 && !all.some((one) => one.likePicture);
    set({
      looking: left > 0,
      progress: left > 0 ? progress : null,
      error: trouble ?? error ?? (isNone ? NONE_LIKE : null),
    });
  };
  for (const part of shares.keys()) {
    const { answer, end } = askApart('wish', (api) =>
      api.seekLike(
        { piece, wish, share: { part, of: WORKERS } },
        picture,
        Comlink.proxy((tried: Tried) => take(key, tried, undefined)),
        Comlink.proxy((progress: number) => {
          shares[part] = progress;
          if (now().key === key && now().looking)
            set({ progress: shares.reduce((a, b) => a + b, 0) / WORKERS });
        }),
      ),
    );
    ends.push(end);
    answer.then(
      () => done(),
      (error: Error) => done(error.message),
    );
  }
}
const NONE_LIKE = 'Nothing that the wish allows makes such a face: allow more of what the shop does.';

/** Has those who look ready before a wish is said: the first plans are there sooner. */
export const readyToLook = (piece: Piece): void =>
  beginApartAhead('wish', WORKERS, (api) => api.seekOnce(piece));

/** Looks for plans for a wish, from nothing. */
export function lookAnew(key: string, piece: Piece, wish: Wish): void {
  stopLooking();
  set({ ...NOTHING, key });
  seed = 1;
  more(key, piece, wish);
}

/** Looks on for others. */
export function more(key: string, piece: Piece, wish: Wish): void {
  const parts = Array.from({ length: WORKERS }, (_, part) => ({ part, of: WORKERS }));
  look(
    key,
    parts.map((share) => ({ piece, wish, seed, share, enough: ENOUGH, most: MOST_TRIES })),
  );
  seed++;
}

/** What recipes show, worked out once and told as it comes. */
export const useRecipePictures = create<Readonly<Record<string, Painted>>>(() => ({}));
let isPainting = false;
export function paintRecipes(): void {
  if (isPainting) return;
  isPainting = true;
  askApart('wish', (api) =>
    api.pictures(
      Comlink.proxy((recipe: string, picture: Painted) => useRecipePictures.setState({ [recipe]: picture })),
    ),
  ).answer.catch(() => (isPainting = false));
}

/** Plans of one recipe, whatever was found. */
export const lookFor = (key: string, piece: Piece, wish: Wish, only: string): void =>
  look(key, [{ piece, wish, seed: ++seed, share: ALL, enough: ENOUGH_MORE, most: ENOUGH_MORE, only }]);

/** More plans of one recipe, or the neighbours of one plan. */
export function lookBeside(
  key: string,
  piece: Piece,
  wish: Wish,
  { id, spec }: { id: number; spec: Spec },
  how: 'more of a kind' | 'vary',
): void {
  const what = how === 'vary' ? { beside: spec } : { only: spec.recipe };
  // Its neighbours are counted: all of them are shown, what is married to it last.
  const most = how === 'vary' ? MOST_TRIES : ENOUGH_MORE;
  look(key, [{ piece, wish, seed: ++seed, share: ALL, enough: most, most, ...what }], id);
}

export const keep = (id: number): void => {
  const { kept } = now();
  set({ kept: kept.includes(id) ? kept.filter((k) => k !== id) : [...kept, id] });
};
