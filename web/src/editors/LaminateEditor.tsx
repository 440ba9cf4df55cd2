import { quantitiesOf } from '../../../core/units/index.ts';
import { MOVES } from '../../../core/moves/index.ts';
import { Checkbox, FormControlLabel, Stack } from '@mui/material';
import type { ParametersOf } from '../../../core/moves/index.ts';
import { Choice } from '../ui/fields/Choice.tsx';
import { MaterialChoice } from './form/MaterialChoice.tsx';
import { QuantityField } from '../ui/fields/QuantityField.tsx';
import type { EditorProps } from './form/editor.ts';

const of = quantitiesOf(MOVES.laminate.parameters);

type P = ParametersOf<'laminate'>;

const WHERE = [
  ['core between', 'A core between two pieces'],
  ['cladding both sides', 'Plates on both sides of the bar'],
  ['along one edge', 'A strip along one edge'],
  ['rim all round', 'A rim all round'],
] as const;

const LIE = [
  ['upper one rolled', 'The upper one'],
  ['both rolled', 'Both (ripped: sawn faces out)'],
  ['as they lie', 'Neither: as they lay'],
  ['lower one rolled', 'The lower one'],
] as const;

export function LaminateEditor({ parameters: p, change, problem }: EditorProps<P>) {
  const set = (some: Partial<NonNullable<P['sheet']>>) =>
    change({ sheet: { material: 'nickel', thicknessMm: 0.5, ...p.sheet, ...some } });
  return (
    <>
      <Choice
        label="Where"
        value={p.where}
        options={WHERE}
        onChange={(where) => change({ where })}
        problem={problem('where')}
      />
      {p.where === 'core between' && (
        <Choice
          label="Rolled over"
          value={p.lie ?? 'upper one rolled'}
          options={LIE}
          onChange={(lie) => change({ lie })}
        />
      )}
      <Stack direction="row" spacing={1}>
        <MaterialChoice
          label="Of"
          value={p.material}
          onChange={(material) => change({ material })}
          problem={problem('material')}
        />
        <QuantityField
          of={of('thicknessMm')}
          width={145}
          value={p.thicknessMm}
          onChange={(thicknessMm) => change({ thicknessMm })}
        />
      </Stack>
      <FormControlLabel
        control={
          <Checkbox
            checked={p.sheet !== undefined}
            onChange={(_, on) => (on ? set({}) : change({ sheet: undefined, edgesSealed: undefined }))}
          />
        }
        label="Thin sheet in the seams"
      />
      {p.sheet && (
        <>
          <Stack direction="row" spacing={1}>
            <MaterialChoice
              label="Sheet"
              value={p.sheet.material}
              onChange={(material) => set({ material })}
            />
            <QuantityField
              of={of('sheet.thicknessMm')}
              hideLabel
              width={125}
              value={p.sheet.thicknessMm}
              onChange={(thicknessMm) => set({ thicknessMm })}
            />
          </Stack>
          <FormControlLabel
            control={
              <Checkbox
                checked={p.edgesSealed ?? false}
                onChange={(_, on) => change({ edgesSealed: on || undefined })}
              />
            }
            label="Edges welded shut all round"
          />
        </>
      )}
    </>
  );
}
