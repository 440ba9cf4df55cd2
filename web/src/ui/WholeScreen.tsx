import CloseIcon from '@mui/icons-material/Close';
import { Dialog, IconButton, Stack, Typography, useTheme } from '@mui/material';
import { type ReactNode, useId } from 'react';

interface WholeScreenProps {
  title: string;
  onClose(): void;
  children: ReactNode;
}

/** Something that takes the whole screen until it is closed. */
export function WholeScreen({ title, onClose, children }: WholeScreenProps) {
  const { palette } = useTheme();
  const heading = useId();
  return (
    <Dialog open fullScreen onClose={onClose} aria-labelledby={heading}>
      <Stack sx={{ minHeight: '100dvh', background: palette.background.default, p: 2, gap: 2 }}>
        <Stack direction="row" sx={{ alignItems: 'center', gap: 2 }}>
          <Typography id={heading} variant="h2" sx={{ flex: 1 }}>
            {title}
          </Typography>
          <IconButton aria-label="Close" onClick={onClose}>
            <CloseIcon fontSize="large" />
          </IconButton>
        </Stack>
        {children}
      </Stack>
    </Dialog>
  );
}
