import { useServerChange } from '../../document/useServerChange.ts';
import CheckCircleIcon from '@mui/icons-material/CheckCircle';
import ErrorIcon from '@mui/icons-material/Error';
import HourglassEmptyIcon from '@mui/icons-material/HourglassEmpty';
import MoreVertIcon from '@mui/icons-material/MoreVert';
import { Alert, Box, IconButton, Menu, MenuItem, Typography } from '@mui/material';
import { useConfirm } from 'material-ui-confirm';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { Link } from 'react-router';
import {
  KEPT_DAYS,
  PROJECT_STATES,
  type ProjectHead,
  type ProjectState,
  type Verdict,
} from '../../../../core/plan/index.ts';
import { formatSizes } from '../../../../core/units/index.ts';
import { api } from '../../document/api.ts';
import { colours } from '../../ui/theme.ts';

const PICTURE = { width: 316, height: 130 };

const VERDICTS: Record<Verdict | 'unknown', { icon: typeof ErrorIcon; words: string; colour: string }> = {
  reached: { icon: CheckCircleIcon, words: 'The plan reaches it', colour: colours.verdigris },
  short: { icon: ErrorIcon, words: 'The plan falls short', colour: colours.alarm },
  unfinished: { icon: ErrorIcon, words: 'Not welded or not solid yet', colour: colours.alarm },
  'no bar': { icon: ErrorIcon, words: 'No finished bar yet', colour: colours.alarm },
  'not worked out': { icon: ErrorIcon, words: 'It could not be worked out', colour: colours.alarm },
  unknown: { icon: HourglassEmptyIcon, words: 'Being worked out', colour: colours.faded },
};

/** A piece on the shelf. Its picture and verdict are of its newest revision, or it is said that they are being made. Fixed: a device for the bench changes nothing of it. */
export function PieceCard({ piece, isFixed }: { piece: ProjectHead; isFixed?: boolean }) {
  const { preview, goal, lengths } = piece;
  const isCurrent = preview?.revision === piece.revision && preview.log === piece.log;
  const { icon: Icon, words, colour } = VERDICTS[isCurrent ? preview.verdict : 'unknown'];
  return (
    <Box component="li" sx={{ listStyle: 'none', position: 'relative' }}>
      <Box
        {...(piece.removedAt ? {} : { component: Link, to: `/pieces/${piece.id}` })}
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
        <Face piece={piece} isCurrent={isCurrent} />
        <Typography variant="h2" sx={{ mt: 1.5, overflowWrap: 'anywhere' }}>
          {piece.name}
        </Typography>
        <Typography color="text.secondary">
          {piece.removedAt ? `goes for good on ${goesOn(piece.removedAt)}` : piece.state}
          {goal &&
            ` · goal ${formatSizes([goal.lengthMm, goal.widthMm, goal.thicknessMm], lengths ?? { unit: 'mm', division: 0.5 })}`}
        </Typography>
        <Typography sx={{ display: 'flex', gap: 0.75, alignItems: 'center', color: colour, fontWeight: 600 }}>
          <Icon fontSize="small" />
          {words}
        </Typography>
      </Box>
      {!isFixed && <PieceMenu piece={piece} />}
    </Box>
  );
}

/** The last picture that was made; faded while one of the newest revision is being made. */
function Face({ piece: { id, name, preview }, isCurrent }: { piece: ProjectHead; isCurrent: boolean }) {
  if (!preview?.hasPicture)
    return (
      <Box sx={{ height: PICTURE.height, display: 'grid', placeContent: 'center', color: colours.faded }}>
        {!preview
          ? 'its picture is being made'
          : preview.verdict === 'not worked out'
            ? 'open it to see why'
            : 'nothing planned yet'}
      </Box>
    );
  return (
    <Box sx={{ height: PICTURE.height, display: 'grid', placeContent: 'end center' }}>
      <img
        src={api.pictureUrl(id, preview)}
        alt={`${name}, as it would be`}
        loading="lazy"
        style={{ maxWidth: PICTURE.width, maxHeight: PICTURE.height, opacity: isCurrent ? 1 : 0.4 }}
      />
    </Box>
  );
}

/** The day on which a removed piece goes for good. */
const goesOn = (removedAt: string): string =>
  new Date(Date.parse(removedAt) + KEPT_DAYS * 86_400_000).toLocaleDateString([], {
    day: 'numeric',
    month: 'long',
  });

function PieceMenu({ piece }: { piece: ProjectHead }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const { enqueueSnackbar } = useSnackbar();
  const act = useServerChange(['projects']);
  const press = (work: () => Promise<unknown>) => () => {
    setAnchor(null);
    act.mutate(work);
  };
  const mark = async (state: ProjectState) => {
    const { taken } = await api.setState(piece.id, state);
    if (taken?.length)
      enqueueSnackbar(
        `${taken.length} ${taken.length === 1 ? 'bar was' : 'bars were'} taken off the rack for “${piece.name}”: Stock puts them back.`,
      );
  };
  const ask = useConfirm();
  const remove = async () => {
    setAnchor(null);
    const { confirmed } = await ask({
      title: `Take “${piece.name}” off the shelf? It can be put back for ${KEPT_DAYS} days.`,
    });
    if (confirmed) act.mutate(() => api.remove(piece.id));
  };
  return (
    <>
      <IconButton
        aria-label={`More about ${piece.name}`}
        onClick={(e) => setAnchor(e.currentTarget)}
        sx={{ position: 'absolute', right: 10, bottom: 46 }}
      >
        <MoreVertIcon />
      </IconButton>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {piece.removedAt
          ? [
              <MenuItem key="back" onClick={press(() => api.putBackOnShelf(piece.id))}>
                Put it back on the shelf
              </MenuItem>,
            ]
          : [
              ...PROJECT_STATES.filter((s) => s !== piece.state).map((state) => (
                <MenuItem key={state} onClick={press(() => mark(state))}>
                  Mark as {state}
                </MenuItem>
              )),
              <MenuItem key="copy" onClick={press(() => api.copy(piece.id))}>
                Make a copy
              </MenuItem>,
              <MenuItem key="remove" onClick={() => void remove()}>
                Remove…
              </MenuItem>,
            ]}
      </Menu>
      {act.error && <Alert severity="error">{act.error.message}</Alert>}
    </>
  );
}
