import { describe, expect, it } from 'vitest';
import { sizeOf } from '../billet/billet.ts';
import { piecesOf } from '../billet/laidPieces.ts';
import { outlineArea } from '../geometry/outline.ts';
import { evaluate, stepResult } from '../plan/index.ts';
import { makeShop } from '../shop/shop.ts';
import { SQUARE_BAR, cutInto, planOf, stackOf, weldIt } from '../tests/plans.ts';
import { bucklesIn, seamQuestion, seamsAsked, usualSeams, whyNoSeams } from './forge/seams.ts';
import { MOVES } from './index.ts';

type Moves = readonly (readonly [string, unknown])[];

const begun = (kind: keyof typeof MOVES, some: object) =>
  [kind, { ...(MOVES[kind].begin([], makeShop()) as object), ...some }] as const;
const assembled = (columns: number, rows: number, some: object = {}) =>
  [cutInto(columns * rows), ['assemble', { columns, rows, layout: 'alike', ...some }]] as const;
const strips = { material: '15n20', thicknessMm: 2, where: 'cross and frame' };

const UNLIKE = [
  'stack',
  {
    ...stackOf(4, 40, 8)[1],
    pattern: ['copper', '1084'].map((material) => ({ material, thicknessMm: 8 })),
  },
] as const;

/** The bar that a plan ends with, loose. */
function loose(moves: Moves) {
  const evaluation = evaluate(planOf(moves));
  const last = evaluation.lanes[0].steps.at(-1)!;
  const result = stepResult(evaluation, last.step.id)!;
  if (!result.after?.[0]) throw new Error(result.findings.map((f) => f.text).join(' '));
  return { bar: result.after[0], shop: evaluation.shop };
}

const LAYOUTS: [name: string, pieces: number, moves: Moves][] = [
  ['a stack', 5, [stackOf(5, 40, 6)]],
  ['two by two', 4, [...SQUARE_BAR, ...assembled(2, 2)]],
  [
    'three by two with strips and a frame',
    6 + 2 + 3 + 2 + 6,
    [...SQUARE_BAR, ...assembled(3, 2, { strips })],
  ],
  ['bricks', 3 + 4 + 3, [...SQUARE_BAR, ...assembled(3, 3, { layout: 'brick' })]],
  [
    'a core between',
    3,
    [
      ...SQUARE_BAR,
      cutInto(2),
      begun('laminate', { where: 'core between', material: '80crv2', thicknessMm: 4 }),
    ],
  ],
  [
    'a rim all round',
    5,
    [...SQUARE_BAR, begun('laminate', { where: 'rim all round', material: '80crv2', thicknessMm: 4 })],
  ],
  ['a jacket round two by two', 8, [...SQUARE_BAR, ...assembled(2, 2), begun('jacket', { thicknessMm: 1 })]],
];

describe('pieces that lie together', () => {
  it.each(LAYOUTS)('%s: they fill the section, each in its place, until it is welded', (_, count, moves) => {
    const { bar, shop } = loose(moves);
    const { each, seen } = piecesOf(bar)!;
    expect(seen).toBe('from the end');
    expect(each).toHaveLength(count);
    expect(each.reduce((sum, p) => sum + outlineArea(p.outline), 0)).toBeCloseTo(outlineArea(bar.outline), 6);
    expect(whyNoSeams(bar)).toBeNull();
    const asked = usualSeams(bar, shop);
    const { heightMm, widthMm } = sizeOf(bar);
    expect(asked.presses[0].toMm).toBeLessThan(heightMm);
    expect(asked.presses[1].toMm).toBeLessThan(widthMm);
    const question = seamQuestion(bar, asked, shop);
    expect(question.strengths).toHaveLength(count);
    expect(question.biteMm).toBe(shop.biteMm);
    const { bar: welded } = loose([...moves, weldIt]);
    expect(piecesOf(welded)).toBeNull();
    expect(whyNoSeams(welded)).toMatch(/one section/);
  });

  it('tiles lie in a row, seen from the side, slanted as they were sawn', () => {
    for (const angleDeg of [90, 60]) {
      const { bar, shop } = loose([...SQUARE_BAR, begun('tile', { angleDeg, thicknessMm: 12, count: 4 })]);
      const { each, seen } = piecesOf(bar)!;
      expect(seen).toBe('from the side');
      expect(each).toHaveLength(4);
      expect(each.reduce((sum, p) => sum + outlineArea(p.outline), 0)).toBeCloseTo(bar.lengthMm * 12, 6);
      // Where the field itself changes from one tile to the next: further towards end A at the top.
      const [, right, above] = each[1].outline;
      expect(right[0] - above[0]).toBeCloseTo(12 / Math.tan((angleDeg * Math.PI) / 180), 6);
      expect(seamQuestion(bar, usualSeams(bar, shop), shop).biteMm).toBe('held');
    }
  });

  it('too many of them are refused with their number', () => {
    expect(whyNoSeams(loose([stackOf(61, 40, 1)]).bar)).toMatch(/^61 pieces .* up to 40/);
  });

  it('of unlike strength say so; a part that is larger is one of them or none', () => {
    const { bar, shop } = loose([UNLIKE]);
    const { strengths } = seamQuestion(bar, usualSeams(bar, shop), shop);
    expect(Math.max(...strengths) / Math.min(...strengths)).toBeGreaterThan(1.5);
    const asked = { ...usualSeams(bar, shop), larger: { piece: 9, byMm: 0.5 } };
    expect(seamQuestion(bar, asked, shop).larger).toBeNull();
    expect(seamQuestion(bar, { ...asked, larger: { piece: 2, byMm: 0.5 } }, shop).larger).toEqual({
      piece: 1,
      byMm: 0.5,
    });
  });

  it('a long row of tiles is asked about as it lies, within what a plan may hold; stood on end it buckles', () => {
    const { bar, shop } = loose([...SQUARE_BAR, begun('tile', { angleDeg: 90, thicknessMm: 8, count: 40 })]);
    expect(bar.lengthMm).toBeGreaterThan(500);
    const asked = usualSeams(bar, shop);
    expect(asked.presses.map((q) => q.turned)).toEqual([false, false]);
    expect(bucklesIn(bar, asked)).toBe(0);
    const onEnd = { ...asked, presses: [...asked.presses, { turned: true, toMm: bar.lengthMm - 5 }] };
    expect(seamsAsked.safeParse(onEnd).success).toBe(true);
    expect(bucklesIn(bar, onEnd)).toBe(3);
  });
});
