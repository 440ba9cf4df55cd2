import { describe, expect, it } from 'vitest';
import { evaluate, withRemedy } from '../plan/index.ts';
import { SQUARE_BAR, cutInto, drawSquare, planOf, resquareTo, stackOf, weldIt } from '../tests/plans.ts';
import type { Finding } from './contract/move.ts';

type Move = readonly [string, unknown];
type Moves = readonly Move[];

const lastOf = (moves: Moves) => evaluate(planOf(moves)).lanes[0].steps.at(-1)!;
const found = (moves: Moves, code: string): Finding | undefined =>
  lastOf(moves).findings.find((f) => f.code === code);

const ROUND: Moves = [...SQUARE_BAR, ['corners', { shape: 'round', heats: 0 }]];
const LEANING: Moves = [...SQUARE_BAR, ['lean', { leanDeg: 15, heats: 0 }]];
const PIECES: Moves = [...SQUARE_BAR, cutInto(4)];
const OBLONG: Moves = [
  stackOf(8, 40),
  weldIt,
  ['draw', { shape: 'flat', widthMm: 30, thicknessMm: 20, heats: 0 }],
];
const copper = { material: 'copper', thicknessMm: 0.5 };

/** One bad plan for each finding: what it should say, by severity, and a figure in its words. */
const TABLE: [what: string, moves: Moves, code: string, severity: string, says: string | RegExp][] = [
  [
    'a bar of tiles pressed on its corners',
    [...SQUARE_BAR, ['tile', { angleDeg: 45, thicknessMm: 12, lay: 'as they lie' }], weldIt, resquareTo(14)],
    'tiles on the bias',
    'warning',
    'on its flats only',
  ],
  [
    'a bead as deep as a quarter of the bar',
    [stackOf(8, 30), ['weld', { heats: 1, temperatureC: 1200, edges: 'welded shut', beadMm: 8 }]],
    'bead',
    'error',
    'less than half',
  ],
  [
    'a rip past the edge',
    [...SQUARE_BAR, ['rip', { way: 'upright', offCentreMm: 14 }]],
    'misses',
    'error',
    '22 mm wide',
  ],
  [
    'a crop of everything',
    [...SQUARE_BAR, ['crop', { endAMm: 900, endBMm: 900 }]],
    'nothing left',
    'error',
    'crops it away',
  ],
  [
    'leaning a round',
    [...ROUND, ['lean', { leanDeg: 5, heats: 0 }]],
    'shape',
    'error',
    'square, flat or leaning',
  ],
  [
    'leaning too far',
    [...SQUARE_BAR, ['lean', { leanDeg: 40, heats: 0 }], ['lean', { leanDeg: 30, heats: 0 }]],
    'too far',
    'error',
    '70°',
  ],
  ['re-squaring what leans', [...LEANING, resquareTo(18)], 'shape', 'error', 'leaning'],
  [
    'tiling a round',
    [...ROUND, ['tile', { angleDeg: 45, thicknessMm: 8, lay: 'as they lie' }]],
    'shape',
    'error',
    'round',
  ],
  [
    'knocking an oblong',
    [...OBLONG, ['corners', { shape: 'round', heats: 0 }]],
    'not square',
    'warning',
    '30 × 20 mm',
  ],
  [
    'twisting a square',
    [...SQUARE_BAR, ['twist', { turns: 2, heats: 0 }]],
    'not round',
    'error',
    'round the bar',
  ],
  [
    'twisting it to pieces',
    [...ROUND, ['twist', { turns: 40, heats: 0 }]],
    'shear',
    'warning',
    /shears by \d/,
  ],
  [
    'upsetting upward',
    [...SQUARE_BAR, ['upset', { toHeightMm: 499, heats: 0 }]].with(0, stackOf(8, 30, 3.6, 20)) as Moves,
    'not lower',
    'error',
    'long',
  ],
  [
    'upsetting a slender bar',
    [...SQUARE_BAR, ['upset', { toHeightMm: 30, heats: 0 }]],
    'slender',
    'warning',
    /times as long/,
  ],
  ['truing an oblong', [...OBLONG, ['trueUp', { errorDeg: 3 }]], 'not square', 'error', '30 × 20 mm'],
  ['peeling bare steel', [...SQUARE_BAR, ['peel', { how: 'peel' }]], 'no jacket', 'error', 'no jacket'],
  [
    'peeling mild sheet',
    [
      ...SQUARE_BAR,
      ['jacket', { material: '1018', thicknessMm: 1, where: 'all round' }],
      ['peel', { how: 'peel' }],
    ],
    'welded on',
    'warning',
    'will not peel',
  ],
  [
    'wrapping twice',
    [
      ...SQUARE_BAR,
      ['jacket', { material: '1018', thicknessMm: 1, where: 'all round' }],
      ['jacket', { material: '1018', thicknessMm: 1, where: 'all round' }],
    ],
    'wrapped',
    'error',
    'already',
  ],
  [
    'a core in one piece',
    [...SQUARE_BAR, ['laminate', { where: 'core between', material: '80crv2', thicknessMm: 4 }]],
    'one piece',
    'error',
    'two pieces',
  ],
  [
    'a core between unlike halves',
    [
      ...SQUARE_BAR,
      ['rip', { way: 'upright', offCentreMm: 2 }],
      ['laminate', { where: 'core between', material: '80crv2', thicknessMm: 4 }],
    ],
    'unequal',
    'error',
    'wide',
  ],
  [
    'copper at open edges',
    [
      ...SQUARE_BAR,
      ['laminate', { where: 'along one edge', material: '80crv2', thicknessMm: 4, sheet: copper }],
    ],
    'open edges',
    'warning',
    'Copper',
  ],
  [
    'copper under a welding heat',
    [
      ...SQUARE_BAR,
      [
        'laminate',
        { where: 'along one edge', material: '80crv2', thicknessMm: 4, sheet: copper, edgesSealed: true },
      ],
      weldIt,
    ],
    'too hot',
    'error',
    'too hot',
  ],
  [
    'copper at its own heat',
    [
      ...SQUARE_BAR,
      [
        'laminate',
        { where: 'along one edge', material: '80crv2', thicknessMm: 4, sheet: copper, edgesSealed: true },
      ],
      ['weld', { heats: 1, temperatureC: 1000 }],
    ],
    'joined by it',
    'note',
    'lies in every seam here',
  ],
  [
    'copper between two of three steels',
    [
      [
        'stack',
        {
          layers: 4,
          pattern: ['1084', '15n20', '1084', 'copper'].map((material) => ({ material, thicknessMm: 4 })),
          widthMm: 40,
          lengthMm: 200,
        },
      ],
      ['weld', { heats: 1, temperatureC: 1000 }],
    ],
    'capped',
    'warning',
    'no seam of steel on steel closes',
  ],
  [
    'an unknown core',
    [...SQUARE_BAR, ['laminate', { where: 'along one edge', material: 'orichalcum', thicknessMm: 4 }]],
    'material',
    'error',
    'orichalcum',
  ],
  [
    'standing pieces of two lengths',
    [...SQUARE_BAR, ['rip', { way: 'upright', offCentreMm: 2 }], ['stand', { lay: 'all end B up' }]],
    'unequal',
    'error',
    'agree',
  ],
  [
    'an accordion of a stub',
    [
      ...SQUARE_BAR,
      ['crop', { endAMm: 0, endBMm: 0 }],
      ['accordion', { openingDeg: 90, rootMm: 4, legMm: 400 }],
    ],
    'too short',
    'error',
    'leg takes',
  ],
  [
    'an accordion that tears',
    [...SQUARE_BAR, ['accordion', { openingDeg: 80, rootMm: 1, legMm: 9 }]],
    'root',
    'warning',
    'tears',
  ],
  [
    'an accordion with no cut',
    [...SQUARE_BAR, ['accordion', { openingDeg: 80, rootMm: 40, legMm: 9 }]],
    'no cut',
    'error',
    'no leg comes free',
  ],
  [
    'grooves through the bar',
    [
      ...SQUARE_BAR,
      [
        'grooves',
        { pattern: 'across', how: 'ground', depthMm: 15, widthMm: 6, pitchMm: 12, slantDeg: 0, heats: 0 },
      ],
    ],
    'too deep',
    'error',
    '22 mm thick',
  ],
  [
    'grooves into one another',
    [
      ...SQUARE_BAR,
      [
        'grooves',
        { pattern: 'across', how: 'ground', depthMm: 2, widthMm: 16, pitchMm: 12, slantDeg: 0, heats: 0 },
      ],
    ],
    'overlap',
    'error',
    'pitch',
  ],
  [
    'grinding to more than there is',
    [...SQUARE_BAR, ['flatten', { thicknessMm: 25, heats: 1 }]],
    'too thick',
    'error',
    'thick',
  ],
  [
    'a bar that turns on itself',
    [...SQUARE_BAR, ['measure', { turnDeg: 0, twistDegPerM: 60, zoneAMm: 0, zoneBMm: 0 }]],
    'twisted',
    'warning',
    /turns \d/,
  ],
  [
    'three wedges',
    [
      ...SQUARE_BAR,
      cutInto(3),
      ['wedge', { apexDeg: 90, heats: 0 }],
      ['assemble', { columns: 3, rows: 1, layout: 'alike' }],
    ],
    'wedges',
    'error',
    '2 × 2',
  ],
  [
    'blunt wedges',
    [...PIECES, ['wedge', { apexDeg: 70, heats: 0 }], ['assemble', { columns: 2, rows: 2, layout: 'alike' }]],
    'apex',
    'error',
    '90°',
  ],
  [
    'wedges turned',
    [
      ...PIECES,
      ['wedge', { apexDeg: 90, heats: 0 }],
      [
        'assemble',
        {
          columns: 2,
          rows: 2,
          layout: 'free',
          places: [1, 2, 3, 4].map((piece) => ({ piece, orientation: 'turned 90°' })),
        },
      ],
    ],
    'turned',
    'error',
    'outward',
  ],
  [
    'a frame round wedges',
    [
      ...PIECES,
      ['wedge', { apexDeg: 90, heats: 0 }],
      [
        'assemble',
        {
          columns: 2,
          rows: 2,
          layout: 'alike',
          strips: { material: 'nickel', thicknessMm: 1, where: 'frame' },
        },
      ],
    ],
    'strips',
    'error',
    'cross',
  ],
  [
    'a feather',
    [...SQUARE_BAR, ['feather', { dragMm: 6, fadesMm: 4, heats: 1 }]],
    'dragged',
    'note',
    'first-order',
  ],
  [
    'a feather dragged too far',
    [...SQUARE_BAR, ['feather', { dragMm: 15, fadesMm: 4, heats: 1 }]],
    'drag',
    'error',
    'tear',
  ],
  [
    'wedges that are blunt',
    [
      stackOf(9, 15, 3.2, 400),
      weldIt,
      ['wedge', { apexDeg: 90, into: 'bow-tie', heats: 0 }],
      ['rip', { way: 'upright', offCentreMm: 0 }],
      ['cut', { pieces: 2, cropAMm: 0, cropBMm: 0 }],
      ['assemble', { columns: 2, rows: 2, layout: 'alike' }],
    ],
    'blunt',
    'note',
    'until they meet',
  ],
  [
    'a waist thicker than the bar',
    [...SQUARE_BAR, ['wedge', { apexDeg: 90, into: 'bow-tie', waistMm: 40, heats: 0 }]],
    'no waist',
    'error',
    'thinner',
  ],
  [
    'a bow-tie of a bar as wide as high',
    [...SQUARE_BAR, ['wedge', { apexDeg: 90, into: 'bow-tie', heats: 0 }]],
    'bow-tie height',
    'warning',
    'pressed in the middle alone',
  ],
  [
    'wedges of two sizes',
    [
      ...PIECES,
      ['choose', { pieces: [1, 2] }],
      ['draw', { shape: 'square', sideMm: 15, heats: 0 }],
      ['choose', { pieces: [1, 2, 3, 4] }],
      ['wedge', { apexDeg: 90, heats: 0 }],
      ['assemble', { columns: 2, rows: 2, layout: 'alike' }],
    ],
    'unlike wedges',
    'error',
    'one size',
  ],
  [
    'upright strips between bricks',
    [
      ...PIECES,
      [
        'assemble',
        {
          columns: 2,
          rows: 2,
          layout: 'brick',
          strips: { material: 'nickel', thicknessMm: 1, where: 'cross' },
        },
      ],
    ],
    'brick strips',
    'error',
    'level',
  ],
  [
    'a tile turned against the slant',
    [...SQUARE_BAR, ['tile', { angleDeg: 50, thicknessMm: 9, lay: ['as it lies', 'turned in the plane'] }]],
    'does not fit',
    'error',
    'wedge',
  ],
  [
    'a jacket of nothing known',
    [...SQUARE_BAR, ['jacket', { material: 'tin', thicknessMm: 1, where: 'all round' }]],
    'material',
    'error',
    'tin',
  ],
  [
    'a block of nothing known',
    [...SQUARE_BAR, ['join', { material: 'tin', lengthMm: 20, end: 'B' }]],
    'material',
    'error',
    'tin',
  ],
];

