import { Box, Button, Typography } from '@mui/material';
import { useNavigate } from 'react-router';
import { nameWith } from '../../../../core/plan/index.ts';
import { api } from '../../document/api.ts';
import { keepMine, openWith, takeTheirs } from '../../document/autosave.ts';
import { usePlanStore } from '../../document/planStore.ts';
import { forgetOwn } from '../../document/unsaved.ts';
import { Differences } from '../../ui/Differences.tsx';
import { Version } from '../history/Version.tsx';
import { Popup } from '../../ui/Popup.tsx';

/** Both plans side by side when a piece was changed in two places; nothing is thrown away unasked. */
export function ConflictDialog() {
  const { save, plan } = usePlanStore();
  const navigate = useNavigate();
  if (save.kind !== 'conflict' || !plan) return null;
  const { current } = save;
  const asCopy = async () => {
    const copy = await api.create({ ...plan, name: nameWith(plan.name, ' (mine)') });
    openWith(copy, null);
    await forgetOwn(current.id);
    await navigate(`/pieces/${copy.id}`);
  };
  return (
    <Popup
      title={<>“{plan.name}” was changed in another window</>}
      width="md"
      actions={
        <>
          <Button onClick={() => void asCopy()}>Keep both: mine as a copy</Button>
          <Button onClick={() => void takeTheirs(current)}>Take the other</Button>
          <Button variant="contained" onClick={() => keepMine(current)}>
            Keep mine
          </Button>
        </>
      }
    >
      <Typography sx={{ mb: 2 }}>Both versions are here. Which shall be kept under this name?</Typography>
      <Differences mine={plan} theirs={current.plan} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3 }}>
        <Version title="Yours, in this window" plan={plan} />
        <Version
          title={`The other, saved ${new Date(current.updatedAt).toLocaleTimeString([], { hourCycle: 'h23' })}`}
          plan={current.plan}
        />
      </Box>
    </Popup>
  );
}
