import { type Grey, cropped, greyAt, momentsOf, resampled, softened } from './grey.ts';

/** The seventeen plane groups by their short names (International Tables for Crystallography, vol. A). */
export const PLANE_GROUPS = {
  p1: 'it only repeats',
  p2: 'half turns',
  pm: 'mirrors one way',
  pg: 'glides: mirrored and half a step on',
  cm: 'mirrors one way, every other row half a step on',
  pmm: 'mirrors both ways',
  pmg: 'mirrors one way, glides the other',
  pgg: 'glides both ways',
  cmm: 'mirrors both ways, every other row half a step on',
  p4: 'quarter turns',
  p4m: 'quarter turns, and mirrors four ways',
  p4g: 'quarter turns, mirrors aslant',
  p3: 'third turns',
  p3m1: 'third turns, mirrors through every centre',
  p31m: 'third turns, mirrors through some centres',
  p6: 'sixth turns',
  p6m: 'sixth turns, and mirrors six ways',
} as const;
export type PlaneGroup = keyof typeof PLANE_GROUPS;

/** One repeat of a picture along and up, in its dots. */
export interface Lattice {
  readonly alongPx: number;
  readonly upPx: number;
}

/** A picture agrees with itself, moved, from this correlation on: trimming and painting spoil the rest (handbook, wish). */
const AGREES = 0.75;
/** Of a step that a shift may be off and still be none, or half of one. */
const ABOUT = 0.16;
/** Sides that differ by no more may be turned into one another: a face is trimmed, and nearly square is square. */
const SQUARE = 0.12;
const HEXAGON = 0.08;
/** Of the picture at most: the rest is where it is moved to. */
const MOST_OF_IT = 0.5;

/** Dots that run together first: a hair's breadth of trim moves the finest lines past one another, and no eye minds. */
const SOFT = 1;

/** Dots, and places, left out at first. */
const SKIPPED = 2;

interface Match {
  readonly correlation: number;
  readonly dx: number;
  readonly dy: number;
}

/** Where a part agrees best with a picture; only every other dot of it is asked first. */
function bestMatch(
  picture: Grey,
  part: Grey,
  isAllowed: (dx: number, dy: number) => boolean,
  home: readonly [number, number],
): Match {
  const { deviation, mean } = momentsOf(part.values);
  let best: Match = { correlation: -1, dx: 0, dy: 0 };
  if (deviation < 1e-6) return best;
  const at = (left: number, top: number, step: number): number => {
    let [sum, square, cross, n] = [0, 0, 0, 0];
    for (let row = 0; row < part.height; row += step)
      for (let column = 0; column < part.width; column += step) {
        const v = picture.values[(top + row) * picture.width + left + column];
        sum += v;
        square += v * v;
        cross += v * (part.values[row * part.width + column] - mean);
        n++;
      }
    const spread = Math.sqrt(Math.max(0, square / n - (sum / n) ** 2));
    return spread < 1e-6 ? 0 : cross / (n * deviation * spread);
  };
  const look = (left: number, top: number, step: number): void => {
    const inside =
      left >= 0 && top >= 0 && left + part.width <= picture.width && top + part.height <= picture.height;
    const [dx, dy] = [left - home[0], top - home[1]];
    if (!inside || !isAllowed(dx, dy)) return;
    const here = at(left, top, step);
    if (here > best.correlation) best = { correlation: here, dx, dy };
  };
  for (let top = 0; top + part.height <= picture.height; top += SKIPPED)
    for (let left = 0; left + part.width <= picture.width; left += SKIPPED) look(left, top, SKIPPED);
  const [left, top] = [best.dx + home[0], best.dy + home[1]];
  best = { ...best, correlation: -1 };
  for (let i = -SKIPPED; i <= SKIPPED; i++)
    for (let j = -SKIPPED; j <= SKIPPED; j++) look(left + i, top + j, 1);
  return best;
}

/** How far a shift is from a whole number of steps, as a share of one: 0 … 0.5. */
const offStep = (shift: number, step: number): number => {
  const part = Math.abs(shift / step) % 1;
  return Math.min(part, 1 - part);
};

