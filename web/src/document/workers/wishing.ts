import { facePlane } from '../../../../core/billet/face.ts';
import type { Billet } from '../../../../core/billet/billet.ts';
import { type Blade, bladeFit, groundBlade } from '../../../../core/blade/index.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import type { Features } from '../../../../core/likeness/features.ts';
import type { Grey } from '../../../../core/likeness/grey.ts';
import { laidTogether, likenessOf, soughtIn } from '../../../../core/likeness/pose.ts';
import type { PlaneGroup } from '../../../../core/likeness/symmetry.ts';
import {
  type Evaluation,
  type Plan,
  type Wish,
  evaluate,
  materialOrder,
  wishSchema,
} from '../../../../core/plan/index.ts';
import {
  type Known,
  type Near,
  type Offer,
  type Offered,
  type Piece,
  type Share,
  type Spec,
  RECIPES,
  knownOf,
  looksOf,
  nearest,
  neighbours,
  offerOf,
  picturedBy,
  shippedFaces,
  shownBy,
  sought,
  specLike,
} from '../../../../core/recipes/index.ts';
import { type Painted, paint } from '../../../../core/render/paint.ts';
import { makePalette } from '../../../../core/render/palette.ts';
import { flows } from './knowledge.ts';

/** A plan that was found for a wish, as it looks. */
export interface Candidate {
  readonly offer: Offer;
  readonly picture: Painted;
  /** mm that the picture is wide. */
  readonly pictureMm: number;
  readonly features: Features;
  readonly group: PlaneGroup | null;
  /** How like a picture that was looked for, and both on each other. */
  readonly likePicture?: LikePicture;
}

export interface LikePicture {
  /** What was compared: the finished face, or one element in the end grain before it is brought to the side. */
  readonly shown: Near['shown'];
  readonly correlation: number;
  readonly directions: number;
  /** Both square: as it is wanted, and as it was found, with what differs in colour. */
  readonly wanted: Painted;
  readonly apart: Painted;
}

/** What came of one try: a plan, or why there is none. */
export type Tried =
  | { readonly ok: true; readonly candidate: Candidate }
  | { readonly ok: false; readonly spec: Spec; readonly reason: string };

export interface Search {
  readonly piece: Piece;
  readonly wish: Wish;
  readonly seed: number;
  readonly share: Share;
  /** Plans that are to be found before it ends; tries at most. */
  readonly enough: number;
  readonly most: number;
  /** One recipe alone, or the neighbours of one plan. */
  readonly only?: string;
  readonly beside?: Spec;
}

/** Dots that a blade is painted wide among others, and by itself. */
const WIDE_PX = 520;
const LARGE_PX = 1200;
const RECIPE_PX = 150;
const PER_PIXEL = 2;

/** Whether a blade lies in the bar as it is; one that is forged to shape later does not, and is not shown on it. */
function fits(bar: Billet, blade: Blade, shop: Shop): boolean {
  const { pastTipMm, behindTangMm, besideMm } = bladeFit(bar, blade, shop);
  return Math.min(pastTipMm, behindTangMm, besideMm) > -A_HAIR_MM;
}
const A_HAIR_MM = 0.5;

/** The finished blade, or the upper face of the bar where there is none, or it is forged out of that. */
function picture(
  evaluation: Evaluation,
  { blade }: Plan,
  widthPx = WIDE_PX,
): { picture: Painted; pictureMm: number } | null {
  const { bar } = evaluation.goal;
  if (!bar) return null;
  const { shop } = evaluation;
  const plane =
    blade && fits(bar, blade, shop) ? groundBlade(bar, blade, 'right').plane : facePlane(bar, 'top');
  const heightPx = Math.max(8, Math.round((widthPx * plane.heightMm) / plane.widthMm));
  return {
    pictureMm: plane.widthMm,
    picture: paint({
      billet: bar,
      plane,
      widthPx,
      heightPx,
      perPixel: PER_PIXEL,
      palette: makePalette(shop, 'etched', materialOrder(evaluation), 'as they etch'),
    }),
  };
}

function seen(spec: Spec, offered: Offered): Tried {
  if (!offered.ok) return { ok: false, spec, reason: offered.reason };
  const { offer, evaluation } = offered;
  const [painted, looks] = [picture(evaluation, offer.plan), looksOf(evaluation, offer.element)];
  if (!painted || !looks) return { ok: false, spec, reason: 'There is no finished bar to look at.' };
  return { ok: true, candidate: { offer, ...painted, ...looks } };
}

function* tries({ piece, wish, seed, share, only, beside }: Search): Generator<Tried> {
  if (beside)
    for (const spec of neighbours(beside, wish, piece)) yield seen(spec, offerOf(spec, piece, wish, flows));
  else
    for (const { spec, offered } of sought(piece, wish, flows, seed, share, only)) yield seen(spec, offered);
}

/** How strongly it differs where dark stands for bright; the colour of that. */
const WHOLLY = 2;
const DIFFERS = [214, 64, 24] as const;

