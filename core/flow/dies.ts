/**
 * A die, seen along the bar. Flat; a V of an included angle, open towards the steel; a round fuller; a wedge of an included
 * angle with a rounded tip, as for cutting. mm, degrees
 */
export type Die =
  | { readonly kind: 'flat' }
  | { readonly kind: 'V'; readonly angleDeg: number }
  | { readonly kind: 'round'; readonly radiusMm: number }
  | { readonly kind: 'wedge'; readonly angleDeg: number; readonly tipMm: number };

/** What a bar is pressed between: the height is that between the middles of the dies, and side stops stand so far apart. */
export interface DiePair {
  readonly upper: Die;
  readonly lower: Die;
  readonly stopsMm: number | null;
}

export const FLAT: Die = { kind: 'flat' };
export const FLAT_PAIR: DiePair = { upper: FLAT, lower: FLAT, stopsMm: null };

/** A point's distance from a face and the face's direction there, into the steel; below 0 the point is within the die. */
export interface Clearance {
  gap: number;
  nx: number;
  ny: number;
}

/** One smooth face. It moves straight up or down. */
export interface DieFace {
  readonly of: 'upper' | 'lower' | 'side';
  /** Where it is when the dies stand at a height. */
  readonly clear: (x: number, y: number, heightMm: number) => Clearance;
  /** Its own speed, when the dies close by 1 a unit of time. */
  readonly speedX: number;
  readonly speedY: number;
}

const half = (deg: number): number => (deg * Math.PI) / 360;
/** How steeply the sides of a fuller stand. */
const STEEP = 50;

/** How far a die's surface recedes beside its middle, mm; below 0 it comes nearer the steel. */
export function riseOf(die: Die, x: number): number {
  const away = Math.abs(x);
  switch (die.kind) {
    case 'flat':
      return 0;
    case 'V':
      return -away / Math.tan(half(die.angleDeg));
    case 'round': {
      const r = die.radiusMm;
      return away < r ? r - Math.sqrt(r * r - away * away) : r + STEEP * (away - r);
    }
    case 'wedge': {
      const [r, b] = [die.tipMm, half(die.angleDeg)];
      const end = r * Math.cos(b);
      return away < end
        ? r - Math.sqrt(r * r - away * away)
        : r * (1 - Math.sin(b)) + (away - end) / Math.tan(b);
    }
  }
}

/** Faces of an upper die whose middle is at 0, the steel below. */
function facesOfDie(die: Die): ((x: number, y: number) => Clearance)[] {
  const plane =
    (nx: number, ny: number) =>
    (x: number, y: number): Clearance => ({ gap: nx * x + ny * y, nx, ny });
  const circle = (r: number, x: number, y: number): Clearance => {
    const far = Math.hypot(x, y - r) || 1e-12;
    return { gap: far - r, nx: x / far, ny: (y - r) / far };
  };
  switch (die.kind) {
    case 'flat':
      return [plane(0, -1)];
    case 'V': {
      const a = half(die.angleDeg);
      return [plane(-Math.cos(a), -Math.sin(a)), plane(Math.cos(a), -Math.sin(a))];
    }
    case 'round':
      return [(x, y) => circle(die.radiusMm, x, y)];
    case 'wedge': {
      const [r, b] = [die.tipMm, half(die.angleDeg)];
      return [
        (x, y) => {
          if (Math.abs(x) * Math.tan(b) <= r - y) return circle(r, x, y);
          const nx = Math.sign(x) * Math.cos(b);
          const ny = -Math.sin(b);
          return { gap: nx * x + ny * (y - r) - r, nx, ny };
        },
      ];
    }
  }
}

/** All faces of a pair. */
export function facesOf({ upper, lower, stopsMm }: DiePair): DieFace[] {
  const above = facesOfDie(upper).map((clear): DieFace => ({
    of: 'upper',
    clear: (x, y, height) => clear(x, y - height / 2),
    speedX: 0,
    speedY: -0.5,
  }));
  const below = facesOfDie(lower).map((clear): DieFace => ({
    of: 'lower',
    clear: (x, y, height) => {
      const { gap, nx, ny } = clear(x, -y - height / 2);
      return { gap, nx, ny: -ny };
    },
    speedX: 0,
    speedY: 0.5,
  }));
  const sides = stopsMm === null ? [] : [-1, 1].map((side) => stopFace(side, () => stopsMm));
  return [...above, ...below, ...sides];
}

/** A side stop, right or left (1, −1), of two that stand so far apart; `closing` is how fast both together close. */
export const stopFace = (side: number, apartMm: (heightMm: number) => number, closing = 0): DieFace => ({
  of: 'side',
  clear: (x, _y, height) => ({ gap: apartMm(height) / 2 - side * x, nx: -side, ny: 0 }),
  speedX: (-side * closing) / 2,
  speedY: 0,
});
