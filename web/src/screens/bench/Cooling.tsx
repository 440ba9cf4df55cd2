import { Button, Stack, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { heldAfter } from '../../../../core/days/index.ts';
import { type Evaluation, type StepResult, heatsIn } from '../../../../core/plan/index.ts';
import { isDone, ofTheBar } from '../../../../core/records/record.ts';
import { formatTime } from '../../../../core/units/index.ts';
import { usePace } from '../../document/learning.ts';
import { useDoing } from '../../document/useDoing.ts';

/** A bar that was left so much longer than it needs was cold long before. */
const LEFT_TIMES = 4;
const TICK_MS = 10_000;

/** The move before on the same bar, where it came off the dies and is done. */
function hotBefore({ lanes }: Evaluation, result: StepResult): StepResult | null {
  const steps = lanes.find((l) => l.steps.includes(result))?.steps ?? [];
  const before = steps[steps.indexOf(result) - 1];
  return before && heatsIn(before.step) > 0 && isDone(before.records) ? before : null;
}

/** Before cold work on what came off the dies: how long it cools, and a press when it can be held, from which the shop learns. */
export function Cooling({ evaluation, result }: { evaluation: Evaluation; result: StepResult }) {
  const hot = hotBefore(evaluation, result);
  if (!hot || heatsIn(result.step) > 0 || isDone(result.records)) return null;
  return <Cools evaluation={evaluation} hot={hot} />;
}

function Cools({ evaluation, hot }: { evaluation: Evaluation; hot: StepResult }) {
  const doing = useDoing(hot.step.id);
  const pace = usePace();
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, []);
  const ended = ofTheBar(hot.records).at(-1)?.ended;
  const { shop } = evaluation;
  const neededS = heldAfter(hot.after ?? [], shop) * (pace?.('cooling', hot, shop) ?? 1);
  if (!ended || neededS <= 0 || doing.record?.coolMin !== undefined) return null;
  const sinceS = Math.max(0, (now - Date.parse(ended)) / 1000);
  if (sinceS > LEFT_TIMES * neededS) return null;
  return (
    <Stack
      component="section"
      aria-label="Cooling"
      direction="row"
      useFlexGap
      sx={{ gap: 1, alignItems: 'center', flexWrap: 'wrap' }}
    >
      <Typography role="status" sx={{ flex: '1 1 240px' }}>
        Out of the fire for {formatTime(sinceS)}; it can be held after about <b>{formatTime(neededS)}</b>.
        Black steel burns too: hold the back of the hand over it first.
      </Typography>
      <Button variant="outlined" onClick={() => doing.change({ coolMin: minutesSince(ended) })}>
        It can be held now
      </Button>
    </Stack>
  );
}

/** Whole minutes, at least one. */
const minutesSince = (instant: string): number =>
  Math.max(1, Math.round((Date.now() - Date.parse(instant)) / 60_000));
