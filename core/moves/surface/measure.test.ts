import { describe, expect, it } from 'vitest';
import { bestMatch, readingOrder, seamFigures } from '../../assembly/index.ts';
import { type AssembleParameters, laidPieces } from '../lay/assemble/laid.ts';
import { moveOf } from '../index.ts';
import { makeShop } from '../../shop/shop.ts';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { codeAt } from '../../billet/fields/field.ts';
import { facePlane } from '../../billet/face.ts';
import { allSteps, evaluate } from '../../plan/index.ts';
import { sampleCodes } from '../../render/codes.ts';
import {
  type Move,
  cutInto,
  drawSquare,
  fourWay,
  planOf,
  resquareTo,
  stackOf,
  weldIt,
} from '../../tests/plans.ts';

const BAR: Move[] = [stackOf(8, 30, 3.6, 400), weldIt, drawSquare(24), resquareTo(22)];
const measured = (more: object): Move => [
  'measure',
  { turnDeg: 0, twistDegPerM: 0, zoneAMm: 0, zoneBMm: 0, ...more },
];
/** Milder by 3 mm at both ends, as foreseen in the middle. */
const MILD = measured({ bowAMm: -3, bowMiddleMm: 0, bowBMm: -3 });
const steps = (moves: readonly Move[]) => allSteps(evaluate(planOf(moves)));
const section = (bar: Billet, share: number) => sampleCodes(bar, facePlane(bar, 'middle', share), 60, 60);
const unlike = (a: Uint8Array, b: Uint8Array) => a.filter((c, i) => c !== b[i]).length / a.length;

describe('a bar that is unlike itself along its length', () => {
  it('is as it was measured at both ends and in the middle, and goes from one to the other', () => {
    const [plain, mild] = [BAR, [...BAR, MILD]].map((moves) => steps(moves).at(-1)!.after![0]);
    expect(unlike(section(plain, 0.5), section(mild, 0.5))).toBe(0);
    expect(unlike(section(plain, 0), section(mild, 0))).toBeGreaterThan(0.08);
    expect(unlike(section(mild, 0.002), section(mild, 0.998))).toBeLessThan(0.02);
    expect(unlike(section(mild, 0), section(mild, 0.25))).toBeGreaterThan(0.03);
    expect(
      steps([...BAR, MILD])
        .at(-1)!
        .findings.map((f) => f.code),
    ).toContain('unlike along');
  });

  it('turns by zone: the middle further than the way from end to end', () => {
    const zone = steps([...BAR, measured({ turnDeg: 2, turnMiddleDeg: 8 })]).at(-1)!;
    expect(zone.findings.map((f) => f.code)).toContain('twisted');
    const all = steps([...BAR, measured({ turnDeg: 8 })]).at(-1)!.after![0];
    const ends = steps([...BAR, measured({ turnDeg: 2 })]).at(-1)!.after![0];
    const [bar] = zone.after!;
    expect(unlike(section(bar, 0.5), section(all, 0.5))).toBeLessThan(1e-3);
    expect(unlike(section(bar, 0), section(ends, 0))).toBeLessThan(1e-3);
    expect(unlike(section(bar, 1), section(ends, 1))).toBeLessThan(1e-3);
  });

  it('cut into four and laid to a four-way, every piece keeps its own stretch, at both ends and in the middle', () => {
    const all = steps([...BAR, MILD, cutInto(4), fourWay('alike'), weldIt]);
    const [whole] = all.find((s) => s.step.kind === 'measure')!.after!;
    const { after: pieces } = all.find((s) => s.step.kind === 'cut')!;
    const [four] = all.find((s) => s.step.kind === 'assemble')!.after!;
    const { widthMm, heightMm } = sizeOf(pieces![0]);
    for (const [i, piece] of pieces!.entries()) {
      const [column, row] = [i % 2, Math.floor(i / 2)];
      for (const share of [0.01, 0.5, 0.99])
        for (let k = 0; k < 60; k++) {
          const [x, y] = [
            (((k * 7) % 19) / 19 - 0.5) * 0.98 * widthMm,
            (((k * 11) % 23) / 23 - 0.5) * 0.98 * heightMm,
          ];
          const z = share * piece.lengthMm;
          const here = codeAt(four.field, (column - 0.5) * widthMm + x, (0.5 - row) * heightMm + y, z);
          expect(here).toBe(codeAt(whole.field, x, y, piece.piece!.fromMm + z));
        }
    }
    const [welded] = all.at(-1)!.after!;
    const at = [0.01, 0.5, 0.99].map((share) => section(welded, share));
    expect(unlike(at[0], at[1])).toBeGreaterThan(0.02);
    expect(unlike(at[1], at[2])).toBeGreaterThan(0.02);
  });

  it('matched, the four meet no worse than as they were sawn, at both ends', () => {
    const cut = steps([...BAR, MILD, cutInto(4)]).at(-1)!.after!;
    const asSawn = { columns: 2, rows: 2, layout: 'mirrored' } as const;
    const laid = laidPieces(cut, asSawn);
    const match = bestMatch(laid, 2, 2);
    expect(match.afterMm).toBeLessThanOrEqual(match.beforeMm);
    const places = readingOrder(
      laid.map(({ place }) => place),
      match.order,
    );
    const worst = (p: AssembleParameters) => {
      const [four] = moveOf('assemble').apply(cut, p, makeShop()).after;
      const seams = seamFigures(cut, p, four);
      return seams.reduce((sum, seam) => sum + seam.frontMismatch + seam.backMismatch, 0);
    };
    const matched: AssembleParameters = { columns: 2, rows: 2, layout: 'free', places };
    expect(worst(matched)).toBeLessThanOrEqual(worst(asSawn) + 1e-9);
  });
});
