import { moveOf } from '../moves/index.ts';
import type { Lane, Plan } from './plan.ts';

/** Marks written on pieces that go to another lane; A and B stay the names of the ends. */
const MARKS = 'PQRSTUVWXYZKLMNGHJCDEF';

export const laneMark = (plan: Plan, laneId: string): string => {
  const i = plan.lanes.findIndex((l) => l.id === laneId);
  return i < MARKS.length ? MARKS[i] : `${MARKS[i % MARKS.length]}${Math.floor(i / MARKS.length) + 1}`;
};

/** Lanes whose pieces a lane takes. */
export const lanesTaken = (lane: Lane): string[] => [
  ...new Set(
    lane.steps.flatMap(
      (step) =>
        moveOf(step.kind)
          .takes?.(step.parameters)
          .map((r) => r.lane) ?? [],
    ),
  ),
];

/** Lanes, those that others need first; and those that need themselves, which cannot be worked out. */
export function lanesInOrder(plan: Plan): { order: Lane[]; circular: Lane[] } {
  const byId = new Map(plan.lanes.map((l) => [l.id, l]));
  const state = new Map<string, 'open' | 'done' | 'circular'>();
  const order: Lane[] = [];
  const visit = (lane: Lane): boolean => {
    const known = state.get(lane.id);
    if (known) return known === 'done';
    state.set(lane.id, 'open');
    const sound = lanesTaken(lane).every((id) => {
      const other = byId.get(id);
      return !other || visit(other);
    });
    state.set(lane.id, sound ? 'done' : 'circular');
    if (sound) order.push(lane);
    return sound;
  };
  plan.lanes.forEach(visit);
  return { order, circular: plan.lanes.filter((l) => state.get(l.id) === 'circular') };
}

/** The lane that ends in the finished bar: the last with moves that no other takes from. */
export function goalLaneOf(plan: Plan): Lane {
  const taken = new Set(plan.lanes.flatMap(lanesTaken));
  const free = plan.lanes.filter((l) => !taken.has(l.id));
  return free.findLast((l) => l.steps.length > 0) ?? free.at(-1) ?? plan.lanes[plan.lanes.length - 1];
}

/** A lane and all it is made from, however far back. */
export function lanesFeeding(plan: Plan, laneId: string): Lane[] {
  const found = new Map<string, Lane>();
  const visit = (id: string): void => {
    const lane = plan.lanes.find((l) => l.id === id);
    if (!lane || found.has(id)) return;
    found.set(id, lane);
    lanesTaken(lane).forEach(visit);
  };
  visit(laneId);
  return plan.lanes.filter((l) => found.has(l.id));
}
