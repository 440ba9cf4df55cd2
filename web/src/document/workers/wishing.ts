import { facePlane } from '../../../../core/billet/face.ts';
import type { Billet } from '../../../../core/billet/billet.ts';
import { type Blade, bladeFit, groundBlade } from '../../../../core/blade/index.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import type { Features } from '../../../../core/likeness/features.ts';
import type { PlaneGroup } from '../../../../core/likeness/symmetry.ts';
import {
  type Evaluation,
  type Plan,
  type Wish,
  evaluate,
  materialOrder,
} from '../../../../core/plan/index.ts';
import {
  type Offer,
  type Offered,
  type Piece,
  type Share,
  type Spec,
  looksOf,
  neighbours,
  offerOf,
  sought,
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
  const { offer } = offered;
  const evaluation = evaluate(offer.plan, undefined, flows);
  const [painted, looks] = [picture(evaluation, offer.plan), looksOf(evaluation, offer.element)];
  if (!painted || !looks) return { ok: false, spec, reason: 'There is no finished bar to look at.' };
  return { ok: true, candidate: { offer, ...painted, ...looks } };
}

function* tries({ piece, wish, seed, share, only, beside }: Search): Generator<Tried> {
  if (beside)
    for (const spec of neighbours(beside, wish)) yield seen(spec, offerOf(spec, piece, wish, flows));
  else
    for (const { spec, offered } of sought(piece, wish, flows, seed, share, only)) yield seen(spec, offered);
}

export const wishing = {
  /** The finished blade of a plan, large; null where there is none. */
  seenLarge: (plan: Plan): Painted | null =>
    picture(evaluate(plan, undefined, flows), plan, LARGE_PX)?.picture ?? null,
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
};
