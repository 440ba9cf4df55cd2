import { Another } from '../ui/Another.tsx';
import { MOVES } from '../../../core/moves/index.ts';
import CloseIcon from '@mui/icons-material/Close';
import { IconButton, Stack, Typography } from '@mui/material';
import { type StackParameters, stackHeight } from '../../../core/moves/begin/stack.ts';
import { formatLength, mostIn, quantitiesOf } from '../../../core/units/index.ts';
import { MaterialChoice } from './form/MaterialChoice.tsx';
import { QuantityField } from '../ui/fields/QuantityField.tsx';
import { useShop } from '../document/useEvaluation.ts';
import type { EditorProps } from './form/editor.ts';

const of = quantitiesOf(MOVES.stack.parameters);
const MOST_LAYERS = mostIn(MOVES.stack.parameters, 'pattern');

export function StackEditor({ parameters: p, change, problem }: EditorProps<StackParameters>) {
  const { lengths } = useShop();
  const layer = (i: number, some: Partial<StackParameters['pattern'][number]>) =>
    change({ pattern: p.pattern.map((l, k) => (k === i ? { ...l, ...some } : l)) });
  return (
    <>
      <Stack direction="row" spacing={1}>
        <QuantityField of={of('lengthMm')} value={p.lengthMm} onChange={(lengthMm) => change({ lengthMm })} />
        <QuantityField of={of('widthMm')} value={p.widthMm} onChange={(widthMm) => change({ widthMm })} />
      </Stack>
      <QuantityField
        of={of('layers')}
        value={p.layers}
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
          <QuantityField
            of={of('pattern.thicknessMm')}
            label={`Layer ${i + 1} thickness`}
            hideLabel
            width={125}
            value={l.thicknessMm}
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
      <Another
        has={p.pattern.length}
        most={MOST_LAYERS}
        act={() => change({ pattern: [...p.pattern, { ...p.pattern[p.pattern.length - 1] }] })}
      >
        Another layer in the pattern
      </Another>
    </>
  );
}
