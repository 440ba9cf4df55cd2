import type { RackBar } from '../stock/rackBar.ts';
import { type Material, type Package, materialById } from '../materials/material.ts';
import { addVolumes, massKg, totalVolume } from '../materials/volumes.ts';
import type { Shop } from '../shop/shop.ts';
import { type Bought, boughtVolume, isSawn, moveOf } from '../moves/index.ts';
import { type CuttingAnswer, type StockLength, cutFromStock } from '../stock/cuttingStock.ts';
import { type Evaluation, allSteps } from './evaluate.ts';
import { goalLaneOf, lanesFeeding } from './lanes.ts';

/** A row of the cut list: so many alike, and which steps want them. */
export interface CutRow extends Bought {
  readonly stepIds: readonly string[];
  readonly lanes: readonly string[];
}

/** mm. Sizes closer than this are one row. */
const SAME_MM = 1e-4;

const same = (a: Bought, b: Bought): boolean =>
  a.material === b.material &&
  a.what === b.what &&
  Math.abs(a.widthMm - b.widthMm) < SAME_MM &&
  Math.abs(a.thicknessMm - b.thicknessMm) < SAME_MM &&
  Math.abs(a.lengthMm - b.lengthMm) < SAME_MM;

/** Everything that must be cut from stock, alike pieces together, by material, thickest and longest first. */
export function cutList(evaluation: Evaluation): CutRow[] {
  const rows: CutRow[] = [];
  for (const { lane, steps } of evaluation.lanes)
    for (const { step, before, after } of steps) {
      if (!after) continue;
      for (const piece of moveOf(step.kind).buys?.(before, step.parameters, evaluation.shop) ?? []) {
        const at = rows.findIndex((row) => same(row, piece));
        const more = { stepIds: [step.id], lanes: [lane.name] };
        if (at < 0) rows.push({ ...piece, ...more });
        else rows[at] = joined(rows[at], piece.count, more);
      }
    }
  return rows.sort(
    (a, b) =>
      a.material.localeCompare(b.material) ||
      b.thicknessMm - a.thicknessMm ||
      b.widthMm - a.widthMm ||
      b.lengthMm - a.lengthMm,
  );
}

const joined = (row: CutRow, count: number, more: Pick<CutRow, 'stepIds' | 'lanes'>): CutRow => ({
  ...row,
  count: row.count + count,
  stepIds: [...new Set([...row.stepIds, ...more.stepIds])],
  lanes: [...new Set([...row.lanes, ...more.lanes])],
});

/** One material and section: what is wanted of it, and the bars that give it at least cost. */
export interface SectionCuts {
  readonly material: string;
  readonly widthMm: number;
  readonly thicknessMm: number;
  readonly rows: readonly CutRow[];
  readonly cutting: CuttingAnswer;
  /** Bars to buy: of each length, how many, and what they cost where prices are known. */
  readonly buy: readonly { lengthMm: number; count: number; price: number | null }[];
  /** Bars to take from the rack, by their id, each with what is left of it. */
  readonly take: readonly { id: string; restMm: number }[];
  readonly massKg: number;
}

/** mm. Stock of this much more than the wanted section still counts as that section. */
const SECTION_MM = 0.3;

/** Whether a section that is to be had counts as the wanted one. */
export const fits = (has: { widthMm: number; thicknessMm: number }, row: Bought): boolean =>
  Math.abs(has.thicknessMm - row.thicknessMm) <= SECTION_MM &&
  Math.abs(has.widthMm - row.widthMm) <= SECTION_MM;

/** The lengths a section can be had in: the rack's first (they cost nothing), then the dealer's. */
function stockFor(
  row: Bought,
  material: Material | undefined,
  rack: readonly RackBar[],
  shop: Shop,
): StockLength[] {
  const ours = rack
    .filter((b) => b.material === row.material && fits(b, row) && b.count > 0)
    .map((b): StockLength => ({ name: b.id, lengthMm: b.lengthMm, count: b.count, cost: 0 }));
  const sold = (material?.packages ?? []).filter((p) => fits(p, row));
  const dealer =
    sold.length > 0 ? sold : [{ lengthMm: Math.max(shop.stockLengthMm, row.lengthMm) } as Package];
  const priced = sold.length > 0 && sold.every((p) => p.price !== undefined);
  return [
    ...ours,
    ...dealer.map((p): StockLength => ({
      name: 'buy',
      lengthMm: p.lengthMm,
      count: Infinity,
      cost: priced ? p.price! : p.lengthMm,
    })),
  ];
}

