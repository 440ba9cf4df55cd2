import { beforeEach, describe, expect, it } from 'vitest';
import { evaluate, goalLaneOf, withSome } from '../../../core/plan/index.ts';
import { MATERIALS } from '../../../core/materials/table.ts';
import { planOfLanes, SQUARE_BAR, cutInto } from '../../../core/tests/plans.ts';
import {
  addLane,
  changeParameters,
  changeSteps,
  duplicateLane,
  editPlan,
  insertStep,
  openProject,
  redo,
  removeLane,
  removeStep,
  renameLane,
  selectLane,
  shiftLane,
  shiftStep,
  takeMaterial,
  undo,
  usePlanStore,
} from './planStore.ts';

const plan = planOfLanes({
  star: [...SQUARE_BAR, cutInto(4)],
  block: [['assemble', { columns: 2, rows: 2, layout: 'mirrored', from: ['star'] }]],
});
const now = () => usePlanStore.getState();
const laneIds = () => now().plan!.lanes.map((l) => l.id);
const kinds = (i: number) => now().plan!.lanes[i].steps.map((s) => s.kind);

beforeEach(() =>
  openProject({
    id: 'p',
    name: 'Trial',
    state: 'planning',
    revision: 3,
    updatedAt: new Date(0).toISOString(),
    plan,
  }),
);

describe('a plan being edited', () => {
  it('opens on the finished bar', () => {
    expect(now()).toMatchObject({
      laneId: 'block',
      selectedId: 'block1',
      revision: 3,
      save: { kind: 'saved' },
    });
    expect(goalLaneOf(plan).id).toBe('block');
  });

  it('is unsaved once changed, and undo and redo go over changes one by one', () => {
    renameLane('star', 'Star bar');
    expect(now().save.kind).toBe('unsaved');
    shiftLane('star', 1);
    expect(laneIds()).toEqual(['block', 'star']);
    undo();
    expect(laneIds()).toEqual(['star', 'block']);
    expect(now().plan!.lanes[0].name).toBe('Star bar');
    undo();
    expect(now().plan).toBe(plan);
    redo();
    redo();
    expect(laneIds()).toEqual(['block', 'star']);
  });

  it('undoes quick typing in one number in one go', () => {
    for (const lengthMm of [3, 30, 300])
      editPlan((p) => ({ ...p, goal: { ...p.goal, lengthMm } }), 'goal length');
    undo();
    expect(now().plan!.goal.lengthMm).toBe(plan.goal.lengthMm);
  });

  it('takes a lane twice with ids of its own, so that both work', () => {
    duplicateLane('star');
    const ids = now().plan!.lanes.flatMap((l) => l.steps.map((s) => s.id));
    expect(new Set(ids).size).toBe(ids.length);
    expect(laneIds()).toHaveLength(3);
    expect(kinds(1)).toEqual(kinds(0));
    expect(evaluate(now().plan!).lanes[1].pieces).toHaveLength(4);
  });

  it('adds, shows and removes lanes, but never the last', () => {
    const id = addLane();
    expect(now()).toMatchObject({ laneId: id, selectedId: null });
    selectLane('star');
    expect(now().selectedId).toBe('star5');
    removeLane(id);
    removeLane('star');
    removeLane('block');
    expect(laneIds()).toEqual(['block']);
    // What it took from is gone: that is said, and nothing breaks.
    expect(evaluate(now().plan!).lanes[0].steps[0].findings[0]).toMatchObject({
      code: 'too few',
      severity: 'error',
    });
  });

  it('moves steps within their lane and no farther', () => {
    shiftStep('star1', -1);
    expect(now().plan!.lanes[0].steps[0].id).toBe('star1');
    shiftStep('star3', -1);
    expect(kinds(0).slice(0, 3)).toEqual(['stack', 'draw', 'weld']);
    shiftStep('star5', 1);
    expect(kinds(0).at(-1)).toBe('cut');
  });

  it('puts a step in, selects it, and its neighbour once it is gone', () => {
    insertStep('star', 2, { id: 'new', kind: 'crop', parameters: { endAMm: 1, endBMm: 1 } });
    expect(now().selectedId).toBe('new');
    removeStep('new');
    expect(now().selectedId).toBe('star3');
    expect(kinds(0)).toEqual(plan.lanes[0].steps.map((s) => s.kind));
  });

  it('an answer that comes late changes what it is about, over what was typed meanwhile', () => {
    const stepId = 'star2';
    const later = (heats: number) =>
      changeParameters(stepId, (p) => ({ heats: (p as { heats: number }).heats + heats }), 'late');
    changeParameters(stepId, { heats: 7 }, 'heats');
    later(1);
    expect(now().plan!.lanes[0].steps[1].parameters).toMatchObject({ heats: 8 });
    changeParameters(stepId, { temperatureC: 1111 }, 'temperatureC');
    expect(now().plan!.lanes[0].steps[1].parameters).toMatchObject({ heats: 8, temperatureC: 1111 });
  });

  it('changes several steps at once, undone together, and leaves out what is undefined', () => {
    changeSteps(
      [
        { stepId: 'star3', set: { shape: 'flat', sideMm: undefined, widthMm: 24, thicknessMm: 20 } },
        { stepId: 'star2', set: { heats: 4 } },
      ],
      'advice',
    );
    expect(now().plan!.lanes[0].steps[2].parameters).toEqual({
      shape: 'flat',
      heats: 1,
      widthMm: 24,
      thicknessMm: 20,
    });
    expect(now().plan!.lanes[0].steps[1].parameters).toMatchObject({ heats: 4 });
    undo();
    expect(now().plan).toBe(plan);
    expect(withSome({ a: 1, b: 2 }, { b: undefined, c: 3 })).toEqual({ a: 1, c: 3 });
  });
});

it('a material is taken in place of the one it has of that name, and undone', () => {
  const iron = { ...MATERIALS[0], id: 'river', name: 'River iron' };
  takeMaterial(iron);
  takeMaterial({ ...iron, tone: 0.4 });
  expect(now().plan!.materials).toEqual([{ ...iron, tone: 0.4 }]);
  undo();
  // Edits of one thing that follow each other quickly are undone together.
  expect(now().plan!.materials).toEqual([]);
});
