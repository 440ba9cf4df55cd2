import { Box, Button, CircularProgress, Typography } from '@mui/material';
import { useAtWork } from '../../document/atWork.ts';
import { colours } from '../../ui/theme.ts';

/** What is worked out for longer than a moment: said on one line at the foot of the page, and stopped with one press. */
export function AtWorkStrip() {
  const all = useAtWork((state) => state.all);
  if (all.length === 0) return null;
  // Pictures asked for together are one work to whoever waits.
  const what = [...new Set(all.map((work) => work.what))].join(', ');
  return (
    <Box
      role="status"
      aria-label="At work"
      sx={{
        position: 'fixed',
        left: 8,
        bottom: 8,
        zIndex: 'snackbar',
        // What changes its width stands last, so that nothing moves.
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        pl: 0.5,
        pr: 1.5,
        height: 40,
        background: colours.paper,
        border: `1px solid ${colours.line}`,
        borderRadius: 1,
        boxShadow: 3,
      }}
    >
      <Button size="small" aria-label={`Stop: ${what}`} onClick={() => all.forEach((work) => work.stop())}>
        Stop
      </Button>
      <CircularProgress size={18} aria-hidden />
      {/* One text: of two the second would move as the first grows. */}
      <Typography noWrap>{`${what} …`}</Typography>
    </Box>
  );
}
