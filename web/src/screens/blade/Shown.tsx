import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';

/** A picture with what it shows over it. */
export const Shown = ({ title, children }: { title: string; children: ReactNode }) => (
  <Box>
    <Typography variant="body2" color="text.secondary" sx={{ mb: 0.5 }}>
      {title}
    </Typography>
    {children}
  </Box>
);
