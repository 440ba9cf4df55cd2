import { z } from 'zod';
import { bladeSchema } from '../blade/blade.ts';
import { programSchema } from '../kiln/program.ts';
import { nameText } from '../units/names.ts';
import { lengthMm } from '../units/quantities.ts';
import { MOVES, MOVE_KINDS, type MoveKind, type ParametersOf, moveOf } from '../moves/index.ts';
import { type BenchRecord, recordsSchema } from '../records/record.ts';
import { customMaterialsSchema, shopSchema } from '../shop/shop.ts';
import { migrated } from './migrate.ts';
import { wishSchema } from './wish.ts';

/** The plan file, version 5: docs/plan-format.md. Lengths mm, angles in degrees where the name says so. */
export const PLAN_FORMAT = 'retablo-plan';
export const PLAN_VERSION = 5;

/** The longest name of a piece, and of one of its bars. */
export const MOST_NAME = 120;
export const MOST_LANE_NAME = 80;

/** A name with something after it, shortened so that both fit. */
export const nameWith = (name: string, after: string, most = MOST_NAME): string =>
  `${name.slice(0, most - after.length)}${after}`;

const id = z.string().min(1, 'An id cannot be empty').max(60);

export const goalSchema = z.strictObject({
  lengthMm: lengthMm('Finished length'),
  widthMm: lengthMm('Finished width'),
  thicknessMm: lengthMm('Finished thickness'),
});

const stepSchemas = MOVE_KINDS.map((kind) =>
  z.strictObject({ id, kind: z.literal(kind), parameters: MOVES[kind].parameters as z.ZodType<unknown> }),
);

const stepSchema = z.discriminatedUnion('kind', stepSchemas as unknown as [(typeof stepSchemas)[number]], {
  error: `Each step must be one of: ${MOVE_KINDS.join(', ')}`,
});

/** More moves to a bar and more bars to a piece than anyone has made. */
export const MOST_STEPS = 200;
export const MOST_LANES = 60;

export const laneSchema = z.strictObject({
  id,
  name: nameText(MOST_LANE_NAME, 'A lane needs a name'),
  steps: z.array(stepSchema).max(MOST_STEPS, `A lane may hold at most ${MOST_STEPS} steps`),
});

export const planSchema = z
  .strictObject({
    format: z.literal(PLAN_FORMAT),
    version: z.literal(PLAN_VERSION),
    name: nameText(MOST_NAME, 'The piece needs a name', `The name may be at most ${MOST_NAME} letters long`),
    notes: z.string().max(20_000).default(''),
    goal: goalSchema,
    shop: shopSchema.default(() => shopSchema.parse({})),
    materials: customMaterialsSchema.default([]),
    blade: bladeSchema.optional(),
    /** What was wished for when plans were sought. */
    wish: wishSchema.optional(),
    /** Which numbers of a starting step working backward may change, by the step's id. */
    free: z.record(z.string().max(60), z.array(z.string().max(20)).max(10)).optional(),
    kiln: z.array(programSchema).max(30, 'A plan may hold at most 30 kiln programs').optional(),
    lanes: z.array(laneSchema).min(1, 'A plan needs at least one lane').max(MOST_LANES),
    /** What came at the bench, in any order. */
    records: recordsSchema.optional(),
  })
  .superRefine((plan, context) => {
    const seen = new Set<string>();
    const laneIds = plan.lanes.map((lane) => lane.id);
    laneIds.forEach((laneId, l) => {
      if (laneIds.indexOf(laneId) !== l)
        context.addIssue({
          code: 'custom',
          path: ['lanes', l, 'id'],
          message: `The lane id “${laneId}” is used twice`,
        });
    });
    plan.lanes.forEach((lane, l) =>
      lane.steps.forEach((step, s) => {
        if (seen.has(step.id))
          context.addIssue({
            code: 'custom',
            path: ['lanes', l, 'steps', s, 'id'],
            message: `The id “${step.id}” is used twice`,
          });
        seen.add(step.id);
      }),
    );
    const written = plan.records?.map((r) => r.id) ?? [];
    written.forEach((one, i) => {
      if (written.indexOf(one) !== i)
        context.addIssue({
          code: 'custom',
          path: ['records', i, 'id'],
          message: `The id “${one}” is used twice`,
        });
    });
  });

/** A step of one kind of move. */
export interface StepOf<K extends MoveKind> {
  readonly id: string;
  readonly kind: K;
  readonly parameters: ParametersOf<K>;
}

/** A step: its kind says what its numbers are. */
export type Step = { [K in MoveKind]: StepOf<K> }[MoveKind];

/** Times in the fire that a step takes. */
export const heatsIn = ({ parameters }: Step): number => ('heats' in parameters ? parameters.heats : 0);

/** The same step with other numbers, which its schema has admitted or will. */
export const withParameters = (step: Step, parameters: unknown): Step => ({ ...step, parameters }) as Step;

/** A step of a kind with numbers that its schema has admitted or will. */
export const makeStepOf = (id: string, kind: MoveKind, parameters: unknown): Step =>
  ({ id, kind, parameters }) as Step;

export interface Lane {
  readonly id: string;
  readonly name: string;
  readonly steps: readonly Step[];
}

export interface Goal {
  readonly lengthMm: number;
  readonly widthMm: number;
  readonly thicknessMm: number;
}

export interface Plan extends Omit<z.infer<typeof planSchema>, 'lanes' | 'goal' | 'records'> {
  readonly goal: Goal;
  readonly lanes: readonly Lane[];
  readonly records?: readonly BenchRecord[] | undefined;
}

