import { Box } from '@mui/material';
import type { StepResult } from '../../../../core/plan/index.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { Ways } from './Ways.tsx';

/** Ways on from a bar whose ends were looked at. */
export const EndsView = ({ result }: { result: StepResult }) => (
  <Box sx={{ height: '100%', minHeight: 220, overflowY: 'auto' }}>
    <Ways
      evaluation={useEvaluation()}
      result={result}
      mayChange
      none="Enter how far the picture stands turned against the faces, or take a photograph of an end over at the bench: what comes of it laid together, what grinding it true costs, and what that brings, is shown here."
    />
  </Box>
);
