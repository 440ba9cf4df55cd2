import { probit } from 'simple-statistics';
import { type Billet, sizeOf, writtenOn } from '../billet/billet.ts';
import { seeded } from '../canister/packing.ts';
import { handsSeconds, heldAfter } from '../days/tasks.ts';
import { type Belief, READ_SD, TO_SIZE, freshCuts } from '../learning/index.ts';
import { massKg } from '../materials/volumes.ts';
import { moveOf } from '../moves/index.ts';
import {
  type Evaluation,
  type Plan,
  type StepResult,
  actionsOf,
  asPlanned,
  benchOrder,
  canOf,
  evaluate,
  heatsIn,
} from '../plan/index.ts';
import type { BenchRecord, PieceCame } from '../records/record.ts';
import { Chance, fillOver, happeningBy, timesOf } from './chance.ts';

/** How a made-up shop writes down what came. */
export interface Writing {
  readonly seed: number;
  /** When the first move is begun: an ISO instant. */
  readonly from: string;
  /** Share of all entries that are a slip of the pen. */
  readonly slips: number;
  /** Of every number how often it is written down at all, 0 … 1. */
  readonly often: number;
  readonly by?: readonly string[];
}

/** More pieces than these are not measured one by one. */
const MOST_MEASURED = 8;
/** A slip of the pen: figures swapped, the wrong size read off. */
const SLIP_SHARE = 0.12;
/** Nothing leans further than this and is still a bar, degrees. */
const MOST_LEAN_DEG = 40;
const DAY_MS = 86_400_000;

const rounded = (value: number, to: number): number => Number((Math.round(value / to) * to).toFixed(6));

