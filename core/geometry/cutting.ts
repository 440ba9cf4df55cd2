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

/** Where between two divisions a mark goes up: the middle first, then ever further from it. */
const PHASES = Array.from({ length: 65 }, (_, i) => 0.5 + ((i % 2 === 0 ? 1 : -1) * Math.ceil(i / 2)) / 64.5);

/** Lengths of the pieces that marks leave: an end that is not sawn is where the bar ends. */
function piecesBetween(cut: PieceCut, marksMm: readonly number[]): number[] {
  const stops = cut.cropBMm > 0 ? marksMm : [...marksMm, cut.lengthMm];
  const starts = marksMm.map((mm) => mm + cut.kerfMm);
  if (cut.cropAMm > 0) return stops.slice(1).map((mm, i) => mm - starts[i]);
  return stops.map((mm, i) => mm - (i === 0 ? 0 : starts[i - 1]));
}

const spread = (lengths: readonly number[]): number =>
  lengths.length ? Math.max(...lengths) - Math.min(...lengths) : 0;

/**
 * Marks for a bar of which neither end is sawn, in divisions: the first piece and so many of the inner ones a division longer,
 * spread evenly, so that the last comes out between them.
 */
function* withBothEnds(cut: PieceCut, stepMm: number): Generator<number[]> {
  const inner = cut.pieces - 2;
  const kerf = cut.kerfMm / stepMm;
  const length = pieceLength(cut) / stepMm;
  const shorter = Math.floor(length + kerf);
  for (const first of [Math.floor(length), Math.ceil(length)])
    for (let longer = 0; longer <= inner; longer++) {
      const marks = [first];
      for (let i = 0; i < inner; i++) {
        const more = Math.floor(((i + 1) * longer) / inner) - Math.floor((i * longer) / inner);
        marks.push(marks[i] + shorter + more);
      }
      yield marks;
    }
}

/**
 * Saw marks as cumulative distances. The marks are rounded, never the step, so errors do not add; all by one phase, the
 * nearest to the middle that keeps pieces within one division of each other also where a bar's end is no mark.
 */
export function sawMarks(cut: PieceCut, display: LengthDisplay): SawMarks {
  const stations = pieceStations(cut);
  const nearSides = [
    ...(cut.cropAMm > 0 ? [cut.cropAMm] : []),
    ...stations.slice(0, cut.cropBMm > 0 ? undefined : -1).map((s) => s.toMm),
  ];
  const step = divisionMm(display);
  const tries = function* () {
    for (const phase of PHASES) yield nearSides.map((mm) => Math.floor(mm / step + phase));
    if (cut.cropAMm === 0 && cut.cropBMm === 0 && cut.pieces > 2) yield* withBothEnds(cut, step);
  };
  let best: SawMarks | null = null;
  for (const marks of tries()) {
    const marksMm = marks.map((n) => n * step);
    const largestDifferenceMm = spread(piecesBetween(cut, marksMm));
    if (!best || largestDifferenceMm < best.largestDifferenceMm - 1e-9)
      best = { marksMm, largestDifferenceMm };
    if (best.largestDifferenceMm <= step * (1 + 1e-9)) break;
  }
  return best!;
}

/** Centre line of every piece, from end A, rounded likewise. mm. */
export const centreLines = (cut: PieceCut, display: LengthDisplay): number[] =>
  pieceStations(cut).map(({ fromMm, toMm }) => {
    const step = divisionMm(display);
    return Math.round((fromMm + toMm) / 2 / step) * step;
  });
