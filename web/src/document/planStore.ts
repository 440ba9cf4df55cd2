import { temporal } from 'zundo';
import { create } from 'zustand';
import {
  type Lane,
  type Plan,
  type Step,
  type StepChange,
  type Problem,
  MOST_LANE_NAME,
  asPlanned,
  freshLaneId,
  goalLaneOf,
  heldProblems,
  nameWith,
  refusedOf,
  withParameters,
  withSome,
  type StoredProject,
} from '../../../core/plan/index.ts';
import type { Material } from '../../../core/materials/material.ts';

import { useRecords } from './records.ts';

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
  /** The lane looked at while it has no moves to select. */
  laneId: string | null;
  save: SaveState;
  /** What was wrong with the last edit, where it was refused. */
  refused: readonly Problem[];
}

const NONE: readonly Problem[] = [];

/** The plan being edited. Undo and redo go over `plan` alone. */
export const usePlanStore = create<PlanState>()(
  temporal(
    (): PlanState => ({
      projectId: null,
      revision: 0,
      plan: null,
      selectedId: null,
      laneId: null,
      save: { kind: 'saved', at: null },
      refused: NONE,
    }),
    { partialize: ({ plan }) => ({ plan }), equality: (a, b) => a.plan === b.plan, limit: 200 },
  ),
);

/** Edits of one number that follow each other this quickly are undone together, ms. */
const TOGETHER_MS = 1200;
let lastEdit = { what: '', at: 0 };

/**
 * Changes the plan: the one gate for every edit. What the schema refuses changes nothing and is told in `refused`. `what` names
 * the number or thing changed, so that typing is undone in one go.
 */
export function editPlan(change: (plan: Plan) => Plan, what: string): void {
  const { plan: before, save } = usePlanStore.getState();
  const changed = before && change(before);
  // What came at the bench is kept beside the plan.
  const plan = changed && asPlanned(changed);
  if (!before || !plan || plan === before) return;
  const { records } = useRecords.getState();
  const refused = [...refusedOf(before, plan), ...heldProblems(before, plan, records)];
  if (refused.length > 0) return usePlanStore.setState({ refused });
  const now = performance.now();
  const together = what === lastEdit.what && now - lastEdit.at < TOGETHER_MS;
  lastEdit = { what, at: now };
  const history = usePlanStore.temporal.getState();
  if (together) history.pause();
  usePlanStore.setState({ plan, refused: NONE, save: unlessConflict(save) });
  if (together) history.resume();
}

const unlessConflict = (save: SaveState): SaveState =>
  save.kind === 'conflict' ? save : { kind: 'unsaved' };

function travel(way: 'undo' | 'redo'): void {
  const before = usePlanStore.getState().plan;
  const history = usePlanStore.temporal.getState();
  history[way]();
  const { plan } = usePlanStore.getState();
  // A move that was done since is held fast, whichever way it would be changed.
  const refused = before && plan ? heldProblems(before, plan, useRecords.getState().records) : NONE;
  if (refused.length > 0) {
    history[way === 'undo' ? 'redo' : 'undo']();
    return usePlanStore.setState({ refused });
  }
  lastEdit = { what: '', at: 0 };
  usePlanStore.setState((state) => ({ save: unlessConflict(state.save) }));
}

export const undo = (): void => travel('undo');
export const redo = (): void => travel('redo');

/** Opens a stored project, forgetting the history of the one before. */
export function openProject(project: Omit<StoredProject, 'records' | 'log'>): void {
  usePlanStore.setState({
    projectId: project.id,
    revision: project.revision,
    plan: project.plan,
    selectedId: goalLaneOf(project.plan).steps.at(-1)?.id ?? null,
    laneId: goalLaneOf(project.plan).id,
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
        steps: lane.steps.map((s) => (s.id === stepId ? withParameters(s, parameters) : s)),
      })),
    `${stepId} ${what}`,
  );

/** New values for some of a step's numbers, or what makes them of the numbers as they are by then. */
export type Change<P> = Partial<P> | ((now: P) => Partial<P>);

