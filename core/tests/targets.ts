import { sizeOf } from '../billet/billet.ts';
import { facePlane, partOf } from '../billet/face.ts';
import { type Grey, greyOf, resampled } from '../likeness/grey.ts';
import type { Evaluation } from '../plan/index.ts';
import { type Offer, repeatOfFace } from '../recipes/index.ts';

/** Dots to the millimetre of a face that is photographed; mm from end A. */
const PER_MM = 6;
const FROM_MM = 50;
/** Noise of a dot, of all that it may be. */
const NOISE = 0.3;

/** A photograph of one repeat of a plan's face, as a person would crop it: turned by some degrees, with noise. */
export function photographedRepeat(
  evaluation: Evaluation,
  { element, spec }: Offer,
  turnDeg: number,
  random: () => number,
): Grey {
  const bar = evaluation.goal.bar!;
  const [along, across] = repeatOfFace(evaluation, element!, spec)!.elements;
  const { widthMm } = sizeOf(bar);
  const [long, wide] = [along * element!.alongMm, Math.min(across * element!.acrossMm, widthMm - 1)];
  const room = { long: 1.2 * long, wide: Math.min(1.2 * wide, widthMm) };
  const plane = partOf(facePlane(bar, 'top'), FROM_MM, (widthMm - room.wide) / 2, room.long, room.wide);
  const face = greyOf(
    bar,
    plane,
    Math.round(PER_MM * room.long),
    Math.round(PER_MM * room.wide),
    evaluation.shop,
  );
  const [w, h] = [Math.round(PER_MM * long), Math.round(PER_MM * wide)];
  const [cos, sin] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
  const picture = resampled(face, w, h, (x, y) => {
    const [u, v] = [x - w / 2, y - h / 2];
    return [face.width / 2 + u * cos - v * sin, face.height / 2 + u * sin + v * cos];
  });
  return { ...picture, values: picture.values.map((v) => v + NOISE * (random() - 0.5)) };
}
