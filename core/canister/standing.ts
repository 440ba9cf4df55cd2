import type { Billet } from '../billet/billet.ts';
import type { StandingBar } from '../billet/fields/canned.ts';
import { isRectangle, outlineSize } from '../geometry/outline.ts';

/** A bar of another lane stood up in a can, as long as that is deep. mm */
export function standingBar({ field, outline }: Billet, lengthMm: number): StandingBar {
  const { widthMm, heightMm } = outlineSize(outline);
  return { field, widthMm, heightMm, lengthMm, ...(!isRectangle(outline) && { outline }) };
}

/** Powder that is still loose in a can. */
export const isLooseCan = (bar: Billet): boolean => (bar.can?.poresMm3 ?? 0) > 0;
