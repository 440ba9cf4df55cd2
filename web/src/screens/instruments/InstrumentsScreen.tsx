import { Box, Button, Paper, Slider, Typography } from '@mui/material';
import { useState } from 'react';
import { SIMULATED, type Simulated, readingOf } from '../../../../core/instruments/simulated.ts';
import { RequestError, api } from '../../document/api.ts';
import { Camera } from './Camera.tsx';
import { PageHead } from '../../ui/layout.tsx';

/** Stand-ins for the instruments of a shop: each sends readings as a real one does, with its scatter and its display. */
export function Component() {
  return (
    <>
      <PageHead>
        <Typography variant="h2">Simulated instruments</Typography>
      </PageHead>
      <Box component="main" sx={{ p: 2.5, display: 'grid', gap: 2, maxWidth: 900 }}>
        <Typography>
          What these send goes to the size that is open at the bench, as a reading of a real caliper, scale or
          pyrometer would.
        </Typography>
        {SIMULATED.map((of) => (
          <Dial key={of.instrument} of={of} />
        ))}
        <Camera />
      </Box>
    </>
  );
}

function Dial({ of }: { of: Simulated }) {
  const [truth, setTruth] = useState((of.least + of.most) / 10);
  const [said, setSaid] = useState('');
  const send = async () => {
    const reading = readingOf(of, truth, new Date().toISOString(), Math.random);
    try {
      const { heard } = await api.read(reading);
      setSaid(
        `${reading.value} ${of.unit}: ${heard === 0 ? 'nobody listens' : heard === 1 ? 'one page heard it' : `${heard} pages heard it`}`,
      );
    } catch (error) {
      setSaid(error instanceof RequestError ? error.message : 'It could not be sent.');
    }
  };
  return (
    <Paper variant="sheet" component="section" aria-label={of.instrument}>
      <Typography variant="h3">{of.instrument}</Typography>
      <Box sx={{ display: 'flex', gap: 3, alignItems: 'center' }}>
        <Slider
          aria-label={`${of.instrument}, true value`}
          min={of.least}
          max={of.most}
          step={of.resolution}
          value={truth}
          valueLabelDisplay="auto"
          onChange={(_, value) => setTruth(value)}
        />
        <Button variant="contained" onClick={() => void send()} sx={{ flex: 'none' }}>
          Read {Number(truth.toFixed(3))} {of.unit}
        </Button>
      </Box>
      <Typography role="status">{said}</Typography>
    </Paper>
  );
}