/** A plan for a bar in which nothing is done yet. */
export const emptyPlan = ({
  name,
  goal,
  shop,
  materials = [],
  blade,
}: Pick<Plan, 'name' | 'goal' | 'shop'> & {
  readonly materials?: readonly Plan['materials'][number][];
  readonly blade?: Plan['blade'];
}): Plan => ({
  format: PLAN_FORMAT,
  version: PLAN_VERSION,
  name,
  notes: '',
  goal,
  shop,
  materials: [...materials],
  ...(blade && { blade }),
  lanes: [{ id: 'bar', name: 'Bar', steps: [] }],
});

/** A plan as it was made, without what came of it; the same object where nothing did. */
export function asPlanned(plan: Plan): Plan {
  if (!plan.records) return plan;
  const planned = { ...plan };
  delete (planned as { records?: unknown }).records;
  return planned;
}

/** A plan with what came of it. */
export const withRecords = (plan: Plan, records: readonly BenchRecord[]): Plan =>
  records.length > 0 ? { ...plan, records } : asPlanned(plan);

/** One thing wrong with a plan that was handed in: where, and what would be right. */
export interface Problem {
  readonly path: string;
  readonly message: string;
}

export type ReadPlan = { ok: true; plan: Plan } | { ok: false; problems: Problem[] };

/** What a file is instead of a plan that this Retablo reads, if it is none. */
function notAPlan(file: unknown): Problem | null {
  if (typeof file !== 'object' || file === null || Array.isArray(file))
    return {
      path: '',
      message: `This is no plan file: a plan is a group of fields in braces, with format “${PLAN_FORMAT}”`,
    };
  const { format, version } = file as { format?: unknown; version?: unknown };
  if (format !== PLAN_FORMAT)
    return {
      path: 'format',
      message: `format ${format === undefined ? 'is missing: it ' : ''}must be “${PLAN_FORMAT}”: is this a plan file?`,
    };
  const whole = typeof version === 'number' && Number.isInteger(version);
  if (whole && version >= 1 && version <= PLAN_VERSION) return null;
  return {
    path: 'version',
    message:
      whole && version > PLAN_VERSION
        ? `version ${version} is newer than this Retablo reads (${PLAN_VERSION}): bring Retablo up to date first`
        : `version must be a whole number from 1 to ${PLAN_VERSION}; it is ${JSON.stringify(version) ?? 'missing'}`,
  };
}

/** A plan file's content brought to the newest version, before it is judged. */
export const migratedPlan = (content: object): object => migrated(content, PLAN_VERSION) as object;

/** Checks a plan file's content, an older version brought up to date first; every problem names its field. */
export function readPlan(file: unknown): ReadPlan {
  const none = notAPlan(file);
  if (none) return { ok: false, problems: [none] };
  const content = migrated(file, PLAN_VERSION);
  const parsed = planSchema.safeParse(content);
  if (parsed.success) return { ok: true, plan: parsed.data as Plan };
  return {
    ok: false,
    problems: parsed.error.issues.flatMap((issue) => problemsOf(issue, content)).slice(0, 50),
  };
}

function notJson(said: string): string {
  const [, place] = /(line \d+ column \d+)/.exec(said) ?? [];
  if (place) return `This is not JSON: it cannot be read at ${place}`;
  return `This is not JSON${/end of JSON/.test(said) ? ': it ends too early' : ''}`;
}

export function readPlanText(text: string): ReadPlan {
  try {
    return readPlan(JSON.parse(text));
  } catch (error) {
    return { ok: false, problems: [{ path: '', message: notJson((error as Error).message) }] };
  }
}

type Issue = z.core.$ZodIssue;

function problemsOf(issue: Issue, content: unknown): Problem[] {
  const path = pathText(issue.path);
  const where = stepOf(issue.path, content);
  const say = (message: string, at = path): Problem => ({
    path: at,
    message: where ? `${where}: ${message}` : message,
  });
  if (issue.code === 'unrecognized_keys')
    return issue.keys.map((key) =>
      say(`“${key}” is not known here; leave it out`, path ? `${path}.${key}` : key),
    );
  return [say(missing(issue, content) ? missingWords(issue.message) : issue.message)];
}

/** What it would have to be: in our own words of any value, or in those of the field. */
const missingWords = (message: string): string =>
  message.startsWith('must ')
    ? `is missing; it ${message.replace(', not nothing', '')}`
    : `is missing: ${message}`;

const valueAt = (path: readonly PropertyKey[], content: unknown): unknown =>
  path.reduce<unknown>((at, key) => (at as Record<PropertyKey, unknown> | undefined)?.[key], content);

const missing = (issue: Issue, content: unknown): boolean =>
  issue.path.length > 0 && valueAt(issue.path, content) === undefined;

const pathText = (path: readonly PropertyKey[]): string =>
  path.reduce<string>(
    (text, key) =>
      typeof key === 'number' ? `${text}[${key}]` : text ? `${text}.${String(key)}` : String(key),
    '',
  );

/** “step 3 (Draw out)”, for a path that leads into a step. */
function stepOf(path: readonly PropertyKey[], content: unknown): string | null {
  if (path[0] !== 'lanes' || path[2] !== 'steps' || typeof path[3] !== 'number') return null;
  const kind = valueAt([...path.slice(0, 4), 'kind'], content);
  const title = MOVE_KINDS.includes(kind as MoveKind) ? ` (${moveOf(kind as MoveKind).title})` : '';
  return `step ${path[3] + 1}${title}`;
}
