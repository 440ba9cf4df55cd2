import LightbulbIcon from '@mui/icons-material/LightbulbOutlined';
import { Link, useParams } from 'react-router';
import { moveOf } from '../../../../core/moves/index.ts';
import AddIcon from '@mui/icons-material/Add';
import ContentCopyIcon from '@mui/icons-material/ContentCopy';
import MoreVertIcon from '@mui/icons-material/MoreVert';
import { Box, Button, IconButton, InputBase, Menu, MenuItem, Typography } from '@mui/material';
import { useState } from 'react';
import {
  type Evaluation,
  type LaneResult,
  laneMark,
  lanesTaken,
  piecesWanted,
  MOST_LANE_NAME,
} from '../../../../core/plan/index.ts';
import { formatLength } from '../../../../core/units/index.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { PanelRow } from './PanelRow.tsx';
import {
  addLane,
  duplicateLane,
  removeLane,
  renameLane,
  select,
  selectLane,
  shiftLane,
} from '../../document/planStore.ts';

interface LanesProps {
  evaluation: Evaluation;
  /** The lane that is looked at, and its selected move. */
  laneId: string;
  selectedId: string | null;
}

/** All lanes, one bar each; the one looked at is large. Rails at the left lead from each bar to the one it goes into. */
export function Lanes({ evaluation, laneId, selectedId }: LanesProps) {
  const { lanes } = evaluation;
  const many = lanes.length > 1;
  return (
    <Box sx={{ px: 1.75 }}>
      <Box sx={{ maxHeight: { xs: 420, md: 330 }, overflowY: many ? 'auto' : 'visible' }}>
        {lanes.map((lane, i) => (
          <Box
            key={lane.lane.id}
            sx={{ display: 'flex', alignItems: 'center', borderTop: i > 0 ? `1px solid ${colours.line}` : 0 }}
          >
            {many && <Rails evaluation={evaluation} row={i} />}
            {many && <LaneHead evaluation={evaluation} lane={lane} row={i} open={lane.lane.id === laneId} />}
            <PanelRow
              evaluation={evaluation}
              lane={lane}
              selectedId={selectedId}
              slim={lane.lane.id !== laneId}
              low={many}
            />
            {(many || lane.steps.length > 0) && <Onward evaluation={evaluation} lane={lane} row={i} />}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

const RAIL = 12;

/** The rails that pass, leave and arrive at one row: a line from every bar to the one that takes its pieces. */
function Rails({ evaluation, row }: { evaluation: Evaluation; row: number }) {
  const { lanes } = evaluation;
  const at = (id: string) => lanes.findIndex((l) => l.lane.id === id);
  const joins = lanes
    .flatMap((to, k) => lanesTaken(to.lane).map((from) => ({ from: at(from), to: k })))
    .filter((join) => join.from >= 0);
  const width = Math.max(1, joins.length) * RAIL + 10;
  return (
    <Box sx={{ width, flex: 'none', alignSelf: 'stretch', position: 'relative' }}>
      <svg aria-hidden style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}>
        {joins.map((join, i) => {
          const x = 6 + i * RAIL;
          const [top, bottom] = [Math.min(join.from, join.to), Math.max(join.from, join.to)];
          if (row < top || row > bottom) return null;
          const leaves = row === join.from;
          const arrives = row === join.to;
          return (
            <g key={i} stroke={colours.gilding} strokeWidth={2.5} fill="none">
              {row > top && <line x1={x} x2={x} y1="0" y2="50%" />}
              {row < bottom && <line x1={x} x2={x} y1="50%" y2="100%" />}
              {(leaves || arrives) && <line x1={x} x2={width} y1="50%" y2="50%" />}
              {leaves && <circle cx={x} cy="50%" r={4.5} fill={colours.paper} />}
              {arrives && <circle cx={x} cy="50%" r={4.5} fill={colours.gilding} />}
            </g>
          );
        })}
      </svg>
    </Box>
  );
}

interface LaneHeadProps {
  evaluation: Evaluation;
  lane: LaneResult;
  row: number;
  open: boolean;
}

function LaneHead({ evaluation, lane, row, open }: LaneHeadProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const { id, name } = lane.lane;
  const last = evaluation.lanes.length - 1;
  const act = (what: () => void) => () => {
    setAnchor(null);
    what();
  };
  return (
    <Box sx={{ width: { xs: 150, md: 148 }, flex: 'none', display: 'flex', alignItems: 'center' }}>
      <Box
        component="button"
        onClick={() => selectLane(id)}
        aria-label={`Show ${name}`}
        aria-pressed={open}
        sx={{
          width: 30,
          height: 30,
          flex: 'none',
          borderRadius: '50%',
          border: `2px solid ${open ? colours.gilding : colours.line}`,
          background: colours.paper,
          fontFamily: fonts.numbers,
          fontWeight: 700,
          fontSize: 15,
          color: colours.ink,
          cursor: 'pointer',
          p: 0,
        }}
      >
        {laneMark(evaluation.plan, id)}
      </Box>
      <LaneName key={name} id={id} name={name} />
      <IconButton size="small" aria-label={`More about ${name}`} onClick={(e) => setAnchor(e.currentTarget)}>
        <MoreVertIcon fontSize="small" />
      </IconButton>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <MenuItem onClick={act(() => duplicateLane(id))}>Duplicate this bar</MenuItem>
        <MenuItem disabled={row === 0} onClick={act(() => shiftLane(id, -1))}>
          Move up
        </MenuItem>
        <MenuItem disabled={row === last} onClick={act(() => shiftLane(id, 1))}>
          Move down
        </MenuItem>
        <MenuItem onClick={act(() => removeLane(id))}>Take this bar out</MenuItem>
      </Menu>
    </Box>
  );
}

/** The lane's name, edited in place; an empty one is put back. */
function LaneName({ id, name }: { id: string; name: string }) {
  const [text, setText] = useState(name);
  const commit = () => {
    const trimmed = text.trim();
    if (trimmed === '') setText(name);
    else if (trimmed !== name) renameLane(id, trimmed);
  };
  return (
    <InputBase
      value={text}
      onChange={(change) => setText(change.target.value)}
      onBlur={commit}
      onKeyDown={(key) => key.key === 'Enter' && (key.target as HTMLElement).blur()}
      inputProps={{ 'aria-label': `Name of bar ${name}`, maxLength: MOST_LANE_NAME, title: text }}
      sx={{
        ml: 0.75,
        fontWeight: 600,
        fontSize: '0.95rem',
        minWidth: 0,
        '& input': { textOverflow: 'ellipsis' },
      }}
    />
  );
}

/** Where a bar's pieces go: press to be there. The bar nobody takes from is the finished one. */
function Onward({ evaluation, lane, row }: { evaluation: Evaluation; lane: LaneResult; row: number }) {
  const { plan, lanes, goalLane } = evaluation;
  const takers = lanes.filter((l) => lanesTaken(l.lane).includes(lane.lane.id));
  const wanted = piecesWanted(plan, lane.lane.id).length;
  const each = lane.pieces[0] ? ` of ${formatLength(lane.pieces[0].lengthMm, evaluation.shop.lengths)}` : '';
  return (
    <Box sx={{ width: { xs: 112, md: 128 }, flex: 'none', pl: 1, textAlign: 'left' }}>
      {takers.map((taker) => (
        <Button
          key={taker.lane.id}
          size="small"
          onClick={() => select(taker.lane.steps.find((s) => moveOf(s.kind).lays)?.id ?? null)}
          sx={{ display: 'block', textAlign: 'left', lineHeight: 1.2, py: 0.25, px: 0.5 }}
        >
          {wanted} {wanted === 1 ? 'piece' : 'pieces'}
          {each} to {laneMark(plan, taker.lane.id)}
        </Button>
      ))}
      {lanes.length > 1 && takers.length === 0 && lane === goalLane && (
        <Typography variant="body2" color="text.secondary">
          finished bar
        </Typography>
      )}
      {takers.length === 0 && lane !== goalLane && (
        <Typography variant="body2" color="text.secondary">
          not used yet
        </Typography>
      )}
      {row === lanes.length - 1 && (
        <Button
          size="small"
          startIcon={<AddIcon />}
          onClick={() => addLane()}
          sx={{ px: 0.5, lineHeight: 1.2 }}
        >
          Another bar
        </Button>
      )}
      {lane === goalLane && <AnotherWay />}
      {lanes.length === 1 && (
        <Button
          size="small"
          startIcon={<ContentCopyIcon />}
          onClick={() => duplicateLane(lane.lane.id)}
          sx={{ px: 0.5, lineHeight: 1.2 }}
        >
          Same again
        </Button>
      )}
    </Box>
  );
}

/** To the wish: other plans for the same bar. */
function AnotherWay() {
  const { id } = useParams();
  return (
    <Button
      size="small"
      component={Link}
      to={`/pieces/${id}/wish`}
      startIcon={<LightbulbIcon />}
      sx={{ px: 0.5, lineHeight: 1.2 }}
    >
      Another way
    </Button>
  );
}
