import { Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { type ReactNode, useId } from 'react';

interface PopupProps {
  title: ReactNode;
  /** Left out: as long as it is there. */
  open?: boolean;
  width?: 'sm' | 'md';
  /** More than a screen to read: it can be scrolled by the keyboard. */
  isLong?: boolean;
  /** Without it, one of the actions must be taken. */
  onClose?: () => void;
  /** What Enter does, where it is a form. */
  onSubmit?: () => void;
  /** From left to right; what goes on stands last. */
  actions?: ReactNode;
  children: ReactNode;
}

/** A sheet laid over the screen until it is answered. */
export function Popup({
  title,
  open = true,
  width,
  isLong,
  onClose,
  onSubmit,
  actions,
  children,
}: PopupProps) {
  const titled = useId();
  const inside = (
    <>
      <DialogTitle id={titled}>{title}</DialogTitle>
      <DialogContent
        {...(isLong && { tabIndex: 0 })}
        // No wider than the sheet, whatever lies in it.
        sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gap: 2, pt: '8px !important' }}
      >
        {children}
      </DialogContent>
      {actions && <DialogActions sx={{ px: 3, pb: 2 }}>{actions}</DialogActions>}
    </>
  );
  return (
    <Dialog {...{ open, onClose }} maxWidth={width} fullWidth={width !== undefined} aria-labelledby={titled}>
      {onSubmit ? (
        <form
          onSubmit={(submit) => {
            submit.preventDefault();
            onSubmit();
          }}
        >
          {inside}
        </form>
      ) : (
        inside
      )}
    </Dialog>
  );
}
