import { describe, expect, it } from 'vitest';
import { sizeOf } from '../billet/billet.ts';
import { cornerLine, meanLine } from '../billet/cornerLine.ts';
import { stepResult, withRemedies, withRemedy } from '../plan/index.ts';
import {
  type Move,
  cutInto,
  drawSquare,
  evaluated,
  fourWay,
  planOf,
  stackOf,
  weldIt,
} from '../tests/plans.ts';
import { findingsOf, judge, waysOn } from './index.ts';

const squared = (turn: 'left' | 'right', errorDeg = 0): Move[] => [
  stackOf(13),
  weldIt,
  drawSquare(36),
  ['resquare', { turn, sideMm: 32, errorDeg, heats: 1 }],
];
const CORNERS = [
  [1, 1],
  [-1, 1],
  [-1, -1],
  [1, -1],
] as const;

/** How far the line to each corner misses it, degrees; counter-clockwise from the upper right. */
function lines(moves: Move[]): (number | null)[] {
  const [bar] = evaluated(planOf(moves)).goalLane.ends;
  const { widthMm, heightMm } = sizeOf(bar);
  const part = { x: 0, y: 0, widthMm, heightMm };
  return CORNERS.map((corner) => cornerLine(bar, part, corner, bar.lengthMm / 2)?.turnedDeg ?? null);
}

describe('the line to a corner', () => {
  it('runs to the upper right and lower left after a turn to the left, to the others after one to the right', () => {
    expect(lines(squared('left'))).toEqual([expect.closeTo(0, 1), null, expect.closeTo(0, 1), null]);
    expect(lines(squared('right'))).toEqual([null, expect.closeTo(0, 1), null, expect.closeTo(0, 1)]);
  });

  it('misses it by the angle that the bar was turned too far, counter-clockwise after a turn to the left', () => {
    for (const deg of [-6, -2, 3, 9]) {
      expect(Math.abs(lines(squared('left', deg))[0]! - deg)).toBeLessThan(0.25);
      expect(Math.abs(lines(squared('right', deg))[1]! + deg)).toBeLessThan(0.25);
    }
  });

  it('is there by the flow too, within half a degree of what was asked for', () => {
    const moves: Move[] = [
      ...squared('left').slice(0, 3),
      ['resquare', { turn: 'left', sideMm: 32, errorDeg: 5, heats: 1, reckoned: 'by flow' }],
    ];
    expect(Math.abs(lines(moves)[0]! - 5)).toBeLessThan(0.5);
    const [bar] = evaluated(planOf(moves)).goalLane.ends;
    expect(Math.abs(meanLine(bar, { x: 0, y: 0, ...sizeOf(bar) })!.turnedDeg - 5)).toBeLessThan(0.5);
  });

  it('is nowhere where layers run level, or where there are none', () => {
    expect(lines(squared('left').slice(0, 3))).toEqual([null, null, null, null]);
    expect(lines([['stack', { layers: 1, pattern: [{ material: '1084', thicknessMm: 30 }], widthMm: 30, lengthMm: 90 }]])).toEqual([null, null, null, null]); // prettier-ignore
  });
});

const saidOf = (moves: Move[]) => {
  const evaluation = evaluated(planOf(moves));
  const result = evaluation.goalLane.steps.at(-1)!;
  return { evaluation, result, findings: findingsOf(evaluation, result) };
};

describe('the points of a star', () => {
  it('miss the middle where the re-square was off, however well the seams match', () => {
    const true_ = saidOf([...squared('right'), cutInto(4), fourWay('mirrored')]);
    expect(true_.findings.map((f) => f.code)).not.toContain('points miss');
    const off = saidOf([...squared('right', 3), cutInto(4), fourWay('mirrored')]);
    const said = off.findings.find((f) => f.code === 'points miss')!;
    // tan(45°) − tan(45° − 3°) of half a side of 32 mm.
    expect(said.why!.number).toBeCloseTo(16 * (1 - Math.tan(Math.PI / 4 - Math.PI / 60)), 1);
    const { plan } = withRemedy(off.evaluation, off.result, said.remedy!);
    const mended = evaluated(plan);
    expect(findingsOf(mended, mended.goalLane.steps.at(-1)!).map((f) => f.code)).not.toContain('points miss');
  });

  it('are none after the other turn: one press turns all pieces, and then they meet', () => {
    const { evaluation, result, findings } = saidOf([...squared('left'), cutInto(4), fourWay('mirrored')]);
    const said = findings.find((f) => f.code === 'bowed middle')!;
    const mended = evaluated(withRemedy(evaluation, result, said.remedy!).plan);
    const after = findingsOf(mended, mended.goalLane.steps.at(-1)!).map((f) => f.code);
    expect(after).not.toContain('bowed middle');
    expect(after).not.toContain('points miss');
  });
});

describe('a piece that lies another way round', () => {
  it('is found where the lines meet, and no figure calls the others met', () => {
    const places = ['as it lies', 'rolled left–right', 'rolled top–bottom', 'turned 90°'].map(
      (orientation, i) => ({
        piece: i + 1,
        orientation,
      }),
    );
    const laid: Move = ['assemble', { columns: 2, rows: 2, layout: 'free', places }];
    const { evaluation, result, findings } = saidOf([...squared('right'), cutInto(4), laid]);
    expect(findings.map((f) => f.code)).toContain('points mixed');
    expect(findings.find((f) => f.code === 'points mixed')!.text).toContain('6 of 8');
    expect(judge(evaluation, result).figures.map((f) => f.id)).not.toContain('star points');
  });
});

