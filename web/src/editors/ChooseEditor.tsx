import {
  Button,
  FormControl,
  FormLabel,
  Stack,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import { nameIn } from '../../../core/moves/contract/each.ts';
import type { ParametersOf } from '../../../core/moves/index.ts';
import type { EditorProps } from './form/editor.ts';

/** Which pieces are on the bench from here: each is pressed in or out, the last one stays in. */
export function ChooseEditor({ parameters, change, before, problem }: EditorProps<ParametersOf<'choose'>>) {
  const all = before.map((_, i) => i + 1);
  const pieces = parameters.pieces.filter((n) => n <= all.length);
  const others = all.filter((n) => !pieces.includes(n));
  const wrong = problem('pieces');
  return (
    <FormControl component="fieldset">
      <FormLabel component="legend">On the bench from here</FormLabel>
      <ToggleButtonGroup
        value={pieces}
        onChange={(_, chosen: number[]) =>
          chosen.length > 0 && change({ pieces: chosen.toSorted((a, b) => a - b) })
        }
        sx={{ flexWrap: 'wrap', my: 1 }}
      >
        {before.map((bar, i) => (
          <ToggleButton
            key={i}
            value={i + 1}
            aria-label={`Piece ${nameIn(bar, before)}`}
            sx={{ minWidth: 48 }}
          >
            {nameIn(bar, before)}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Stack direction="row" spacing={1}>
        <Button size="small" disabled={others.length === 0} onClick={() => change({ pieces: all })}>
          All of them
        </Button>
        <Button size="small" disabled={others.length === 0} onClick={() => change({ pieces: others })}>
          The others instead
        </Button>
      </Stack>
      {wrong && (
        <Typography variant="body2" color="error">
          {wrong}
        </Typography>
      )}
    </FormControl>
  );
}
