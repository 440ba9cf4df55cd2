import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { type LaneResult, type StepResult, canOf } from '../../../../core/plan/index.ts';
import { SteelAndNumbers } from '../../ui/layout.tsx';
import { Toggles } from '../../ui/fields/Toggles.tsx';
import { StepColumn } from '../plan/StepColumn.tsx';
import { usePlanStore } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { CanView } from '../../benches/canister/CanView.tsx';

/** The cans of a plan, each as large as the screen allows, with its numbers. */
export default function CanScreen() {
  const evaluation = useEvaluation();
  const { id } = useParams();
  const selected = usePlanStore((state) => state.selectedId);
  const cans = evaluation.lanes.flatMap((lane): { lane: LaneResult; result: StepResult }[] =>
    lane.steps.filter(canOf).map((result) => ({ lane, result })),
  );
  const [chosen, setChosen] = useState(selected);
  const shown = cans.find(({ result }) => result.step.id === chosen) ?? cans.at(0);
  if (!shown)
    return (
      <Box component="main" sx={{ p: 3 }}>
        <Typography sx={{ mb: 2 }}>No bar of this piece begins with a can.</Typography>
        <Button component={Link} to={`/pieces/${id}`} variant="contained">
          Back to the plan
        </Button>
      </Box>
    );
  return (
    <SteelAndNumbers
      leastSteelPx={620}
      steel={
        <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%', minHeight: 0, gap: 0.75 }}>
          {cans.length > 1 && (
            <Toggles
              label="Which can"
              value={shown.result.step.id}
              options={cans.map(({ lane, result }) => [result.step.id, lane.lane.name] as const)}
              onChange={setChosen}
            />
          )}
          <CanView lane={shown.lane} result={shown.result} />
        </Box>
      }
      numbers={<StepColumn key={shown.result.step.id} lane={shown.lane} result={shown.result} />}
    />
  );
}
