import type { ParametersOf } from '../../../core/moves/index.ts';
import { formEditor } from './form.tsx';

export const AccordionEditor = formEditor<ParametersOf<'accordion'>>([
  { kind: 'angle', label: 'Opening of the V', key: 'openingDeg', least: 30, most: 120 },
  { kind: 'length', label: 'Root left uncut', key: 'rootMm', fine: true },
  { kind: 'length', label: 'Leg thickness', key: 'legMm', fine: true },
]);