/** The bars that give a cut list, section by section, rack first, the rest bought with least cost (or length). */
export function cutFromSections(
  rows: readonly CutRow[],
  rack: readonly RackBar[],
  shop: Shop,
): SectionCuts[] {
  const sections: CutRow[][] = [];
  for (const row of rows.filter(isSawn)) {
    const mates = sections.find(
      ([first]) =>
        first.material === row.material &&
        (first.what === 'rod') === (row.what === 'rod') &&
        Math.abs(first.thicknessMm - row.thicknessMm) < SAME_MM &&
        Math.abs(first.widthMm - row.widthMm) < SAME_MM,
    );
    if (mates) mates.push(row);
    else sections.push([row]);
  }
  let left = rack;
  return sections.map((mates) => {
    const [first] = mates;
    const material = materialById(shop.materials, first.material);
    const longest = mates.reduce((a, b) => (b.lengthMm > a.lengthMm ? b : a));
    const cutting = cutFromStock(mates, stockFor(longest, material, left, shop), shop.kerfMm);
    const take = cutting.bars
      .filter((b) => b.stock.name !== 'buy')
      .map((b) => ({ id: b.stock.name, restMm: b.restMm }));
    // What one section takes is not there for the next.
    left = left.map((b) => ({ ...b, count: b.count - take.filter((t) => t.id === b.id).length }));
    const bought = cutting.bars.filter((b) => b.stock.name === 'buy');
    const lengths = [...new Set(bought.map((b) => b.stock.lengthMm))];
    const price = (mm: number) =>
      material?.packages?.find((p) => fits(p, first) && p.lengthMm === mm)?.price ?? null;
    return {
      material: first.material,
      widthMm: first.widthMm,
      thicknessMm: first.thicknessMm,
      rows: mates,
      cutting,
      take,
      buy: lengths.map((lengthMm) => ({
        lengthMm,
        count: bought.filter((b) => b.stock.lengthMm === lengthMm).length,
        price: price(lengthMm),
      })),
      massKg: massKg(
        addVolumes(...mates.map((r) => ({ [r.material]: boughtVolume(r) * r.count }))),
        shop.materials,
      ),
    };
  });
}

/** One bar of the waterfall: kg, positive where steel comes in. */
export interface WaterfallPart {
  readonly what: string;
  readonly kg: number;
}

const CAUSE_WORDS = {
  scale: 'Scale',
  grinding: 'Grinding',
  kerf: 'Saw kerf',
  crop: 'End crops',
  offcut: 'Offcuts',
  'set aside': 'Set aside',
  scrapped: 'Scrapped',
  unaccounted: 'Unaccounted for',
} as const;

/** Where the steel goes, from what comes in to the finished bar: each cause, and bars that are not part of it. The parts add up to the last. */
export function waterfall(evaluation: Evaluation): { parts: WaterfallPart[]; finishedKg: number } {
  const { shop } = evaluation;
  const feeding = new Set(lanesFeeding(evaluation.plan, goalLaneOf(evaluation.plan).id).map((l) => l.id));
  const mass = (...volumes: Parameters<typeof addVolumes>) => massKg(addVolumes(...volumes), shop.materials);
  const steps = allSteps(evaluation);
  const losses = steps.flatMap((s) => s.losses);
  const used = new Set(steps.flatMap((s) => s.before));
  const finished = evaluation.goal.bar;
  const over = evaluation.lanes
    .flatMap((l) => l.pieces.map((piece, i) => [piece, l.ends[i]] as const))
    .filter(([piece, end]) => end !== finished && !used.has(piece) && totalVolume(piece.volumes) > 0);
  const parts: WaterfallPart[] = evaluation.lanes
    .filter((l) => l.steps.some((s) => totalVolume(s.added) > 0))
    .map(({ lane, steps: own }) => ({
      what: feeding.has(lane.id) ? `In: ${lane.name}` : `In: ${lane.name} (not used)`,
      kg: mass(...own.map((s) => s.added)),
    }));
  for (const [cause, word] of Object.entries(CAUSE_WORDS)) {
    const kg = mass(...losses.filter((l) => l.cause === cause).map((l) => l.volumes));
    if (Math.abs(kg) > 1e-9) parts.push({ what: kg > 0 ? word : 'Found', kg: -kg });
  }
  if (over.length > 0)
    parts.push({ what: 'Left over in other bars', kg: -mass(...over.map(([b]) => b.volumes)) });
  return { parts, finishedKg: finished ? mass(finished.volumes) : 0 };
}
