import type { DiePair } from '../flow/dies.ts';
import type { FlowSpec } from '../flow/run.ts';
import { type Outline, rectangle, regularPolygon } from '../geometry/outline.ts';

/** Numbers from 0 to 1, the same for the same seed (mulberry32). */
export function numbersFrom(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const CELLS = 40;

/** Two steels in layers, as a core, or side by side: cell by cell. */
function twoSteels(
  way: 'layers' | 'core' | 'half',
  layers: number,
  ratio: number,
  swapped: boolean,
): number[] {
  return Array.from({ length: CELLS * CELLS }, (_, k) => {
    const [u, v] = [(k % CELLS) / CELLS, Math.floor(k / CELLS) / CELLS];
    const other =
      way === 'layers'
        ? Math.floor(v * layers) % 2 === 1
        : way === 'core'
          ? Math.hypot(u - 0.5, v - 0.5) < 0.28
          : u < 0.5;
    return other !== swapped ? ratio : 1;
  });
}

/** A pass as anyone might ask for: any section, dies, turn, 2 to 45 % at once, friction 0 to 1, strengths to 10:1. */
export function anyPass(random: () => number): FlowSpec {
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)];
  const flat = { kind: 'flat' } as const;
  const outline = pick<Outline>([
    rectangle(40, 40),
    rectangle(40, 25),
    rectangle(25, 45),
    regularPolygon(24, 1256),
    regularPolygon(8, 1500),
  ]);
  const share = 0.02 + 0.43 * random();
  const turnDeg = pick([0, 45, 90, 180 * random(), 180 * random()]);
  const v = { kind: 'V', angleDeg: pick([90, 120]) } as const;
  const round = { kind: 'round', radiusMm: pick([8, 20]) } as const;
  const wedge = { kind: 'wedge', angleDeg: pick([40, 90]), tipMm: pick([3, 8]) } as const;
  const dies = pick<Omit<DiePair, 'stopsMm'> | undefined>([
    undefined,
    undefined,
    undefined,
    { upper: v, lower: v },
    { upper: round, lower: round },
    { upper: wedge, lower: flat },
    { upper: v, lower: flat },
  ]);
  const ratio = pick([1, 1, 1.2, 2, 3, 5, 10]);
  const layers = Math.ceil(random() * 9) + 1;
  const values = twoSteels(pick(['layers', 'core', 'half'] as const), layers, ratio, random() < 0.3);
  return {
    outline,
    passes: [{ turnDeg, toMm: 0, share, ...(dies && { dies: { ...dies, stopsMm: null } }) }],
    exponent: 0.08 + 0.32 * random(),
    friction: random(),
    biteMm: pick<FlowSpec['biteMm']>([15, 30, 80, 'held', 'free']),
    held: random() < 0.7,
    strength: ratio > 1 ? { size: CELLS, values } : null,
  };
}
