import { ListItemText, Menu, MenuItem } from '@mui/material';
import { type MouseEvent, type ReactNode, useState } from 'react';
import type { LaneResult } from '../../../core/plan/index.ts';
import { MOVE_KINDS, type MoveKind, moveOf } from '../../../core/steps/index.ts';
import { freshStepId, insertStep } from './planStore.ts';
import { useEvaluation } from './useEvaluation.ts';

/** What each move does, in a line, for someone choosing one. */
const HINTS: Record<MoveKind, string> = {
  stack: 'lay strips of steel on one another',
  weld: 'make one piece of what lies together',
  draw: 'longer and thinner, square or flat',
  resquare: 'turn 45° and press square: layers run to the corners',
  cut: 'into equal pieces',
  grind: 'take steel off the long faces',
  assemble: 'pieces side by side: four-way, nine-piece, row',
  tile: 'saw into tiles and bring the end grain to the side',
};

interface AddMoveProps {
  lane: LaneResult;
  /** Place in the lane where the move is put. */
  at: number;
  children(open: (press: MouseEvent<HTMLElement>) => void): ReactNode;
}

/** A menu of moves; the chosen one is put in its place with numbers that suit what is there. */
export function AddMove({ lane, at, children }: AddMoveProps) {
  const { plan, shop } = useEvaluation();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const add = (kind: MoveKind) => {
    setAnchor(null);
    const before = lane.steps[at - 1]?.after ?? [];
    insertStep(lane.lane.id, at, {
      id: freshStepId(plan),
      kind,
      parameters: moveOf(kind).begin(before, shop),
    });
  };
  return (
    <>
      {children((press) => setAnchor(press.currentTarget))}
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {MOVE_KINDS.filter((kind) => moveOf(kind).begins === (at === 0)).map((kind) => (
          <MenuItem key={kind} onClick={() => add(kind)}>
            <ListItemText primary={moveOf(kind).title} secondary={HINTS[kind]} />
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
