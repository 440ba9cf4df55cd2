import {
  Alert,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Stack,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { PLAN_FORMAT, PLAN_VERSION } from '../../../core/plan/index.ts';
import { parseLength } from '../../../core/units/index.ts';
import { api } from '../app/api.ts';

type Unit = 'in' | 'mm';

const SIZES = [
  ['length', 'Finished length'],
  ['width', 'Finished width'],
  ['thickness', 'Finished thickness'],
] as const;

const FIRST: Record<Unit, Record<(typeof SIZES)[number][0], string>> = {
  in: { length: '12"', width: '1 1/2"', thickness: '1/4"' },
  mm: { length: '300 mm', width: '38 mm', thickness: '5 mm' },
};

const SHOPS = {
  in: { lengths: { unit: 'in', division: 32 }, masses: 'lb', temperatures: 'F' },
  mm: { lengths: { unit: 'mm', division: 0.5 }, masses: 'kg', temperatures: 'C' },
};

/** Asks what is to be made, and begins an empty plan for it. */
export function NewPiece({ open, onClose }: { open: boolean; onClose(): void }) {
  const [name, setName] = useState('');
  const [unit, setUnit] = useState<Unit>('mm');
  const [sizes, setSizes] = useState(FIRST.mm);
  const navigate = useNavigate();
  const create = useMutation({
    mutationFn: api.create,
    onSuccess: (project) => navigate(`/pieces/${project.id}`),
  });
  const read = SIZES.map(([key, label]) => {
    const parsed = parseLength(sizes[key], unit);
    return parsed.ok && parsed.value <= 0
      ? { ok: false as const, message: `${label} must be more than 0` }
      : parsed;
  });
  const ready = name.trim() !== '' && read.every((r) => r.ok);
  const switchUnit = (to: Unit) => {
    setUnit(to);
    setSizes(FIRST[to]);
  };
  const begin = () => {
    const [lengthMm, widthMm, thicknessMm] = read.map((r) => (r.ok ? r.value : 0));
    const lanes = [{ id: 'bar', name: 'Bar', steps: [] }];
    create.mutate({
      format: PLAN_FORMAT,
      version: PLAN_VERSION,
      name: name.trim(),
      goal: { lengthMm, widthMm, thicknessMm },
      shop: SHOPS[unit],
      lanes,
    });
  };
  return (
    <Dialog open={open} onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="new-title">
      <form
        onSubmit={(submit) => {
          submit.preventDefault();
          if (ready) begin();
        }}
      >
        <DialogTitle id="new-title">Begin a new piece</DialogTitle>
        <DialogContent sx={{ display: 'flex', flexDirection: 'column', gap: 2, pt: '8px !important' }}>
          <TextField
            label="Name"
            value={name}
            onChange={(e) => setName(e.target.value)}
            autoFocus
            slotProps={{ htmlInput: { maxLength: 120 } }}
          />
          <Stack direction="row" spacing={2} sx={{ alignItems: 'center' }}>
            <Typography>The shop measures in</Typography>
            <ToggleButtonGroup
              size="small"
              exclusive
              value={unit}
              onChange={(_, to: Unit | null) => to && switchUnit(to)}
              aria-label="Units"
            >
              <ToggleButton value="in" sx={{ textTransform: 'none' }}>
                inches
              </ToggleButton>
              <ToggleButton value="mm" sx={{ textTransform: 'none' }}>
                mm
              </ToggleButton>
            </ToggleButtonGroup>
          </Stack>
          <Typography color="text.secondary">
            The finished bar, before the blade is forged or ground from it. Fractions, sums and either unit
            are understood: 1 7/16, 36.5 mm, 2 7/16 / 2.
          </Typography>
          <Stack direction="row" spacing={1.5} sx={{ alignItems: 'flex-start' }}>
            {SIZES.map(([key, label], i) => {
              const parsed = read[i];
              return (
                <TextField
                  key={key}
                  label={label}
                  value={sizes[key]}
                  onChange={(e) => setSizes({ ...sizes, [key]: e.target.value })}
                  error={!parsed.ok}
                  helperText={parsed.ok ? undefined : parsed.message}
                />
              );
            })}
          </Stack>
          {create.error && <Alert severity="error">{create.error.message}</Alert>}
        </DialogContent>
        <DialogActions sx={{ px: 3, pb: 2 }}>
          <Button onClick={onClose}>Not now</Button>
          <Button type="submit" variant="contained" disabled={!ready || create.isPending}>
            Begin
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
