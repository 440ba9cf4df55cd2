import { moveOf } from '../moves/index.ts';
import type { Finding } from '../moves/contract/move.ts';
import type { Lane, Plan, Step } from './plan.ts';

/** Which of a lane's pieces the other lanes take: the numbers, ascending. */
export function piecesWanted(plan: Plan, laneId: string): number[] {
  const numbers = plan.lanes
    .filter((l) => l.id !== laneId)
    .flatMap((lane) => lane.steps.flatMap((s) => moveOf(s.kind).takes?.(s.parameters) ?? []))
    .filter((ref) => ref.lane === laneId)
    .map((ref) => ref.piece);
  return [...new Set(numbers)].sort((a, b) => a - b);
}

/** Says at a lane's last move how many pieces are wanted of it, where that is not what it gives. */
export function cutDemandFindings(plan: Plan, lane: Lane, step: Step, gives: number): Finding[] {
  const wanted = piecesWanted(plan, lane.id);
  if (wanted.length === 0 || (wanted.length === gives && wanted.at(-1) === gives)) return [];
  const most = wanted.at(-1)!;
  const short = most > gives;
  const now = moveOf(step.kind).splits?.(step.parameters);
  const each = now && moveOf(step.kind).cuts ? Math.ceil((most * now) / gives) : null;
  return [
    {
      code: 'wanted',
      severity: short ? 'warning' : 'note',
      parameter: 'pieces',
      text: `Other bars take ${most} ${most === 1 ? 'piece' : 'pieces'} of this one; it gives ${gives}.`,
      ...(each && {
        remedy: { label: `Cut ${each}${now === gives ? '' : ' of each'}`, set: { pieces: each } },
      }),
    },
  ];
}
