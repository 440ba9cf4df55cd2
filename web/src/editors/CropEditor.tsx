import type { ParametersOf } from '../../../core/moves/index.ts';
import { formEditor } from './form.tsx';

export const CropEditor = formEditor<ParametersOf<'crop'>>([
  { kind: 'length', label: 'Off end A', key: 'endAMm', mayBeNone: true, most: 2000 },
  { kind: 'length', label: 'Off end B', key: 'endBMm', mayBeNone: true, most: 2000 },
]);
