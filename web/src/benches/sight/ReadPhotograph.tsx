import { Button } from '@mui/material';
import { Suspense, lazy, useState } from 'react';
import type { FaceProps } from './FaceDialog.tsx';
import type { SightProps } from './SightDialog.tsx';

const SightDialog = lazy(() => import('./SightDialog.tsx'));
const FaceDialog = lazy(() => import('./FaceDialog.tsx'));

type Without<P> = Omit<P, 'onClose'>;

/** Lays a photographed end, or a cut in the middle, over what was foreseen, when it is pressed. */
export const ReadEnd = (props: Without<SightProps>) => (
  <Opened>{(onClose) => <SightDialog {...props} onClose={onClose} />}</Opened>
);

/** The same for a stretch of the broad face. */
export const ReadFace = (props: Without<FaceProps>) => (
  <Opened>{(onClose) => <FaceDialog {...props} onClose={onClose} />}</Opened>
);

function Opened({ children }: { children: (onClose: () => void) => React.ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button variant="outlined" onClick={() => setOpen(true)}>
        Lay it over the plan
      </Button>
      {open && <Suspense fallback={null}>{children(() => setOpen(false))}</Suspense>}
    </>
  );
}
