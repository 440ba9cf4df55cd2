import { describe, expect, it } from 'vitest';
import { evaluate, cutFromSections, cutList, roundsAffordable, sawings, startFor } from '../plan/index.ts';
import { SQUARE_BAR, cutInto, fourWay, planOf, stackOf, weldIt } from '../tests/plans.ts';
import { barsFigure, finishedFigure, pieceFigure, roundsFigure, startFigure, steelFigure } from './index.ts';

const plan = planOf([...SQUARE_BAR, cutInto(4), fourWay('mirrored'), weldIt]);
const evaluation = evaluate(plan);
const of = (inputs: readonly (readonly [string, string])[], name: string) =>
  inputs.find(([n]) => n === name)?.[1];

describe('figures of the whole plan', () => {
  it('the finished bar says by how much it misses, with its sign', () => {
    const { bar } = evaluation.goal;
    const wanted = { ...plan, goal: { lengthMm: bar!.lengthMm + 12, widthMm: 10, thicknessMm: 10 } };
    const figure = finishedFigure(evaluate(wanted))!;
    expect(of(figure.inputs, 'length')).toBe('−12 mm');
    expect(of(figure.inputs, 'width')).toMatch(/^\+/);
    expect(finishedFigure(evaluate(planOf([])))).toBeNull();
  });

  it('a start says what the plan comes to with it', () => {
    const answer = startFor(plan);
    if (!answer.ok) throw new Error(answer.reason);
    const [start] = answer.starts;
    const figure = startFigure(evaluation, start, '1 m', answer.reachesMm);
    expect(figure).toMatchObject({ what: 'Start: length', value: '1 m' });
    expect(of(figure.inputs, 'division')).toBe('0.5 mm');
  });

  it('a piece is the bar less crops and kerfs, by the number of pieces', () => {
    const [sawing] = sawings(evaluation);
    const figure = pieceFigure(sawing, evaluation.shop);
    const { lengthMm, cropAMm, cropBMm, kerfMm, pieces } = sawing.cutting;
    expect(of(figure.inputs, 'cuts × kerf')).toBe('5 × 1 mm');
    expect(sawing.pieceMm).toBeCloseTo((lengthMm - cropAMm - cropBMm - 5 * kerfMm) / pieces, 9);
  });

  it('bars of a section say how many pieces, what is left, and whether better is possible', () => {
    const [section] = cutFromSections(
      cutList(evaluate(planOf([stackOf(9, 40, 3, 200)]))),
      [],
      evaluation.shop,
    );
    const figure = barsFigure(section, evaluation.shop);
    expect(figure.value).toBe('2');
    expect(of(figure.inputs, 'pieces')).toBe('5');
    expect(of(figure.inputs, 'least possible')).toContain('yes');
  });

  it('rounds and the steel are said in the shop’s units', () => {
    const inches = evaluate({
      ...plan,
      shop: { ...plan.shop, lengths: { unit: 'in', division: 32 }, masses: 'lb', temperatures: 'F' },
    });
    const figures = [
      steelFigure(inches),
      finishedFigure(inches)!,
      ...roundsAffordable(inches).map((answer) => roundsFigure(answer, inches)),
      pieceFigure(sawings(inches)[0], inches.shop),
    ];
    for (const figure of figures) {
      const text = [figure.value, ...figure.inputs.map(([, v]) => v)].join(' ');
      expect(text, figure.what).not.toMatch(/\d mm\b|\d kg\b|°C/);
      expect(figure.source.length).toBeGreaterThan(5);
    }
  });
});
