import CloseIcon from '@mui/icons-material/Close';
import { Button, IconButton, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import type { FoundParameters } from '../../../core/moves/begin/found.ts';
import { MOVES } from '../../../core/moves/index.ts';
import { dotsOf, keptDots } from '../../../core/picture/runs.ts';
import { mostIn, quantitiesOf } from '../../../core/units/index.ts';
import { Another } from '../ui/Another.tsx';
import { FileButton } from '../ui/FileButton.tsx';
import { QuantityField } from '../ui/fields/QuantityField.tsx';
import { PhotographedEnd } from './PhotographedEnd.tsx';
import { MaterialChoice } from './form/MaterialChoice.tsx';
import type { EditorProps } from './form/editor.ts';

const of = quantitiesOf(MOVES.found.parameters);
const MOST_STEELS = mostIn(MOVES.found.parameters, 'steels');
const SIZES = ['widthMm', 'heightMm', 'lengthMm'] as const;

/** A bar that is there: its sizes, the steels in it, and its end from a photograph. */
export function FoundEditor({ parameters: p, change, problem }: EditorProps<FoundParameters>) {
  const [file, setFile] = useState<File | null>(null);
  /** A steel that goes is taken for the first. */
  const without = (k: number) => {
    const { dots, steels } = p;
    const kept = dots && {
      dots: keptDots(
        dots.side,
        dotsOf(dots).map((steel) => (steel === k ? 0 : steel > k ? steel - 1 : steel)),
      ),
    };
    change({ steels: steels.filter((_, i) => i !== k), ...kept });
  };
  return (
    <>
      <Stack direction="row" useFlexGap spacing={1} sx={{ flexWrap: 'wrap' }}>
        {SIZES.map((key) => (
          <QuantityField key={key} of={of(key)} value={p[key]} onChange={(mm) => change({ [key]: mm })} />
        ))}
      </Stack>
      {p.steels.map((steel, k) => (
        <Stack key={k} direction="row" spacing={1} sx={{ alignItems: 'flex-start' }}>
          <MaterialChoice
            label={`Steel ${k + 1}`}
            value={steel}
            onChange={(id) => change({ steels: p.steels.map((s, i) => (i === k ? id : s)) })}
            problem={problem('steels')}
          />
          {p.steels.length > 1 && (
            <IconButton aria-label={`Take steel ${k + 1} out`} size="small" onClick={() => without(k)}>
              <CloseIcon fontSize="small" />
            </IconButton>
          )}
        </Stack>
      ))}
      <Another
        has={p.steels.length}
        most={MOST_STEELS}
        act={() => change({ steels: [...p.steels, p.steels[p.steels.length - 1]] })}
      >
        Another steel in it
      </Another>
      <Stack direction="row" useFlexGap spacing={1} sx={{ flexWrap: 'wrap', alignItems: 'center' }}>
        <FileButton
          text={p.dots ? 'Another photograph of its end' : 'Photograph of its end'}
          variant="outlined"
          accept="image/*"
          capture="environment"
          take={async (chosen) => setFile(chosen)}
        />
        {p.dots && (
          <Button size="small" onClick={() => change({ dots: undefined })}>
            Without it
          </Button>
        )}
      </Stack>
      <Typography variant="body2" color="text.secondary">
        {p.dots
          ? 'Its end is kept in the plan as dots of these steels; the photograph is not.'
          : 'Ground, etched, a white card behind it. Name its steels first.'}
      </Typography>
      {file && (
        <PhotographedEnd
          file={file}
          bar={p}
          take={(dots) => {
            change({ dots });
            setFile(null);
          }}
          onClose={() => setFile(null)}
        />
      )}
    </>
  );
}
