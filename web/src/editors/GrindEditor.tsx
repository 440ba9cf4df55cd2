import { Box } from '@mui/material';
import type { ParametersOf } from '../../../core/moves/index.ts';
import { LengthField } from '../ui/fields/numberFields.tsx';
import type { EditorProps } from './editor.ts';

type Depths = ParametersOf<'grind'>;

const FACES: [keyof Depths, string][] = [
  ['topMm', 'Off the top'],
  ['bottomMm', 'Off the bottom'],
  ['leftMm', 'Off the left'],
  ['rightMm', 'Off the right'],
];

export function GrindEditor({ parameters: p, change, problem }: EditorProps<Depths>) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
      {FACES.map(([face, label]) => (
        <LengthField
          key={face}
          label={label}
          mayBeNone
          fine
          value={p[face]}
          mostMm={500}
          onChange={(mm) => change({ [face]: mm })}
          problem={problem(face)}
        />
      ))}
    </Box>
  );
}
