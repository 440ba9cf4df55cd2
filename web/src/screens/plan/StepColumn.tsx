import AddIcon from '@mui/icons-material/Add';
import ArrowBackIcon from '@mui/icons-material/ArrowBack';
import ArrowForwardIcon from '@mui/icons-material/ArrowForward';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Button, IconButton, Stack, Tooltip, Typography } from '@mui/material';
import { Fragment, createElement } from 'react';
import { Link, useParams } from 'react-router';
import { isDone } from '../../../../core/records/record.ts';
import { isFourSided } from '../../../../core/render/foreseen.ts';
import { recordSaid } from '../../../../core/records/said.ts';
import type { LaneResult, StepResult } from '../../../../core/plan/index.ts';
import { arrowSign, endMarks, sayStep } from '../../../../core/plan/index.ts';
import { findingsOf, judge } from '../../../../core/judgement/index.ts';
import { type Remedy, type Severity, moveOf } from '../../../../core/moves/index.ts';
import { Asked } from '../../ui/Asked.tsx';
import { fonts, colours } from '../../ui/theme.ts';
import { ShowMe } from '../../benches/show/ShowMe.tsx';
import { editorOf } from '../../editors/index.ts';
import { Expected } from './Expected.tsx';
import { AddMove } from './AddMove.tsx';
import { FindingCard } from '../../ui/FindingCard.tsx';
import { carryOut } from '../../document/carryOut.ts';
import { type Change, changeParameters, removeStep, shiftStep } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';

/** The selected move: its numbers, what is to be said about it, and the instruction for the bench. */
export function StepColumn({ lane, result }: { lane: LaneResult; result: StepResult }) {
  const evaluation = useEvaluation();
  const { shop } = evaluation;
  const { step } = result;
  const { id } = useParams();
  const findings = findingsOf(evaluation, result);
  const { figures } = judge(evaluation, result);
  const at = lane.steps.indexOf(result);
  const change = (some: Change<object>) =>
    changeParameters(step.id, some, typeof some === 'function' ? 'late' : Object.keys(some).join());
  const remedy = (r: Remedy) => carryOut(evaluation, result, r);
  const waiting =
    result.after === null && result.waits === null && !findings.some((f) => f.severity === 'error');
  const bench = sayStep(result, shop);
  const said = (...severities: Severity[]) =>
    severities.flatMap((severity) =>
      findings
        .filter((f) => f.severity === severity)
        .map((f) => <FindingCard key={f.code + f.text} finding={f} onRemedy={remedy} />),
    );
  return (
    <Box
      component="section"
      aria-label={`Move ${at + 1}: ${moveOf(step.kind).title}`}
      sx={{ display: 'flex', flexDirection: 'column', gap: 1.5 }}
    >
      <Stack
        direction="row"
        sx={{
          justifyContent: 'space-between',
          alignItems: 'flex-start',
          position: 'sticky',
          top: -14,
          zIndex: 2,
          background: colours.paper,
          py: 0.5,
        }}
      >
        <Typography variant="h2">{moveOf(step.kind).title}</Typography>
        <Stack direction="row" sx={{ flex: 'none', mr: -1, '& .MuiIconButton-root': { p: 0.6 } }}>
          <AddMove lane={lane} at={at + 1}>
            {(open) => (
              <Tooltip title="Put a move after this one">
                <IconButton onClick={open} aria-label="Put a move after this one">
                  <AddIcon />
                </IconButton>
              </Tooltip>
            )}
          </AddMove>
          <Tooltip title="Move it one earlier">
            <span>
              <IconButton
                disabled={at === 0}
                onClick={() => shiftStep(step.id, -1)}
                aria-label="Move it one earlier"
              >
                <ArrowBackIcon />
              </IconButton>
            </span>
          </Tooltip>
          <Tooltip title="Move it one later">
            <span>
              <IconButton
                disabled={at === lane.steps.length - 1}
                onClick={() => shiftStep(step.id, 1)}
                aria-label="Move it one later"
              >
                <ArrowForwardIcon />
              </IconButton>
            </span>
          </Tooltip>
          <Tooltip title="Take this move out">
            <IconButton onClick={() => removeStep(step.id)} aria-label="Take this move out">
              <DeleteOutlineIcon />
            </IconButton>
          </Tooltip>
        </Stack>
      </Stack>
      <CameHere result={result} />
      {createElement(editorOf(step.kind), {
        key: step.id,
        parameters: step.parameters,
        change,
        before: result.before,
        findings,
        problem: (parameter) =>
          findings.find((f) => f.parameter === parameter && f.severity === 'error')?.text,
      })}
      {waiting && <Typography color="text.secondary">Waits for an earlier move to be mended.</Typography>}
      {said('error', 'waiting', 'warning', 'note')}
      {figures.length > 0 && (
        <Box>
          <Typography variant="h3" sx={{ mb: 0.5 }}>
            Figures
          </Typography>
          <Box
            component="dl"
            sx={{
              m: 0,
              display: 'grid',
              gridTemplateColumns: 'minmax(0, 1fr) auto',
              columnGap: 1.5,
              rowGap: 0.4,
            }}
          >
            {figures.map((figure, i) => (
              <Fragment key={i}>
                <dt>{figure.what}</dt>
                <Box component="dd" sx={{ m: 0, textAlign: 'right' }}>
                  <Asked figure={figure} />
                </Box>
              </Fragment>
            ))}
          </Box>
        </Box>
      )}
      <Expected result={result} />
      {said('caution')}
      {moveOf(step.kind).cuts && <EndMarks result={result} />}
      {bench.length > 0 && (
        <Box>
          <Typography variant="h3" sx={{ mb: 0.5 }}>
            At the bench
          </Typography>
          <Box component="ol" sx={{ m: 0, pl: 2.5, '& li': { mb: 0.5 } }}>
            {bench.map((line, i) => (
              <li key={i}>{line}</li>
            ))}
          </Box>
          <ShowMe evaluation={evaluation} result={result} size="small" />
          {result.after?.some(isFourSided) && (
            <Button size="small" component={Link} to={`/pieces/${id}/bench?move=${step.id}`}>
              Photograph an end
            </Button>
          )}
          {/* Over plain HTTP in the shop's network a browser has no clipboard. */}
          {'clipboard' in navigator && (
            <Button size="small" onClick={() => void navigator.clipboard.writeText(bench.join('\n'))}>
              Copy the instruction
            </Button>
          )}
        </Box>
      )}
    </Box>
  );
}