describe('each bad plan', () => {
  it.each(TABLE)('%s is found', (_what, moves, code, severity, says) => {
    const finding = found(moves, code);
    expect(finding).toMatchObject({ severity });
    expect(finding!.text).toMatch(says);
    expect(lastOf(moves).after === null).toBe(severity === 'error');
  });

  const curable = TABLE.filter(([, moves, code]) => found(moves, code)?.remedy);

  it('most have a remedy', () => expect(curable.length).toBeGreaterThan(TABLE.length / 2.5));

  it.each(curable)('%s: its remedy clears it', (_what, moves, code) => {
    const finding = found(moves, code)!;
    expect(finding.remedy!.label.length).toBeGreaterThan(3);
    const bad = evaluate(planOf(moves));
    const { plan } = withRemedy(bad, bad.lanes[0].steps.at(-1)!, finding.remedy!);
    expect(
      evaluate(plan)
        .lanes[0].steps.at(-1)!
        .findings.filter((f) => f.code === code),
    ).toEqual([]);
  });
});

describe('a sound plan', () => {
  it.each([
    [
      'a mirrored four-way',
      [...PIECES, ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }], weldIt, drawSquare(24)],
    ],
    ['a twisted round', [...ROUND, ['twist', { turns: 2, heats: 1 }], drawSquare(18)]],
    [
      'a sunburst',
      [
        ...PIECES,
        ['wedge', { apexDeg: 90, heats: 1 }],
        ['assemble', { columns: 2, rows: 2, layout: 'alike' }],
        weldIt,
      ],
    ],
    [
      'a core between halves',
      [
        ...SQUARE_BAR,
        cutInto(2),
        ['laminate', { where: 'core between', material: '80crv2', thicknessMm: 4 }],
        weldIt,
      ],
    ],
  ] as [string, Moves][])('%s raises no warning that is false', (_what, moves) => {
    const { lanes } = evaluate(planOf(moves));
    const loud = lanes[0].steps
      .slice(SQUARE_BAR.length)
      .flatMap((s) => s.findings.filter((f) => f.severity === 'error' || f.severity === 'warning'));
    expect(loud).toEqual([]);
  });
});
