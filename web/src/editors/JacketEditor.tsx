import type { ParametersOf } from '../../../core/moves/index.ts';
import { formEditor } from './form.tsx';

export const JacketEditor = formEditor<ParametersOf<'jacket'>>([
  { kind: 'material', label: 'Sheet', key: 'material' },
  {
    kind: 'choice',
    label: 'Wrap',
    key: 'where',
    options: [
      ['all round', 'All round'],
      ['top and bottom', 'Top and bottom only'],
    ],
  },
  { kind: 'length', label: 'Sheet thickness', key: 'thicknessMm', fine: true },
]);
