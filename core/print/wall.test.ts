import { readFileSync, readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { actionsOf, allSteps, readPlanText, sawings, sayStep } from '../plan/index.ts';
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
      const said = sayStep(allSteps(evaluation)[i], evaluation.shop);
      if (!step.diagrams.some((d) => d.what === 'as they lie')) expect(step.say).toEqual(said);
      else expect(step.say.join(' ')).toContain('as they are drawn');
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
        .map((letter) => sheet.cautions.find((c) => c.letter === letter)!.text)
        .join(' ');
    expect(said('Stack')).toContain('chlorinated');
    expect(said('Weld')).toContain('carbon monoxide');
    expect(said('Draw out')).toContain('between the dies');
    expect(said('Cut')).toContain('face shield');
  });

  it('draws how pieces lie: every number, end and arrow that the instruction gives', () => {
    for (const layout of ['mirrored', 'turned', 'alike', 'brick']) {
      const evaluation = evaluated(planOf([...SQUARE_BAR, cutInto(4), fourWay(layout)]));
      const steps = wallSheet(evaluation).lanes[0].steps;
      const [laid] = steps.at(-1)!.diagrams;
      expect(laid.what).toBe('as they lie');
      const lays = actionsOf(allSteps(evaluation).at(-1)!, evaluation.shop).filter((a) => a.do === 'lay');
      expect(laid.arrows.map((a) => a.to).sort()).toEqual(lays.map((l) => l.arrow).sort());
      // Each piece's number stands left in it, its end right above: as many as are laid, each in its row and place.
      for (const lay of lays) {
        const number = laid.words.find((w) => w.text === lay.piece)!;
        const end = laid.words[laid.words.indexOf(number) + 1];
        expect(end.text).toBe(lay.front);
        const row = Math.floor((1 - number.at[1] / laid.heightMm) * lay.of.rows) + 1;
        expect(row, `${layout} ${lay.piece}`).toBe(lay.row);
        const left = (other: typeof lay) => laid.words.find((w) => w.text === other.piece)!.at[0];
        for (const other of lays)
          if (other.row === lay.row && other.place > lay.place)
            expect(left(other)).toBeGreaterThan(left(lay));
      }
      expect(steps.at(-1)!.say.filter((line) => line.startsWith('Lay piece'))).toEqual([]);
    }
  });

  it('draws the saw at its lean, the cuts where they are marked, and what is written on the ends', () => {
    const tiles = evaluated(
      planOf([...SQUARE_BAR, ['tile', { angleDeg: 50, thicknessMm: 8, lay: 'every other rolled' }]]),
    );
    const [side] = wallSheet(tiles).lanes[0].steps.at(-1)!.diagrams;
    for (const [[x0, y0], [x1, y1]] of side.cuts)
      expect((Math.atan2(y1 - y0, Math.abs(x1 - x0)) * 180) / Math.PI).toBeCloseTo(50, 6);
    // And the tiles as they lie in the row: every other one rolled, its upper face and its old top the other way.
    const row = wallSheet(tiles)
      .lanes[0].steps.at(-1)!
      .diagrams.find((d) => d.what === 'in the row')!;
    expect(row.words.slice(0, 6).map((w) => w.text)).toEqual(['1', 'B', '2', 'A', '3', 'B']);
    expect(row.arrows.slice(0, 3).map((a) => a.to)).toEqual(['left', 'right', 'left']);
    const numbers = row.words.filter((_, i) => i % 2 === 0);
    expect(numbers.map((w) => w.at[0])).toEqual(numbers.map((w) => w.at[0]).sort((a, b) => a - b));
    expect(row.widthMm).toBeCloseTo(tiles.lanes[0].steps.at(-1)!.after![0].lengthMm, 6);
    const cut = evaluated(planOf([...SQUARE_BAR, cutInto(4), fourWay('mirrored')]));
    const step = wallSheet(cut).lanes[0].steps.find((s) => s.title === 'Cut')!;
    const [bar, ends] = step.diagrams;
    const marks = sawings(cut)[0].marksMm;
    expect(bar.cuts.map(([from]) => from[0])).toEqual(marks.map((mm) => expect.closeTo(mm, 9) as number));
    expect(ends.words.map((w) => w.text)).toEqual([
      '1',
      'B',
      '1·1',
      '2',
      'A',
      '1·2',
      '3',
      'A',
      '2·1',
      '4',
      'B',
      '2·2',
    ]);
    expect(ends.arrows.map((a) => a.to)).toEqual(['up', 'up', 'down', 'down']);
    // Off the saw every arrow is written upward: what is drawn is how they lie later, and says so.
    expect(step.say.join(' ')).toContain('an arrow up on both its ends');
    expect(ends.caption).toMatch(/^How they will lie later/);
  });

  it('parts words of the notes that no line holds', () => {
    const notes = `short ${'n'.repeat(15_000)} short`;
    const words = wallSheet(evaluated({ ...planOf([stackOf(5), weldIt]), notes })).notes.split(/\s/);
    expect(Math.max(...words.map((w) => w.length))).toBe(60);
    expect(words.join('')).toBe(notes.replaceAll(' ', ''));
  });

  it('says what cannot be done', () => {
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
