import { type MoveKind, type Remedy, firstNumbers } from '../moves/index.ts';
import { type Evaluation, type StepResult, thereFor } from './evaluate.ts';
import { type Plan, type Step, makeStepOf, withParameters } from './plan.ts';

/** Ids no step of the plan has. */
export function freshStepIds(plan: Plan, count: number): string[] {
  const taken = new Set(plan.lanes.flatMap((l) => l.steps.map((s) => s.id)));
  const ids: string[] = [];
  for (let n = taken.size + 1; ids.length < count; n++) if (!taken.has(`s${n}`)) ids.push(`s${n}`);
  return ids;
}

/** An id no lane of the plan has. */
export function freshLaneId(plan: Plan): string {
  let n = plan.lanes.length + 1;
  while (plan.lanes.some((l) => l.id === `lane${n}`)) n++;
  return `lane${n}`;
}

export const freshStepId = (plan: Plan): string => freshStepIds(plan, 1)[0];

/** Parameters with some changed; those set to undefined are left out. */
export const withSome = (parameters: object, some: object): object =>
  Object.fromEntries(Object.entries({ ...parameters, ...some }).filter(([, value]) => value !== undefined));

/** The plan with a finding's remedy carried out; `inserted` is the step that came in, where one did. */
export function withRemedy(
  { plan, shop }: Pick<Evaluation, 'plan' | 'shop'>,
  result: StepResult,
  remedy: Remedy,
): { plan: Plan; inserted: string | null } {
  if ('shop' in remedy) return { plan: { ...plan, shop: { ...plan.shop, ...remedy.shop } }, inserted: null };
  if ('set' in remedy) {
    const id = remedy.step ?? result.step.id;
    const mend = (s: Step): Step => (s.id === id ? withParameters(s, withSome(s.parameters, remedy.set)) : s);
    return {
      plan: { ...plan, lanes: plan.lanes.map((l) => ({ ...l, steps: l.steps.map(mend) })) },
      inserted: null,
    };
  }
  const [kind, after] =
    'insertAfter' in remedy ? [remedy.insertAfter as MoveKind, 1] : [remedy.insertBefore as MoveKind, 0];
  const inserted = freshStepId(plan);
  const there = (after ? result.after : null) ?? result.before;
  const parameters = remedy.parameters ?? firstNumbers(kind, thereFor(kind, there, result.aside), shop);
  const lanes = plan.lanes.map((lane) => {
    const own = lane.steps.findIndex((s) => s.id === result.step.id);
    if (own < 0) return lane;
    const at = own + after;
    const step = makeStepOf(inserted, kind, parameters);
    return { ...lane, steps: [...lane.steps.slice(0, at), step, ...lane.steps.slice(at)] };
  });
  return { plan: { ...plan, lanes }, inserted };
}

/** The plan with several carried out, one after the other; the ids of what came in, in that order. */
export function withRemedies(
  evaluation: Evaluation,
  result: StepResult,
  remedies: readonly Remedy[],
): { plan: Plan; inserted: readonly string[] } {
  let { plan } = evaluation;
  const inserted: string[] = [];
  for (const remedy of remedies) {
    const made = withRemedy({ ...evaluation, plan }, result, remedy);
    plan = made.plan;
    if (made.inserted) inserted.push(made.inserted);
  }
  return { plan, inserted };
}
