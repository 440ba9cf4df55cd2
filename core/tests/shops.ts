import { probit } from 'simple-statistics';
import { canSchema } from '../canister/can.ts';
import { seeded } from '../canister/packing.ts';
import { lived } from '../forecast/simulated.ts';
import { type Belief, type Evidence, evidenceOf, tableFor } from '../learning/index.ts';
import { type Plan, evaluate } from '../plan/index.ts';
import { moveOf } from '../moves/index.ts';
import { makeShop, shopSchema } from '../shop/shop.ts';
import { cutInto, fourWay, planOf, stackOf, weldIt } from './plans.ts';

/** A shop of hidden true numbers, drawn as the table says shops differ; each number's spread is between half and one and a half times the table's. */
export function hiddenShop(seed: number): Belief {
  return (number, of) => {
    const random = seeded(
      seed * 104729 + [...`${number} ${of}`].reduce((h, c) => (31 * h + c.charCodeAt(0)) | 0, 7),
    );
    random();
    const { value, sure, spread } = tableFor(number);
    const z = Math.max(-2.2, Math.min(2.2, probit(Math.min(1 - 1e-9, Math.max(1e-9, random())))));
    return { value: value + sure * z, sure: 0, spread: spread * (0.5 + random()) };
  };
}

const groundAll = ['grind', { topMm: 0.4, bottomMm: 0.4, leftMm: 0.4, rightMm: 0.4 }] as const;

/** Small pieces as such shops make them, no two of the same sizes: layered bars drawn wide, and four-ways of re-squared bars. mm */
export function anyPiece(seed: number): Plan {
  const random = seeded(seed);
  const between = (low: number, high: number) => Math.round(low + (high - low) * random());
  const wide = between(36, 48);
  const side = Math.round(0.66 * wide);
  const plan =
    seed % 2 === 0
      ? planOf([
          stackOf(between(9, 15), wide, 3, between(130, 220)),
          weldIt,
          ['draw', { shape: 'square', sideMm: side, heats: 2 }],
          ['resquare', { turn: 'left', sideMm: side - 3, errorDeg: 0, heats: 2 }],
          ['cut', { pieces: 4, cropAMm: 8, cropBMm: 8 }],
          ['grind', { topMm: 0.4, bottomMm: 0.4, leftMm: 0.4, rightMm: 0.4 }],
          fourWay('mirrored'),
          weldIt,
          ['draw', { shape: 'flat', widthMm: 38, thicknessMm: 10, heats: 3 }],
          ...(seed % 4 === 0 ? [groundAll] : []),
          ['etch', { purpose: 'finish', partsWater: 3, dips: 4, minutesEach: 15, coffeeH: 0 }],
        ])
      : planOf([
          stackOf(between(9, 15), wide, 3, between(120, 200)),
          weldIt,
          ['draw', { shape: 'square', sideMm: side, heats: 2 }],
          ['resquare', { turn: 'right', sideMm: side - 2, errorDeg: 0, heats: 2 }],
          cutInto(2),
          ['grind', { topMm: 0.4, bottomMm: 0.4, leftMm: 0, rightMm: 0 }],
          ['assemble', { columns: 1, rows: 2, layout: 'alike' }],
          weldIt,
          ['draw', { shape: 'flat', widthMm: 60, thicknessMm: 12, heats: 3 }],
        ]);
  return { ...plan, name: `Piece ${seed}`, shop: shopSchema.parse({ name: 'Hidden shop' }) };
}

/** A can of one powder as such shops fill them. mm */
function anyCan(seed: number): Plan {
  const random = seeded(seed);
  const can = {
    ...canSchema.parse(moveOf('can').begin([], makeShop())),
    ...{ widthMm: 45 + Math.round(20 * random()), lengthMm: 100 + Math.round(80 * random()) },
  };
  const plan = planOf([['can', { ...can, heightMm: can.widthMm }]]);
  return { ...plan, name: `Can ${seed}`, shop: shopSchema.parse({ name: 'Hidden shop' }) };
}

/** What the records of so many pieces of a hidden shop say, and of half as many cans, with errors of measuring and one entry in twenty a slip. */
export function yearOf(shop: number, pieces: number): Evidence[] {
  const truth = hiddenShop(shop);
  const written = (plan: Plan, seed: number, i: number): Evidence[] => {
    const from = new Date(Date.UTC(2026, 0, 5 + 14 * i, 8)).toISOString();
    return evidenceOf(evaluate(lived(plan, truth, { seed, from, slips: 0.05, often: 0.9 }).plan));
  };
  return Array.from({ length: pieces }, (_, i) => {
    const seed = 1000 * shop + i;
    return [
      ...written(anyPiece(seed), seed, i),
      ...(i % 2 === 0 ? written(anyCan(seed), seed + 500, i) : []),
    ];
  }).flat();
}
