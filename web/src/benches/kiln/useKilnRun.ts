import { useEffect, useRef, useState } from 'react';
import { type Kiln, type KilnProgram, legsOf } from '../../../../core/kiln/program.ts';
import { type KilnReading, SimulatedKiln } from '../../../../core/kiln/simulated.ts';

/** How often the simulated controller is read, ms. */
const TICK_MS = 100;
/** Readings kept for the plot, at most about so many. */
const KEPT = 600;

export interface KilnRun {
  readonly state: 'ready' | 'running' | 'paused' | 'done';
  readonly readings: readonly KilnReading[];
  readonly speed: number;
  setSpeed(speed: number): void;
  start(): void;
  pause(): void;
  reset(): void;
}

/** A run of the simulated kiln that ships with the application, its clock so many times as fast as ours. */
export function useKilnRun(program: KilnProgram, kiln: Kiln): KilnRun {
  const [state, setState] = useState<KilnRun['state']>('ready');
  const [readings, setReadings] = useState<readonly KilnReading[]>([]);
  const [speed, setSpeed] = useState(600);
  const running = useRef<SimulatedKiln>(null);
  useEffect(() => {
    if (state !== 'running') return;
    const legs = legsOf(program, kiln);
    const every = Math.max(1, legs[legs.length - 1].endS / KEPT);
    const timer = setInterval(() => {
      const device = running.current!;
      const fresh: KilnReading[] = [];
      for (let left = (speed * TICK_MS) / 1000; left > 0 && !device.reading.done; left -= every)
        fresh.push(device.pass(Math.min(every, left)));
      if (fresh.length > 0) setReadings((all) => [...all, ...fresh]);
      if (device.reading.done) setState('done');
    }, TICK_MS);
    return () => clearInterval(timer);
  }, [state, speed, program, kiln]);
  const reset = () => {
    running.current = null;
    setReadings([]);
    setState('ready');
  };
  return {
    state,
    readings,
    speed,
    setSpeed,
    start: () => {
      if (!running.current || state === 'done') {
        running.current = new SimulatedKiln(kiln, program);
        setReadings([running.current.reading]);
      }
      setState('running');
    },
    pause: () => setState('paused'),
    reset,
  };
}
