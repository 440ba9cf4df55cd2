import type { z } from 'zod';
import { MOVES } from '../moves/index.ts';
import {
  type Lane,
  MOST_LANES,
  MOST_STEPS,
  type Plan,
  type Problem,
  type Step,
  laneSchema,
  planSchema,
} from './plan.ts';

function problemsIn(schema: z.ZodType, value: unknown, path: string): Problem[] {
  const parsed = schema.safeParse(value);
  if (parsed.success) return [];
  return parsed.error.issues.map(({ path: at, message }) => ({ path: [path, ...at].join('.'), message }));
}

/** A lane without its moves. */
const bareLane = laneSchema.omit({ steps: true });

function laneProblems({ steps, ...lane }: Lane, known: ReadonlySet<Step>, path: string): Problem[] {
  if (steps.length > MOST_STEPS)
    return [{ path: `${path}.steps`, message: `A lane may hold at most ${MOST_STEPS} steps` }];
  const fresh = steps.flatMap((step, i) =>
    known.has(step)
      ? []
      : problemsIn(MOVES[step.kind].parameters, step.parameters, `${path}.steps.${i}.parameters`),
  );
  return [...problemsIn(bareLane, lane, path), ...fresh];
}

const twice = (ids: readonly string[]): Problem[] =>
  new Set(ids).size === ids.length ? [] : [{ path: 'lanes', message: 'An id is used twice' }];

/**
 * What the plan’s schema refuses of a changed plan, by field. Only what is another object than in the plan before is looked at,
 * so that it costs as much as the change does.
 */
export function refusedOf(before: Plan, after: Plan): Problem[] {
  const problems = Object.entries(planSchema.shape).flatMap(([key, schema]) => {
    const [is, was] = [after[key as keyof Plan], before[key as keyof Plan]];
    return key === 'lanes' || is === was ? [] : problemsIn(schema as z.ZodType, is, key);
  });
  if (after.lanes === before.lanes) return problems;
  if (after.lanes.length === 0 || after.lanes.length > MOST_LANES)
    return [...problems, { path: 'lanes', message: `A plan holds 1 to ${MOST_LANES} lanes` }];
  const known = new Set(before.lanes.flatMap((l) => l.steps));
  const same = new Set(before.lanes);
  return [
    ...problems,
    ...after.lanes.flatMap((lane, i) => (same.has(lane) ? [] : laneProblems(lane, known, `lanes.${i}`))),
    ...twice(after.lanes.map((l) => l.id)),
    ...twice(after.lanes.flatMap((l) => l.steps.map((s) => s.id))),
  ];
}
