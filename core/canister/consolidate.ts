/** A can before it is pressed: outer and inner sizes, and the share of the room that is steel. mm. */
export interface PressedCan {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly lengthMm: number;
  readonly wallMm: number;
  readonly capMm: number;
  readonly fillFactor: number;
}

/** How it is pressed: first so much end to end, then on the sides. */
export interface Pressing {
  readonly endMm: number;
  readonly sides: 'two ways' | 'one way';
}

/** A solid can: outer and inner sizes, wall and cap as they became, and by how much the picture shrank. mm. */
export interface SolidCan {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly lengthMm: number;
  readonly insideWidthMm: number;
  readonly insideHeightMm: number;
  readonly depthMm: number;
  readonly wallXMm: number;
  readonly wallYMm: number;
  readonly capMm: number;
  /** The picture's scale across and up. */
  readonly scaleX: number;
  readonly scaleY: number;
}

/** Most that can be taken end to end: all the room's emptiness and no more. mm. */
export const mostEndMm = ({ lengthMm, capMm, fillFactor }: PressedCan): number =>
  (lengthMm - 2 * capMm) * (1 - fillFactor);

/**
 * A can pressed solid, by volumes alone (handbook, canister): what the first press end to end does not take out of the length
 * comes out of the section; pressed both ways the picture scales by the root of it, one way by all of it. Wall and caps keep
 * their volume; the wall stays of one thickness all round.
 */
export function solidCan(can: PressedCan, pressing: Pressing): SolidCan {
  const [w, h] = [can.widthMm - 2 * can.wallMm, can.heightMm - 2 * can.wallMm];
  const depth = can.lengthMm - 2 * can.capMm;
  const depthMm = depth - Math.min(pressing.endMm, mostEndMm(can));
  const area = (can.fillFactor * depth) / depthMm;
  const [scaleX, scaleY] = pressing.sides === 'two ways' ? [Math.sqrt(area), Math.sqrt(area)] : [1, area];
  const [insideWidthMm, insideHeightMm] = [w * scaleX, h * scaleY];
  const wallArea = ((can.widthMm * can.heightMm - w * h) * depth) / depthMm;
  // (w′ + 2a)(h′ + 2a) = w′h′ + wall: the thickness a all round that holds the wall's area.
  const half = insideWidthMm + insideHeightMm;
  const wall = (-half + Math.sqrt(half * half + 4 * wallArea)) / 4;
  const [widthMm, heightMm] = [insideWidthMm + 2 * wall, insideHeightMm + 2 * wall];
  const capMm = (can.capMm * can.widthMm * can.heightMm) / (widthMm * heightMm);
  return {
    widthMm,
    heightMm,
    lengthMm: depthMm + 2 * capMm,
    insideWidthMm,
    insideHeightMm,
    depthMm,
    wallXMm: wall,
    wallYMm: wall,
    capMm,
    scaleX,
    scaleY,
  };
}

/** One pass of the press: which side is down, and the stop block's height. mm. */
export interface Pass {
  readonly side: 'width' | 'height';
  readonly stopMm: number;
}

/** Passes of at most so much each, the sides in turn, down to the solid size. */
export function passesTo(can: PressedCan, solid: SolidCan, sides: Pressing['sides'], passMm: number): Pass[] {
  const passes: Pass[] = [];
  const now = { width: can.widthMm, height: can.heightMm };
  const goal = { width: solid.widthMm, height: solid.heightMm };
  const most = Math.ceil(Math.max(can.widthMm, can.heightMm) / passMm) * 2 + 2;
  const order: Pass['side'][] = sides === 'two ways' ? ['height', 'width'] : ['height'];
  for (let i = 0; i < most && order.some((s) => now[s] > goal[s] + 1e-6); i++) {
    const side = order[i % order.length];
    if (now[side] <= goal[side] + 1e-6) continue;
    now[side] = Math.max(goal[side], now[side] - passMm);
    passes.push({ side, stopMm: now[side] });
  }
  return passes;
}
