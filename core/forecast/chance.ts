import { probit } from 'simple-statistics';
import { type Billet, scaled, sizeOf, stretched } from '../billet/billet.ts';
import { SolidField } from '../billet/fields/layers.ts';
import { seeded } from '../canister/packing.ts';
import type { Flows } from '../flow/flows.ts';
import { type Can, fillOf } from '../canister/can.ts';
import { totalVolume } from '../materials/volumes.ts';
import {
  type Belief,
  type NumberId,
  ONLY_CLEANED,
  TO_SIZE,
  fayingGrinds,
  freshCuts,
  isLaid,
  sortOf,
  subjectOf,
} from '../learning/index.ts';
import { moveOf } from '../moves/index.ts';
import {
  type Evaluation,
  type Happening,
  type Step,
  type StepResult,
  canOf,
  heatsIn,
  makeStep,
  makeStepOf,
  withParameters,
} from '../plan/index.ts';
import { doneSteps } from '../records/record.ts';
import { type Shop, materialCode } from '../shop/shop.ts';

/** What the numbers of the shop happen to be: those of one run, and of one step of it. Drawn when they are first asked for, the same for the same seed and step whatever else was asked. */
export class Chance {
  private readonly belief: Belief;
  private readonly seed: number;
  /** What came up, by number: in how many standard deviations, step by step. */
  readonly met = new Map<NumberId, number[]>();

  constructor(belief: Belief, seed: number) {
    this.belief = belief;
    this.seed = seed;
  }

  private normal(of: string): number {
    const u = seeded(hash(of, this.seed))();
    return probit(Math.min(1 - 1e-9, Math.max(1e-9, u)));
  }

  /** A number of one step; `own`: as the shop or plan has it itself; `which` where a step has several of it; `sort`: of which sort of such moves it is. */
  of(
    number: NumberId,
    of: string,
    step: string,
    { own, which = '', sort = null }: { own?: number; which?: string; sort?: string | null } = {},
  ): number {
    const { value: believed, sure, spread, isTable } = this.belief(number, of, sort);
    const value = isTable && own !== undefined ? own : believed;
    const all = sure === 0 ? 0 : sure * this.normal(`${number}\n${of}`);
    const apart = spread === 0 ? 0 : spread * this.normal(`${number}\n${of}\n${step}\n${which}`);
    const wide = Math.hypot(sure, spread);
    if (wide > 0) this.met.set(number, [...(this.met.get(number) ?? []), (all + apart) / wide]);
    return value + all + apart;
  }
}

/** A whole number from a text (FNV-1a) and a seed. */
function hash(text: string, seed: number): number {
  let h = (0x811c9dc5 ^ seed) >>> 0;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return Math.imul(h ^ (h >>> 15), 0x2c1b3c6d) >>> 0;
}

const atLeast = (least: number, value: number): number => Math.max(least, value);

/** How many times the planned heats, or the planned time, a step happens to take. */
export const timesOf = (
  number: 'heats' | 'minutes',
  { step, before }: Pick<StepResult, 'step' | 'before'>,
  shop: Shop,
  chance: Chance,
): number =>
  atLeast(
    0.3,
    chance.of(number, subjectOf(number, shop, step), step.id, {
      sort: sortOf(number, { step, before, shop }),
    }),
  );

/** The shop as it happens to be at one step. */
function shopAt(step: Step, shop: Shop, before: readonly Billet[], chance: Chance): Shop {
  const { name } = shop;
  const scale = Math.min(
    0.2,
    atLeast(
      0,
      chance.of('scale', name, step.id, {
        own: shop.scalePerHeat,
        sort: sortOf('scale', { step, before, shop }),
      }),
    ),
  );
  const heats = heatsIn(step) > 0 ? timesOf('heats', { step, before }, shop, chance) : 1;
  return {
    ...shop,
    scalePerHeat: heatsIn(step) > 0 ? 1 - (1 - scale) ** heats : shop.scalePerHeat,
    kerfMm:
      moveOf(step.kind).group === 'Saw and grind'
        ? atLeast(0, chance.of('kerf', subjectOf('kerf', shop), step.id, { own: shop.kerfMm }))
        : shop.kerfMm,
    biteMm: step.kind === 'draw' ? shop.biteMm * atLeast(0.3, chance.of('bite', name, step.id)) : shop.biteMm,
    spread:
      step.kind === 'draw'
        ? atLeast(0.2, chance.of('spread', name, step.id, { own: shop.spread }))
        : shop.spread,
  };
}

