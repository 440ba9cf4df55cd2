import type { ParametersOf } from '../../../core/moves/index.ts';
import { HEATS, RECKONED, formEditor } from './form.tsx';

export const CornersEditor = formEditor<ParametersOf<'corners'>>([
  {
    kind: 'choice',
    label: 'Down to',
    key: 'shape',
    options: [
      ['octagon', 'An octagon'],
      ['round', 'A round bar'],
    ],
  },
  RECKONED,
  HEATS,
]);
