import type { ParametersOf } from '../../../core/moves/index.ts';
import { formEditor } from './form.tsx';

export const MeasureEditor = formEditor<ParametersOf<'measure'>>([
  { kind: 'angle', label: 'Turned at end A', key: 'turnDeg', least: -90, most: 90 },
  { kind: 'angle', label: 'Twist per metre', key: 'twistDegPerM', least: -720, most: 720 },
  { kind: 'length', label: 'Distorted, end A', key: 'zoneAMm', mayBeNone: true, most: 2000 },
  { kind: 'length', label: 'Distorted, end B', key: 'zoneBMm', mayBeNone: true, most: 2000 },
]);