/** How much comes off each of two faces: a faying face is ground until it is clean, a last one down to its size. */
function offBoth(
  faces: readonly [number, number],
  which: 'width' | 'height',
  { step, shop, chance, planned, before, isFaying }: At,
): [number, number] {
  const ground = faces.filter((mm) => mm > 0).length;
  const key = which === 'width' ? 'widthMm' : 'heightMm';
  const is = sizeOf(before[0])[key];
  const was = planned?.before[0] ? sizeOf(planned.before[0])[key] : is;
  const more = (mm: number): number => {
    if (!isFaying) return (is - was) / ground;
    return mm > ONLY_CLEANED * shop.fayingMm
      ? 0
      : chance.of('faying', subjectOf('faying', shop), step.id, { own: shop.fayingMm, which }) -
          shop.fayingMm;
  };
  const off = (mm: number) => (mm > 0 ? atLeast(0, mm + more(mm)) : 0);
  return [off(faces[0]), off(faces[1])];
}

/** A step where it is done: which it is, in which shop, as it was planned, and what is there before it. */
interface At {
  readonly step: Step;
  readonly shop: Shop;
  readonly chance: Chance;
  readonly planned: StepResult | undefined;
  readonly before: readonly Billet[];
  /** Of a grinding: whether its faces are welded to others later. */
  readonly isFaying: boolean;
  /** Of a cut: whether the ends come out of the fire. */
  readonly isFresh: boolean;
}

/** The step's own numbers as a hand happens to meet them. */
function stepAt(at: At): Step {
  const { step, shop, chance } = at;
  if (step.kind === 'cut') {
    const { cropAMm, cropBMm } = step.parameters;
    // What is planned is marked; more is cut where the end is not sound yet.
    const crop = (planned: number, end: string) =>
      planned > 0 && at.isFresh
        ? atLeast(planned, chance.of('crop', shop.name, step.id, { own: shop.cropMm, which: end }))
        : planned;
    return withParameters(step, {
      ...step.parameters,
      cropAMm: crop(cropAMm, 'A'),
      cropBMm: crop(cropBMm, 'B'),
    });
  }
  if (step.kind === 'grind') {
    const { topMm, bottomMm, leftMm, rightMm } = step.parameters;
    const [top, bottom] = offBoth([topMm, bottomMm], 'height', at);
    const [left, right] = offBoth([leftMm, rightMm], 'width', at);
    return withParameters(step, { topMm: top, bottomMm: bottom, leftMm: left, rightMm: right });
  }
  // By the usual map, whatever was chosen: both come to the same size.
  if (step.kind === 'draw') return withParameters(step, { ...step.parameters, reckoned: 'usual' });
  if (step.kind === 'resquare') {
    // Only sizes are asked for: those of a bar drawn to that square are the same, and no picture has to be made.
    const { sideMm, heats } = step.parameters;
    return makeStepOf(step.id, 'draw', { shape: 'square', sideMm, heats });
  }
  return step;
}

/** How many times as much as planned a filled can holds, by what its powder happens to be shaken down to. */
export function fillOver(can: Can, full: Billet, step: Step, shop: Shop, chance: Chance): number {
  const { powders } = fillOf(can, shop.materials, []);
  const powderMm3 = powders.reduce((sum, p) => sum + p.solidMm3, 0);
  const { tapDensity } = can;
  const tap = Math.min(
    0.75,
    atLeast(0.3, chance.of('tap', subjectOf('tap', shop, step), step.id, { own: tapDensity })),
  );
  return 1 + (powderMm3 / totalVolume(full.volumes)) * (tap / tapDensity - 1);
}

