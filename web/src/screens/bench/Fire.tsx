import { Button, Stack, Typography } from '@mui/material';
import { judge } from '../../../../core/judgement/index.ts';
import { type Evaluation, type StepResult, heatsIn } from '../../../../core/plan/index.ts';
import type { FigureId } from '../../../../core/words/figures.ts';
import { formatTime } from '../../../../core/units/index.ts';
import { Timer } from './Timer.tsx';
import type { Doing } from '../../document/useDoing.ts';

interface FireProps {
  evaluation: Evaluation;
  result: StepResult;
  doing: Doing;
}

/** Into the fire and out of it: how long until it is hot through, how long there is then, and how often it was. */
export function Fire({ evaluation, result, doing }: FireProps) {
  const planned = heatsIn(result.step);
  const { figures } = judge(evaluation, result);
  const seconds = (id: FigureId) => figures.find((f) => f.id === id)?.number;
  const [soak, hand] = [seconds('soak'), seconds('time in hand')];
  const { record, change, begin } = doing;
  const heats = record?.heats ?? 0;
  if (planned === 0 && soak === undefined && !record?.heats) return null;
  const timers = record?.timers ?? [];
  const start = (what: 'soak' | 'hand', s: number) =>
    begin({ what, began: new Date().toISOString(), seconds: Math.round(s) });
  const out = () => {
    change({ heats: heats + 1 });
    if (hand !== undefined) start('hand', hand);
  };
  const inFire = timers.some((t) => t.what === 'soak');
  return (
    <Stack component="section" aria-label="Fire" sx={{ gap: 1 }}>
      {timers
        .filter((t) => t.what !== 'other')
        .map((timer) => (
          <Timer
            key={timer.what + timer.began}
            timer={timer}
            over={timer.what === 'soak' ? 'Hot through: take it out' : 'Too cold: back into the fire'}
            stop={() => change({ timers: timers.filter((t) => t !== timer) })}
          />
        ))}
      <Stack direction="row" useFlexGap sx={{ gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        {soak !== undefined && !inFire && (
          <Button variant="outlined" onClick={() => start('soak', soak)}>
            Into the fire · {formatTime(soak)}
          </Button>
        )}
        <Button variant={inFire ? 'contained' : 'outlined'} onClick={out}>
          {inFire || soak === undefined ? 'Out of the fire' : 'A heat done'}
        </Button>
        <Typography sx={{ ml: 'auto' }} role="status" aria-label="Heats">
          <b>{heats}</b> of {planned} {planned === 1 ? 'heat' : 'heats'}
        </Typography>
        {heats > 0 && (
          <Button variant="text" aria-label="One heat less" onClick={() => change({ heats: heats - 1 })}>
            − 1
          </Button>
        )}
      </Stack>
    </Stack>
  );
}
