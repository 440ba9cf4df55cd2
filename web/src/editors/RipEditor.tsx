import type { ParametersOf } from '../../../core/moves/index.ts';
import { formEditor } from './form.tsx';

export const RipEditor = formEditor<ParametersOf<'rip'>>([
  {
    kind: 'choice',
    label: 'Saw',
    key: 'way',
    options: [
      ['upright', 'Upright: left and right'],
      ['level', 'Level: bottom and top'],
    ],
  },
  { kind: 'length', label: 'Off the centre line', key: 'offCentreMm', fine: true, signed: true },
  { kind: 'length', label: 'Saw kerf', key: 'kerfMm', fine: true, mayBeNone: true, most: 10, orElse: 1 },
]);
