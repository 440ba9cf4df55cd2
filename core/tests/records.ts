import fc from 'fast-check';
import { sizeOf, writtenOn } from '../billet/billet.ts';
import { massKg } from '../materials/volumes.ts';
import { type Evaluation, type StepResult, allSteps } from '../plan/index.ts';
import { CELLS, type Sighting } from '../sighting/sighting.ts';
import { USUAL } from '../sighting/warp.ts';
import type { BenchRecord, PieceCame } from '../records/record.ts';

/** A photographed end that shows what was foreseen. */
export const SIGHTING: Sighting = {
  orientation: 0,
  turn: 0,
  slide: 0,
  modes: USUAL.map(() => 0),
  knots: new Array<number>(2 * (CELLS + 3) ** 2).fill(0),
  correlation: 1,
  lead: 1,
  endTold: true,
  upTold: true,
  turnedDeg: 0,
  turnedWithinDeg: 0.2,
  leansDeg: null,
  leansWithinDeg: null,
  offMm: [0, 0],
  stretch: [1, 1],
  seen: 1,
};

/** The k-th hour of one long day at the bench. */
const hour = (k: number): string => new Date(Date.UTC(2026, 2, 2, k)).toISOString();

/** What came of a step: done in the hour of that number. */
export const cameOf = (
  step: string,
  pieces: readonly PieceCame[],
  k = 0,
  more: Partial<BenchRecord> = {},
): BenchRecord => ({
  id: `r-${step}-${k}`,
  step,
  kind: 'came',
  began: hour(k),
  ended: hour(k + 1),
  written: hour(k + 1),
  pieces: [...pieces],
  ...more,
});

/** Every piece after a step with exactly the sizes and the weight that it was reckoned to have. */
export const asReckoned = ({ shop }: Evaluation, { after }: StepResult): PieceCame[] =>
  (after ?? []).map((bar, i) => ({
    piece: writtenOn(bar, i),
    ...sizeOf(bar),
    lengthMm: bar.lengthMm,
    ...(bar.can || bar.volumes === undefined ? {} : { massKg: massKg(bar.volumes, shop.materials) }),
  }));

/** What may be off about one piece: factors of its sizes, an end cut back, a turn of the picture, or the piece given up. */
const anyOff = fc.record({
  wide: fc.double({ min: 0.9, max: 1.1, noNaN: true }),
  high: fc.double({ min: 0.9, max: 1.1, noNaN: true }),
  long: fc.double({ min: 0.7, max: 1.3, noNaN: true }),
  what: fc.constantFrom('sizes', 'section', 'length', 'mass', 'ends', 'crop', 'turn', 'lean', 'scrapped'),
});

/** Records of some steps of a plan, some pieces of each, more or less as they were reckoned. */
export const anyRecords = (evaluation: Evaluation): fc.Arbitrary<BenchRecord[]> => {
  const steps = allSteps(evaluation).filter((s) => s.after !== null);
  const each = steps.map((result, k) =>
    fc
      .tuple(
        fc.boolean(),
        fc.array(fc.option(anyOff, { freq: 2 }), { minLength: 4, maxLength: 4 }),
        fc.nat(2),
      )
      .map(([written, offs, moreHeats]): BenchRecord[] => {
        if (!written) return [];
        const pieces = asReckoned(evaluation, result).flatMap((came, i): PieceCame[] => {
          const off = offs[i % offs.length];
          return off ? [pieceOff(came, off)] : [];
        });
        return [cameOf(result.step.id, pieces, k, { heats: moreHeats })];
      }),
  );
  return fc.tuple(...each).map((all) => all.flat());
};

type Off = typeof anyOff extends fc.Arbitrary<infer T> ? T : never;

function pieceOff(
  { piece, widthMm = 1, heightMm = 1, lengthMm = 1, massKg: kg }: PieceCame,
  off: Off,
): PieceCame {
  const [w, h, l] = [widthMm * off.wide, heightMm * off.high, lengthMm * off.long];
  switch (off.what) {
    case 'sizes':
      return { piece, widthMm: w, heightMm: h, lengthMm: l };
    case 'section':
      return { piece, widthMm: w, heightMm: h };
    case 'length':
      return { piece, lengthMm: l };
    case 'mass':
      return { piece, ...(kg && { massKg: kg * off.long }) };
    case 'ends':
      return { piece, heightMm: h, endA: { heightMm: h * off.wide }, endB: { heightMm: h, spoiltMm: 4 } };
    case 'crop':
      return { piece, cropped: { endAMm: lengthMm * 0.05, endBMm: 0, why: 'cracked' } };
    case 'turn':
      return { piece, endA: { turnedDeg: 20 * (off.wide - 1) }, endB: { turnedDeg: 20 * (off.high - 1) } };
    case 'lean':
      return { piece, leansDeg: 40 * (off.wide - 1) };
    case 'scrapped':
      return { piece, scrapped: 'cracked' };
  }
}
