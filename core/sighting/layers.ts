import { onEndB } from './steps.ts';
import { type Tones, sampled, slopes } from './tones.ts';
import { type Warp, warpedAll } from './warp.ts';

/** The disc in the middle in which the layers are looked at, in half sides. */
const DISC = 0.6;
/** Dots a side at which the layers are looked at, and how far apart the map's slopes are taken. */
const DOTS = 160;
const APART = 4;

/** Sizes of a section, mm. */
interface Section {
  readonly widthMm: number;
  readonly heightMm: number;
}

/** The slope of the foreseen tones at a point, and the same where it is seen, as on end B and in mm; (x, y) is the point seen, in half sides. */
type Visit = (
  at: readonly [number, number],
  foreseen: readonly [number, number],
  seen: readonly [number, number],
) => void;

function eachSlope(warp: Warp, k: number, predicted: Tones, { widthMm, heightMm }: Section, visit: Visit) {
  const { dx, dy } = slopes(predicted);
  const places = warpedAll(warp, DOTS);
  const back = (i: number, j: number) => {
    const at = 2 * (j * DOTS + i);
    return onEndB(k, places[at], places[at + 1]);
  };
  const h = (4 * APART) / DOTS;
  for (let j = APART; j < DOTS - APART; j++)
    for (let i = APART; i < DOTS - APART; i++) {
      const [u, v] = back(i, j);
      const [gx, gy] = [sampled(dx, u, v) / widthMm, sampled(dy, u, v) / heightMm];
      // The same slope where it is seen: by the map's own slopes, laid over onto end B.
      const [right, left] = [back(i + APART, j), back(i - APART, j)];
      const [up, down] = [back(i, j - APART), back(i, j + APART)];
      const hx = (gx * widthMm * (right[0] - left[0]) + gy * heightMm * (right[1] - left[1])) / h;
      const hy = (gx * widthMm * (up[0] - down[0]) + gy * heightMm * (up[1] - down[1])) / h;
      const [ox, oy] = onEndB(k, hx, hy);
      visit([(2 * i + 1) / DOTS - 1, 1 - (2 * j + 1) / DOTS], [gx, gy], [ox / widthMm, oy / heightMm]);
    }
}

/** Towards which side layers are looked at, as seen on end B. */
export const TOWARDS = ['top', 'right', 'bottom', 'left'] as const;
type Towards = (typeof TOWARDS)[number];

/** From here on a point counts for the side it lies towards, in half sides. */
const OUTER = 1 / 3;

const isTowards: Readonly<Record<Towards, (x: number, y: number) => boolean>> = {
  top: (_, y) => y > OUTER,
  right: (x) => x > OUTER,
  bottom: (_, y) => y < -OUTER,
  left: (x) => x < -OUTER,
};

/** How the layers lie against the foreseen ones, seen on end B. */
interface LayersSeen {
  /** By how much those in the middle run turned, counter-clockwise: the angle between their normals, each counted by how strongly a layer shows there. */
  readonly turnedDeg: number;
  /** How many times as thick as foreseen they are towards each side, by the spacing along their normals. */
  readonly thick: Readonly<Record<Towards, number>>;
}

export function layersSeen(warp: Warp, k: number, predicted: Tones, section: Section): LayersSeen {
  let [c, s] = [0, 0];
  const sums = { top: [0, 0], right: [0, 0], bottom: [0, 0], left: [0, 0] };
  eachSlope(warp, k, predicted, section, ([x, y], [gx, gy], [px, py]) => {
    const weight = Math.hypot(gx, gy);
    const seen = Math.hypot(px, py);
    if (weight === 0 || seen === 0) return;
    if (Math.hypot(x, y) <= DISC) {
      const angle = 2 * (Math.atan2(py, px) - Math.atan2(gy, gx));
      c += weight * Math.cos(angle);
      s += weight * Math.sin(angle);
    }
    const [bx, by] = onEndB(k, x, y);
    for (const side of TOWARDS)
      if (isTowards[side](bx, by)) {
        sums[side][0] += weight * Math.log(weight / seen);
        sums[side][1] += weight;
      }
  });
  const of = ([sum, weight]: number[]) => (weight > 0 ? Math.exp(sum / weight) : 1);
  return {
    turnedDeg: (0.5 * Math.atan2(s, c) * 180) / Math.PI,
    thick: { top: of(sums.top), right: of(sums.right), bottom: of(sums.bottom), left: of(sums.left) },
  };
}
