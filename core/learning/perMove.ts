import { mean } from 'simple-statistics';
import { sizeOf } from '../billet/billet.ts';
import { fillOf } from '../canister/can.ts';
import { handsSeconds, heldAfter } from '../days/tasks.ts';
import { planPasses, spreadCoefficient } from '../forging/spread.ts';
import { cutCount } from '../geometry/cutting.ts';
import { actionsOf, canOf, heatsIn, stepResult } from '../plan/index.ts';
import type { PieceCame } from '../records/record.ts';
import { secondsOf } from '../records/said.ts';
import {
  type Done,
  ONLY_CLEANED,
  READ_SD,
  STACK_RIGHT_TO,
  TO_SIZE,
  cutOf,
  defined,
  lengthBefore,
  fayingGrinds,
  freshCuts,
  heatsOf,
  measuredBefore,
  ofOne,
  paired,
  weighed,
} from './done.ts';
import type { Seen } from './estimate.ts';
import { NUMBERS, type NumberId } from './numbers.ts';

/** A bar pressed lower by less than this tells nothing of how it spreads. */
const PRESSED = 0.12;

/** `which`: of several in one move that have nothing to do with each other, which one. */
export type Found = Seen & { readonly which?: string };

/** Of one move by itself: what its records say of one number. */
export const OF_A_MOVE: Partial<Record<NumberId, (done: Done) => Found[]>> = {
  kerf(done) {
    const cut = cutOf(done);
    const { shop } = done.evaluation;
    const lengths = defined(paired(done).map(({ piece }) => piece.lengthMm));
    if (!cut || lengths.length !== done.reckoned.length) return [];
    const cuts = cutCount(cut);
    // A kerf of its own is another saw's.
    const beforeMm = lengthBefore(done);
    if (cuts === 0 || cut.kerfMm !== shop.kerfMm || beforeMm === undefined) return [];
    const back = defined(done.came.flatMap((c) => [c.cropped?.endAMm, c.cropped?.endBMm]));
    const off = [cut.cropAMm, cut.cropBMm, ...back, ...lengths].reduce((a, b) => a + b, 0);
    const error =
      (READ_SD * shop.measuring.ruleMm * Math.sqrt(lengths.length + 1 + back.filter((mm) => mm > 0).length)) /
      cuts;
    return [{ value: (beforeMm - off) / cuts, error }];
  },
  crop(done) {
    const cut = cutOf(done);
    const { measuring } = done.evaluation.shop;
    if (!cut || done.came.length === 0 || !freshCuts(done.evaluation).has(done.result.step.id)) return [];
    const first = done.came.find((c) => c.piece === '1')?.cropped?.endAMm ?? 0;
    const last = done.came.find((c) => c.piece === String(done.reckoned.length))?.cropped?.endBMm ?? 0;
    return (
      [
        ['A', cut.cropAMm, first],
        ['B', cut.cropBMm, last],
      ] as const
    ).flatMap(([which, planned, more]) =>
      planned > 0
        ? [
            {
              which,
              value: planned + more,
              error: READ_SD * measuring.ruleMm,
              ...(more === 0 && { isAtMost: true }),
            },
          ]
        : [],
    );
  },
  faying(done) {
    const { step } = done.result;
    if (step.kind !== 'grind' || !fayingGrinds(done.evaluation).has(step.id)) return [];
    const { fayingMm, measuring } = done.evaluation.shop;
    const { topMm, bottomMm, leftMm, rightMm } = step.parameters;
    const before = measuredBefore(done);
    const of = (
      which: string,
      came: number | undefined,
      was: number | undefined,
      planned: readonly number[],
    ): Found[] => {
      const faces = planned.filter((mm) => mm > 0);
      if (came === undefined || was === undefined || faces.length === 0) return [];
      if (faces.some((mm) => mm > ONLY_CLEANED * fayingMm)) return [];
      return [
        {
          which,
          value: (was - came) / faces.length,
          error: (READ_SD * measuring.caliperMm * Math.SQRT2) / faces.length,
        },
      ];
    };
    return paired(done).flatMap(({ piece }) => {
      const was = before?.findLast((p) => p.piece === piece.piece) ?? ofOne(before);
      return [
        ...of('height', piece.heightMm, was?.heightMm, [topMm, bottomMm]),
        ...of('width', piece.widthMm, was?.widthMm, [leftMm, rightMm]),
      ];
    });
  },
  section(done) {
    const { step } = done.result;
    if (!TO_SIZE.includes(step.kind)) return [];
    const caliperMm = READ_SD * done.evaluation.shop.measuring.caliperMm;
    // The width of a flat bar is what it spreads to.
    const isFlat = step.kind === 'draw' && step.parameters.shape === 'flat';
    return paired(done).flatMap(({ piece, bar }) => {
      const { widthMm, heightMm } = sizeOf(bar);
      const of = (which: string, came: number | undefined, mm: number): Found[] =>
        came === undefined ? [] : [{ which, value: came / mm - 1, error: caliperMm / mm }];
      return [
        ...(isFlat ? [] : of('width', piece.widthMm, widthMm)),
        ...of('height', piece.heightMm, heightMm),
      ];
    });
  },
  spread: (done) => paired(done).flatMap(({ piece }) => spreadSeen(done, piece) ?? []),
  bite({ result, records, evaluation }) {
    const measured = defined(records.map((r) => r.biteMm)).at(-1);
    if (result.step.kind !== 'draw' || measured === undefined) return [];
    const { biteMm, measuring } = evaluation.shop;
    return [{ value: measured / biteMm, error: (READ_SD * measuring.ruleMm) / biteMm }];
  },
  turn(done) {
    if (done.result.step.kind !== 'resquare') return [];
    const way = done.result.step.parameters.turn === 'left' ? 1 : -1;
    return done.came.flatMap((c) => {
      const turned = defined([c.endA?.turnedDeg, c.endB?.turnedDeg]);
      return turned.length > 0 ? [{ value: way * mean(turned), error: READ_DEG / turned.length }] : [];
    });
  },
  twist(done) {
    if (done.result.step.kind !== 'draw') return [];
    return paired(done).flatMap(({ piece, bar }) => {
      const [a, b] = [piece.endA?.turnedDeg, piece.endB?.turnedDeg];
      if (a === undefined || b === undefined) return [];
      const perM = 1000 / (piece.lengthMm ?? bar.lengthMm);
      return [{ value: (b - a) * perM, error: READ_DEG * Math.SQRT2 * perM }];
    });
  },
  lean: (done) =>
    done.came.flatMap(({ leansDeg }) =>
      leansDeg === undefined || done.result.step.kind === 'lean'
        ? []
        : [{ value: leansDeg, error: READ_DEG / 2 }],
    ),
  tap(done) {
    const can = canOf(done.result);
    const came = weighed(done);
    if (!can || came === null) return [];
    const { materials, measuring } = done.evaluation.shop;
    const { powders, powderKg, fullKg } = fillOf(can, materials, done.result.before);
    if (powders.length !== 1 || powderKg <= 0) return [];
    const times = 1 + (came - fullKg) / powderKg;
    const error = (can.tapDensity * (READ_SD * measuring.scaleKg + STACK_RIGHT_TO * fullKg)) / powderKg;
    return [{ value: can.tapDensity * times, error }];
  },
  heats(done) {
    const planned = heatsIn(done.result.step);
    const counted = done.records.some((r) => r.heats !== undefined);
    return planned > 0 && counted ? [{ value: heatsOf(done) / planned, error: WHOLE / planned }] : [];
  },
  minutes(done) {
    const { result, planned, records } = done;
    const seconds = records.map((r) => secondsOf(r) ?? 0).reduce((a, b) => a + b, 0);
    const heats = heatsIn(result.step);
    const should = stepResult(planned, result.step.id);
    const reckoned = (should ? handsSeconds(should, planned) : 0) * (heats > 0 ? heatsOf(done) / heats : 1);
    return seconds > 60 && reckoned > 60 ? [{ value: seconds / reckoned, error: 0 }] : [];
  },
  cooling({ records, reckoned, evaluation }) {
    const minutes = defined(records.map((r) => r.coolMin)).at(-1);
    const should = heldAfter(reckoned, evaluation.shop) / 60;
    return minutes === undefined || minutes <= 0 || should < 1
      ? []
      : [{ value: minutes / should, error: WHOLE / should }];
  },
  etch({ result: { step }, records }) {
    const minutes = defined(records.map((r) => r.bathMin)).reduce((a, b) => a + b, 0);
    if (step.kind !== 'etch' || minutes <= 0) return [];
    const should = step.parameters.dips * step.parameters.minutesEach;
    return [{ value: minutes / should, error: WHOLE / should }];
  },
  passes(done) {
    const counted = defined(done.records.map((r) => r.passes)).reduce((a, b) => a + b, 0);
    const planned = plannedPasses(done);
    return counted > 0 && planned > 0 ? [{ value: counted / planned, error: 0 }] : [];
  },
};

