import { describe, expect, it } from 'vitest';
import { findingsOf } from '../judgement/index.ts';
import { withRemedy } from '../plan/index.ts';
import { evaluated, planOf } from '../tests/plans.ts';
import { type Can } from './can.ts';
import { SOLID, balls, can, rods } from '../tests/cans.ts';

describe('each mistake with a can', () => {
  const press = (some: object = {}) => ['consolidate', { ...SOLID, ...some }] as const;
  const TABLE: [what: string, moves: Parameters<typeof planOf>[0], code: string, figure: RegExp][] = [
    ['more balls than fit', [['can', can({ inserts: [balls({ count: 2000 })] })]], 'too many', /: \d+ do/],
    [
      'balls that do not nest',
      [
        [
          'can',
          can({
            inserts: [
              balls({ count: 5 }),
              balls({ sizeMm: 6, count: 1, lay: 'placed', places: [{ x: 20, y: 20, z: 100 }] }),
            ],
          }),
        ],
      ],
      'do not nest',
      /4\.97 mm/,
    ],
    [
      'springs of too thick a wire',
      [['can', can({ inserts: [rods({ shape: 'springs', sizeMm: 12, wireMm: 9, pitchMm: 10 })] })]],
      'thick wire',
      /thinner than 6 mm/,
    ],
    [
      'springs threaded into one another that touch',
      [
        [
          'can',
          can({
            inserts: [rods({ shape: 'springs', sizeMm: 12, wireMm: 2, pitchMm: 5, strands: 3, count: 4 })],
          }),
        ],
      ],
      'close turns',
      /turns every 5 mm .* at least every 6/,
    ],
    [
      'a blade with teeth through more than half of it',
      [['can', can({ inserts: [rods({ shape: 'saw blade', sizeMm: 20, thicknessMm: 2, toothMm: 12 })] })]],
      'deep teeth',
      /at most half/,
    ],
    [
      'springs whose turns touch',
      [['can', can({ inserts: [rods({ shape: 'springs', sizeMm: 12, wireMm: 2, pitchMm: 1, count: 4 })] })]],
      'close turns',
      /turns every 1 mm/,
    ],
    [
      'chain whose links do not pass through each other',
      [['can', can({ inserts: [rods({ shape: 'chain', sizeMm: 12, wireMm: 5, pitchMm: 18, count: 2 })] })]],
      'thick wire',
      /thinner than 4 mm/,
    ],
    [
      'inserts at a flat wall',
      [['can', can({ inserts: [rods({ count: 81, sizeMm: 6, lay: 'rows' })] })]],
      'flat wall',
      /flat wall/,
    ],
    ['no vent', [['can', can({ vent: 'none' })]], 'no vent', /burst/],
    ['a vent at the hand', [['can', can({ vent: 'handle end' })]], 'vent at the hand', /hand/],
    ['a wide vent', [['can', can({ ventMm: 4 })]], 'wide vent', /4 mm/],
    ['powder that is only poured in', [['can', can({ filling: 'poured' })]], 'poured loosely', /50 to 55 %/],
    [
      'a can too wide for its depth',
      [['can', can({ widthMm: 150, heightMm: 50 })]],
      'too wide',
      /3\.0 times/,
    ],
    ['loose caps', [['can', can()], press({ endMm: 0 })], 'loose caps', /end to end/],
    [
      'a flat can pressed end to end',
      [['can', can({ widthMm: 80, heightMm: 25, lengthMm: 300 })], press({ endMm: 4 })],
      'buckles',
      /12\.0 times/,
    ],
    ['all of it taken end to end', [['can', can()], press({ endMm: 45.4 })], 'end takes all', /45\.4 mm/],
    ['deep dents', [['can', can()], press({ passMm: 8 })], 'deep dent', /8 mm/],
    ['pressed too far', [['can', can()], press({ endMm: 90 })], 'too far', /45\.5 mm/],
    [
      'drawn while it is loose',
      [
        ['can', can()],
        ['draw', { shape: 'square', sideMm: 40, heats: 1 }],
      ],
      'powder',
      /loose powder/,
    ],
  ];

  it.each(TABLE)('%s: is found with its figure, and its remedy clears it', (_, moves, code, figure) => {
    const bad = evaluated(planOf(moves));
    const result = bad.lanes[0].steps.at(-1)!;
    const finding = findingsOf(bad, result).find((f) => f.code === code)!;
    expect(finding.text).toMatch(figure);
    const mended = evaluated(withRemedy(bad, result, finding.remedy!).plan);
    expect(
      mended.lanes[0].steps.flatMap((s) => findingsOf(mended, s)).filter((f) => f.code === code),
    ).toEqual([]);
  });

  it('two layers and no third are said to lie in order', () => {
    const e = evaluated(planOf([['can', can({ inserts: [balls({ sizeMm: 24, count: 4 })] })]]));
    expect(e.lanes[0].steps[0].findings.map((f) => f.code)).toContain('two layers');
  });

  it('inserts too large for the can, and walls that leave no room, stop it', () => {
    const codes = (p: Can) => evaluated(planOf([['can', p]])).lanes[0].steps[0].findings.map((f) => f.code);
    expect(codes(can({ inserts: [balls({ sizeMm: 80 })] }))).toContain('too large');
    expect(codes(can({ wallMm: 20, widthMm: 40 }))).toEqual(['no room']);
  });

  it('that run into each other are said to, and still shown', () => {
    const places = [
      { x: 0, y: 0, z: 50 },
      { x: 8, y: 0, z: 50 },
    ];
    const result = evaluated(
      planOf([['can', can({ inserts: [balls({ count: 2, lay: 'placed', places })] })]]),
    ).lanes[0].steps[0];
    expect(result.findings.find((f) => f.code === 'overlap')!.text).toContain('4 mm');
    expect(result.after).not.toBeNull();
  });
});
