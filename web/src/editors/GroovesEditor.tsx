import type { ParametersOf } from '../../../core/moves/index.ts';
import { HEATS, formEditor } from './form.tsx';

export const GroovesEditor = formEditor<ParametersOf<'grooves'>>([
  {
    kind: 'choice',
    label: 'Pattern',
    key: 'pattern',
    options: [
      ['across', 'Grooves straight across'],
      ['diagonal', 'Slanting grooves'],
      ['dimples', 'Rows of dimples'],
    ],
  },
  {
    kind: 'choice',
    label: 'Made by',
    key: 'how',
    options: [
      ['ground', 'Grinding, then forged flat'],
      ['pressed', 'Pressing, then ground flat'],
    ],
  },
  { kind: 'length', label: 'Depth', key: 'depthMm', fine: true },
  { kind: 'length', label: 'Width', key: 'widthMm', fine: true },
  { kind: 'length', label: 'Every', key: 'pitchMm' },
  {
    kind: 'angle',
    label: 'Slant',
    key: 'slantDeg',
    least: -60,
    most: 60,
    when: (p) => p.pattern === 'diagonal',
  },
  HEATS,
]);
