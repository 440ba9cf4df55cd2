import type { Goal, Step } from '../../../core/plan/index.ts';

/** A short worked example that ends at the maker's own finished width and thickness. */
export function exampleSteps(goal: Goal): Step[] {
  const moves: [Step['kind'], unknown][] = [
    [
      'stack',
      {
        layers: 11,
        pattern: [
          { material: '1084', thicknessMm: 4 },
          { material: '15n20', thicknessMm: 2 },
        ],
        widthMm: 36,
        lengthMm: 150,
      },
    ],
    ['weld', { heats: 2, temperatureC: 1200 }],
    ['draw', { shape: 'square', sideMm: 28, heats: 2 }],
    ['resquare', { turn: 'left', sideMm: 25, errorDeg: 0, heats: 2 }],
    ['cut', { pieces: 4, cropAMm: 8, cropBMm: 8 }],
    ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }],
    ['weld', { heats: 2, temperatureC: 1200 }],
    ['draw', { shape: 'square', sideMm: 26, heats: 2 }],
    ['tile', { angleDeg: 45, thicknessMm: 14, lay: 'every other rolled' }],
    ['weld', { heats: 2, temperatureC: 1200 }],
    ['draw', { shape: 'flat', widthMm: goal.widthMm, thicknessMm: goal.thicknessMm, heats: 2 }],
  ];
  return moves.map(([kind, parameters], i) => ({ id: `s${i + 1}`, kind, parameters }));
}
