import AddIcon from '@mui/icons-material/Add';
import HourglassEmptyIcon from '@mui/icons-material/HourglassEmpty';
import CheckCircleIcon from '@mui/icons-material/CheckCircle';
import ErrorIcon from '@mui/icons-material/Error';
import MoreVertIcon from '@mui/icons-material/MoreVert';
import { Alert, Box, Button, CircularProgress, IconButton, Menu, MenuItem, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { flowsAwaited, lastReached } from '../../../../core/plan/index.ts';
import { formatSizes } from '../../../../core/units/index.ts';
import { type ProjectState, type StoredProject, api } from '../../document/api.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { useFlows, wantFlows } from '../../document/flows.ts';
import { evaluated, useEvaluated } from '../../document/useEvaluation.ts';
import { SmallFace } from '../../benches/steel/SmallFace.tsx';
import { NewPiece } from './NewPiece.tsx';
import { OpenPlanFile } from './OpenPlanFile.tsx';

const STATES: ProjectState[] = ['planning', 'at the bench', 'done'];
const PICTURE = { width: 316, height: 130 };

/** The pieces being planned, each by its final face and its state. */
export function Component() {
  const { data, error, isPending } = useQuery({ queryKey: ['projects'], queryFn: api.list, staleTime: 0 });
  const [beginning, setBeginning] = useState(false);
  const found = useFlows((state) => state.found);
  useEffect(
    () =>
      wantFlows(
        'shelf',
        (data ?? []).flatMap((project) => flowsAwaited(evaluated(project.plan))),
      ),
    [data, found],
  );
  useEffect(() => () => wantFlows('shelf', []), []);
  useEffect(() => {
    document.title = 'Shelf · Retablo';
  }, []);
  return (
    <Box component="main" sx={{ px: { xs: 2, sm: 4 }, py: 2.5, maxWidth: 1240, mx: 'auto' }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, mb: 2.5, flexWrap: 'wrap' }}>
        <Typography component="h1" sx={{ fontFamily: fonts.title, fontSize: '2.1rem', color: colours.oxide }}>
          Retablo
        </Typography>
        <Typography sx={{ fontSize: '1.1rem' }} color="text.secondary">
          The shelf: mosaic bars, planned before any steel is cut
        </Typography>
        <Box sx={{ ml: 'auto', display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
          <Button component={Link} to="/shop">
            The shop
          </Button>
          <OpenPlanFile />
          <Button variant="contained" size="large" startIcon={<AddIcon />} onClick={() => setBeginning(true)}>
            Begin a new piece
          </Button>
        </Box>
      </Box>
      {error && <Alert severity="error">{error.message}</Alert>}
      {isPending && <CircularProgress aria-label="Loading the shelf" />}
      {data?.length === 0 && (
        <Typography sx={{ py: 6, fontSize: '1.15rem' }}>
          The shelf is empty. Begin a new piece: say how long, wide and thick the finished bar must be, and
          plan backward from there.
        </Typography>
      )}
      <Box
        component="ul"
        sx={{
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fill, minmax(352px, 1fr))',
          gap: 3.5,
          p: 0,
          m: 0,
        }}
      >
        {data?.map((project) => (
          <Piece key={project.id} project={project} />
        ))}
      </Box>
      <NewPiece open={beginning} onClose={() => setBeginning(false)} />
    </Box>
  );
}

function Piece({ project }: { project: StoredProject }) {
  const evaluation = useEvaluated(project.plan);
  const { goal, shop } = evaluation;
  const waits = flowsAwaited(evaluation).length > 0;
  const Icon = waits ? HourglassEmptyIcon : goal.reached ? CheckCircleIcon : ErrorIcon;
  return (
    <Box component="li" sx={{ listStyle: 'none', position: 'relative' }}>
      <Box
        component={Link}
        to={`/pieces/${project.id}`}
        sx={{
          display: 'block',
          color: 'inherit',
          textDecoration: 'none',
          background: colours.paper,
          border: `1px solid ${colours.line}`,
          boxShadow: `0 0 0 3px ${colours.gesso}, 0 0 0 4px ${colours.line}`,
          borderRadius: '180px 180px 6px 6px / 46px 46px 6px 6px',
          p: '40px 18px 14px',
          '&:hover': {
            borderColor: colours.gilding,
            boxShadow: `0 0 0 3px ${colours.gesso}, 0 0 0 5px ${colours.gilding}`,
          },
        }}
      >
        <FinalFace project={project} />
        <Typography variant="h2" sx={{ mt: 1.5 }}>
          {project.name}
        </Typography>
        <Typography color="text.secondary">
          {project.state} · goal{' '}
          {formatSizes([goal.goal.lengthMm, goal.goal.widthMm, goal.goal.thicknessMm], shop.lengths)}
        </Typography>
        <Typography
          sx={{
            display: 'flex',
            gap: 0.75,
            alignItems: 'center',
            color: waits ? colours.faded : goal.reached ? colours.verdigris : colours.alarm,
            fontWeight: 600,
          }}
        >
          <Icon fontSize="small" />
          {waits
            ? 'Working out how it flows'
            : goal.bar
              ? goal.reached
                ? 'The plan reaches it'
                : 'The plan falls short'
              : 'No finished bar yet'}
        </Typography>
      </Box>
      <PieceMenu project={project} />
    </Box>
  );
}

function FinalFace({ project: { name, plan } }: { project: StoredProject }) {
  const last = lastReached(useEvaluated(plan));
  if (!last)
    return (
      <Box sx={{ height: PICTURE.height, display: 'grid', placeContent: 'center', color: colours.faded }}>
        nothing planned yet
      </Box>
    );
  return <SmallFace plan={plan} result={last} urgency={10} label={`${name}, as it would be`} {...PICTURE} />;
}

function PieceMenu({ project }: { project: StoredProject }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const client = useQueryClient();
  const { enqueueSnackbar } = useSnackbar();
  const refresh = () => client.invalidateQueries({ queryKey: ['projects'] });
  const act = useMutation({ mutationFn: (work: () => Promise<unknown>) => work(), onSuccess: refresh });
  const press = (work: () => Promise<unknown>) => () => {
    setAnchor(null);
    act.mutate(work);
  };
  const mark = async (state: ProjectState) => {
    const { taken } = await api.setState(project.id, state);
    if (taken?.length)
      enqueueSnackbar(
        `${taken.length} ${taken.length === 1 ? 'bar was' : 'bars were'} taken off the rack for “${project.name}”: Stock puts them back.`,
      );
  };
  const remove = () => {
    setAnchor(null);
    if (window.confirm(`Take “${project.name}” off the shelf for good?`))
      act.mutate(() => api.remove(project.id));
  };
  return (
    <>
      <IconButton
        aria-label={`More about ${project.name}`}
        onClick={(e) => setAnchor(e.currentTarget)}
        sx={{ position: 'absolute', right: 10, bottom: 46 }}
      >
        <MoreVertIcon />
      </IconButton>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {STATES.filter((s) => s !== project.state).map((state) => (
          <MenuItem key={state} onClick={press(() => mark(state))}>
            Mark as {state}
          </MenuItem>
        ))}
        <MenuItem
          onClick={press(() => api.create({ ...project.plan, name: `${project.name} (copy)`.slice(0, 120) }))}
        >
          Make a copy
        </MenuItem>
        <MenuItem onClick={remove}>Remove…</MenuItem>
      </Menu>
      {act.error && <Alert severity="error">{act.error.message}</Alert>}
    </>
  );
}
