import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Button, IconButton, Stack, Typography } from '@mui/material';
import { type StackParameters, stackHeight } from '../../../core/moves/begin/stack.ts';
import { formatLength } from '../../../core/units/index.ts';
import { MaterialChoice } from '../ui/fields/Choice.tsx';
import { CountField, LengthField } from '../ui/fields/numberFields.tsx';
import { useShop } from '../document/useEvaluation.ts';
import type { EditorProps } from './editor.ts';

export function StackEditor({ parameters: p, change, problem }: EditorProps<StackParameters>) {
  const { lengths } = useShop();
  const layer = (i: number, some: Partial<StackParameters['pattern'][number]>) =>
    change({ pattern: p.pattern.map((l, k) => (k === i ? { ...l, ...some } : l)) });
  return (
    <>
      <Stack direction="row" spacing={1}>
        <LengthField label="Length" value={p.lengthMm} onChange={(lengthMm) => change({ lengthMm })} />
        <LengthField
          label="Width"
          value={p.widthMm}
          mostMm={500}
          onChange={(widthMm) => change({ widthMm })}
        />
      </Stack>
      <CountField
        label="Layers in all"
        value={p.layers}
        least={1}
        most={500}
        onChange={(layers) => change({ layers })}
        problem={problem('layers')}
      />
      <Typography variant="body2" color="text.secondary">
        Laid in turn from the bottom; stands {formatLength(stackHeight(p), lengths)} tall
      </Typography>
      {p.pattern.map((l, i) => (
        <Stack key={i} direction="row" spacing={1} sx={{ alignItems: 'flex-start' }}>
          <MaterialChoice
            label={`Layer ${i + 1}`}
            value={l.material}
            onChange={(material) => layer(i, { material })}
            problem={problem('pattern')}
          />
          <LengthField
            label={`Layer ${i + 1} thickness`}
            hideLabel
            fine
            width={125}
            value={l.thicknessMm}
            mostMm={500}
            onChange={(thicknessMm) => layer(i, { thicknessMm })}
          />
          {p.pattern.length > 1 && (
            <IconButton
              aria-label={`Take layer ${i + 1} out of the pattern`}
              size="small"
              onClick={() => change({ pattern: p.pattern.filter((_, k) => k !== i) })}
            >
              <CloseIcon fontSize="small" />
            </IconButton>
          )}
        </Stack>
      ))}
      <Box>
        <Button
          size="small"
          startIcon={<AddIcon />}
          disabled={p.pattern.length >= 60}
          onClick={() => change({ pattern: [...p.pattern, { ...p.pattern[p.pattern.length - 1] }] })}
        >
          Another layer in the pattern
        </Button>
      </Box>
    </>
  );
}
