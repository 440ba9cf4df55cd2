import type { ParametersOf } from '../../../core/moves/index.ts';
import { HEATS, formEditor } from './form.tsx';

export const WedgeEditor = formEditor<ParametersOf<'wedge'>>([
  { kind: 'angle', label: 'Angle at the point', key: 'apexDeg', least: 20, most: 120 },
  HEATS,
]);
