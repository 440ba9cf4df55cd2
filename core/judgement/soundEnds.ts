import { distortedMm } from '../billet/billet.ts';
import { warning } from '../moves/contract/common.ts';
import { type Finding, moveOf } from '../moves/index.ts';
import { formatFine, formatLength } from '../units/length.ts';
import { BEYOND_CAPS_MM } from './canister.ts';
import type { Case, Judge } from './judgement.ts';

/** Ends of a pressed can that are not cut back: caps, and steel with nothing to press it sideways. */
function capsOn({ result, shop }: Case): Finding[] {
  const can = result.before.at(0)?.can;
  if (!can || can.poresMm3 > 0) return [];
  const off = (capMm: number) => Math.ceil(capMm > 0 ? capMm + BEYOND_CAPS_MM : 0);
  const [endAMm, endBMm] = [off(can.capAMm), off(can.capBMm)];
  return [
    warning(
      'uncropped',
      `The can’s caps are still on. Cap ends hold no picture for the cap and a few millimetres, and nothing pressed the inserts there from outside: cut the ends back to sound steel first.`,
      {
        remedy: {
          label: `Crop ${formatFine(Math.max(endAMm, endBMm), shop.lengths)} off the ends first`,
          insertBefore: 'crop',
          parameters: { endAMm, endBMm },
        },
      },
    ),
  ];
}

/** Ends that an etch showed distorted and that this does not crop. */
function distortedEnds({ result, shop }: Case): Finding[] {
  const bars = result.before.map(distortedMm);
  const [aMm, bMm] = [Math.max(0, ...bars.map((b) => b.aMm)), Math.max(0, ...bars.map((b) => b.bMm))];
  const { cropAMm, cropBMm } = result.step.parameters as Partial<Record<'cropAMm' | 'cropBMm', number>>;
  const crops = cropAMm !== undefined && cropBMm !== undefined;
  const short = (mm: number, crop: number | undefined) => mm > (crop ?? 0) + SHORT_MM;
  if (!short(aMm, cropAMm) && !short(bMm, cropBMm)) return [];
  const { lengths } = shop;
  const ends = [
    ...(short(aMm, cropAMm) ? [`${formatLength(aMm, lengths)} of end A`] : []),
    ...(short(bMm, cropBMm) ? [`${formatLength(bMm, lengths)} of end B`] : []),
  ].join(' and ');
  return [
    warning(
      'distorted end',
      `The etch showed ${ends} distorted${crops ? `, and ${formatLength(cropAMm, lengths)} and ${formatLength(cropBMm, lengths)} come off here` : ''}: what is left of it holds another picture than the one shown.`,
      crops
        ? {
            parameter: short(aMm, cropAMm) ? 'cropAMm' : 'cropBMm',
            remedy: {
              label: 'Crop what is distorted',
              set: { cropAMm: Math.max(aMm, cropAMm), cropBMm: Math.max(bMm, cropBMm) },
            },
          }
        : {
            remedy: {
              label: 'Crop it first',
              insertBefore: 'crop',
              parameters: {
                endAMm: aMm,
                endBMm: bMm,
                ...(aMm > 0 && { whyA: 'distorted' }),
                ...(bMm > 0 && { whyB: 'distorted' }),
              },
            },
          },
    ),
  ];
}

/** mm. Less than this of an end is not worth another cut. */
const SHORT_MM = 1;

/** Work on the whole length wants ends that hold the picture. */
export const judgeSoundEnds: Judge = (subject) => ({
  figures: [],
  findings: moveOf(subject.result.step.kind).wantsSoundEnds
    ? [...capsOn(subject), ...distortedEnds(subject)]
    : [],
});
