import AddIcon from '@mui/icons-material/Add';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Button, IconButton, Stack, Tooltip, Typography } from '@mui/material';
import { createElement } from 'react';
import type { LaneResult, StepResult } from '../../../core/plan/index.ts';
import { sayStep } from '../../../core/plan/index.ts';
import { type MoveKind, type Remedy, moveOf } from '../../../core/steps/index.ts';
import { editorOf } from '../editors/index.ts';
import { AddMove } from './AddMove.tsx';
import { FindingCard } from './FindingCard.tsx';
import { freshStepId, insertStep, removeStep, setParameters } from './planStore.ts';
import { useEvaluation } from './useEvaluation.ts';

const RANK = { error: 0, warning: 1, note: 2, caution: 3 };

/** The selected move: its numbers, what is to be said about it, and the instruction for the bench. */
export function StepColumn({ lane, result }: { lane: LaneResult; result: StepResult }) {
  const { plan, shop } = useEvaluation();
  const { step, findings } = result;
  const at = lane.steps.indexOf(result);
  const change = (some: object) => {
    const merged = { ...(step.parameters as object), ...some };
    const kept = Object.fromEntries(Object.entries(merged).filter(([, value]) => value !== undefined));
    setParameters(step.id, kept, Object.keys(some).join());
  };
  const remedy = (r: Remedy) => {
    if ('set' in r) return change(r.set);
    const kind = r.insertBefore as MoveKind;
    insertStep(lane.lane.id, at, {
      id: freshStepId(plan),
      kind,
      parameters: moveOf(kind).begin(result.before, shop),
    });
  };
  const waiting = result.after === null && !findings.some((f) => f.severity === 'error');
  const said = sayStep(result, shop);
  return (
    <Box
      component="section"
      aria-label={`Move ${at + 1}: ${moveOf(step.kind).title}`}
      sx={{ display: 'flex', flexDirection: 'column', gap: 1.5 }}
    >
      <Stack direction="row" sx={{ justifyContent: 'space-between', alignItems: 'center' }}>
        <Typography variant="h2">{moveOf(step.kind).title}</Typography>
        <Stack direction="row">
          <AddMove lane={lane} at={at + 1}>
            {(open) => (
              <Tooltip title="Put a move after this one">
                <IconButton onClick={open} aria-label="Put a move after this one">
                  <AddIcon />
                </IconButton>
              </Tooltip>
            )}
          </AddMove>
          <Tooltip title="Take this move out">
            <IconButton onClick={() => removeStep(step.id)} aria-label="Take this move out">
              <DeleteOutlineIcon />
            </IconButton>
          </Tooltip>
        </Stack>
      </Stack>
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
      {[...findings]
        .sort((a, b) => RANK[a.severity] - RANK[b.severity])
        .map((f) => (
          <FindingCard key={f.code + f.text} finding={f} onRemedy={remedy} />
        ))}
      {said.length > 0 && (
        <Box>
          <Typography variant="h3" sx={{ mb: 0.5 }}>
            At the bench
          </Typography>
          <Box component="ol" sx={{ m: 0, pl: 2.5, '& li': { mb: 0.5 } }}>
            {said.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </Box>
          <Button size="small" onClick={() => void navigator.clipboard.writeText(said.join('\n'))}>
            Copy the instruction
          </Button>
        </Box>
      )}
    </Box>
  );
}
