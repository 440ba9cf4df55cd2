import AddIcon from '@mui/icons-material/Add';
import { Box, Button, Typography } from '@mui/material';
import type { ReactNode } from 'react';

interface AnotherProps {
  has: number;
  most: number;
  act(): void;
  children: ReactNode;
}

/** Adds one more to a list; one that is full says so. */
export function Another({ has, most, act, children }: AnotherProps) {
  const full = has >= most;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
      <Button size="small" startIcon={<AddIcon />} disabled={full} onClick={act}>
        {children}
      </Button>
      {full && (
        <Typography variant="body2" color="text.secondary">
          at most {most}
        </Typography>
      )}
    </Box>
  );
}
