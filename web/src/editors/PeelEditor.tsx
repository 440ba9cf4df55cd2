import type { ParametersOf } from '../../../core/moves/index.ts';
import { formEditor } from './form.tsx';

export const PeelEditor = formEditor<ParametersOf<'peel'>>([
  {
    kind: 'choice',
    label: 'Take it off',
    key: 'how',
    options: [
      ['peel', 'Peel it'],
      ['grind', 'Grind it off'],
    ],
  },
]);
