import { type LengthDisplay, divisionMm } from '../units/length.ts';

/** Equal pieces from a bar. A crop of 0 means that end is not sawn. Lengths mm. */
export interface PieceCut {
  lengthMm: number;
  pieces: number;
  kerfMm: number;
  cropAMm: number;
  cropBMm: number;
}

/** Saw cuts needed: one between pieces, and one for each crop. */
export const cutCount = (cut: PieceCut): number =>
  cut.pieces - 1 + (cut.cropAMm > 0 ? 1 : 0) + (cut.cropBMm > 0 ? 1 : 0);

/** Length of each piece, ℓ = (L − c_A − c_B − cuts·k) / N (handbook, geometry). Not above 0 when the bar is too short. */
export const pieceLength = (cut: PieceCut): number =>
  (cut.lengthMm - cut.cropAMm - cut.cropBMm - cutCount(cut) * cut.kerfMm) / cut.pieces;

/** Where each piece begins and ends along the bar, in mm from end A. */
export function pieceStations(cut: PieceCut): { fromMm: number; toMm: number }[] {
  const length = pieceLength(cut);
  const start = cut.cropAMm + (cut.cropAMm > 0 ? cut.kerfMm : 0);
  return Array.from({ length: cut.pieces }, (_, i) => {
    const fromMm = start + i * (length + cut.kerfMm);
    return { fromMm, toMm: fromMm + length };
  });
}

export interface SawMarks {
  /** Near side of every saw cut, from end A, rounded to the shop's finest division. mm. */
  marksMm: number[];
  /** Largest difference between two pieces that the rounding leaves. mm. */
  largestDifferenceMm: number;
}

/** Saw marks as cumulative distances. The marks are rounded, never the step, so errors do not add. */
export function sawMarks(cut: PieceCut, display: LengthDisplay): SawMarks {
  const stations = pieceStations(cut);
  const nearSides = [
    ...(cut.cropAMm > 0 ? [cut.cropAMm] : []),
    ...stations.slice(0, cut.cropBMm > 0 ? undefined : -1).map((s) => s.toMm),
  ];
  const step = divisionMm(display);
  const marksMm = nearSides.map((mm) => Math.round(mm / step) * step);
  const ends = cut.cropBMm > 0 ? marksMm : [...marksMm, cut.lengthMm];
  const starts =
    cut.cropAMm > 0 ? ends.map((mm) => mm + cut.kerfMm) : [0, ...ends.map((mm) => mm + cut.kerfMm)];
  const lasts = cut.cropAMm > 0 ? ends.slice(1) : ends;
  const lengths = lasts.map((end, i) => end - starts[i]);
  return { marksMm, largestDifferenceMm: lengths.length ? Math.max(...lengths) - Math.min(...lengths) : 0 };
}
