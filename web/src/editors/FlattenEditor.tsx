import type { ParametersOf } from '../../../core/moves/index.ts';
import { HEATS, formEditor } from './form.tsx';

export const FlattenEditor = formEditor<ParametersOf<'flatten'>>([
  { kind: 'length', label: 'To a thickness of', key: 'thicknessMm', fine: true },
  HEATS,
]);
