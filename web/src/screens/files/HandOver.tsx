import { Alert, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { comesTo, flowsAwaited, handedOver, makerName, wantedSaid } from '../../../../core/plan/index.ts';
import { api } from '../../document/api.ts';
import { setMaker, useMaker } from '../../document/maker.ts';
import { usePlanStore } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { useServerChange } from '../../document/useServerChange.ts';
import { Popup } from '../../ui/Popup.tsx';
import { download, fileName } from '../../ui/download.ts';
import { Choice } from '../../ui/fields/Choice.tsx';
import { WordField } from '../../ui/fields/WordField.tsx';
import { handedOverMark } from './handedOverMark.ts';

/** A file for another maker: the piece, which bar is theirs, and what it has to come to. */
export function HandOver({ onClose }: { onClose(): void }) {
  const evaluation = useEvaluation();
  const { plan, goalLane } = evaluation;
  const by = useMaker((state) => state.name);
  const [to, setTo] = useState('');
  const others = plan.lanes.filter((l) => l.id !== goalLane.lane.id);
  const [lane, setLane] = useState((others[0] ?? plan.lanes[0]).id);
  const { projectId, revision } = usePlanStore.getState();
  const act = useServerChange(['revisions', projectId]);
  const waits = flowsAwaited(evaluation).length > 0;
  const ready = !waits && makerName.safeParse(by).success && makerName.safeParse(to).success;
  const save = () =>
    act.mutate(async () => {
      const file = handedOver(evaluation, lane, { by, to }, new Date().toISOString());
      // Found again when it comes back: what was changed is told from there.
      const mark = (await api.revisions(projectId!)).find((r) => r.revision === revision)?.mark ?? null;
      await api.markRevision(projectId!, revision, handedOverMark(to, mark));
      download(
        fileName(`${plan.name} for ${to}`, '.retablo.json'),
        new Blob([`${JSON.stringify(file, null, 2)}\n`], { type: 'application/json' }),
      );
      onClose();
    });
  return (
    <Popup
      title="Hand a bar over to another maker"
      width="sm"
      onClose={onClose}
      onSubmit={() => ready && save()}
      actions={
        <>
          <Button onClick={onClose}>Leave it</Button>
          <Button type="submit" variant="contained" disabled={!ready || act.isPending}>
            Save the file for them
          </Button>
        </>
      }
    >
      <Choice
        label="Their bar"
        value={lane}
        options={plan.lanes.map((l) => [l.id, l.name] as const)}
        onChange={setLane}
      />
      <Typography role="status">
        {waits
          ? 'Working out how the section flows …'
          : `Theirs comes to ${wantedSaid(comesTo(evaluation, lane), plan)}.`}
      </Typography>
      <WordField label="Your name" value={by} schema={makerName} onChange={setMaker} />
      <WordField label="Their name" value={to} schema={makerName} onChange={setTo} />
      <Typography color="text.secondary">
        The file holds the whole piece. They open it on their shelf, make their bar, and hand it back the same
        way.
      </Typography>
      {act.error && <Alert severity="error">{act.error.message}</Alert>}
    </Popup>
  );
}
