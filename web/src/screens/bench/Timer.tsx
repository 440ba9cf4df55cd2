import { Box, Button, Stack, Typography } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { type BenchTimer, TIMERS } from '../../../../core/records/record.ts';
import { fire } from '../../ui/fireTheme.ts';

const two = (n: number): string => String(n).padStart(2, '0');

/** As a clock shows it; past its end with a plus. */
function clockText(seconds: number): string {
  const over = seconds < 0;
  const whole = over ? Math.floor(-seconds) : Math.ceil(seconds);
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  return `${over ? '+' : ''}${h > 0 ? `${h}:${two(m)}` : m}:${two(s)}`;
}

/** What is left by the clock, s: a page that slept, or was opened anew, goes on right. */
function useLeft({ began, seconds }: BenchTimer): number {
  const leftNow = () => seconds - (Date.now() - Date.parse(began)) / 1000;
  const [left, setLeft] = useState(leftNow);
  useEffect(() => {
    const tick = () => setLeft(seconds - (Date.now() - Date.parse(began)) / 1000);
    tick();
    const timer = setInterval(tick, 250);
    document.addEventListener('visibilitychange', tick);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', tick);
    };
  }, [began, seconds]);
  return left;
}

/** Three tones, each a third of a second. */
function ring(): void {
  try {
    const audio = new AudioContext();
    for (let i = 0; i < 3; i++) {
      const tone = audio.createOscillator();
      const gain = audio.createGain();
      gain.gain.value = 0.4;
      tone.frequency.value = 880;
      tone.connect(gain).connect(audio.destination);
      tone.start(audio.currentTime + i * 0.45);
      tone.stop(audio.currentTime + i * 0.45 + 0.3);
    }
    setTimeout(() => void audio.close(), 2000);
  } catch {
    // No sound here: it flashes.
  }
}

interface TimerProps {
  timer: BenchTimer;
  /** What it says when it is over. */
  over: string;
  stop(): void;
}

/** A timer in large figures; it rings and flashes when it is over. */
export function Timer({ timer, over, stop }: TimerProps) {
  const left = useLeft(timer);
  const isOver = left <= 0;
  const rang = useRef(isOver);
  useEffect(() => {
    if (isOver && !rang.current) ring();
    rang.current = isOver;
  }, [isOver]);
  return (
    <Stack
      direction="row"
      role="timer"
      aria-label={timer.label ?? TIMERS[timer.what]}
      sx={{
        alignItems: 'center',
        gap: 2,
        px: 2,
        py: 1,
        borderRadius: 1,
        border: `2px solid ${isOver ? fire.alarm : fire.line}`,
        background: isOver ? fire.alarmGround : fire.raised,
        '@media (prefers-reduced-motion: no-preference)': isOver
          ? { animation: 'flash 1s steps(2) 20', '@keyframes flash': { to: { background: fire.raised } } }
          : {},
      }}
    >
      <Typography
        variant="numbers"
        sx={{ fontSize: 52, lineHeight: 1, color: isOver ? fire.alarm : fire.ember }}
      >
        {clockText(left)}
      </Typography>
      <Box sx={{ flex: 1 }}>{isOver ? over : (timer.label ?? TIMERS[timer.what])}</Box>
      <Button variant="outlined" onClick={stop}>
        Stop
      </Button>
    </Stack>
  );
}
