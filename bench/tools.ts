import { SIZE } from './plans.ts';

/** Best and middle of several timings, ms. */
export function time(runs: number, work: () => void): { best: number; middle: number } {
  const all = Array.from({ length: runs }, () => {
    const from = performance.now();
    work();
    return performance.now() - from;
  }).sort((a, b) => a - b);
  return { best: all[0], middle: all[all.length >> 1] };
}

export const rate = (ms: number): string => `${(SIZE ** 2 / 1000 / ms).toFixed(1)} Mpx/s`;
export const line = (what: string, value: string): void => console.log(`${what.padEnd(58)} ${value}`);