function squares(wanted: Float64Array, found: Float64Array): Pick<LikePicture, 'wanted' | 'apart'> {
  const side = Math.sqrt(wanted.length);
  const tone = (v: number): number => Math.max(20, Math.min(235, 128 + 70 * v));
  const painted = (dot: (i: number) => readonly [number, number, number]): Painted => {
    const rgba = new Uint8ClampedArray(4 * wanted.length);
    for (let i = 0; i < wanted.length; i++) rgba.set([...dot(i), 255], 4 * i);
    return { widthPx: side, heightPx: side, rgba };
  };
  const plain = (v: number): readonly [number, number, number] => [tone(v), tone(v), tone(v)];
  return {
    wanted: painted((i) => plain(wanted[i])),
    apart: painted((i) => {
      const share = Math.max(0, Math.min(1, Math.abs(wanted[i] - found[i]) / WHOLLY - 0.4));
      const [grey] = plain(found[i]);
      const mixed = DIFFERS.map((c) => grey + share * (c - grey));
      return [mixed[0], mixed[1], mixed[2]];
    }),
  };
}

/** A plan of what was found, and how like the picture its own face is. */
function plannedLike(near: Near, picture: ReturnType<typeof soughtIn>, { piece, wish }: LikeSearch): Tried {
  const spec = specLike(near, piece, wish);
  const offered = offerOf(spec, piece, wish, flows);
  const tried = seen(spec, offered);
  if (!offered.ok || !tried.ok) return tried;
  const pattern = shownBy(offered.evaluation, offered.offer, near);
  if (!pattern) return { ok: false, spec, reason: 'Its element cannot be seen on the face.' };
  const { correlation, directions, pose } = likenessOf(picture, pattern);
  const { wanted, found } = laidTogether(picture, pattern, pose);
  const both = squares(wanted.values, found.values);
  return {
    ok: true,
    candidate: { ...tried.candidate, likePicture: { shown: near.shown, correlation, directions, ...both } },
  };
}

export interface LikeSearch {
  readonly piece: Piece;
  readonly wish: Wish;
  readonly share: Share;
}

/** Of the time that a search takes, what goes to the pictures that are compared. */
const LIBRARY_SHARE = 0.1;
const NEAREST_SHARE = 0.7;
/** Faces of the library that are made ready before the worker listens again. */
const AT_ONCE = 16;

export const wishing = {
  /** The finished blade of a plan, large; null where there is none. */
  seenLarge: (plan: Plan): Painted | null =>
    picture(evaluate(plan, undefined, flows), plan, LARGE_PX)?.picture ?? null,
  /** One plan for a piece, that nobody sees: what comes after is sooner done. */
  seekOnce(piece: Piece): void {
    for (const { spec, offered } of sought(piece, wishSchema.parse({}), flows)) {
      seen(spec, offered);
      return;
    }
  },
  /** Plans for a wish, told one by one as they are found; ends when there are enough, or so many were tried. */
  async seek(search: Search, tell: (tried: Tried) => void): Promise<void> {
    let [found, tried] = [0, 0];
    for (const one of tries(search)) {
      tell(one);
      if (one.ok) found++;
      if (found >= search.enough || ++tried >= search.most) return;
      await new Promise((go) => setTimeout(go));
    }
  },
  /** What every recipe shows with its usual numbers, told one by one. */
  async pictures(tell: (recipe: string, picture: Painted) => void): Promise<void> {
    for (const recipe of RECIPES) {
      const shown = picturedBy(recipe, flows);
      if (!shown) continue;
      const { bar, plane, evaluation } = shown;
      const palette = makePalette(evaluation.shop, 'etched', materialOrder(evaluation), 'as they etch');
      // Square, whatever its tile will stretch it to.
      const [widthPx, heightPx] = [RECIPE_PX, RECIPE_PX];
      tell(recipe.id, paint({ billet: bar, plane, widthPx, heightPx, perPixel: PER_PIXEL, palette }));
      await new Promise((go) => setTimeout(go));
    }
  },
  /** What comes nearest to one repeat of a picture, each as a plan for a wish; and how far it is by then, 0 … 1. */
  async seekLike(
    search: LikeSearch,
    picture: Grey,
    tell: (tried: Tried) => void,
    progress: (share: number) => void,
  ): Promise<void> {
    const { share } = search;
    const known: Known[] = [];
    const faces = await shippedFaces(share);
    for (const face of faces) {
      known.push(knownOf(face));
      if (known.length % AT_ONCE !== 0) continue;
      progress((LIBRARY_SHARE * known.length) / faces.length);
      await new Promise((go) => setTimeout(go));
    }
    const asked = soughtIn(picture);
    const found = nearest(
      asked,
      known,
      search.wish,
      flows,
      (part) => progress(LIBRARY_SHARE + (NEAREST_SHARE - LIBRARY_SHARE) * part),
      share,
    );
    for (const [i, near] of found.entries()) {
      progress(NEAREST_SHARE + ((1 - NEAREST_SHARE) * i) / found.length);
      tell(plannedLike(near, asked, search));
      await new Promise((go) => setTimeout(go));
    }
  },
};
