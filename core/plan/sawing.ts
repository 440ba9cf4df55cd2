import { type PieceCut, centreLines, pieceLength, sawMarks } from '../geometry/cutting.ts';
import type { Billet } from '../billet/billet.ts';
import { type SideSawing, moveOf } from '../moves/index.ts';
import type { Shop } from '../shop/shop.ts';
import type { Evaluation, StepResult } from './evaluate.ts';

/** Everything to be marked on one bar before it is sawn into pieces. mm from end A, in the shop's divisions. */
export interface Sawing {
  readonly stepId: string;
  readonly lane: string;
  /** Which move of its lane, from 1. */
  readonly number: number;
  /** How many bars or pieces of this length are sawn so. */
  readonly alike: number;
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
      return alikeInLength(before).map((bars) => {
        const cutting = cuts(bars[0], step.parameters, shop);
        return {
          stepId: step.id,
          lane: lane.name,
          number: i + 1,
          alike: bars.length,
          cutting,
          pieceMm: pieceLength(cutting),
          ...sawMarks(cutting, shop.lengths),
          centresMm: centreLines(cutting, shop.lengths),
        };
      });
    }),
  );

/** mm. */
const SAME_LENGTH_MM = 0.05;

function alikeInLength(bars: readonly Billet[]): Billet[][] {
  const groups: Billet[][] = [];
  for (const bar of bars) {
    const known = groups.find(([first]) => Math.abs(first.lengthMm - bar.lengthMm) < SAME_LENGTH_MM);
    if (known) known.push(bar);
    else groups.push([bar]);
  }
  return groups;
}

/** How a step saws its bar, or each of its pieces where all are of one length; without names where it is one of several. Null where it saws none. */
export function sawnFromTheSide({ step, before }: StepResult, shop: Shop): SideSawing | null {
  const sawing = before[0] && moveOf(step.kind).sawing?.(before[0], step.parameters, shop);
  if (!sawing || alikeInLength(before).length > 1) return null;
  return before.length > 1 ? { ...sawing, names: [] } : sawing;
}
