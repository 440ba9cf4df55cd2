import { Stack } from '@mui/material';
import { sizeOf } from '../../../core/billet/billet.ts';
import type { DrawParameters } from '../../../core/moves/forge/draw.ts';
import { Choice } from '../ui/fields/Choice.tsx';
import { CountField, LengthField } from '../ui/fields/numberFields.tsx';
import { ReckonedField } from './ReckonedField.tsx';
import type { EditorProps } from './editor.ts';

export function DrawEditor({ parameters: p, change, before, problem }: EditorProps<DrawParameters>) {
  const reshape = (shape: DrawParameters['shape']) => {
    if (shape === p.shape) return;
    const { heats, reckoned } = p;
    const size = before[0] ? sizeOf(before[0]) : { widthMm: 30, heightMm: 30 };
    if (p.shape === 'flat')
      return replace({
        shape: 'square',
        sideMm: Math.floor(Math.sqrt(p.widthMm * p.thicknessMm)),
        heats,
        reckoned,
      });
    replace({
      shape: 'flat',
      widthMm: Math.round(Math.min(size.widthMm, p.sideMm * 1.2)),
      thicknessMm: Math.round(p.sideMm / 2),
      heats,
      reckoned,
    });
  };
  // The two shapes have different numbers: the step is replaced, never merged.
  const replace = (whole: DrawParameters) => change({ ...blank(p), ...whole } as Partial<DrawParameters>);
  return (
    <>
      <Choice
        label="Draw to a"
        value={p.shape}
        options={[
          ['square', 'Square bar'],
          ['flat', 'Flat bar'],
        ]}
        onChange={reshape}
      />
      {p.shape === 'square' ? (
        <LengthField
          label="Side"
          value={p.sideMm}
          mostMm={500}
          onChange={(sideMm) => change({ sideMm })}
          problem={problem('sideMm')}
        />
      ) : (
        <Stack direction="row" spacing={1}>
          <LengthField
            label="Width"
            value={p.widthMm}
            mostMm={500}
            onChange={(widthMm) => change({ widthMm })}
            problem={problem('widthMm')}
          />
          <LengthField
            label="Thickness"
            value={p.thicknessMm}
            mostMm={500}
            onChange={(thicknessMm) => change({ thicknessMm })}
          />
        </Stack>
      )}
      <ReckonedField
        value={p.reckoned}
        onChange={(reckoned) => change({ reckoned })}
        problem={problem('reckoned')}
      />
      <CountField label="Heats" value={p.heats} least={0} most={40} onChange={(heats) => change({ heats })} />
    </>
  );
}

/** Every present key as undefined, so that a merge leaves nothing of the other shape behind. */
const blank = (p: DrawParameters): Record<string, undefined> =>
  Object.fromEntries(Object.keys(p).map((key) => [key, undefined]));
