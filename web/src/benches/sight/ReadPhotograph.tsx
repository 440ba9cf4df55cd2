import { Button } from '@mui/material';
import { Suspense, lazy, useState } from 'react';
import type { SightProps } from './SightDialog.tsx';

const SightDialog = lazy(() => import('./SightDialog.tsx'));

/** Lays a photographed end over what was foreseen, when it is pressed. */
export function ReadPhotograph(props: Omit<SightProps, 'onClose'>) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button variant="outlined" onClick={() => setOpen(true)}>
        Lay it over the plan
      </Button>
      {open && (
        <Suspense fallback={null}>
          <SightDialog {...props} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
