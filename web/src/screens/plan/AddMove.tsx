import { ListSubheader, Menu, MenuItem } from '@mui/material';
import { type MouseEvent, type ReactNode, useState } from 'react';
import {
  type LaneResult,
  flowsAwaited,
  freshStepId,
  makeStepOf,
  thereFor,
} from '../../../../core/plan/index.ts';
import {
  MOVE_GROUPS,
  MOVE_KINDS,
  type MoveKind,
  firstNumbers,
  moveOf,
  oftenAfter,
  whyNot,
} from '../../../../core/moves/index.ts';
import { insertStep } from '../../document/planStore.ts';
import { MoveItem } from './MoveItem.tsx';
import { useEvaluation } from '../../document/useEvaluation.ts';

interface AddMoveProps {
  lane: LaneResult;
  /** Place in the lane where the move is put. */
  at: number | 'end';
  children(open: (press: MouseEvent<HTMLElement>) => void): ReactNode;
}

const mayStand = (kind: MoveKind, at: number): boolean =>
  moveOf(kind).begins === 'may' || moveOf(kind).begins === (at === 0);

/** A menu of moves by group; the chosen one is put in its place with numbers that suit what is there. */
export function AddMove({ lane, at, children }: AddMoveProps) {
  const evaluation = useEvaluation();
  const { plan, shop, lanes } = evaluation;
  // Panels may lag behind the plan: what counts is the lane as it is now.
  const steps = (lanes.find((l) => l.lane.id === lane.lane.id) ?? lane).steps;
  const place = at === 'end' ? steps.length : at;
  const last = steps[place - 1];
  const before = (kind: MoveKind) => thereFor(kind, last?.after ?? [], last?.aside ?? []);
  // Begun now, a move would not know the bar that it is for.
  const waits = last?.after === null && flowsAwaited(evaluation).length > 0;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const others = lanes
    .filter((l) => l.lane.id !== lane.lane.id)
    .map((l) => ({ id: l.lane.id, pieces: l.pieces }));
  const next = oftenAfter(last?.step.kind).filter((kind) => mayStand(kind, place));
  const groups: [string, readonly MoveKind[]][] = [
    ['Often next', next],
    ...MOVE_GROUPS.map((group): [string, readonly MoveKind[]] => [
      group,
      MOVE_KINDS.filter((k) => moveOf(k).group === group && mayStand(k, place) && !next.includes(k)),
    ]),
  ];
  const add = (kind: MoveKind) => {
    setAnchor(null);
    const parameters = firstNumbers(kind, before(kind), shop, others);
    insertStep(lane.lane.id, place, makeStepOf(freshStepId(plan), kind, parameters));
  };
  return (
    <>
      {children((press) => setAnchor(press.currentTarget))}
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        // The list itself takes the focus: its first child is a heading, which cannot.
        disableAutoFocusItem
        slotProps={{ paper: { sx: { maxHeight: '80vh' } }, list: { dense: true } }}
      >
        {waits && (
          <MenuItem disabled sx={{ whiteSpace: 'normal' }}>
            Working out how the section flows; then the next move can begin from it.
          </MenuItem>
        )}
        {groups
          .filter(([, kinds]) => kinds.length > 0)
          .flatMap(([group, kinds]) => [
            <ListSubheader key={group} sx={{ lineHeight: 2, fontSize: '0.9rem' }}>
              {group}
            </ListSubheader>,
            ...kinds.map((kind) => {
              const there = before(kind);
              const why = anchor && there.length > 0 ? whyNot(kind, there, shop, others) : null;
              return <MoveItem key={kind} kind={kind} why={why} disabled={waits} onClick={() => add(kind)} />;
            }),
          ])}
      </Menu>
    </>
  );
}
