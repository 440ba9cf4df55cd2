import CloseIcon from '@mui/icons-material/Close';
import { Box, IconButton, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { colours } from './theme.ts';

interface GroupProps {
  title: string;
  /** Beside the title. */
  note?: ReactNode;
  /** Takes the group out, with what that is called; none where it has to stay. */
  out?: { readonly label: string; act(): void } | undefined;
  children: ReactNode;
}

/** Fields that belong together, in a frame under their title. */
export function Group({ title, note, out, children }: GroupProps) {
  return (
    <Box
      component="fieldset"
      aria-label={title}
      sx={{
        border: `1px solid ${colours.line}`,
        borderRadius: 1,
        p: 1,
        m: 0,
        display: 'grid',
        gap: 1.25,
        minWidth: 0,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Typography sx={{ fontWeight: 600, flex: 1 }}>
          {title}
          {note && <>: {note}</>}
        </Typography>
        {out && (
          <IconButton size="small" aria-label={out.label} onClick={out.act}>
            <CloseIcon fontSize="small" />
          </IconButton>
        )}
      </Box>
      {children}
    </Box>
  );
}

/** Two fields side by side. */
export const Pair = ({ children }: { children: ReactNode }) => (
  <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.25, alignItems: 'start' }}>
    {children}
  </Box>
);

/** In a pair's row by itself: what is too long for half of it. */
export const WholeRow = ({ children }: { children: ReactNode }) => (
  <Box sx={{ gridColumn: '1 / -1' }}>{children}</Box>
);
