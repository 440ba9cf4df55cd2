import { Alert, Link as Anchor } from '@mui/material';
import { Fragment, useEffect } from 'react';
import { Link } from 'react-router';
import { sendNow } from '../../document/outbox.ts';
import { type Unsaved, useWaiting } from '../../document/unsaved.ts';

/** Pieces with changes that are in this browser and not on the server yet, each with a way there. */
export function WaitingEdits() {
  const { all, overdue } = useWaiting();
  useEffect(sendNow, []);
  const refused = all.filter((edit) => edit.trouble);
  const waiting = overdue.filter((edit) => !edit.trouble);
  return (
    <>
      {waiting.length > 0 && (
        <Alert severity="warning" sx={{ mb: 1.5 }}>
          Kept in this browser until the server answers: <Pieces edits={waiting} />
        </Alert>
      )}
      {refused.map((edit) => (
        <Alert severity="error" key={`${edit.projectId} ${edit.page}`} sx={{ mb: 1.5 }}>
          A change waits in this browser and the server does not take it: {edit.trouble} Open it to choose:{' '}
          <Pieces edits={[edit]} />
        </Alert>
      ))}
    </>
  );
}

function Pieces({ edits }: { edits: readonly Unsaved[] }) {
  return edits.map(({ projectId, page, plan, at }, i) => (
    <Fragment key={`${projectId} ${page}`}>
      {i > 0 && ', '}
      <Anchor component={Link} to={`/pieces/${projectId}`}>
        {plan.name}
      </Anchor>{' '}
      ({new Date(at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' })})
    </Fragment>
  ));
}
