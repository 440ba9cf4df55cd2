import type { KilnProgram } from '../kiln/program.ts';
import { programOf } from '../moves/between/treat.ts';
import type { Evaluation } from './evaluate.ts';

/** A program of the plan; or that of a move, by which it is changed. */
export type HeldProgram = KilnProgram & { readonly step?: string };

/** The kiln programs of a piece: those of its moves first, in the order of the work, then what the plan holds beside them. */
export const kilnPrograms = ({ plan, lanes, shop }: Evaluation): HeldProgram[] => [
  ...lanes.flatMap((l) =>
    l.steps.flatMap(({ step }) =>
      step.kind === 'treat' ? [{ ...programOf(`of ${step.id}`, step.parameters, shop), step: step.id }] : [],
    ),
  ),
  ...(plan.kiln ?? []),
];
