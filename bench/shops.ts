import { forecastOf, lived } from '../core/forecast/index.ts';
import {
  type Belief,
  type NumberId,
  NUMBER_IDS,
  beliefFrom,
  learnedFrom,
  tableFor,
} from '../core/learning/index.ts';
import { evaluate } from '../core/plan/index.ts';
import { anyPiece, hiddenShop, yearOf } from '../core/tests/shops.ts';

/**
 * Made-up shops of hidden numbers: how near to them what is learned of their pieces comes, and how often the finished length of
 * one more piece lies in the band that was foretold of it, from the table and from what was learned.
 * `npm run shops [-- SHOPS PIECES]`
 */
const [shops = 200, pieces = 20] = process.argv.slice(2).map(Number);
const RUNS = 80;
/** Numbers of which less was seen than so many times tell nothing yet. */
const SEEN = 8;

interface Row {
  within: number;
  count: number;
  learned: number;
  table: number;
}

const rows = new Map<NumberId, Row>(
  NUMBER_IDS.map((id) => [id, { within: 0, count: 0, learned: 0, table: 0 }]),
);
const held = { table: 0, learned: 0, widths: [0, 0], hours: [0, 0] };

function promised(
  seed: number,
  truth: Belief,
  belief: Belief,
): { held: boolean; wide: number; isHoursHeld: boolean } {
  const plan = anyPiece(seed);
  const { finished, hours } = forecastOf(evaluate(plan), belief, { seed, count: RUNS });
  const { low, high } = finished!.lengthMm;
  const from = new Date(Date.UTC(2027, 0, 4)).toISOString();
  const { really, plan: made } = lived(plan, truth, { seed, from, slips: 0, often: 0 });
  const took = made.records!.reduce((sum, r) => sum + (r.workedS ?? 0), 0) / 3600;
  const is = really.goal.sizes!.lengthMm;
  return {
    held: is >= low && is <= high,
    wide: high - low,
    isHoursHeld: took >= hours.low && took <= hours.high,
  };
}

for (let shop = 1; shop <= shops; shop++) {
  const truth = hiddenShop(shop);
  const learned = learnedFrom(yearOf(shop, pieces));
  for (const { number, of, sort, value, sure, count } of learned) {
    if (count < SEEN || sort !== undefined) continue;
    const is = truth(number, of).value;
    const row = rows.get(number)!;
    row.count++;
    if (Math.abs(value - is) <= 2 * sure) row.within++;
    row.learned += Math.abs(value - is);
    row.table += Math.abs(tableFor(number).value - is);
  }
  const next = 1_000_000 + shop;
  const [before, after] = [promised(next, truth, tableFor), promised(next, truth, beliefFrom(learned))];
  held.table += Number(before.held);
  held.learned += Number(after.held);
  held.hours[0] += Number(before.isHoursHeld);
  held.hours[1] += Number(after.isHoursHeld);
  held.widths[0] += before.wide / shops;
  held.widths[1] += after.wide / shops;
}
for (const [number, { within, count, learned, table }] of rows)
  if (count > 0)
    console.log(
      `${number.padEnd(12)} ${String(count).padStart(5)} learned, within two spreads ${((100 * within) / count).toFixed(1)} %, mean error ${((100 * learned) / table).toFixed(0)} % of the table's`,
    );
console.log(
  `finished length in its band: ${((100 * held.table) / shops).toFixed(0)} % by the table (${held.widths[0].toFixed(0)} mm wide), ${((100 * held.learned) / shops).toFixed(0)} % by what was learned (${held.widths[1].toFixed(0)} mm wide)`,
);
console.log(
  `hours in their band: ${((100 * held.hours[0]) / shops).toFixed(0)} % by the table, ${((100 * held.hours[1]) / shops).toFixed(0)} % by what was learned`,
);