const shown = (turnDeg: number, zoneAMm = 0, zoneBMm = 0): Move => [
  'measure',
  { turnDeg, twistDegPerM: 0, zoneAMm, zoneBMm },
];

describe('what the ends show', () => {
  it('offers ways on: what is ground by what was measured brings the points together, and the picture says the same', () => {
    const { evaluation, result } = saidOf([...squared('right'), shown(4)]);
    const ways = waysOn(evaluation, result);
    const wayOf = (id: string) => ways.find((w) => w.id === id)!;
    const [asItIs, bookMatched] = [wayOf('as it is'), wayOf('book-matched')];
    const best = wayOf('ground by the picture');
    expect(bookMatched.mismatch).toBeLessThan(0.01);
    expect(asItIs.mismatch).toBeGreaterThan(bookMatched.mismatch);
    expect(Math.abs(best.points!.turnedDeg)).toBeLessThan(0.15);
    expect(best.sideMm).toBeLessThan(bookMatched.sideMm);
    const { plan, inserted } = withRemedies(evaluation, result, best.remedies);
    const [trued] = stepResult(evaluated(plan), inserted.at(-1)!)!.after!;
    expect(sizeOf(trued).widthMm).toBeCloseTo(best.sideMm, 6);
    expect(plan.lanes[0].steps.map((s) => s.kind).slice(-4)).toEqual([
      'measure',
      'trueUp',
      'cut',
      'assemble',
    ]);
  });

  it('takes loose pieces too, each as it lay in the bar', () => {
    const twisted: Move = ['measure', { turnDeg: 2, twistDegPerM: 30, zoneAMm: 0, zoneBMm: 0 }];
    const whole = evaluated(planOf([...squared('right'), twisted, cutInto(4)])).goalLane.ends;
    const pieces = evaluated(planOf([...squared('right'), cutInto(4), twisted])).goalLane.ends;
    // Measured from the first face that was sawn: the crop in front of it makes the only difference.
    const turn = (bars: typeof whole, i: number) =>
      cornerLine(bars[i], { x: 0, y: 0, ...sizeOf(bars[i]) }, [-1, 1], bars[i].lengthMm / 2)!.turnedDeg;
    for (let i = 0; i < 4; i++)
      expect(turn(pieces, i) - turn(pieces, 0)).toBeCloseTo(turn(whole, i) - turn(whole, 0), 1);
    const { evaluation, result } = saidOf([...squared('right'), cutInto(4), shown(3)]);
    expect(waysOn(evaluation, result).map((w) => w.id)).toEqual(
      expect.arrayContaining(['as it is', 'book-matched']),
    );
  });

  it('offers no grinding where none can be done, and carries a long zone on into the next piece', () => {
    const flat: Move[] = [
      stackOf(13),
      weldIt,
      ['draw', { shape: 'flat', widthMm: 44, thicknessMm: 24, heats: 1 }],
      shown(4),
    ];
    expect(saidOf(flat).findings.map((f) => f.code)).not.toContain('turned');
    const pieces = evaluated(planOf([...squared('right'), cutInto(4), shown(0, 100)])).goalLane.ends;
    const [first, second, third] = pieces.map((b) => (b.distorted?.endA ?? 0) * b.lengthMm);
    expect(first).toBeCloseTo(pieces[0].lengthMm, 6);
    expect(first + second).toBeGreaterThan(90);
    expect(third).toBe(0);
  });

  it('crops what was found distorted, and says where it is left on', () => {
    const bar: Move[] = [...squared('right'), shown(0, 30, 12)];
    const cut = (cropAMm: number, cropBMm: number): Move => ['cut', { pieces: 4, cropAMm, cropBMm }];
    const left = saidOf([...bar, cut(10, 12)]);
    const said = left.findings.find((f) => f.code === 'distorted end')!;
    expect(said.parameter).toBe('cropAMm');
    const mended = evaluated(withRemedy(left.evaluation, left.result, said.remedy!).plan);
    expect(mended.goalLane.steps.at(-1)!.step.parameters).toMatchObject({ cropAMm: 30, cropBMm: 12 });
    expect(findingsOf(mended, mended.goalLane.steps.at(-1)!).map((f) => f.code)).not.toContain(
      'distorted end',
    );
    // Drawn to half its section the distorted stretch is twice as long.
    const [drawn] = evaluated(planOf([...bar, drawSquare(32 / Math.SQRT2, 0)])).goalLane.ends;
    expect(drawn.distorted!.endA * drawn.lengthMm).toBeCloseTo(60, 1);
    // The piece that still holds some of it says so when it is laid.
    expect(saidOf([...bar, cut(10, 12), fourWay('mirrored')]).findings.map((f) => f.code)).toContain(
      'distorted end',
    );
    expect(saidOf([...bar, cut(30, 12), fourWay('mirrored')]).findings.map((f) => f.code)).not.toContain(
      'distorted end',
    );
  });
});
