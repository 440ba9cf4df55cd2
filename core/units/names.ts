import { z } from 'zod';
import './ownWords.ts';

/** Signs that are not seen: control signs, joiners of no width, marks that turn the direction of writing. */
const UNSEEN = /[\p{Cc}\u200B-\u200F\u202A-\u202E\u2060-\u2064\uFEFF]/gu;

/** A name that a maker gives: what is not seen is taken out of it, and room about it. */
export const nameText = (most: number, missing: string, tooLong?: string) =>
  z
    .string({ error: missing })
    .overwrite((text) => text.replace(UNSEEN, ''))
    .trim()
    .min(1, missing)
    .max(most, tooLong);
