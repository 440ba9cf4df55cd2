import ViewInArIcon from '@mui/icons-material/ViewInAr';
import { Button } from '@mui/material';
import { Suspense, lazy, useState } from 'react';
import type { Evaluation, StepResult } from '../../../../core/plan/index.ts';

const ShowDialog = lazy(() => import('./ShowDialog.tsx'));

/** Plays the instruction of a move in three dimensions, when it is pressed. */
export function ShowMe({
  evaluation,
  result,
  size,
}: {
  evaluation: Evaluation;
  result: StepResult;
  size?: 'small';
}) {
  const [open, setOpen] = useState(false);
  // Of a blank nothing is sawn, turned or laid.
  if (result.before.some((b) => b.blank)) return null;
  return (
    <>
      <Button
        variant="outlined"
        size={size ?? 'medium'}
        startIcon={<ViewInArIcon />}
        onClick={() => setOpen(true)}
      >
        Show me
      </Button>
      {open && (
        <Suspense fallback={null}>
          <ShowDialog evaluation={evaluation} result={result} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
