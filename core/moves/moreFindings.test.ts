import { describe, expect, it } from 'vitest';
import { evaluate } from '../plan/index.ts';
import { makeShop } from '../shop/shop.ts';
import { SQUARE_BAR, cutInto, planOf, planOfLanes, resquareTo, stackOf, weldIt } from '../tests/plans.ts';
import { MOVES } from './index.ts';

type Moves = readonly (readonly [string, unknown])[];

const can = MOVES.can.begin([], makeShop());
const solid = MOVES.consolidate.begin([], makeShop());
const jacket = { material: '316l', thicknessMm: 1, where: 'all round' };
const layers = (layers: number, each: number) => stackOf(layers, 40, each);

/** Made up: a steel of another hot strength that welds. */
const STAINLESS = {
  id: 'stainless',
  name: 'Stainless that welds',
  source: 'made up',
  composition: { C: 0.6, Cr: 13 },
  densityKgM3: 7700,
  tone: 0.8,
  etches: '',
  weldC: [1150, 1290],
  limitC: 1300,
};

/** A plan for each finding: the last step says it, with these words and this weight. */
const TABLE: [code: string, severity: string, says: string | RegExp, moves: Moves][] = [
  ['no outline', 'error', /outline/i, [['can', { ...can, shape: 'free' }]]],
  ['sealed', 'caution', 'Vent away from people', [['can', can]]],
  ['powder dust', 'caution', /dust/i, [['can', can]]],
  ['coating fumes', 'caution', 'ventilate', [['can', { ...can, release: 'white coating' }]]],
  ['too tall', 'error', /500|tall/, [layers(200, 4)]],
  ['first order', 'note', 'first order', [['can', can], ['consolidate', solid]]], // prettier-ignore
  ['no can', 'error', 'no loose can', [...SQUARE_BAR, ['consolidate', solid]]],
  ['corner', 'caution', /corner/i, [...SQUARE_BAR, resquareTo(18)]],
  ['twisting', 'caution', /tear/i, [...SQUARE_BAR, ['corners', { shape: 'round', heats: 0 }], ['twist', { turns: 1, heats: 1 }]]], // prettier-ignore
  ['welded', 'note', /weld/i, [layers(5, 3), weldIt, weldIt]],
  ['seams asked', 'note', 'stay as they are', [layers(5, 6), ['weld', { ...MOVES.weld.begin([], makeShop()), seams: { gapMm: 0.2, cornerMm: 0.5, presses: [{ turned: false, toMm: 29 }] } }]]], // prettier-ignore
  ['seams buckle', 'warning', 'Press 2 stands more than 3 times', [layers(3, 3), ['weld', { ...MOVES.weld.begin([], makeShop()), seams: { gapMm: 0.2, cornerMm: 0.5, presses: [{ turned: false, toMm: 8.8 }, { turned: true, toMm: 39 }] } }]]], // prettier-ignore
  ['off again', 'note', 'peeled', [...SQUARE_BAR, ['jacket', jacket]]],
  ['joint', 'note', 'inside the handle', [...SQUARE_BAR, ['join', { material: '1018', lengthMm: 30, end: 'A' }]]], // prettier-ignore
  ['squirts', 'caution', 'squirts out when overheated', [...SQUARE_BAR, cutInto(2), ['laminate', { where: 'core between', material: '80crv2', thicknessMm: 3, sheet: { material: 'copper', thicknessMm: 0.5 } }]]], // prettier-ignore
  ['roots', 'note', 'torn there', [...SQUARE_BAR, ['accordion', { openingDeg: 90, rootMm: 5, legMm: 9 }]]],
  ['no sound steel', 'error', /sound/, [...SQUARE_BAR, ['tile', { angleDeg: 20, thicknessMm: 60, count: 1, lay: 'as they lie' }]]], // prettier-ignore
  ['cost', 'note', /\d+ %|mm/, [...SQUARE_BAR, ['trueUp', { errorDeg: 5 }]]],
  ['zones', 'note', /\d/, [...SQUARE_BAR, ['measure', { turnDeg: 0, twistDegPerM: 0, zoneAMm: 20, zoneBMm: 12 }]]], // prettier-ignore
  ['not first', 'error', 'can only stand first', [...SQUARE_BAR, layers(5, 3)]],
  ['saw', 'caution', 'no gloves near rotating tools', [...SQUARE_BAR, cutInto(2)]],
  ['grinder', 'caution', 'respirator', [...SQUARE_BAR, ['trueUp', { errorDeg: 5 }]]],
  ['fire', 'caution', 'carbon monoxide', [layers(5, 3), weldIt]],
  ['cleaning', 'caution', 'Never chlorinated', [layers(5, 3)]],
  ['tip', 'caution', 'rolls onto its flat unless it is held', [...SQUARE_BAR, ['press', { passes: [{ turnDeg: 45, toMm: 26 }], friction: 0.3, held: true, finish: 'as pressed', heats: 1 }]]], // prettier-ignore
];

describe('what each move says, by its id', () => {
  it.each(TABLE)('%s', (code, severity, says, moves) => {
    const { findings } = evaluate(planOf(moves)).lanes[0].steps.at(-1)!;
    const finding = findings.find((f) => f.code === code);
    expect(finding, `said: ${findings.map((f) => f.code).join(', ')}`).toBeDefined();
    expect(finding!.severity).toBe(severity);
    expect(finding!.text).toMatch(says);
  });

  it('pieces of unlike length are noted where they are laid: unequal length', () => {
    const plan = planOfLanes({
      long: [...SQUARE_BAR, ['cut', { pieces: 2, cropAMm: 0, cropBMm: 0 }]],
      short: [...SQUARE_BAR, ['cut', { pieces: 3, cropAMm: 0, cropBMm: 0 }]],
      both: [['assemble', { columns: 2, rows: 1, layout: 'alike', from: ['long', 'short'] }]],
    });
    const [{ findings }] = evaluate(plan).lanes[2].steps;
    expect(findings.find((f) => f.code === 'unequal length')?.text).toMatch(/\d/);
  });

  it('a light re-square leaves its corners open: corners unfilled', () => {
    const light = evaluate(
      planOf([
        ...SQUARE_BAR,
        ['resquare', { turn: 'left', sideMm: 21.8, errorDeg: 0, heats: 0, reckoned: 'by flow' }],
      ]),
    ).lanes[0].steps.at(-1)!;
    expect(light.findings.find((f) => f.code === 'corners unfilled')?.text).toMatch(/filled to \d+ % only/);
  });

  it('bands finer than the elements of a worked out section are noted: coarse', () => {
    const fine = evaluate(
      planOf(
        [
          [
            'stack',
            {
              layers: 120,
              pattern: [
                { material: '1084', thicknessMm: 0.4 },
                { material: 'stainless', thicknessMm: 0.4 },
              ],
              widthMm: 40,
              lengthMm: 200,
            },
          ],
          weldIt,
          ['draw', { shape: 'square', sideMm: 30, heats: 1 }],
          ['draw', { shape: 'square', sideMm: 28, heats: 1, reckoned: 'by flow' }],
        ],
        { materials: [STAINLESS] },
      ),
    ).lanes[0].steps.at(-1)!;
    expect(fine.findings.find((f) => f.code === 'coarse')?.text).toContain('finer than the elements');
  });
});
