import {
  Box,
  Button,
  CircularProgress,
  List,
  ListItemButton,
  ListItemText,
  TextField,
  Typography,
  useMediaQuery,
} from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { MOST_MARK, type Revision } from '../../../../core/plan/index.ts';
import { api } from '../../document/api.ts';
import { editPlan, usePlanStore } from '../../document/planStore.ts';
import { useServerChange } from '../../document/useServerChange.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { SteelAndNumbers } from '../../ui/layout.tsx';
import { Differences } from '../../ui/Differences.tsx';
import { Version } from './Version.tsx';

const TIME = { hour: '2-digit', minute: '2-digit', second: '2-digit', hourCycle: 'h23' } as const;
const DAY = { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' } as const;

const timeOf = ({ savedAt }: Revision): string => new Date(savedAt).toLocaleTimeString([], TIME);
const dayOf = ({ savedAt }: Revision): string => new Date(savedAt).toLocaleDateString([], DAY);

const THEN = { mine: 'then', theirs: 'now' };

/** What a piece was at every save that is kept: looked at, named, taken back. */
export default function HistoryView() {
  const { id = '' } = useParams();
  const revision = usePlanStore((state) => state.revision);
  const { data, error } = useQuery({
    queryKey: ['revisions', id, revision],
    queryFn: () => api.revisions(id),
    placeholderData: (before) => before,
  });
  const [chosen, setChosen] = useState<number | null>(null);
  const now = data?.find((r) => r.revision === revision);
  const older = data?.filter((r) => r.revision !== revision) ?? [];
  const shown = older.find((r) => r.revision === chosen) ?? older.at(0);
  return (
    <SteelAndNumbers
      steel={
        error ? (
          <Typography role="alert">{error.message}</Typography>
        ) : shown ? (
          <Then key={shown.revision} id={id} revision={shown} />
        ) : data ? (
          <Typography>Nothing was saved before what is there now.</Typography>
        ) : (
          <CircularProgress aria-label="Opening" />
        )
      }
      numbers={
        <Box>
          {now && <NameRevision key={now.revision} id={id} revision={now} label="Name what is there now" />}
          <Typography variant="h2" sx={{ mt: 2 }}>
            Saved before
          </Typography>
          <Typography color="text.secondary" sx={{ mb: 1 }}>
            All of the last day; older ones by the hour, the day, the week. Those with a name stay.
          </Typography>
          <List dense aria-label="Revisions" sx={{ mx: -1 }}>
            {older.map((r, i) => (
              <Box component="li" key={r.revision}>
                {(i === 0 || dayOf(older[i - 1]) !== dayOf(r)) && (
                  <Typography variant="h3" sx={{ px: 1, pt: 1 }}>
                    {dayOf(r)}
                  </Typography>
                )}
                <ListItemButton selected={r === shown} onClick={() => setChosen(r.revision)} sx={{ px: 1 }}>
                  <ListItemText primary={timeOf(r)} secondary={r.mark} />
                </ListItemButton>
              </Box>
            ))}
          </List>
        </Box>
      }
    />
  );
}

/** The plan as it was then, beside what it is now. */
function Then({ id, revision }: { id: string; revision: Revision }) {
  const navigate = useNavigate();
  const { plan } = useEvaluation();
  const wide = useMediaQuery('(min-width: 1200px)');
  const { data: then, error } = useQuery({
    queryKey: ['plan then', id, revision.revision],
    queryFn: () => api.planThen(id, revision.revision),
    staleTime: Infinity,
  });
  const takeBack = () => {
    editPlan(() => ({ ...then!, name: plan.name }), `revision ${revision.revision}`);
    void navigate(`/pieces/${id}`);
  };
  if (error) return <Typography role="alert">{error.message}</Typography>;
  if (!then) return <CircularProgress aria-label="Opening" />;
  return (
    <Box>
      <Typography variant="h2">
        {dayOf(revision)}, {timeOf(revision)}
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3, my: 2 }}>
        <Version title="Then" plan={then} large={wide} />
        <Version title="Now" plan={plan} large={wide} />
      </Box>
      <Typography variant="h3">What differs</Typography>
      <Differences mine={then} theirs={plan} sides={THEN} />
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Button variant="contained" onClick={takeBack}>
          Take this one back
        </Button>
        <NameRevision id={id} revision={revision} label="Name of this revision" />
      </Box>
      <Typography color="text.secondary" sx={{ mt: 1 }}>
        Taken back, it is a new revision; nothing of what is there now is lost, and undo leads back.
      </Typography>
    </Box>
  );
}

/** A name by which a revision is found again, and for which it stays. */
function NameRevision({ id, revision, label }: { id: string; revision: Revision; label: string }) {
  const [text, setText] = useState(revision.mark ?? '');
  const { mutate, error } = useServerChange(['revisions', id]);
  const same = text.trim() === (revision.mark ?? '');
  return (
    <Box
      component="form"
      sx={{ display: 'flex', gap: 1, alignItems: 'flex-start', flexGrow: 1 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (!same) mutate(() => api.markRevision(id, revision.revision, text));
      }}
    >
      <TextField
        label={label}
        value={text}
        sx={{ flexGrow: 1, maxWidth: 420 }}
        error={error !== null}
        helperText={error?.message}
        onChange={(change) => setText(change.target.value)}
        slotProps={{ htmlInput: { maxLength: MOST_MARK, autoComplete: 'off' } }}
      />
      <Button type="submit" disabled={same}>
        Keep
      </Button>
    </Box>
  );
}
