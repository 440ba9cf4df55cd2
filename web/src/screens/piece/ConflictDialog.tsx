import { Box, Button, Typography } from '@mui/material';
import { useNavigate } from 'react-router';
import { type Plan, differencesOf, lastReached, nameWith } from '../../../../core/plan/index.ts';
import { formatSizes } from '../../../../core/units/index.ts';
import { sizeOf } from '../../../../core/billet/billet.ts';
import { api } from '../../document/api.ts';
import { SmallFace } from '../../benches/steel/SmallFace.tsx';
import { keepMine, openWith, takeTheirs } from '../../document/autosave.ts';
import { usePlanStore } from '../../document/planStore.ts';
import { evaluated } from '../../document/useEvaluation.ts';
import { forgetOwn } from '../../document/unsaved.ts';
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
          title={`The other, saved ${new Date(current.updatedAt).toLocaleTimeString()}`}
          plan={current.plan}
        />
      </Box>
    </Popup>
  );
}

/** More than these are not read one by one. */
const MOST_SAID = 12;

function Differences({ mine, theirs }: { mine: Plan; theirs: Plan }) {
  const all = differencesOf(mine, theirs);
  return (
    <Box component="ul" sx={{ mt: 0, mb: 2, pl: 2.5 }}>
      {all.slice(0, MOST_SAID).map((text) => (
        <li key={text}>{text}</li>
      ))}
      {all.length > MOST_SAID && <li>and {all.length - MOST_SAID} more</li>}
    </Box>
  );
}

function Version({ title, plan }: { title: string; plan: Plan }) {
  const evaluation = evaluated(plan);
  const { goal, shop, lanes } = evaluation;
  const last = lastReached(evaluation);
  return (
    <Box>
      <Typography variant="h3">{title}</Typography>
      <Typography color="text.secondary">
        {lanes.reduce((n, l) => n + l.steps.length, 0)} moves
        {goal.bar &&
          `, comes to ${formatSizes([goal.bar.lengthMm, sizeOf(goal.bar).widthMm, sizeOf(goal.bar).heightMm], shop.lengths)}`}
      </Typography>
      {last && <SmallFace plan={plan} result={last} width={320} height={180} urgency={5} label={title} />}
    </Box>
  );
}
