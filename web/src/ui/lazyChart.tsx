import { Box, CircularProgress } from '@mui/material';
import { Suspense, lazy } from 'react';
import type Chart from './Chart.tsx';
import type { ComponentProps } from 'react';

const Loaded = lazy(() => import('./Chart.tsx'));

/** A chart, fetched when the first one is shown. */
export function LazyChart(props: ComponentProps<typeof Chart>) {
  return (
    <Suspense
      fallback={
        <Box sx={{ height: props.height }}>
          <CircularProgress aria-label="Drawing" size={24} />
        </Box>
      }
    >
      <Loaded {...props} />
    </Suspense>
  );
}