/** What really happens of a plan in a shop of hidden numbers, and what is written down of it: with errors of measuring, and slips. */
export function lived(plan: Plan, truth: Belief, writing: Writing): { plan: Plan; really: Evaluation } {
  const planned = evaluate(asPlanned(plan));
  const chance = new Chance(truth, writing.seed);
  const really = evaluate(planned.plan, undefined, planned.flows, happeningBy(chance, planned, true));
  const random = seeded(writing.seed * 7919 + 13);
  const normal = () => probit(Math.min(1 - 1e-9, Math.max(1e-9, random())));
  const slip = () => (random() < writing.slips ? 1 + SLIP_SHARE * (random() < 0.5 ? -1 : 1) : 1);
  const writes = () => random() < writing.often;
  const { shop } = planned;
  const { caliperMm, ruleMm, scaleKg } = shop.measuring;
  const read = (value: number, error: number): number =>
    rounded((value + READ_SD * error * normal()) * slip(), error / 5);
  const steps = new Map(planned.lanes.flatMap((l) => l.steps.map((s) => [s.step.id, s] as const)));

  function sizesOf(bar: Billet, at: number, made: StepResult): PieceCame {
    const { step } = made;
    const piece = writtenOn(bar, at);
    const { widthMm, heightMm } = sizeOf(bar);
    const can = canOf(made);
    const kg = massKg(bar.volumes, shop.materials) * (can ? fillOver(can, bar, step, shop, chance) : 1);
    const sized = TO_SIZE.includes(step.kind) || step.kind === 'weld' || step.kind === 'grind';
    return {
      piece,
      ...(sized && writes() && { widthMm: read(widthMm, caliperMm), heightMm: read(heightMm, caliperMm) }),
      ...(step.kind !== 'grind' && writes() && { lengthMm: Math.max(1, read(bar.lengthMm, ruleMm)) }),
      ...(writes() && { massKg: Math.max(0.001, read(kg, scaleKg)) }),
    };
  }

  /** An angle as it is read by eye, to half a degree. */
  const angle = (is: number, most: number, error = 1) =>
    Math.max(-most, Math.min(most, rounded((is + error * normal()) * slip(), 0.5)));

  /** What is written of the ends: how far the pattern turned at a re-square, or twisted in drawing, and how far the section leans. */
  function turned({ step }: StepResult, bar: Billet): Partial<PieceCame> {
    if (step.kind !== 'resquare' && step.kind !== 'draw') return {};
    // What leans and goes on is pressed upright in the same heat.
    const isLast = planned.lanes.some((l) => lastHot(l) === step.id);
    const leans =
      isLast && writes()
        ? { leansDeg: angle(chance.of('lean', shop.name, step.id), MOST_LEAN_DEG, 0.5) }
        : {};
    if (!writes()) return leans;
    if (step.kind === 'resquare') {
      const is = (step.parameters.turn === 'left' ? 1 : -1) * chance.of('turn', shop.handle, step.id);
      return { ...leans, endA: { turnedDeg: angle(is, 90) }, endB: { turnedDeg: angle(is, 90) } };
    }
    const twist = (chance.of('twist', shop.handle, step.id) * bar.lengthMm) / 1000;
    return { ...leans, endA: { turnedDeg: angle(0, 90) }, endB: { turnedDeg: angle(twist, 90) } };
  }

  /** What is written of how it cooled, and how long it lay in the bath. Minutes. */
  function byTheClock(inPlan: StepResult, after: readonly Billet[]): Partial<BenchRecord> {
    const { step } = inPlan;
    if (step.kind === 'etch') {
      const { dips, minutesEach } = step.parameters;
      const times = Math.max(0.1, chance.of('etch', shop.name, step.id));
      return writes() ? { bathMin: rounded(dips * minutesEach * times * slip(), 1) } : {};
    }
    if (heatsIn(step) === 0 || !writes()) return {};
    const times = Math.max(0.2, chance.of('cooling', shop.name, step.id));
    const bite = Math.max(0.3, chance.of('bite', shop.name, step.id));
    return {
      ...(step.kind === 'draw' && writes() && { biteMm: read(shop.biteMm * bite, ruleMm) }),
      coolMin: rounded((heldAfter(after, shop) / 60) * times * slip(), 1),
    };
  }

  const fresh = freshCuts(planned);
  let clock = Date.parse(writing.from);
  const records = benchOrder(planned).flatMap((inPlan, i): BenchRecord[] => {
    const came = really.lanes.flatMap((l) => l.steps).find((s) => s.step.id === inPlan.step.id);
    const { step } = inPlan;
    if (!came?.after) return [];
    const began = new Date(clock).toISOString();
    const planHeats = heatsIn(step);
    const heats =
      planHeats > 0 ? Math.max(1, Math.round(planHeats * timesOf('heats', inPlan, shop, chance))) : 0;
    const times = (planHeats > 0 ? heats / planHeats : 1) * timesOf('minutes', inPlan, shop, chance);
    const workedS = Math.round(handsSeconds(steps.get(step.id)!, planned) * times);
    clock += 1000 * workedS;
    const ended = new Date(clock).toISOString();
    clock += DAY_MS * (random() < 0.3 ? 1 : 0.05);
    const passes = actionsOf(inPlan, shop).reduce(
      (sum, a) => sum + (a.do === 'draw' ? a.passes.length : 0),
      0,
    );
    const cut = step.kind === 'cut' && inPlan.before.length === 1;
    const crops = cut && fresh.has(step.id) ? cropsOf(came, chance, shop.name) : null;
    const last = came.after.length - 1;
    const pieces = came.after.slice(0, MOST_MEASURED).map((bar, at): PieceCame => {
      const sizes = sizesOf(bar, at, came);
      const endAMm = at === 0 ? (crops?.[0] ?? 0) : 0;
      const endBMm = at === last ? (crops?.[1] ?? 0) : 0;
      return {
        ...sizes,
        ...(at === 0 && turned(came, bar)),
        ...(endAMm + endBMm > 0 && { cropped: { endAMm, endBMm, why: 'usual' as const } }),
      };
    });
    return [
      {
        id: `${step.id} ${i}`,
        step: step.id,
        kind: 'came',
        began,
        ended,
        written: ended,
        workedS,
        ...(writing.by && { by: writing.by[Math.floor(random() * writing.by.length)] }),
        ...(heats > 0 && { heats }),
        ...byTheClock(inPlan, came.after),
        ...(passes > 0 &&
          inPlan.before.length === 1 && {
            passes: Math.max(1, Math.round(passes * Math.max(0.4, chance.of('passes', step.kind, step.id)))),
          }),
        ...((moveOf(step.kind).begins !== true || canOf(inPlan)) && { pieces }),
      },
    ];
  });
  return { plan: { ...planned.plan, records }, really };
}

/** The step of a lane after which nothing is sawn, ground, pressed or laid any more. */
const lastHot = ({ steps }: Evaluation['lanes'][number]): string | undefined =>
  steps.findLast(({ step }) => step.kind !== 'etch')?.step.id;

/** What was cut off each end beyond what was planned, mm to the half. */
function cropsOf({ step }: StepResult, chance: Chance, shop: string): [number, number] | null {
  if (step.kind !== 'cut') return null;
  const { cropAMm, cropBMm } = step.parameters;
  const more = (planned: number, end: string): number =>
    planned > 0 ? Math.max(0, rounded(chance.of('crop', shop, step.id, { which: end }) - planned, 0.5)) : 0;
  return [more(cropAMm, 'A'), more(cropBMm, 'B')];
}
