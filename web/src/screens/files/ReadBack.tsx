import { Alert, Box, Button, CircularProgress, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import {
  type Handover,
  asPlanned,
  flowsAwaited,
  matingOf,
  readHandover,
  theirRecords,
  withTheirBar,
} from '../../../../core/plan/index.ts';
import { formatFine, formatLength } from '../../../../core/units/index.ts';
import { api } from '../../document/api.ts';
import { wantFlows } from '../../document/flows.ts';
import { editPlan, usePlanStore } from '../../document/planStore.ts';
import { write } from '../../document/records.ts';
import { useEvaluated, useEvaluation } from '../../document/useEvaluation.ts';
import { Differences } from '../../ui/Differences.tsx';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { FileButton } from '../../ui/FileButton.tsx';
import { Popup } from '../../ui/Popup.tsx';
import { colours, numbersStyle } from '../../ui/theme.ts';
import { handedOverMark } from './handedOverMark.ts';

/** What another maker hands back: whether it mates, who changed what, and their bar in place of the one here. */
export function ReadBack({ onClose }: { onClose(): void }) {
  const [handover, setHandover] = useState<Handover | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = async (file: File): Promise<void> => {
    setHandover(null);
    setTrouble(null);
    let content: unknown;
    try {
      content = JSON.parse(await file.text());
    } catch {
      return setTrouble(`${file.name} is no file that a maker handed over: it is not JSON.`);
    }
    const read = readHandover(content);
    if (read.ok) setHandover(read.handover);
    else {
      const [{ path, message }] = read.problems;
      setTrouble(`${file.name} is no file that a maker handed over: ${path && `${path}: `}${message}`);
    }
  };
  return (
    <Popup
      title="Read back what another maker made"
      width="md"
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          {handover && <TakeIt handover={handover} onDone={onClose} />}
        </>
      }
    >
      <Box>
        <FileButton text="Choose the file" variant="outlined" accept=".json,application/json" take={take} />
      </Box>
      {trouble && <Alert severity="error">{trouble}</Alert>}
      {handover && <Compared handover={handover} />}
    </Popup>
  );
}

function TakeIt({ handover, onDone }: { handover: Handover; onDone(): void }) {
  const take = () => {
    editPlan((plan) => withTheirBar(plan, handover), 'their bar');
    if (usePlanStore.getState().refused.length > 0) return;
    for (const record of theirRecords(handover)) write(record);
    onDone();
  };
  return (
    <Button variant="contained" onClick={take}>
      Take their bar and what came of it
    </Button>
  );
}

function Compared({ handover }: { handover: Handover }) {
  const mine = useEvaluation();
  const { lengths } = mine.shop;
  const { by, lane, plan: theirs } = handover;
  const made = useEvaluated(theirs);
  useEffect(() => wantFlows('read back', flowsAwaited(made)), [made]);
  useEffect(() => () => wantFlows('read back', []), []);
  if (flowsAwaited(made).length > 0 || flowsAwaited(mine).length > 0)
    return <CircularProgress aria-label="Working out how the section flows" />;
  const matings = matingOf(mine, made, lane);
  const name = theirs.lanes.find((l) => l.id === lane)!.name;
  const off = matings.filter((m) => !m.mates);
  const text = (what: string, mm: number) =>
    what === 'length' ? formatLength(mm, lengths) : formatFine(mm, lengths);
  return (
    <>
      <Alert severity={matings.length > 0 && off.length === 0 ? 'success' : 'warning'}>
        {matings.length === 0
          ? `“${name}” comes to nothing here yet: there is nothing that it has to mate with.`
          : off.length === 0
            ? `“${name}” of ${by} mates: every size is the one that is wanted here.`
            : `“${name}” of ${by} does not mate: ${off.length} of ${matings.length} sizes differ.`}
      </Alert>
      {off.length > 0 && (
        <FiguresTable heads={['Piece', 'Size', 'Wanted here', 'Theirs']}>
          {off.map(({ piece, what, wanted, comes }) => (
            <tr key={piece + what}>
              <td>{piece}</td>
              <td>{what}</td>
              <Box component="td" sx={numbersStyle}>
                {text(what, wanted)}
              </Box>
              <Box component="td" sx={{ ...numbersStyle, color: colours.alarm }}>
                {comes === null ? 'there is none' : text(what, comes)}
              </Box>
            </tr>
          ))}
        </FiguresTable>
      )}
      <WhoChanged handover={handover} />
    </>
  );
}

/** From the revision that was handed over; where there is none, how the two differ. */
function WhoChanged({ handover: { by, plan: theirs } }: { handover: Handover }) {
  const { plan: mine } = useEvaluation();
  const { projectId } = usePlanStore.getState();
  const base = useQuery({
    queryKey: ['handed over', projectId, by],
    queryFn: async () => {
      const found = (await api.revisions(projectId!)).find((r) => r.mark?.endsWith(handedOverMark(by)));
      return found ? await api.planThen(projectId!, found.revision) : null;
    },
    gcTime: 0,
  });
  if (base.isPending) return <CircularProgress aria-label="Looking for what was handed over" />;
  if (base.error) return <Alert severity="error">{base.error.message}</Alert>;
  if (!base.data)
    return (
      <>
        <Typography variant="h3">How theirs differs from the piece here</Typography>
        <Differences
          mine={asPlanned(mine)}
          theirs={asPlanned(theirs)}
          sides={{ mine: 'here', theirs: `by ${by}` }}
        />
      </>
    );
  return (
    <>
      <Typography variant="h3">What {by} changed</Typography>
      <Differences
        mine={base.data}
        theirs={asPlanned(theirs)}
        sides={{ mine: 'handed over', theirs: `by ${by}` }}
      />
      <Typography variant="h3">What was changed here since</Typography>
      <Differences mine={base.data} theirs={asPlanned(mine)} sides={{ mine: 'handed over', theirs: 'now' }} />
    </>
  );
}
