import { readFileSync, readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { allSteps, readPlanText, sayStep } from '../plan/index.ts';
import { SQUARE_BAR, cutInto, evaluated, fourWay, planOf, stackOf, weldIt } from '../tests/plans.ts';
import { wallSheet } from './wall.ts';

const DEMO = new URL('../../server/demo/', import.meta.url);
const demos = readdirSync(DEMO)
  .filter((f) => f.endsWith('.json'))
  .map((f) => [f, readFileSync(new URL(f, DEMO), 'utf8')] as const);

describe('the sheet for the wall', () => {
  it.each(demos)('%s: has every move with its instruction, sizes and boxes', (_, text) => {
    const read = readPlanText(text);
    if (!read.ok) throw new Error('cannot be read');
    const evaluation = evaluated(read.plan);
    const sheet = wallSheet(evaluation);
    const steps = sheet.lanes.flatMap((l) => l.steps);
    expect(steps.map((s) => s.stepId)).toEqual(allSteps(evaluation).map((s) => s.step.id));
    steps.forEach((step, i) => {
      expect(step.say).toEqual(sayStep(allSteps(evaluation)[i], evaluation.shop));
      expect(step.sizes).toMatch(/long$/);
      expect(step.boxes.slice(0, 3)).toEqual(['width', 'height', 'length']);
    });
    expect(sheet.general).toContain('Local codes');
  });

  it('carries the cautions of fire, press, saw and grinder to their moves', () => {
    const sheet = wallSheet(evaluated(planOf([...SQUARE_BAR, cutInto(4), fourWay('mirrored'), weldIt])));
    const said = (kind: string) =>
      sheet.lanes[0].steps
        .filter((s) => s.title === kind)
        .flatMap((s) => s.cautions)
        .join(' ');
    expect(said('Stack')).toContain('chlorinated');
    expect(said('Weld')).toContain('carbon monoxide');
    expect(said('Draw out')).toContain('between the dies');
    expect(said('Cut')).toContain('face shield');
  });

  it('says what to write on the ends of pieces, and what cannot be done', () => {
    const sheet = wallSheet(evaluated(planOf([...SQUARE_BAR, cutInto(4), fourWay('mirrored')])));
    const cut = sheet.lanes[0].steps.find((s) => s.title === 'Cut')!;
    expect(cut.marks).toHaveLength(4);
    expect(cut.marks[0]).toBe('1 row 1 place 1, end B in front, arrow up');
    const broken = wallSheet(
      evaluated(planOf([stackOf(3), ['draw', { shape: 'square', sideMm: 400, heats: 1 }]])),
    );
    expect(broken.lanes[0].steps[1].sizes).toBe('cannot be done as it is planned');
    expect(broken.lanes[0].steps[1].heed.length).toBeGreaterThan(0);
    expect(broken.comes).toBe('no finished bar yet');
  });

  it('lists what to cut and to buy', () => {
    const sheet = wallSheet(evaluated(planOf([stackOf(5, 40, 3, 200)])));
    expect(sheet.cut).toEqual([
      ['1084', '40 × 3 mm', '200 mm', '3', 'Bar'],
      ['15N20', '40 × 3 mm', '200 mm', '2', 'Bar'],
    ]);
    expect(sheet.buy).toEqual(['1 × 1084 40 × 3 mm, 1000 mm long', '1 × 15N20 40 × 3 mm, 1000 mm long']);
  });
});
