import { FILLINGS, type Filling } from '../canister/can.ts';
import { plural } from '../instruct/said.ts';
import { type StepResult, heatsIn } from '../plan/index.ts';
import { type Shop, type ShopSettings, shopSchema } from '../shop/shop.ts';
import type { Units } from '../units/quantityText.ts';
import { type Learned, learnedFrom } from './believed.ts';
import { type Evidence, bearsNickel } from './evidence.ts';
import { type NumberId, type ShopNumber, numberOf, ownNumber, partsOf, subjectOf } from './numbers.ts';
import { subjectSaid, valueSaid } from './said.ts';
import { sortOf, sortSaid } from './sorts.ts';

type Field = NonNullable<ShopNumber['field']> | 'reductionPerPass';

/** A number of a set-up that was measured to be another, and what it would be then. */
export interface Proposal {
  readonly learned: Learned;
  readonly field: Field;
  readonly has: number;
  /** As the shop writes it. */
  readonly to: number;
  /** “Saw kerf 1.20 mm, not 1.00 mm: 14 times measured”. */
  readonly text: string;
}

/** What is taken for a shop's own number was measured so often; of less nothing is proposed. */
const LEAST_MEASURED = 5;
const LEAST_SAID = 3;
/** A move is called by its title whatever materials there are. */
const NO_MATERIALS = { materials: [] } as const;
/** It lies so many of its own spreads away from what is reckoned with. */
const APART = 2;

/** As a person would set it: lengths to a hundredth of a millimetre, crops to half of one, shares and factors to two figures behind. */
function settled(field: Field, value: number): number {
  const to = field === 'cropMm' ? 0.5 : field === 'scalePerHeat' ? 0.0005 : 0.01;
  return Number((Math.round(value / to) * to).toFixed(6));
}

/** Numbers of a set-up that its own records say are others; each is one that the set-up may have. */
export function proposalsFor(
  settings: ShopSettings,
  learned: readonly Learned[],
  units: Units = settings,
): Proposal[] {
  return learned.flatMap((l): Proposal[] => {
    if (l.number === 'passes') return reductionFor(settings, l);
    const { field, title } = numberOf(l.number);
    const has = ownNumber(l.number, settings);
    if (
      !field ||
      has === null ||
      l.sort !== undefined ||
      l.of !== subjectOf(l.number, settings) ||
      l.count - l.wild < LEAST_MEASURED
    )
      return [];
    const to = settled(field, l.value);
    if (Math.abs(l.value - has) < APART * l.sure || to === has) return [];
    if (!shopSchema.shape[field].safeParse(to).success) return [];
    const text = `${title} ${valueSaid(l.number, to, units)}, not ${valueSaid(l.number, has, units)}: ${plural(l.count, 'time')} measured`;
    return [{ learned: l, field, has, to, text }];
  });
}

/** As many passes more as were counted, each takes so much less. */
function reductionFor(settings: ShopSettings, l: Learned): Proposal[] {
  const has = settings.reductionPerPass;
  const isOwn = l.sort === undefined && l.of === 'draw' && l.evidence.every((e) => e.setUp === settings.name);
  if (!isOwn || l.count - l.wild < LEAST_MEASURED || Math.abs(l.value - 1) < APART * l.sure) return [];
  const to = settled('reductionPerPass', 1 - (1 - has) ** (1 / l.value));
  if (to === has || !shopSchema.shape.reductionPerPass.safeParse(to).success) return [];
  const percent = (share: number) => `${Math.round(100 * share)} %`;
  const text = `Taken in a pass ${percent(to)}, not ${percent(has)}: ${plural(l.count, 'time')} counted`;
  return [{ learned: l, field: 'reductionPerPass', has, to, text }];
}

/** Something that experience says, and what it rests on. */
export interface Experience<E extends Evidence = Evidence> {
  readonly text: string;
  readonly learned: Learned<E>;
}

/** Whether it was measured often enough, and is plainly another than the table has it. */
const isTelling = ({ value, sure, count, wild, table }: Learned): boolean =>
  count - wild >= LEAST_SAID && Math.abs(value - table.value) > APART * sure;

