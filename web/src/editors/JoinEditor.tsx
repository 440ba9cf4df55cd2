import type { ParametersOf } from '../../../core/moves/index.ts';
import { formEditor } from './form.tsx';

export const JoinEditor = formEditor<ParametersOf<'join'>>([
  { kind: 'material', label: 'Block of', key: 'material' },
  {
    kind: 'choice',
    label: 'At',
    key: 'end',
    options: [
      ['A', 'End A'],
      ['B', 'End B'],
    ],
  },
  { kind: 'length', label: 'Block length', key: 'lengthMm', most: 10_000 },
]);
