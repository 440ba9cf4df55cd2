import { Button, Dialog, DialogActions, DialogContent, DialogContentText, DialogTitle } from '@mui/material';
import { useShutOut } from '../document/api.ts';

/** Said wherever it happens: what was written stays in the browser until the device is let in again. */
export function ShutOut() {
  const shutOut = useShutOut((state) => state.shutOut);
  return (
    <Dialog open={shutOut}>
      <DialogTitle>This device is not let in any more</DialogTitle>
      <DialogContent>
        <DialogContentText>
          It was shut out, or has not been used for thirty days. What was written here and not sent yet waits
          on this device, and is sent once it is let in again.
        </DialogContentText>
      </DialogContent>
      <DialogActions>
        {/* A page of the server's own, outside of this one. */}
        <Button variant="contained" size="large" href="/door">
          Let it in again
        </Button>
      </DialogActions>
    </Dialog>
  );
}
