import { Paper, Typography } from '@mui/material';
import type { ReactNode } from 'react';

/** A part of a screen, on a sheet of its own under its title. */
export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Paper component="section" variant="sheet" aria-label={title}>
      <Typography variant="h2">{title}</Typography>
      {children}
    </Paper>
  );
}
