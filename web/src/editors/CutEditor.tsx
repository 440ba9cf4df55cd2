import { Stack } from '@mui/material';
import type { CutParameters } from '../../../core/moves/saw/cut.ts';
import { CountField, LengthField } from '../ui/fields/numberFields.tsx';
import { useShop } from '../document/useEvaluation.ts';
import type { EditorProps } from './editor.ts';

export function CutEditor({ parameters: p, change, problem }: EditorProps<CutParameters>) {
  const shop = useShop();
  return (
    <>
      <CountField
        label="Equal pieces"
        value={p.pieces}
        least={1}
        most={60}
        onChange={(pieces) => change({ pieces })}
        problem={problem('pieces')}
      />
      <Stack direction="row" spacing={1}>
        <LengthField
          label="Crop end A"
          mayBeNone
          value={p.cropAMm}
          mostMm={500}
          onChange={(cropAMm) => change({ cropAMm })}
        />
        <LengthField
          label="Crop end B"
          mayBeNone
          value={p.cropBMm}
          mostMm={500}
          onChange={(cropBMm) => change({ cropBMm })}
        />
      </Stack>
      <LengthField
        label="Saw kerf"
        mayBeNone
        fine
        value={p.kerfMm ?? shop.kerfMm}
        mostMm={10}
        onChange={(kerfMm) => change({ kerfMm })}
      />
    </>
  );
}
