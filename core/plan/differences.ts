import { moveOf } from '../moves/index.ts';
import type { Material } from '../materials/material.ts';
import { shopSchema } from '../shop/shop.ts';
import { formatSizes } from '../units/length.ts';
import { type Entry, entriesOf } from '../units/quantities.ts';
import { type Units, showQuantity } from '../units/quantityText.ts';
import type { Lane, Plan, Step } from './plan.ts';

/** What of a plan stands where: its lane and the place in it. */
interface Found {
  readonly lane: Lane;
  readonly at: number;
  readonly step: Step;
}

/** What the two plans are called where they differ. */
export interface Sides {
  readonly mine: string;
  readonly theirs: string;
}

const HERE: Sides = { mine: 'here', theirs: 'there' };

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** Where a step comes among those of its lane that the other plan has too: what is put in or taken out moves no other. */
function rankOf({ lane, step }: Found, other: ReadonlyMap<string, Found>): number {
  return lane.steps.filter((s) => other.has(s.id)).findIndex((s) => s.id === step.id);
}

const stepsOf = (plan: Plan): Map<string, Found> =>
  new Map(plan.lanes.flatMap((lane) => lane.steps.map((step, at) => [step.id, { lane, at, step }])));

/** “Draw out, step 3 of Star bar”; without the bar where there is but one. */
const nameOf = ({ lane, at, step }: Found, plan: Plan): string =>
  `${moveOf(step.kind).title}, step ${at + 1}${plan.lanes.length > 1 ? ` of ${lane.name}` : ''}`;

function shown(entry: Entry | undefined, value: unknown, units: Units): string | null {
  if (value === undefined) return 'nothing';
  if (entry?.kind === 'choice') return entry.options.find(([id]) => id === value)?.[1] ?? String(value);
  if (typeof value === 'number' && entry && entry.kind !== 'material')
    return showQuantity(entry, value, units);
  return typeof value === 'object' ? null : String(value);
}

/** Every number that differs, by its label: “Side 25 mm here, 24 mm there”. */
function valuesApart(
  mine: object,
  theirs: object,
  entries: readonly (readonly [string, Entry])[],
  units: Units,
  sides: Sides,
): string[] {
  const known = new Map(entries);
  const [here, there] = [mine as Record<string, unknown>, theirs as Record<string, unknown>];
  return [...new Set([...Object.keys(here), ...Object.keys(there)])]
    .filter((key) => !same(here[key], there[key]))
    .map((key) => {
      const entry = known.get(key);
      const label = entry?.label ?? key;
      const [a, b] = [shown(entry, here[key], units), shown(entry, there[key], units)];
      return a === null || b === null
        ? `${label} not alike`
        : `${label} ${a} ${sides.mine}, ${b} ${sides.theirs}`;
    });
}

function stepsApart(mine: Plan, theirs: Plan, sides: Sides): string[] {
  const [here, there] = [stepsOf(mine), stepsOf(theirs)];
  const changed = [...here].flatMap(([id, found]): string[] => {
    const other = there.get(id);
    const name = nameOf(found, mine);
    if (!other) return [`${name}: only ${sides.mine}`];
    if (other.step.kind !== found.step.kind)
      return [`${name}: ${moveOf(other.step.kind).title} ${sides.theirs}`];
    const moved =
      other.lane.id !== found.lane.id || rankOf(other, here) !== rankOf(found, there)
        ? [`${name}: ${nameOf(other, theirs)} ${sides.theirs}`]
        : [];
    const entries = entriesOf(moveOf(found.step.kind).parameters);
    const values = valuesApart(found.step.parameters, other.step.parameters, entries, mine.shop, sides);
    return [...moved, ...(values.length > 0 ? [`${name}: ${values.join('; ')}`] : [])];
  });
  const onlyThere = [...there]
    .filter(([id]) => !here.has(id))
    .map(([, found]) => `${nameOf(found, theirs)}: only ${sides.theirs}`);
  return [...changed, ...onlyThere];
}

function lanesApart(mine: Plan, theirs: Plan, sides: Sides): string[] {
  const there = new Map(theirs.lanes.map((l) => [l.id, l]));
  const here = new Set(mine.lanes.map((l) => l.id));
  return [
    ...mine.lanes.flatMap((lane): string[] => {
      const other = there.get(lane.id);
      if (!other) return [`Bar ${lane.name}: only ${sides.mine}`];
      return other.name === lane.name ? [] : [`Bar ${lane.name} is ${other.name} ${sides.theirs}`];
    }),
    ...theirs.lanes.filter((l) => !here.has(l.id)).map((l) => `Bar ${l.name}: only ${sides.theirs}`),
  ];
}

const goalSaid = ({ goal, shop }: Plan): string =>
  formatSizes([goal.lengthMm, goal.widthMm, goal.thicknessMm], shop.lengths);

const materialNames = (all: readonly Material[]): string => all.map((m) => m.name).join(', ') || 'none';

/** What differs between two plans of one piece, in words: which step, which number. Empty where nothing does. */
export function differencesOf(mine: Plan, theirs: Plan, sides = HERE): string[] {
  const apart = (what: string, a: string, b: string) => `${what} ${a} ${sides.mine}, ${b} ${sides.theirs}`;
  const say = (is: unknown, was: unknown, text: () => string): string[] => (same(is, was) ? [] : [text()]);
  return [
    ...say(mine.name, theirs.name, () => apart('Name', `“${mine.name}”`, `“${theirs.name}”`)),
    ...say(mine.goal, theirs.goal, () => apart('Finished bar', goalSaid(mine), goalSaid(theirs))),
    ...lanesApart(mine, theirs, sides),
    ...stepsApart(mine, theirs, sides),
    ...say(mine.notes, theirs.notes, () => 'The notes are not alike'),
    ...valuesApart(mine.shop, theirs.shop, entriesOf(shopSchema), mine.shop, sides).map(
      (text) => `Shop: ${text}`,
    ),
    ...say(mine.materials, theirs.materials, () =>
      apart('Materials of its own:', materialNames(mine.materials), materialNames(theirs.materials)),
    ),
    ...say(mine.blade, theirs.blade, () => 'The blade is not alike'),
    ...say(mine.kiln, theirs.kiln, () => 'The kiln programs are not alike'),
    ...say(mine.free, theirs.free, () => 'Which numbers are free is not alike'),
  ];
}
