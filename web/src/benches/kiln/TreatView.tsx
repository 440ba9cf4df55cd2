import { Typography } from '@mui/material';
import type { KilnProgram } from '../../../../core/kiln/program.ts';
import { type LaneResult, type StepResult, kilnPrograms } from '../../../../core/plan/index.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { ProgramPlot } from './ProgramPlot.tsx';
import { useKilnRun } from './useKilnRun.ts';

/** The program of a move against the clock, run on the simulated kiln. */
export function TreatView({ result }: { lane: LaneResult; result: StepResult }) {
  const evaluation = useEvaluation();
  const program = kilnPrograms(evaluation).find((p) => p.step === result.step.id);
  if (!program) return <Typography color="text.secondary">It has no program yet.</Typography>;
  return <Run program={program} />;
}

function Run({ program }: { program: KilnProgram }) {
  const run = useKilnRun(program, useEvaluation().shop.kiln);
  return <ProgramPlot program={program} run={run} />;
}
