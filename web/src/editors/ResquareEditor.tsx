import type { ParametersOf } from '../../../core/moves/index.ts';
import { HEATS, RECKONED, formEditor } from './form.tsx';

export const ResquareEditor = formEditor<ParametersOf<'resquare'>>([
  {
    kind: 'choice',
    label: 'Turn 45° to the',
    key: 'turn',
    options: [
      ['left', 'Left, seen on end B'],
      ['right', 'Right, seen on end B'],
    ],
  },
  { kind: 'length', label: 'Down to a side of', key: 'sideMm' },
  { kind: 'angle', label: 'Off the 45° by', key: 'errorDeg', least: -20, most: 20 },
  RECKONED,
  HEATS,
]);
