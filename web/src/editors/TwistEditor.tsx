import type { ParametersOf } from '../../../core/moves/index.ts';
import { HEATS, formEditor } from './form.tsx';

export const TwistEditor = formEditor<ParametersOf<'twist'>>([
  { kind: 'number', label: 'Whole turns', key: 'turns', least: -60, most: 60 },
  HEATS,
]);
