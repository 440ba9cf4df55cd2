import { Box, ListItemText, MenuItem } from '@mui/material';
import { type MoveKind, moveOf } from '../../../../core/moves/index.ts';
import { useMovePicture } from './movePictures.ts';

interface MoveItemProps {
  kind: MoveKind;
  /** Why it cannot be done now. */
  why: string | null;
  disabled: boolean;
  onClick(): void;
}

/** A move as the menu has it: what it does to a striped bar, its name, what it is for or why it cannot be now. */
export function MoveItem({ kind, why, disabled, ...item }: MoveItemProps) {
  const canvas = useMovePicture(kind);
  const { title, hint } = moveOf(kind);
  return (
    <MenuItem
      {...item}
      disabled={disabled || why !== null}
      sx={{ maxWidth: 520, whiteSpace: 'normal', gap: 1.5 }}
    >
      <Box sx={{ width: 56, height: 40, flexShrink: 0, display: 'grid', placeItems: 'center' }} aria-hidden>
        <canvas ref={canvas} width={1} height={1} style={{ maxWidth: 56, maxHeight: 40 }} />
      </Box>
      <ListItemText primary={title} secondary={why ?? hint} />
    </MenuItem>
  );
}
