import { type Four, type Point, inverted, through, toCorners } from './homography.ts';
import { seenAt } from './lean.ts';
import type { Photo } from './photo.ts';
import { type Tones, sampled } from './tones.ts';
import { STILL, type Warp, warped } from './warp.ts';

const DEG = Math.PI / 180;

/**
 * A camera that stands in for the real one: an etched end as it would be photographed, of a bar that came out otherwise than foreseen
 * by a fault of one's choice. For the demo, for training and for tests; what it makes is never a photograph of steel.
 */
export interface Shot {
  /** The section as foreseen, seen on end B. mm */
  readonly tones: Tones;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly end: 'A' | 'B';
  /** How the pattern lies otherwise: where a point of the real section lies in the foreseen one. */
  readonly fault?: Warp;
  /** To the right, degrees. */
  readonly leansDeg?: number;
  /** How the camera is held: tipped, and turned round its axis. Degrees */
  readonly tippedDeg?: readonly [number, number];
  readonly rolledDeg?: number;
  readonly sizePx?: number;
  /** Dots over which the picture is blurred either way. */
  readonly blurPx?: number;
  /** How bright a light shines in the end, 0 to 1. */
  readonly shine?: number;
  /** How bright it is behind the bar, from black to a white card; and how bright the light is. */
  readonly background?: number;
  readonly light?: number;
  /** Of the grain and the background. */
  readonly seed?: number;
}

/** What may be chosen to be off about the bar, and about the picture. */
export const FAULTS = {
  turned: { label: 'Pattern turned', unit: '°', least: -8, most: 8, step: 0.5, usual: 3 },
  leans: { label: 'Leans to the right', unit: '°', least: -6, most: 6, step: 0.5, usual: 0 },
  tipped: { label: 'Camera tipped', unit: '°', least: -15, most: 15, step: 1, usual: 6 },
  blur: { label: 'Blur', unit: ' px', least: 0, most: 12, step: 1, usual: 1 },
  shine: { label: 'A light shines in it', unit: '', least: 0, most: 1, step: 0.1, usual: 0.1 },
  light: { label: 'How light it is', unit: '', least: 0.4, most: 1.3, step: 0.1, usual: 1 },
  background: { label: 'Background, black to white', unit: '', least: 0, most: 1, step: 0.1, usual: 0.6 },
} as const;

export type Faults = Record<keyof typeof FAULTS, number>;

/** A shot of an end with such faults. */
export const shotWith = (end: 'A' | 'B', faults: Faults) => ({
  end,
  fault: { ...STILL, turn: faults.turned * DEG },
  leansDeg: faults.leans,
  tippedDeg: [faults.tipped, -faults.tipped / 2] as const,
  blurPx: faults.blur,
  shine: faults.shine,
  light: faults.light,
  background: faults.background,
});

export interface Shown {
  readonly photo: Photo;
  /** The true corners, clockwise to the eye. px */
  readonly corners: Four;
  readonly focalPx: number;
}

const FOCAL = 4.5;
/** As bright as grey cloth. */
const CLOTH = 0.62;
const FILLS = 0.62;

/** Numbers that look random and are the same for the same seed (Marsaglia's xorshift), 0 to 1. */
function grainOf(seed: number): () => number {
  let state = (seed * 2654435761 + 1) >>> 0 || 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    state >>>= 0;
    return state / 2 ** 32;
  };
}

const CLOCKWISE: Four = [
  [-1, 1],
  [1, 1],
  [1, -1],
  [-1, -1],
];

/** Takes the picture. */
export function photographed(shot: Shot): Shown {
  const { tones, end, fault = STILL, sizePx = 900, seed = 1, blurPx = 1, shine = 0, light: lit = 1 } = shot;
  const background = shot.background ?? CLOTH;
  const mirrored = end === 'A';
  const focalPx = FOCAL * sizePx;
  const camera = { focalPx, middle: [sizePx / 2, sizePx / 2] as const };
  const sizes = { acrossMm: shot.widthMm, heightMm: shot.heightMm };
  const z = (focalPx * Math.max(shot.widthMm, shot.heightMm)) / (FILLS * sizePx);
  const [a, b] = shot.tippedDeg ?? [6, -4];
  const pose = [(shot.leansDeg ?? 0) * DEG, a * DEG, b * DEG, (shot.rolledDeg ?? 3) * DEG, 0, 0, z];
  // The corners to the eye, each with where it lies on end B.
  const onB = CLOCKWISE.map(([x, y]): Point => [mirrored ? -x : x, y]);
  const corners = onB.map((corner) => seenAt(pose, corner, sizes, mirrored, camera)) as unknown as Four;
  const back = inverted(toCorners(corners));
  const grain = grainOf(seed);
  const grey = new Float32Array(sizePx * sizePx);
  const inside = new Uint8Array(sizePx * sizePx);
  for (let py = 0; py < sizePx; py++)
    for (let px = 0; px < sizePx; px++) {
      const at = py * sizePx + px;
      const [x, y] = through(back, [px + 0.5, py + 0.5]);
      const noise = 0.03 * (grain() - 0.5);
      if (Math.max(Math.abs(x), Math.abs(y)) > 1) {
        grey[at] = background + 0.05 * Math.sin(px / 37) * Math.cos(py / 53) + 2 * noise;
        continue;
      }
      const [u, v] = warped(fault, mirrored ? -x : x, y);
      const light = lit * (0.9 + 0.15 * ((px - py) / sizePx));
      const glare = shine * Math.exp(-(((x - 0.3) ** 2 + (y - 0.2) ** 2) / 0.05));
      grey[at] = light * (0.08 + 0.8 * sampled(tones, u, v)) + glare + noise;
      inside[at] = 1;
    }
  const soft = blurred(grey, sizePx, blurPx);
  const rgba = new Uint8Array(4 * sizePx * sizePx);
  const to = (value: number) => Math.max(0, Math.min(255, Math.round(255 * value)));
  for (let i = 0; i < soft.length; i++) {
    // Cloth is bluish, steel is not.
    const blue = inside[i] ? 1 : 1.15;
    rgba.set([to(soft[i]), to(soft[i]), to(blue * soft[i]), 255], 4 * i);
  }
  return { photo: { width: sizePx, height: sizePx, rgba }, corners, focalPx };
}

/** The mean over a square window about every dot. */
function blurred(grey: Float32Array, n: number, r: number): Float32Array {
  if (r <= 0) return grey;
  const across = (from: Float32Array): Float32Array => {
    const made = new Float32Array(n * n);
    for (let j = 0; j < n; j++)
      for (let i = 0; i < n; i++) {
        let sum = 0;
        for (let k = -r; k <= r; k++) sum += from[j * n + Math.max(0, Math.min(n - 1, i + k))];
        made[i * n + j] = sum / (2 * r + 1);
      }
    return made;
  };
  return across(across(grey));
}
