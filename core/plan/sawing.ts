import { type PieceCut, centreLines, pieceLength, sawMarks } from '../geometry/cutting.ts';
import { moveOf } from '../moves/index.ts';
import type { Evaluation } from './evaluate.ts';

/** Everything to be marked on one bar before it is sawn into pieces. mm from end A, in the shop's divisions. */
export interface Sawing {
  readonly stepId: string;
  readonly lane: string;
  /** Which move of its lane, from 1. */
  readonly number: number;
  readonly cutting: PieceCut;
  readonly pieceMm: number;
  readonly marksMm: readonly number[];
  readonly centresMm: readonly number[];
  readonly largestDifferenceMm: number;
}

/** The saw marks of every cut of a plan that can be made. */
export const sawings = ({ lanes, shop }: Evaluation): Sawing[] =>
  lanes.flatMap(({ lane, steps }) =>
    steps.flatMap(({ step, before, after }, i): Sawing[] => {
      const { cuts } = moveOf(step.kind);
      if (!cuts || !after) return [];
      const cutting = cuts(before[0], step.parameters, shop);
      return [
        {
          stepId: step.id,
          lane: lane.name,
          number: i + 1,
          cutting,
          pieceMm: pieceLength(cutting),
          ...sawMarks(cutting, shop.lengths),
          centresMm: centreLines(cutting, shop.lengths),
        },
      ];
    }),
  );
