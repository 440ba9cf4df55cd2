import { Box, Button, CircularProgress, Typography } from '@mui/material';
import { useAtWork } from '../../document/atWork.ts';
import { colours } from '../../ui/theme.ts';

/** What is worked out for longer than a moment: said at the foot of the page, and stopped with one press. */
export function AtWorkStrip() {
  const all = useAtWork((state) => state.all);
  // Pictures asked for together are one work to whoever waits.
  const shown = [...new Map(all.map((work) => [work.what, work])).values()];
  if (shown.length === 0) return null;
  return (
    <Box
      role="status"
      aria-label="At work"
      sx={{
        position: 'fixed',
        left: 8,
        bottom: 8,
        zIndex: 'snackbar',
        display: 'grid',
        gap: 0.5,
        px: 1.5,
        py: 0.25,
        background: colours.paper,
        border: `1px solid ${colours.line}`,
        borderRadius: 1,
        boxShadow: 3,
      }}
    >
      {shown.map(({ id, what, stop }) => (
        <Box key={id} sx={{ display: 'flex', alignItems: 'center', gap: 1.25 }}>
          <CircularProgress size={18} aria-hidden />
          <Typography>{what} …</Typography>
          <Button size="small" aria-label={`Stop: ${what}`} onClick={stop}>
            Stop
          </Button>
        </Box>
      ))}
    </Box>
  );
}
