import { v4 as newId } from 'uuid';
import { Box, Button, Stack, TextField, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useConfirm } from 'material-ui-confirm';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { KEPT_DAYS, MOST_NAME, type Plan, type Revision } from '../../../../core/plan/index.ts';
import { RequestError, api } from '../../document/api.ts';
import { forget, useWaiting } from '../../document/unsaved.ts';
import { useServerChange } from '../../document/useServerChange.ts';

/** Problems and revisions shown at a time. */
const SHOWN = 8;

interface UnopenedProps {
  id: string;
  title: string;
  error: Error;
}

/** In place of a piece that cannot be shown: why, and what can be done with it all the same. */
export function Unopened({ id, title, error }: UnopenedProps) {
  const problems = error instanceof RequestError ? error.problems : [];
  const gone = error instanceof RequestError && error.status === 404;
  const away = error instanceof RequestError && (error.status === 0 || error.status === 503);
  return (
    <Box component="main" sx={{ p: 4, maxWidth: 860 }}>
      <Box role="alert">
        <Typography variant="h1">{title}</Typography>
        {problems.length === 0 && <Typography sx={{ my: 2 }}>{error.message}</Typography>}
        {problems.length > 0 && (
          <Box component="ul" sx={{ pl: 2.5 }}>
            {problems.slice(0, SHOWN).map(({ path, message }) => (
              <li key={path + message}>{path ? `${path}: ${message}` : message}</li>
            ))}
            {problems.length > SHOWN && <li>and {problems.length - SHOWN} more</li>}
          </Box>
        )}
      </Box>
      <KeepAsNew id={id} />
      {!gone && !away && <StillPossible id={id} />}
      <Button component={Link} to="/" variant="contained" reloadDocument>
        Back to the shelf
      </Button>
    </Box>
  );
}

/** What needs no opened plan: name, file, earlier revisions, removal. */
function StillPossible({ id }: { id: string }) {
  const { data: revisions = [] } = useQuery({
    queryKey: ['revisions', id],
    queryFn: () => api.revisions(id),
  });
  const [name, setName] = useState('');
  const [done, setDone] = useState('');
  const act = useServerChange(['projects'], ['revisions', id]);
  const ask = useConfirm();
  const navigate = useNavigate();
  const rename = () =>
    act.mutate(async () => {
      await api.rename(id, name);
      setDone(`It is called “${name}” now.`);
    });
  const waiting = useWaiting((state) => state.all);
  const takeBack = (then: Revision) =>
    act.mutate(async () => {
      const plan = await api.planThen(id, then.revision);
      let { revision } = revisions[0];
      const save = async (next: Plan) => {
        ({ revision } = await api.save(id, { revision, saveId: newId(), plan: next }));
      };
      // A change that waits in this browser becomes a revision too: it would be opened again otherwise.
      for (const edit of waiting.filter((e) => e.projectId === id)) {
        await save(edit.plan);
        await forget(edit);
      }
      await save(plan);
      location.reload();
    });
  const remove = async () => {
    const { confirmed } = await ask({
      title: `Take this piece off the shelf? It can be put back for ${KEPT_DAYS} days.`,
    });
    if (!confirmed) return;
    act.mutate(async () => {
      await api.remove(id);
      await navigate('/');
    });
  };
  return (
    <Stack spacing={2} sx={{ my: 2.5, alignItems: 'flex-start' }}>
      <Typography>What was saved is safe. Without opening it you can still:</Typography>
      <Stack direction="row" spacing={1.5} sx={{ alignItems: 'center' }}>
        <TextField
          label="Another name"
          value={name}
          onChange={(e) => setName(e.target.value.slice(0, MOST_NAME))}
          sx={{ width: 320 }}
        />
        <Button variant="outlined" disabled={name.trim() === '' || act.isPending} onClick={rename}>
          Rename it
        </Button>
      </Stack>
      {revisions.length > 1 && (
        <Box>
          <Typography>Take back how it was:</Typography>
          <Stack direction="row" useFlexGap sx={{ flexWrap: 'wrap', gap: 1, mt: 1 }}>
            {revisions.slice(1, SHOWN + 1).map((r) => (
              <Button
                key={r.revision}
                variant="outlined"
                onClick={() => takeBack(r)}
                disabled={act.isPending}
              >
                {r.mark ?? new Date(r.savedAt).toLocaleString([], { hourCycle: 'h23' })}
              </Button>
            ))}
          </Stack>
        </Box>
      )}
      <Stack direction="row" spacing={1.5}>
        <Button variant="outlined" href={api.fileUrl(id)} download>
          Save its plan to a file
        </Button>
        <Button variant="outlined" onClick={() => void remove()}>
          Remove it…
        </Button>
      </Stack>
      {done && <Typography role="status">{done}</Typography>}
      {act.error && (
        <Typography color="error" role="alert">
          {act.error.message}
        </Typography>
      )}
    </Stack>
  );
}

/** A change of a piece that is not there any more can still become a piece of its own. */
function KeepAsNew({ id }: { id: string }) {
  const navigate = useNavigate();
  const edit = useWaiting((state) => state.all.find((e) => e.projectId === id));
  const { mutate, error } = useServerChange(['projects']);
  if (!edit) return null;
  const keep = () =>
    mutate(async () => {
      const made = await api.create(edit.plan);
      await forget(edit);
      await navigate(`/pieces/${made.id}`);
    });
  return (
    <Box sx={{ my: 2 }}>
      <Typography>A change of it that was never saved is kept in this browser.</Typography>
      <Button onClick={keep}>Keep it as a new piece</Button>
      {error && <Typography color="error">{error.message}</Typography>}
    </Box>
  );
}