const fillingSaid = (of: string): string => FILLINGS[(partsOf(of).by ?? 'tapped') as Filling];

/** What is worth knowing before a move with this handle, this powder, in this fire: only where the evidence is there. */
export function experienceFrom<E extends Evidence>(
  evidence: readonly E[],
  learned: readonly Learned<E>[],
  units: Units,
): Experience<E>[] {
  const isParted = (l: Learned): boolean =>
    l.sort === undefined &&
    learned.some((other) => other.sort !== undefined && other.number === l.number && other.of === l.of);
  const telling = learned.filter((l) => isTelling(l) && !isParted(l));
  const said = telling.flatMap((l): Experience<E>[] => {
    const value = (v: number) => valueSaid(l.number, v, units);
    const times = plural(l.count, 'time');
    if (l.number === 'turn')
      return [
        {
          learned: l,
          text: `Re-squares with “${l.of}” came out ${value(Math.abs(l.value))} ${l.value > 0 ? 'too far' : 'not far enough'} (${times}).`,
        },
      ];
    if (l.number === 'tap')
      return [
        {
          learned: l,
          text: `This powder, ${fillingSaid(l.of)}, filled to ${value(l.value)}, not ${value(l.table.value)} (${times}).`,
        },
      ];
    if (l.number === 'bite')
      return [
        {
          learned: l,
          text: `Bites in “${l.of}” came ${l.value.toFixed(2)} times as long as planned (${times}): wide bars spread ${l.value > 1 ? 'more' : 'less'} by that.`,
        },
      ];
    if (l.number === 'heats')
      return [
        {
          learned: l,
          text: `“${subjectSaid(l.number, l.of, NO_MATERIALS)}”${l.sort ? `, ${sortSaid(l.sort, units)},` : ''} took ${l.value.toFixed(2)} times the heats that were planned (${times}).`,
        },
      ];
    return [];
  });
  return [...said, ...nickelSaid(evidence, learned)];
}

/** Bars that bear nickel against those that do not, in the same fire. */
function nickelSaid<E extends Evidence>(
  evidence: readonly E[],
  learned: readonly Learned<E>[],
): Experience<E>[] {
  return learned.flatMap((l): Experience<E>[] => {
    if (l.number !== 'scale' || l.sort !== undefined) return [];
    const own = evidence.filter((e) => e.number === 'scale' && e.of === l.of);
    const [bearing] = learnedFrom(own.filter((e) => e.hasNickel));
    const [others] = learnedFrom(own.filter((e) => !e.hasNickel));
    if (!bearing || !others || Math.min(bearing.count, others.count) < LEAST_SAID) return [];
    if (Math.abs(bearing.value - others.value) < APART * Math.hypot(bearing.sure, others.sure)) return [];
    const times = bearing.value / others.value;
    return [
      {
        learned: bearing,
        text: `In the fire of “${l.of}” bars that bear nickel lose ${times.toFixed(1)} times the scale of others (${bearing.count} against ${others.count} times weighed).`,
      },
    ];
  });
}

/** What experience says of one move, before it is done. */
export function experienceFor<E extends Evidence>(
  { step, before }: StepResult,
  shop: Shop,
  evidence: readonly E[],
  learned: readonly Learned<E>[],
): Experience<E>[] {
  const isOfSort = ({ number, sort }: Learned<E>): boolean =>
    sort === undefined || sort === sortOf(number, { step, before, shop });
  const isIn: Partial<Record<NumberId, boolean>> = {
    turn: step.kind === 'resquare',
    tap: step.kind === 'can',
    bite: step.kind === 'draw',
    heats: heatsIn(step) > 0,
    scale: heatsIn(step) > 0 && bearsNickel(before, shop),
  };
  const speaksOf = (l: Learned<E>): boolean =>
    isIn[l.number] === true && l.of === subjectOf(l.number, shop, step) && isOfSort(l);
  return experienceFrom(evidence, learned, shop).filter((e) => speaksOf(e.learned));
}