/** Changes some of a step's numbers, over what they are now: an answer that comes late takes nothing back that was typed meanwhile. */
export const changeParameters = (stepId: string, change: Change<object>, what: string): void =>
  editPlan(
    (plan) =>
      inLanes(plan, (lane) => ({
        ...lane,
        steps: lane.steps.map((s) => {
          if (s.id !== stepId) return s;
          const some = typeof change === 'function' ? change(s.parameters) : change;
          return withParameters(s, withSome(s.parameters, some));
        }),
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

/** New numbers for several steps at once, undone together. A number set to undefined is taken out. */
export function changeSteps(changes: readonly StepChange[], what: string): void {
  const wanted = new Map(changes.map((c) => [c.stepId, c.set]));
  editPlan(
    (plan) =>
      inLanes(plan, (lane) => ({
        ...lane,
        steps: lane.steps.map((s) => {
          const set = wanted.get(s.id);
          return set ? withParameters(s, withSome(s.parameters, set)) : s;
        }),
      })),
    what,
  );
}

/** Moves a step one place earlier or later in its lane. */
export function shiftStep(stepId: string, by: 1 | -1): void {
  editPlan(
    (plan) =>
      inLanes(plan, (lane) => {
        const at = lane.steps.findIndex((s) => s.id === stepId);
        const to = at + by;
        if (at < 0 || to < 0 || to >= lane.steps.length) return lane;
        const steps = [...lane.steps];
        [steps[at], steps[to]] = [steps[to], steps[at]];
        return { ...lane, steps };
      }),
    `shift ${stepId}`,
  );
}

/** A new, empty lane at the end; its id. */
export function addLane(): string {
  const plan = usePlanStore.getState().plan!;
  const id = freshLaneId(plan);
  const name = `Bar ${plan.lanes.length + 1}`;
  editPlan((p) => ({ ...p, lanes: [...p.lanes, { id, name, steps: [] }] }), `add ${id}`);
  usePlanStore.setState({ selectedId: null, laneId: id });
  return id;
}

/** A copy of a lane right after it, with ids of its own. */
export function duplicateLane(laneId: string): void {
  editPlan((plan) => {
    const at = plan.lanes.findIndex((l) => l.id === laneId);
    const lane = plan.lanes[at];
    const taken = new Set(plan.lanes.flatMap((l) => l.steps.map((s) => s.id)));
    const steps = lane.steps.map((step) => {
      let n = taken.size + 1;
      while (taken.has(`s${n}`)) n++;
      taken.add(`s${n}`);
      return { ...step, id: `s${n}` };
    });
    const copy = { id: freshLaneId(plan), name: nameWith(lane.name, ' (again)', MOST_LANE_NAME), steps };
    return { ...plan, lanes: [...plan.lanes.slice(0, at + 1), copy, ...plan.lanes.slice(at + 1)] };
  }, `duplicate ${laneId}`);
}

export const renameLane = (laneId: string, name: string): void =>
  editPlan(
    (plan) => inLanes(plan, (lane) => (lane.id === laneId ? { ...lane, name } : lane)),
    `rename ${laneId}`,
  );

export function shiftLane(laneId: string, by: 1 | -1): void {
  editPlan((plan) => {
    const at = plan.lanes.findIndex((l) => l.id === laneId);
    const to = at + by;
    if (to < 0 || to >= plan.lanes.length) return plan;
    const lanes = [...plan.lanes];
    [lanes[at], lanes[to]] = [lanes[to], lanes[at]];
    return { ...plan, lanes };
  }, `shift ${laneId}`);
}

/** Takes a lane out; the last one stays. */
export function removeLane(laneId: string): void {
  editPlan(
    (plan) =>
      plan.lanes.length === 1 ? plan : { ...plan, lanes: plan.lanes.filter((l) => l.id !== laneId) },
    `remove ${laneId}`,
  );
  usePlanStore.setState({ selectedId: null, laneId: null });
}

/** Shows a lane: its last move. */
export function selectLane(laneId: string): void {
  const lane = usePlanStore.getState().plan?.lanes.find((l) => l.id === laneId);
  usePlanStore.setState({ laneId, selectedId: lane?.steps.at(-1)?.id ?? null });
}

/** Puts a material's numbers into the plan, in place of those it has of the same name. */
export const takeMaterial = (material: Material): void =>
  editPlan(
    (plan) => ({ ...plan, materials: [...plan.materials.filter((m) => m.id !== material.id), material] }),
    `material ${material.id}`,
  );
