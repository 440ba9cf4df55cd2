import { Box, Button, Stack } from '@mui/material';
import { useState } from 'react';
import { type KilnProgram, legsOf } from '../../../../core/kiln/program.ts';
import { type Evaluation, type StepResult, kilnPrograms } from '../../../../core/plan/index.ts';
import { formatTime } from '../../../../core/units/index.ts';
import { type BenchTimer, ETCH_TIMER, timersStopped } from '../../../../core/records/record.ts';
import type { Doing } from '../../document/useDoing.ts';
import { Timer } from './Timer.tsx';

/** Common practice, no source; how strong the etchant is decides. */
const ETCH_MIN = 10;
const MINUTES = [5, 15, 30, 60] as const;

interface Timed {
  readonly label: string;
  readonly seconds: number;
}

/** Each leg of a program until its hold ends, if the kiln keeps to it. */
const legsTimed = (program: KilnProgram, { shop }: Evaluation): Timed[] =>
  legsOf(program, shop.kiln).map(({ beginS, endS }, i) => ({
    label: `${program.name}, leg ${i + 1}`,
    seconds: endS - beginS,
  }));

interface OtherTimerProps {
  evaluation: Evaluation;
  result: StepResult;
  doing: Doing;
}

/** A timer for what is no heat: a leg of the kiln, a dip in the etchant, so many minutes. It goes on beside those of the fire. */
export function OtherTimer({ evaluation, result: { step }, doing }: OtherTimerProps) {
  const [open, setOpen] = useState(false);
  const timer = doing.record?.timers?.find((t) => t.what === 'other');
  const stop = (timer: BenchTimer) =>
    doing.change((is) => timersStopped(is, new Date().toISOString(), (t) => t.began === timer.began));
  if (timer)
    return (
      <Box sx={{ flex: '1 1 100%' }}>
        <Timer
          key={timer.began}
          timer={timer}
          over={`${timer.label ?? 'Timer'}: time is up`}
          stop={() => stop(timer)}
        />
      </Box>
    );
  if (doing.done) return null;
  const offered: Timed[] = [
    { label: ETCH_TIMER, seconds: 60 * (step.kind === 'etch' ? step.parameters.minutesEach : ETCH_MIN) },
    ...kilnPrograms(evaluation).flatMap((program) => legsTimed(program, evaluation)),
    ...MINUTES.map((min) => ({ label: `${min} minutes`, seconds: 60 * min })),
  ];
  const start = ({ label, seconds }: Timed) => {
    doing.begin({ what: 'other', began: new Date().toISOString(), seconds: Math.round(seconds), label });
    setOpen(false);
  };
  return (
    <Box>
      <Button variant="outlined" aria-expanded={open} onClick={() => setOpen(!open)}>
        Timer
      </Button>
      {open && (
        <Stack
          role="group"
          aria-label="Timers"
          direction="row"
          useFlexGap
          sx={{ gap: 1, mt: 1, flexWrap: 'wrap' }}
        >
          {offered.map((one) => (
            <Button key={one.label} variant="outlined" onClick={() => start(one)}>
              {one.label.endsWith('minutes') ? one.label : `${one.label} · ${formatTime(one.seconds)}`}
            </Button>
          ))}
        </Stack>
      )}
    </Box>
  );
}
