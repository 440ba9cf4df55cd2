import type { Billet } from '../../../billet/billet.ts';
import { rectangle } from '../../../geometry/outline.ts';
import { acrossCorners } from '../lean.ts';
import type { PressParameters, PressPass } from './press.ts';

interface Sequence {
  /** How the bar is left: squared up at the end, or as the dies leave it. */
  readonly finish: PressParameters['finish'];
  /** For a bar of a width and height to a side. mm */
  passes(widthMm: number, heightMm: number): PressPass[];
}

const squared = (passes: Sequence['passes']): Sequence => ({ finish: 'squared', passes });
const asPressed = (passes: Sequence['passes']): Sequence => ({ finish: 'as pressed', passes });

/** Whether any pass is taken with the bar tipped off its flats. */
export const onCorners = (passes: readonly PressPass[]): boolean => passes.some((q) => q.turnDeg % 90 !== 0);

/** Ready sequences of passes, in shop words. */
export const SEQUENCES: Record<string, Sequence> = {
  'square up': squared((w, h) => {
    const side = 0.95 * Math.sqrt(w * h);
    return [
      { turnDeg: 0, toMm: side },
      { turnDeg: 90, toMm: side },
      { turnDeg: 90, toMm: side },
    ];
  }),
  'quarter star: bias re-square': squared((w, h) => {
    const side = Math.sqrt(w * h);
    return [1, 1, 0.9, 0.9, 0.875, 0.875].map((share, i) => ({
      turnDeg: i === 0 ? 45 : 90,
      toMm: share * side,
    }));
  }),
  'half star: two corners beside each other, then flat': squared((w, h) => {
    const side = Math.sqrt(w * h);
    const dies = { shape: 'V', on: 'below', angleDeg: 90 } as const;
    return [
      // Cradled in a V, only the corner on top is pressed.
      ...[1.2, 1.2, 1.1, 1.1, 1.05, 1.05].map((share, i) => ({
        turnDeg: i === 0 ? 45 : i % 2 === 1 ? -90 : 90,
        toMm: share * side,
        dies,
      })),
      ...[0.9, 0.9, 0.85, 0.85].map((share, i) => ({ turnDeg: i === 0 ? 45 : 90, toMm: share * side })),
    ];
  }),
  'C or W: corners, then flatten': squared((w, h) => {
    const side = Math.sqrt(w * h);
    return [
      { turnDeg: 45, toMm: 1.12 * side },
      { turnDeg: 90, toMm: 1.12 * side },
      // The first corners once more, for they spread under the others; left out, it comes out a rhombus.
      { turnDeg: 90, toMm: 1.12 * side },
      { turnDeg: 45, toMm: 0.9 * side },
      { turnDeg: 90, toMm: 0.9 * side },
    ];
  }),
  'S: past 45°, then flatten': asPressed((w, h) => {
    const side = Math.sqrt(w * h);
    return [
      { turnDeg: 55, toMm: 1.05 * side },
      { turnDeg: 0, toMm: 0.85 * side },
    ];
  }),
  'diamond: on its corners, then flat': asPressed((w, h) => {
    const side = Math.sqrt(w * h);
    return [
      { turnDeg: 45, toMm: side },
      { turnDeg: 0, toMm: 0.75 * side },
    ];
  }),
  'V dies, a round to a square': squared((w, h) => {
    const size = Math.sqrt(w * h);
    const dies = { shape: 'V', on: 'both', angleDeg: 90 } as const;
    // A round of this size first touches a V of 90° at 1.41 of it, and fills it at 1.25. Smaller steps towards the end: pressed
    // from one side last by much, it would come out a rhombus.
    return [
      ...[1.34, 1.32, 1.3, 1.28, 1.27, 1.26].map((share, i) => ({
        turnDeg: i === 0 ? 0 : 90,
        toMm: share * size,
        dies,
      })),
      // Laid on its flat.
      { turnDeg: 45, toMm: 1.1 * size },
    ];
  }),
  lean: asPressed((w, h) => {
    const { turnDeg, toMm, flatsToMm } = acrossCorners(rectangle(w, h), 15);
    return [
      { turnDeg: Math.round(turnDeg), toMm },
      { turnDeg: -Math.round(turnDeg), toMm: flatsToMm },
    ];
  }),
  'neck with fullers': asPressed((w, h) => {
    const dies = { shape: 'round', on: 'both', radiusMm: Math.round(0.3 * w) } as const;
    return [{ turnDeg: 0, toMm: 0.75 * h, dies }];
  }),
  'cut with a wedge': asPressed((_w, h) => [
    { turnDeg: 0, toMm: 0.65 * h, dies: { shape: 'wedge', on: 'above', angleDeg: 60, tipMm: 3 } },
  ]),
};

/** The ready sequences that suit a bar: of tiles none that tips it. */
export const sequencesFor = (bar: Billet | undefined): string[] =>
  Object.keys(SEQUENCES).filter((name) => !bar?.tiled || !onCorners(SEQUENCES[name].passes(40, 40)));