/** What was written of it at the bench; of a move that is done, how its numbers are opened again. */
function CameHere({ result }: { result: StepResult }) {
  const { shop } = useEvaluation();
  const { id } = useParams();
  const { records, step } = result;
  if (records.length === 0) return null;
  const done = isDone(records);
  return (
    <Box
      sx={{ p: 1.25, borderRadius: 1, background: colours.verdigrisWash }}
      role="status"
      aria-label="At the bench"
    >
      <Typography variant="h3">{done ? 'Done' : 'Being done'}</Typography>
      {records.map((record) => (
        <Fragment key={record.id}>
          {recordSaid(record, shop).map((line) => (
            <div key={line}>{line}</div>
          ))}
          {record.remark && <Box sx={{ fontStyle: 'italic' }}>{record.remark}</Box>}
        </Fragment>
      ))}
      <Button size="small" component={Link} to={`/pieces/${id}/bench?move=${step.id}`} sx={{ ml: -0.75 }}>
        {done ? 'Open it again at the bench' : 'To the bench'}
      </Button>
    </Box>
  );
}

/** How each piece will lie, once an assembly says so. */
function EndMarks({ result }: { result: StepResult }) {
  const marks = endMarks(useEvaluation(), result);
  if (marks.length === 0) return null;
  return (
    <Box>
      <Typography variant="h3" sx={{ mb: 0.25 }}>
        How the pieces will lie
      </Typography>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 0.5 }}>
        Row · place, the end in front, and where the arrow then points: write it on each before sawing.
      </Typography>
      <Box
        component="ul"
        sx={{ m: 0, p: 0, listStyle: 'none', display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 0.5 }}
      >
        {marks.map((m) => (
          <li key={m.piece}>
            {m.piece} to{' '}
            <b style={{ fontFamily: fonts.numbers }}>
              {m.place} {m.front}
              {arrowSign(m.arrow)}
            </b>
          </li>
        ))}
      </Box>
    </Box>
  );
}
