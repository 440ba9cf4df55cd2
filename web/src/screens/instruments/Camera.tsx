import { Alert, Box, Button, MenuItem, Paper, Slider, TextField, Typography } from '@mui/material';
import { useCallback, useState } from 'react';
import { moveOf } from '../../../../core/moves/index.ts';
import { type Plan, withRecords } from '../../../../core/plan/index.ts';
import { FAULTS, type Faults, shotWith } from '../../../../core/sighting/camera.ts';
import { api } from '../../document/api.ts';
import { simulatedPhotograph } from '../../document/sights.ts';
import { useAsked } from '../../document/useAsked.ts';
import { download, fileName } from '../../ui/download.ts';

/** As many pieces are offered. */
const MOST = 100;
const KEYS = Object.keys(FAULTS) as (keyof typeof FAULTS)[];
const USUAL = Object.fromEntries(KEYS.map((key) => [key, FAULTS[key].usual])) as Faults;

const SHOWS = { A: 'End A', B: 'End B', face: 'Its top, from end A on' } as const;

const piecesOnShelf = () => api.list({ search: '', state: 'any', sort: 'name', offset: 0, limit: MOST });

/** A camera that stands in for the real one: an end of a bar of a plan with a fault of one's choice, as a file to be taken at the bench. */
export function Camera() {
  const { value: shelf, error } = useAsked(piecesOnShelf);
  const [piece, setPiece] = useState('');
  const plan = useAsked(
    useCallback(async (): Promise<Plan | null> => {
      if (piece === '') return null;
      const { plan: kept, records } = await api.get(piece);
      return withRecords(kept, records);
    }, [piece]),
  );
  const [step, setStep] = useState('');
  const [shows, setShows] = useState<keyof typeof SHOWS>('B');
  const [faults, setFaults] = useState<Faults>(USUAL);
  const [said, setSaid] = useState('');
  const steps = plan.value?.lanes.flatMap((l) => l.steps) ?? [];
  const stepId = steps.some((s) => s.id === step) ? step : '';
  const take = async () => {
    if (!plan.value) return;
    setSaid('Taking it …');
    try {
      const [what, end] = shows === 'face' ? (['face', 'B'] as const) : (['end', shows] as const);
      const file = await simulatedPhotograph(plan.value, stepId, what, shotWith(end, faults));
      if (!file)
        return setSaid('There is no bar of four sides after that move, or it is not worked out yet.');
      download(fileName(plan.value.name, what === 'face' ? '-top.jpg' : `-end-${end}.jpg`), file);
      setSaid('Taken: at the bench, under Photograph, it is chosen as a file.');
    } catch (wrong) {
      setSaid((wrong as Error).message);
    }
  };
  return (
    <Paper variant="sheet" component="section" aria-label="Camera">
      <Typography variant="h3">Camera</Typography>
      <Typography>
        Takes the end of a bar, or its top, as it would be seen if it had come out otherwise. What it makes is
        no photograph of steel.
      </Typography>
      {(error ?? plan.error) && <Alert severity="error">{error ?? plan.error}</Alert>}
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', my: 1.5 }}>
        <TextField
          select
          label="Piece"
          value={piece}
          onChange={(e) => setPiece(e.target.value)}
          sx={{ minWidth: 220 }}
        >
          {(shelf?.projects ?? []).map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="After the move"
          value={stepId}
          disabled={steps.length === 0}
          onChange={(e) => setStep(e.target.value)}
          sx={{ minWidth: 240 }}
        >
          {steps.map(({ id, kind }, i) => (
            <MenuItem key={id} value={id}>
              {i + 1}. {moveOf(kind).title}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="It shows"
          value={shows}
          onChange={(e) => setShows(e.target.value as keyof typeof SHOWS)}
        >
          {Object.entries(SHOWS).map(([key, text]) => (
            <MenuItem key={key} value={key}>
              {text}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: 'max-content 1fr max-content',
          columnGap: 3,
          alignItems: 'center',
        }}
      >
        {KEYS.map((key) => {
          const { label, unit, least, most, step: by } = FAULTS[key];
          return (
            <Box key={key} sx={{ display: 'contents' }}>
              <Typography>{label}</Typography>
              <Slider
                aria-label={label}
                min={least}
                max={most}
                step={by}
                value={faults[key]}
                onChange={(_, value) => setFaults({ ...faults, [key]: value })}
              />
              <Typography variant="numbers">
                {faults[key]}
                {unit}
              </Typography>
            </Box>
          );
        })}
      </Box>
      <Button variant="contained" disabled={stepId === ''} onClick={() => void take()}>
        Take the photograph
      </Button>
      <Typography role="status">{said}</Typography>
    </Paper>
  );
}
