import { type Billet } from '../billet/billet.ts';
import { sectionPlane } from '../billet/face.ts';
import { codeShares } from '../render/codes.ts';
import { makeShop } from '../shop/shop.ts';
import { moveOf } from '../moves/index.ts';
import { evaluated, planOf } from './plans.ts';
import { type Can, canSchema, fillOf, roomOf } from '../canister/can.ts';
import { type Insert } from '../canister/inserts.ts';

export const shop = makeShop();

const BOX = moveOf('can').begin([], shop) as Can;

export const can = (some: Partial<Can> = {}): Can => canSchema.parse({ ...BOX, ...some });

export const balls = (some: Partial<Insert> = {}): Insert => ({
  shape: 'ball',
  material: '52100',
  sizeMm: 12,
  count: 20,
  lay: 'hexagonal',
  ...some,
});

export const rods = (some: Partial<Insert> = {}): Insert =>
  balls({ shape: 'rod', material: '15n20', sizeMm: 6, ...some });

export const SOLID = { endMm: 4, sides: 'two ways', passMm: 2.5, heats: 0, temperatureC: 1200 } as const;

/** A first press that any can bears. */
export const gently = (p: Can) => ({
  ...SOLID,
  endMm: Math.min(4, 0.4 * roomOf(p).depthMm * (1 - fillOf(p, shop.materials).fillFactor)),
});

/** A can pressed solid after a few moves: what went in and what is there. */
export function pressedWhole(p: Can, more: Parameters<typeof planOf>[0] = []) {
  const e = evaluated(planOf([['can', p], ['consolidate', gently(p)], ...more]));
  return e.lanes[0].steps;
}

export const sampledShares = (billet: Billet) =>
  codeShares(billet, sectionPlane(billet, billet.lengthMm / 2));

const square: [number, number][] = [
  [-0.5, -0.5],
  [0.5, -0.5],
  [0.5, 0.5],
  [-0.5, 0.5],
];
/** A square of 20 mm of bright powder in a can. */
export const filledSquare = {
  name: 'square',
  drawn: [{ powder: '15n20', region: [square] }],
  place: { on: 'can' as const, x: 5, y: -3, widthMm: 20, turnDeg: 0, mirrored: false, columns: 1, rows: 1 },
  walked: null,
  form: { wallMm: 0.6, lipMm: 3, bridgeMm: 3, baseMm: 0, handle: true, leftIn: false, leastMm: 2 },
};
