import type { MeasuredQuantity, Reading } from './reading.ts';

/** A stand-in for an instrument: its readings scatter as those of a real one do, and end where its display does. */
export interface Simulated {
  readonly instrument: string;
  readonly quantity: MeasuredQuantity;
  readonly unit: string;
  /** Finest step of the display, and one standard deviation of its readings. Common practice, no source. */
  readonly resolution: number;
  readonly noise: number;
  readonly least: number;
  readonly most: number;
}

export const SIMULATED: readonly Simulated[] = [
  {
    instrument: 'Caliper',
    quantity: 'length',
    unit: 'mm',
    resolution: 0.01,
    noise: 0.015,
    least: 0,
    most: 300,
  },
  { instrument: 'Scale', quantity: 'mass', unit: 'kg', resolution: 0.001, noise: 0.001, least: 0, most: 15 },
  {
    instrument: 'Pyrometer',
    quantity: 'temperature',
    unit: 'C',
    resolution: 1,
    noise: 6,
    least: 20,
    most: 1600,
  },
];

/** What it reads of a true value; `chance` gives numbers from 0 to 1. Box and Muller’s way to the normal distribution. */
export function readingOf(of: Simulated, truth: number, at: string, chance: () => number): Reading {
  const { instrument, quantity, unit, resolution, noise, least, most } = of;
  const normal = Math.sqrt(-2 * Math.log(1 - chance())) * Math.cos(2 * Math.PI * chance());
  const steps = Math.round((truth + noise * normal) / resolution);
  const value = Number(Math.min(most, Math.max(least, steps * resolution)).toFixed(6));
  return { instrument, quantity, value, unit, at };
}
