import { shortFace } from '../billet/face.ts';
import { sizeOf } from '../billet/billet.ts';
import { type Features, featuresOf } from '../likeness/features.ts';
import { type Grey, greyOf } from '../likeness/grey.ts';
import { isPlain } from '../likeness/repeat.ts';
import { type PlaneGroup, planeGroupOf } from '../likeness/symmetry.ts';
import { type Evaluation } from '../plan/index.ts';
import type { Element } from '../plan/element.ts';

/** Dots of the stretch of a finished face by which it is known again: as high as the bar is wide. */
const SEEN = { width: 256, height: 96 } as const;

/** A stretch from the middle of a plan's finished face, in greys; null while it has none. */
function faceSeen(evaluation: Evaluation): Grey | null {
  const { bar } = evaluation.goal;
  if (!bar) return null;
  const plane = shortFace(bar, 'top', SEEN.width / SEEN.height);
  const wide = Math.max(16, Math.round((SEEN.height * plane.widthMm) / plane.heightMm));
  return greyOf(bar, plane, wide, SEEN.height, evaluation.shop);
}

/** How a finished face looks: what it is known again by, and which plane group it has; none where it shows no element. */
export interface Looks {
  readonly features: Features;
  readonly group: PlaneGroup | null;
}

export function looksOf(evaluation: Evaluation, element: Element | null): Looks | null {
  const seen = faceSeen(evaluation);
  if (!seen) return null;
  const features = featuresOf(seen);
  if (!element || isPlain(seen)) return { features, group: null };
  const perMm = seen.height / sizeOf(evaluation.goal.bar!).widthMm;
  const group = planeGroupOf(seen, {
    alongPx: element.alongMm * perMm,
    upPx: element.acrossMm * perMm,
  });
  return { features, group };
}
