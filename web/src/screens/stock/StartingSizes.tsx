import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Alert, Box, Button, Checkbox, Typography } from '@mui/material';
import {
  type Evaluation,
  type Plan,
  type Start,
  type Step,
  allStarts,
  chosenFree,
  laneMark,
  withStarts,
} from '../../../../core/plan/index.ts';
import { divisionMm, formatLength } from '../../../../core/units/index.ts';
import { startFigure } from '../../../../core/judgement/index.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { Asked } from '../../ui/Asked.tsx';
import { ShowStep } from '../../benches/ShowStep.tsx';
import { editPlan } from '../../document/planStore.ts';
import { startText, useStart } from '../../document/useStart.ts';
import { Section } from '../../ui/Section.tsx';

const firstStep = (plan: Plan, { laneId }: Start): Step | undefined =>
  plan.lanes.find((l) => l.id === laneId)?.steps[0];

/** Working backward: which numbers of the starts are free, what they are, and what they must be for the goal. */
export function StartingSizes({ evaluation }: { evaluation: Evaluation }) {
  const { plan, shop } = evaluation;
  const { value, asking, error } = useStart(plan);
  // An answer for the plan as it was is no answer.
  const answer = asking ? null : value;
  const starts = allStarts(plan);
  const many = new Set(starts.map((s) => s.laneId)).size > 1;
  const half = divisionMm(shop.lengths) / 2;
  const needed = (s: Start) =>
    answer?.ok ? answer.starts.find((a) => a.stepId === s.stepId && a.number === s.number) : undefined;
  const differs = starts.some((s) => {
    const must = needed(s);
    return must && Math.abs(must.value - s.value) > (s.whole ? 0.5 : half);
  });
  const isFree = (s: Start) => {
    const step = firstStep(plan, s);
    return step !== undefined && chosenFree(plan, step).includes(s.number);
  };
  const toggle = (s: Start) =>
    editPlan((p) => {
      const step = firstStep(p, s);
      if (!step) return p;
      const now = chosenFree(p, step);
      const free = now.includes(s.number) ? now.filter((n) => n !== s.number) : [...now, s.number];
      return { ...p, free: { ...p.free, [s.stepId]: free } };
    }, `free ${s.stepId} ${s.number}`);
  if (error)
    return (
      <Section title="Starting sizes">
        <Alert severity="error">Working backward failed: {error}</Alert>
      </Section>
    );
  return (
    <Section title="Starting sizes">
      <Typography variant="body2" color="text.secondary">
        Worked backward from {formatLength(plan.goal.lengthMm, shop.lengths)} of finished bar. Tick what may
        change.
      </Typography>
      {starts.length === 0 && <Typography>There is no starting stack yet.</Typography>}
      {starts.length > 0 && (
        <FiguresTable
          heads={[...(many ? ['Bar'] : []), 'Free', 'Is', 'Must be']}
          right={['Is', 'Must be']}
          tight
        >
          {starts.map((s) => {
            const must = needed(s);
            return (
              <tr key={s.stepId + s.number}>
                {many && (
                  <td style={{ fontFamily: fonts.numbers, fontWeight: 700 }}>{laneMark(plan, s.laneId)}</td>
                )}
                <td style={{ whiteSpace: 'nowrap' }}>
                  <label>
                    <Checkbox size="small" checked={isFree(s)} onChange={() => toggle(s)} sx={{ p: 0.4 }} />
                    {s.label}
                  </label>
                </td>
                <td style={{ textAlign: 'right', fontFamily: fonts.numbers, whiteSpace: 'nowrap' }}>
                  {startText(s, shop)}
                </td>
                <td
                  style={{
                    textAlign: 'right',
                    fontFamily: fonts.numbers,
                    fontWeight: 700,
                    whiteSpace: 'nowrap',
                  }}
                >
                  {must && answer?.ok ? (
                    <Asked figure={startFigure(evaluation, must, startText(must, shop), answer.reachesMm)} />
                  ) : (
                    <span style={{ color: colours.faded, fontWeight: 400 }}>held</span>
                  )}
                </td>
              </tr>
            );
          })}
        </FiguresTable>
      )}
      <Box role="status" aria-label="Worked backward" sx={{ display: 'grid', gap: 1 }}>
        {!answer && <Typography color="text.secondary">Working backward…</Typography>}
        {answer && !answer.ok && (
          <Alert severity="error" action={answer.stepId ? <ShowStep stepId={answer.stepId} /> : undefined}>
            {answer.reason}
          </Alert>
        )}
        {answer?.ok && (
          <Typography>
            Comes to{' '}
            <b style={{ fontFamily: fonts.numbers }}>{formatLength(answer.reachesMm, shop.lengths)}</b>, run
            forward.
          </Typography>
        )}
      </Box>
      {starts.length > 0 && (
        <Button
          variant="contained"
          disabled={!answer?.ok || !differs}
          onClick={() => answer?.ok && editPlan((p) => withStarts(p, answer.starts), 'start')}
        >
          Set these sizes
        </Button>
      )}
    </Section>
  );
}
