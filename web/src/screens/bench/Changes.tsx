import { Box, Button, CircularProgress, Stack, Typography } from '@mui/material';
import { useMemo } from 'react';
import {
  type Evaluation,
  type Goal,
  type GoalResult,
  type Rescue,
  changedBetween,
  flowsAwaited,
  sharing,
} from '../../../../core/plan/index.ts';
import { sizeOf } from '../../../../core/billet/billet.ts';
import { moveOf } from '../../../../core/moves/index.ts';
import { formatSizes } from '../../../../core/units/index.ts';
import type { LengthDisplay } from '../../../../core/units/length.ts';
import { useRole } from '../../document/door.ts';
import { editPlan } from '../../document/planStore.ts';
import { useAsked } from '../../document/useAsked.ts';
import { ask } from '../../document/workers/host.ts';
import { fire } from '../../ui/fireTheme.ts';

const sizesText = ({ lengthMm, widthMm, thicknessMm }: Goal, lengths: LengthDisplay): string =>
  formatSizes([lengthMm, widthMm, thicknessMm], lengths);

function barText({ bar }: GoalResult, lengths: LengthDisplay): string {
  if (!bar) return 'no finished bar';
  const { widthMm, heightMm } = sizeOf(bar);
  return sizesText({ lengthMm: bar.lengthMm, widthMm, thicknessMm: heightMm }, lengths);
}

/** What the finished bar now comes to, which of the next targets are others than planned, and what can be done where the goal is lost. */
export function Changes({ stands, planned }: { stands: Evaluation; planned: Evaluation }) {
  const { lengths } = stands.shop;
  const { before, after, targets } = useMemo(() => changedBetween(planned, stands), [planned, stands]);
  const waits = flowsAwaited(stands).length > 0;
  if (!stands.plan.records) return null;
  const [was, is] = [barText(before, lengths), barText(after, lengths)];
  return (
    <Stack component="section" aria-label="What it changes" sx={{ gap: 1 }}>
      <Box
        role="status"
        aria-label="Finished bar"
        sx={{ color: after.reached ? fire.right : waits ? fire.ink : fire.alarm }}
      >
        {waits
          ? 'Working out how the section flows …'
          : !after.bar
            ? `There is no finished bar as it stands (planned ${was}).`
            : was === is
              ? `The finished bar stays ${is}: the goal ${after.reached ? 'holds' : 'does not hold'}.`
              : `The finished bar comes to ${is} (planned ${was})${after.reached ? ': the goal holds.' : `: the goal of ${sizesText(stands.plan.goal, lengths)} does not hold.`}`}
      </Box>
      {targets.length > 0 && (
        <Box component="details">
          <Box component="summary" sx={{ minHeight: 56, display: 'list-item', py: 1.5, cursor: 'pointer' }}>
            {targets.length === 1 ? 'One later move is' : `${targets.length} later moves are`} other than
            planned
          </Box>
          {targets.map(({ result, now, stopped }) => (
            <Box key={result.step.id} sx={{ borderTop: `1px solid ${fire.line}`, py: 1 }}>
              <b>{moveOf(result.step.kind).title}</b>
              {stopped && (
                <Typography color="error">
                  cannot be done any more:{' '}
                  {result.findings.find((f) => f.severity === 'error')?.text ??
                    'an earlier move stands in the way.'}
                </Typography>
              )}
              {now.map((text) => (
                <Typography key={text}>{text}</Typography>
              ))}
            </Box>
          ))}
        </Box>
      )}
      {!after.reached && !waits && <Rescues stands={stands} />}
    </Stack>
  );
}

/** Ways to a finished bar from what is there, each with what it comes to. */
function Rescues({ stands }: { stands: Evaluation }) {
  const { plan, shop } = stands;
  const ofBench = useRole() === 'bench';
  const question = useMemo(() => () => ask('answers', (api) => api.rescues(plan)), [plan]);
  const { value, asking, error } = useAsked<Rescue[]>(question);
  if (error) return <Typography color="error">Ways on could not be worked out: {error}</Typography>;
  if (asking || !value) return <CircularProgress aria-label="Working out ways on" />;
  if (value.length === 0)
    return <Typography>No single change brings it back to the goal: change the plan at the desk.</Typography>;
  return (
    <Stack sx={{ gap: 1 }}>
      <Typography variant="h2">What can be done</Typography>
      {ofBench && (
        <Typography>Press one of these at the shop’s computer: this device is for the bench.</Typography>
      )}
      {value.map((rescue) => (
        <Button
          key={rescue.id}
          variant="outlined"
          disabled={ofBench}
          onClick={() => editPlan((now) => sharing(rescue.plan, now), `rescue ${rescue.id}`)}
          sx={{ justifyContent: 'space-between', gap: 2, textAlign: 'left' }}
        >
          <span>{rescue.title}</span>
          <Box component="span" sx={{ color: fire.right, textAlign: 'right', flex: 'none' }}>
            {sizesText(rescue.comes, shop.lengths)}
          </Box>
        </Button>
      ))}
    </Stack>
  );
}
