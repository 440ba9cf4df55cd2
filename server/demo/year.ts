import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { lived } from '../../core/forecast/index.ts';
import { type Belief, tableFor } from '../../core/learning/index.ts';
import { type Plan, asPlanned, readPlan, startsOf, withStarts } from '../../core/plan/index.ts';
import { Project } from '../database.ts';
import type { ProjectStore } from '../projects.ts';

/** What the made-up shop's numbers really are: nobody there knows. */
const TRULY: Partial<Record<Parameters<Belief>[0], number>> = {
  scale: 0.0115,
  kerf: 1.15,
  crop: 11.5,
  faying: 0.46,
  turn: 2.4,
  tap: 0.585,
  section: 0.002,
};
/** By kind of move, against the plan. */
const HEATS: Readonly<Record<string, number>> = { weld: 1, draw: 1.12, resquare: 1.2 };
const MINUTES: Readonly<Record<string, number>> = { draw: 1.2, grind: 1.45, cut: 0.9, assemble: 1.1 };

const truth: Belief = (number, of) => {
  const { value, spread } = tableFor(number);
  const own = number === 'heats' ? HEATS[of] : number === 'minutes' ? MINUTES[of] : TRULY[number];
  return { value: own ?? value, sure: 0, spread: 0.7 * spread };
};

/** What was made in the year, the first first: after which of the demo's plans, how much longer a start, and what it was called. */
const MADE: readonly (readonly [like: string, longer: number, name: string])[] = [
  ['curlew', 1, 'Dunlin'],
  ['tide-ladder', 1.2, 'Causeway'],
  ['salt-marsh', 1.1, 'Driftline'],
  ['curlew', 1.15, 'Turnstone'],
  ['hailstorm', 1, 'Sleet'],
  ['tide-ladder', 0.9, 'Slipway'],
  ['curlew', 0.95, 'Knot'],
  ['salt-marsh', 1, 'Samphire'],
  ['curlew', 1.3, 'Greenshank'],
  ['hailstorm', 1.1, 'Graupel'],
  ['tide-ladder', 1.05, 'Stair Hole'],
  ['curlew', 1.05, 'Sanderling'],
  ['salt-marsh', 1.2, 'Glasswort'],
  ['curlew', 1.1, 'Whimbrel'],
];

const DAY_MS = 86_400_000;
/** A piece every so many days, the last some days ago. */
const EVERY_DAYS = 25;

/** The plan of a demo piece as it was made once before, for the demo's shop. */
function planLike(like: string, longer: number, name: string): Plan {
  const file = fileURLToPath(new URL(`./${like}.json`, import.meta.url));
  const read = readPlan(JSON.parse(readFileSync(file, 'utf8')));
  if (!read.ok) throw new Error(`${like}: ${read.problems[0].message}`);
  const plan = asPlanned(read.plan);
  const starts = startsOf(plan).map((s) => (s.whole ? s : { ...s, value: Math.round(s.value * longer) }));
  return { ...withStarts(plan, starts), name, notes: '', shop: { ...plan.shop, name: 'Brasa Chica' } };
}

/** How many pieces a year of the made-up shop has. */
export const YEAR_PIECES = MADE.length;

/** A year of finished pieces with their records, the last a week before `now`: made up, with errors of measuring and slips of the pen. */
export async function loadYear(store: ProjectStore, now: Date): Promise<void> {
  for (const [i, [like, longer, name]] of MADE.entries()) {
    const from = new Date(now.getTime() - DAY_MS * (EVERY_DAYS * (MADE.length - i) - 10));
    from.setUTCHours(8, 0, 0, 0);
    const { plan } = lived(planLike(like, longer, name), truth, {
      seed: 100 + i,
      from: from.toISOString(),
      slips: 0.03,
      often: 0.75,
      by: ['Ines', 'Mateo'],
    });
    const { id } = await store.create(plan);
    const finished = plan.records?.at(-1)?.ended;
    // It was put away when it was done, and lies behind what is being made.
    await Project.update(
      { state: 'done', ...(finished && { updatedAt: new Date(finished) }) },
      { where: { id }, silent: true },
    );
  }
}
