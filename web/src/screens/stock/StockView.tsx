import { Beside } from '../../ui/layout.tsx';
import { Box, CircularProgress } from '@mui/material';
import { useParams } from 'react-router';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { Costs } from './Costs.tsx';
import { CutAndBuy } from './CutAndBuy.tsx';
import { SawMarksOnBar } from './SawMarks.tsx';
import { StartingSizes } from './StartingSizes.tsx';
import { SteelGoes } from './SteelGoes.tsx';
import { TakeFromRack } from './TakeFromRack.tsx';
import { useRack, useTaken } from '../../document/shopApi.ts';
import { WhatIf } from './WhatIf.tsx';

/** What it takes: starting sizes, what to cut and buy, marks for the saw, and where the steel goes. */
export default function StockView() {
  const evaluation = useEvaluation();
  const { id = '' } = useParams();
  // Waited for, so that nothing moves under the pointer when they come.
  const [rack, taken] = [useRack(), useTaken(id)];
  const empty = evaluation.lanes.every((l) => l.steps.length === 0);
  return (
    <Box
      component="main"
      sx={{ px: 2.5, pb: 2, pt: 0.5, flex: 1, minHeight: 0, overflowY: { md: 'auto' } }}
      tabIndex={-1}
    >
      {empty ? (
        <p>
          There is no steel in this plan yet: begin a bar on the Plan screen, and what it takes is reckoned
          here.
        </p>
      ) : rack.isPending || taken.isPending ? (
        <CircularProgress aria-label="Looking at the rack" sx={{ m: 2 }} />
      ) : (
        <Beside second="400px">
          <Box sx={{ display: 'grid', gap: 1.5, minWidth: 0 }}>
            <CutAndBuy evaluation={evaluation} />
            <SteelGoes evaluation={evaluation} />
            <SawMarksOnBar evaluation={evaluation} />
          </Box>
          <Box sx={{ display: 'grid', gap: 1.5, minWidth: 0 }}>
            <StartingSizes evaluation={evaluation} />
            <WhatIf evaluation={evaluation} />
            <TakeFromRack evaluation={evaluation} />
            <Costs evaluation={evaluation} />
          </Box>
        </Beside>
      )}
    </Box>
  );
}
