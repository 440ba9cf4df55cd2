import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import type { Placed } from '../../../../core/moves/index.ts';
import { type AssembleParameters, laidPieces } from '../../../../core/moves/lay/assemble/laid.ts';
import { stepResult } from '../../../../core/plan/index.ts';
import type { ToLay } from '../../../../core/trainer/index.ts';
import { Arranger } from '../../benches/arrange/Arranger.tsx';
import { useEvaluated } from '../../document/useEvaluation.ts';

interface LayTaskProps {
  task: ToLay;
  /** How they lie now; as they came off the saw where nobody moved them. */
  places: readonly Placed[] | null;
  /** What they are to make, shown beside the presses. */
  wanted: ReactNode;
  onPut(places: Placed[]): void;
}

/** Pieces that are to be laid, as at the real work. */
export function LayTask({ task, places, wanted, onPut }: LayTaskProps) {
  const evaluation = useEvaluated(task.plan);
  const result = stepResult(evaluation, task.stepId)!;
  const sawn = result.step.parameters as AssembleParameters;
  const p = places ? { ...sawn, places: [...places] } : sawn;
  return (
    <Box sx={{ height: { md: 'calc(100dvh - 110px)' }, minHeight: 480 }}>
      <Arranger
        evaluation={evaluation}
        result={result}
        p={p}
        laid={laidPieces(result.before, p)}
        below={wanted}
        onPut={onPut}
      />
    </Box>
  );
}