/** Standard deviation of what is left when a number is rounded to whole ones: 1 ÷ √12. */
const WHOLE = 1 / Math.sqrt(12);

/** Degrees. So well the turn of a pattern is read by eye (common practice, no source). */
const READ_DEG = 1;

function plannedPasses({ result, planned }: Done): number {
  const should = stepResult(planned, result.step.id);
  if (should?.before.length !== 1) return 0;
  return actionsOf(should, planned.shop).reduce((sum, a) => sum + (a.do === 'draw' ? a.passes.length : 0), 0);
}

/** How much a bar spread that was pressed on its height alone, against the relation for its own passes; null where it was not, or was not measured before. */
function spreadSeen(done: Done, piece: PieceCame): Found | null {
  const { step, before } = done.result;
  const { shop } = done.evaluation;
  if (step.kind !== 'draw' || step.parameters.shape !== 'flat' || before.length !== 1) return null;
  const was = ofOne(measuredBefore(done));
  const [w1, h1] = [piece.widthMm, piece.heightMm];
  if (!was?.widthMm || !was.heightMm || w1 === undefined || h1 === undefined) return null;
  const { heats } = step.parameters;
  // With the bite that was measured, where it was.
  const biteMm = defined(done.records.map((r) => r.biteMm)).at(-1) ?? shop.biteMm;
  const left = (1 - shop.scalePerHeat) ** (heats / 2);
  const [w0, h0] = [was.widthMm * left, was.heightMm * left];
  const to = { widthMm: step.parameters.widthMm, heightMm: step.parameters.thicknessMm };
  const { passes } = planPasses(
    { widthMm: w0, heightMm: h0 },
    to,
    biteMm,
    shop.reductionPerPass,
    0,
    shop.spread,
  );
  // A width that was pressed back to size tells nothing.
  if (passes.some((p) => p.pressed === 'width') || w1 >= to.widthMm * 0.995 || h0 / h1 < 1 + PRESSED)
    return null;
  let [width, height, should] = [w0, h0, 0];
  for (const { stopMm } of passes) {
    const spreads = spreadCoefficient(biteMm, width) * Math.log(height / stopMm);
    should += spreads;
    width *= Math.exp(shop.spread * spreads);
    height = stopMm;
  }
  if (should <= 0) return null;
  const error = Math.hypot(NUMBERS.section.table.spread, (READ_SD * shop.measuring.caliperMm) / w1);
  // Width and height before are both less by what scale took, and that is known no better for being measured often.
  const shared = (heats / 2) * NUMBERS.scale.table.sure * (1 + should);
  return { value: Math.log(w1 / w0) / should, error: error / should, shared: shared / should };
}
