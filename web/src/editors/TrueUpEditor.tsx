import type { ParametersOf } from '../../../core/moves/index.ts';
import { formEditor } from './form.tsx';

export const TrueUpEditor = formEditor<ParametersOf<'trueUp'>>([
  { kind: 'angle', label: 'Pattern turned by', key: 'errorDeg', least: -20, most: 20 },
]);
