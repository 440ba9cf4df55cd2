import type { ParametersOf } from '../../../core/moves/index.ts';
import { HEATS, RECKONED, formEditor } from './form.tsx';

export const LeanEditor = formEditor<ParametersOf<'lean'>>([
  { kind: 'angle', label: 'Lean to the right', key: 'leanDeg', least: -40, most: 40 },
  RECKONED,
  HEATS,
]);