/** Which plane group a repeating picture has, by what it agrees with when it is mirrored, turned and moved. */
export function planeGroupOf(sharp: Grey, lattice: Lattice): PlaneGroup {
  const picture = softened(sharp, SOFT);
  const wide = Math.max(6, Math.round(Math.min(lattice.alongPx, MOST_OF_IT * picture.width)));
  const high = Math.max(6, Math.round(Math.min(lattice.upPx, MOST_OF_IT * picture.height)));
  const home = [Math.floor((picture.width - wide) / 2), Math.floor((picture.height - high) / 2)] as const;
  const part = cropped(picture, home[0], home[1], wide, high);
  const moved = (change: (x: number, y: number) => readonly [number, number]): Grey =>
    resampled(part, wide, high, (x, y) => {
      const [u, v] = change(x - (wide - 1) / 2, y - (high - 1) / 2);
      return [u + (wide - 1) / 2, v + (high - 1) / 2];
    });
  const onStep = (d: number, step: number): boolean => offStep(d, step) < ABOUT;
  const onHalf = (d: number, step: number): boolean => offStep(d, step) > 0.5 - ABOUT;
  const agrees = (to: Grey, isAllowed: (dx: number, dy: number) => boolean): boolean =>
    bestMatch(picture, to, isAllowed, home).correlation >= AGREES;
  const any = () => true;
  const { alongPx, upPx } = lattice;
  const upright = moved((x, y) => [-x, y]);
  const level = moved((x, y) => [x, -y]);
  const mirrorsAlong = agrees(upright, (_dx, dy) => onStep(dy, upPx));
  const mirrorsUp = agrees(level, (dx) => onStep(dx, alongPx));
  // Asked only where they tell one group from another: each takes a walk over the whole picture.
  const glidesAlong = (): boolean => agrees(upright, (_dx, dy) => onHalf(dy, upPx));
  const glidesUp = (): boolean => agrees(level, (dx) => onHalf(dx, alongPx));
  const halfTurns = (): boolean =>
    agrees(
      moved((x, y) => [-x, -y]),
      any,
    );
  const centred = (): boolean => agrees(part, (dx, dy) => onHalf(dx, alongPx) && onHalf(dy, upPx));
  const ratio = alongPx / upPx;
  const turnedBy = (degrees: number): boolean => {
    const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    return agrees(roundPart(picture, home, wide, high, cos, sin), any);
  };
  const isHexagon = near(ratio, Math.sqrt(3), HEXAGON) || near(ratio, 1 / Math.sqrt(3), HEXAGON);
  if (isHexagon && centred() && turnedBy(120)) {
    const mirrors = mirrorsAlong || mirrorsUp;
    if (halfTurns()) return mirrors ? 'p6m' : 'p6';
    return mirrorsAlong ? 'p31m' : mirrorsUp ? 'p3m1' : 'p3';
  }
  if (near(ratio, 1, SQUARE) && halfTurns()) {
    const quarter = moved((x, y) => [(y * alongPx) / upPx, (-x * upPx) / alongPx]);
    if (agrees(quarter, any)) {
      if (mirrorsAlong && mirrorsUp) return 'p4m';
      const aslant = moved((x, y) => [(y * alongPx) / upPx, (x * upPx) / alongPx]);
      return agrees(aslant, any) ? 'p4g' : 'p4';
    }
  }
  if (mirrorsAlong && mirrorsUp) return centred() ? 'cmm' : 'pmm';
  if (mirrorsAlong || mirrorsUp) {
    if (mirrorsAlong ? glidesUp() : glidesAlong()) return 'pmg';
    return centred() ? 'cm' : 'pm';
  }
  const [along, up] = [glidesAlong(), glidesUp()];
  if (along && up) return 'pgg';
  if (along || up) return 'pg';
  return halfTurns() ? 'p2' : 'p1';
}

const near = (a: number, b: number, share: number): boolean => Math.abs(a / b - 1) < share;

/** The same part of a picture turned about its middle. */
const roundPart = (
  picture: Grey,
  [left, top]: readonly [number, number],
  wide: number,
  high: number,
  cos: number,
  sin: number,
): Grey => {
  const [cx, cy] = [left + (wide - 1) / 2, top + (high - 1) / 2];
  const to: Grey = { width: wide, height: high, values: new Float64Array(wide * high) };
  for (let row = 0; row < high; row++)
    for (let column = 0; column < wide; column++) {
      const [x, y] = [column - (wide - 1) / 2, row - (high - 1) / 2];
      to.values[row * wide + column] = greyAt(picture, cx + x * cos - y * sin, cy + x * sin + y * cos);
    }
  return to;
};