/** How many times as much as planned the heats of a step leave. */
const leftOver = (step: Step, shop: Shop, there: Shop): number =>
  ((1 - there.scalePerHeat) / (1 - shop.scalePerHeat)) ** heatsIn(step);

/** Sizes as they happen to come: beside the stop, and less steel than anybody knows of. */
function cameBy(step: Step, after: readonly Billet[], shop: Shop, chance: Chance): readonly Billet[] {
  const { name } = shop;
  if (TO_SIZE.includes(step.kind)) {
    const wide = 1 + chance.of('section', name, step.id, { own: 0, which: 'width' });
    const high = 1 + chance.of('section', name, step.id, { own: 0, which: 'height' });
    return wide === 1 && high === 1
      ? after
      : after.map((bar) => (bar.blank ? bar : stretched(bar, wide, high)));
  }
  if (!isLaid(step) || moveOf(step.kind).begins === true) return after;
  const left = 1 - chance.of('unaccounted', name, step.id);
  return left === 1 ? after : after.map((bar) => (bar.blank ? bar : scaled(bar, 1, 1, left)));
}

/** The flow of a step as it was worked out for the plan: a hair's difference in size does not change it. */
const flowOf = (planned: StepResult | undefined): Flows => ({
  of: () => planned?.flow ?? null,
  stageOf: () => planned?.flow ?? undefined,
});

/** The same bar of one steel throughout: of its sizes nothing changes, and nothing of its picture has to be followed. */
function plain(bar: Billet, shop: Shop): Billet {
  const [material] = Object.keys(bar.volumes);
  if (!material || bar.loose || bar.can || bar.jacket || bar.blank || bar.field instanceof SolidField)
    return bar;
  return {
    ...bar,
    field: new SolidField(materialCode(shop, material)),
    volumes: { [material]: totalVolume(bar.volumes) },
  };
}

/** One way in which what is still to be done of a plan may come; `seen`: with its pictures and what is in them, not in its sizes alone. */
export function happeningBy(chance: Chance, planned: Evaluation, seen = false): Happening {
  const done = doneSteps(planned.plan.records);
  const steps = new Map(planned.lanes.flatMap((l) => l.steps.map((s) => [s.step.id, s] as const)));
  const faying = fayingGrinds(planned);
  const fresh = freshCuts(planned);
  const cans = new Map(
    planned.lanes.flatMap((l) =>
      l.steps.flatMap((s, i) => {
        const can = canOf(s);
        const next = l.steps.at(i + 1);
        return can && next?.step.kind === 'consolidate'
          ? [[next.step.id, { can, filledAt: s.step }] as const]
          : [];
      }),
    ),
  );
  return {
    make(step, before, shop) {
      if (done.has(step.id)) return null;
      const was = steps.get(step.id);
      // What fills a can is not known until it is pressed: all of it is reckoned with there.
      if (step.kind === 'can' && was?.after) return was;
      const there = shopAt(step, shop, before, chance);
      const filled = cans.get(step.id);
      if (filled && was?.after) {
        const longer =
          fillOver(filled.can, was.before[0], filled.filledAt, shop, chance) * leftOver(step, shop, there);
        return longer === 1 ? was : { ...was, after: was.after.map((bar) => scaled(bar, 1, 1, longer)) };
      }
      const at = {
        step,
        shop,
        chance,
        planned: was,
        before,
        isFaying: faying.has(step.id),
        isFresh: fresh.has(step.id),
      };
      const made = makeStep(stepAt(at), before, there, flowOf(was));
      const after = made.after && cameBy(step, made.after, shop, chance);
      return { ...made, step, after: seen ? after : after && after.map((bar) => plain(bar, shop)) };
    },
  };
}
