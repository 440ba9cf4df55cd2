import type { ParametersOf } from '../../../core/moves/index.ts';
import { HEATS, formEditor } from './form.tsx';

export const UpsetEditor = formEditor<ParametersOf<'upset'>>([
  { kind: 'length', label: 'Pressed down to', key: 'toHeightMm' },
  HEATS,
]);
