import { temporal } from 'zundo';
import { create } from 'zustand';
import type { Lane, Plan, Step } from '../../../core/plan/index.ts';
import type { StoredProject } from '../app/api.ts';

export type SaveState =
  | { kind: 'saved'; at: Date | null }
  | { kind: 'unsaved' }
  | { kind: 'saving' }
  | { kind: 'offline'; message: string }
  | { kind: 'refused'; message: string }
  | { kind: 'conflict'; current: StoredProject };

interface PlanState {
  projectId: string | null;
  revision: number;
  plan: Plan | null;
  selectedId: string | null;
  save: SaveState;
}

/** The plan being edited. Undo and redo go over `plan` alone. */
export const usePlanStore = create<PlanState>()(
  temporal(
    (): PlanState => ({
      projectId: null,
      revision: 0,
      plan: null,
      selectedId: null,
      save: { kind: 'saved', at: null },
    }),
    { partialize: ({ plan }) => ({ plan }), equality: (a, b) => a.plan === b.plan, limit: 200 },
  ),
);

/** Edits of one number that follow each other this quickly are undone together, ms. */
const TOGETHER_MS = 1200;
let lastEdit = { what: '', at: 0 };

/** Changes the plan. `what` names the number or thing changed, so that typing is undone in one go. */
export function editPlan(change: (plan: Plan) => Plan, what: string): void {
  const now = performance.now();
  const together = what === lastEdit.what && now - lastEdit.at < TOGETHER_MS;
  lastEdit = { what, at: now };
  const history = usePlanStore.temporal.getState();
  if (together) history.pause();
  usePlanStore.setState((state) => {
    const plan = state.plan && change(state.plan);
    return plan === state.plan ? {} : { plan, save: unlessConflict(state.save) };
  });
  if (together) history.resume();
}

const unlessConflict = (save: SaveState): SaveState =>
  save.kind === 'conflict' ? save : { kind: 'unsaved' };

function travel(way: 'undo' | 'redo'): void {
  usePlanStore.temporal.getState()[way]();
  lastEdit = { what: '', at: 0 };
  usePlanStore.setState((state) => ({ save: unlessConflict(state.save) }));
}

export const undo = (): void => travel('undo');
export const redo = (): void => travel('redo');

/** Opens a stored project, forgetting the history of the one before. */
export function openProject(project: StoredProject): void {
  usePlanStore.setState({
    projectId: project.id,
    revision: project.revision,
    plan: project.plan,
    selectedId: project.plan.lanes[0].steps.at(-1)?.id ?? null,
    save: { kind: 'saved', at: new Date(project.updatedAt) },
  });
  usePlanStore.temporal.getState().clear();
}

export const select = (selectedId: string | null): void => usePlanStore.setState({ selectedId });

const inLanes = (plan: Plan, change: (lane: Lane) => Lane): Plan => ({
  ...plan,
  lanes: plan.lanes.map(change),
});

export const setParameters = (stepId: string, parameters: unknown, what: string): void =>
  editPlan(
    (plan) =>
      inLanes(plan, (lane) => ({
        ...lane,
        steps: lane.steps.map((s) => (s.id === stepId ? { ...s, parameters } : s)),
      })),
    `${stepId} ${what}`,
  );

/** Puts a step at a place in a lane and selects it. */
export function insertStep(laneId: string, at: number, step: Step): void {
  editPlan(
    (plan) =>
      inLanes(plan, (lane) =>
        lane.id === laneId
          ? { ...lane, steps: [...lane.steps.slice(0, at), step, ...lane.steps.slice(at)] }
          : lane,
      ),
    `insert ${step.id}`,
  );
  select(step.id);
}

/** Takes a step out; its neighbour is selected. */
export function removeStep(stepId: string): void {
  const lane = usePlanStore.getState().plan?.lanes.find((l) => l.steps.some((s) => s.id === stepId));
  if (!lane) return;
  const at = lane.steps.findIndex((s) => s.id === stepId);
  editPlan(
    (plan) => inLanes(plan, (l) => ({ ...l, steps: l.steps.filter((s) => s.id !== stepId) })),
    `remove ${stepId}`,
  );
  select((lane.steps[at + 1] ?? lane.steps[at - 1])?.id ?? null);
}

/** An id no step of the plan has. */
export function freshStepId(plan: Plan): string {
  const taken = new Set(plan.lanes.flatMap((l) => l.steps.map((s) => s.id)));
  let n = taken.size + 1;
  while (taken.has(`s${n}`)) n++;
  return `s${n}`;
}
