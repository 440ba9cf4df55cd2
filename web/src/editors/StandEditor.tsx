import type { ParametersOf } from '../../../core/moves/index.ts';
import { formEditor } from './form.tsx';

export const StandEditor = formEditor<ParametersOf<'stand'>>([
  {
    kind: 'choice',
    label: 'Stand them',
    key: 'lay',
    options: [
      ['every other turned over', 'Every other turned over'],
      ['all end B up', 'All end B up'],
    ],
  },
]);
